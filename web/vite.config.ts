import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  build: { outDir: 'dist/app', emptyOutDir: true, chunkSizeWarningLimit: 900, assetsInlineLimit: 0 },
  html: { cspNonce: '__NONCE__' },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
});
