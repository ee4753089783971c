import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

export default defineConfig({
  plugins: [
    react(),
    VitePWA({
      strategies: 'injectManifest',
      srcDir: 'src/away',
      filename: 'sw.ts',
      injectRegister: false,
      manifest: {
        name: 'Brackmoor',
        short_name: 'Brackmoor',
        description: 'Three-phase machines on a single-phase supply',
        start_url: '/',
        display: 'standalone',
        theme_color: '#21413A',
        background_color: '#F5F2EA',
        icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      injectManifest: {
        globPatterns: ['assets/*.{js,css,woff2}', 'icon.svg'],
        maximumFileSizeToCacheInBytes: 3_000_000,
      },
    }),
  ],
  build: {
    outDir: 'dist/app',
    emptyOutDir: true,
    chunkSizeWarningLimit: 900,
    assetsInlineLimit: 0,
    rollupOptions: {
      output: {
        // What reads letters is asked for by those who read a plate from a photo, and kept from then on.
        assetFileNames: ({ names }) =>
          names.some(n => /tesseract|worker\.min|traineddata/.test(n))
            ? 'assets/letters/[hash]/[name][extname]'
            : 'assets/[name]-[hash][extname]',
      },
    },
  },
  html: { cspNonce: '__NONCE__' },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
});
