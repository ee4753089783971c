import { useSyncExternalStore } from 'react';
import { keptAt, seen } from './kept';

/** How long the page rests before what it needs without signal is kept: what is looked at now comes first. */
const restMs = 8000;

const listeners = new Set<() => void>();
let since = 0; // when the oldest of what is shown was kept; 0 while the server answers

function set(next: number) {
  if (next === since) return;
  since = next;
  listeners.forEach(tell => tell());
}

/** Notes of an answer whether it came from the server, or is what was kept of it. */
export function noteAnswer(response: Response) {
  const kept = Number(response.headers.get(keptAt) ?? 0);
  set(kept === 0 ? 0 : since === 0 ? kept : Math.min(since, kept));
}

/** Says that the server is there again; true where it was away. */
export function isBack(): boolean {
  const was = since > 0;
  set(0);
  return was;
}

/** Since when what is shown is not the server's any more, in ms; 0 while it is. */
export const useAway = () =>
  useSyncExternalStore(
    tell => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => since,
  );

/** Keeps the application for where there is no signal, where the browser can: over HTTPS, or on this machine. */
export function keepForAway() {
  if (!('serviceWorker' in navigator) || !import.meta.env.PROD) return;
  setTimeout(() => {
    navigator.serviceWorker.register('/sw.js', { scope: '/' }).catch((fault: unknown) => {
      console.warn('The application is not kept for where there is no signal:', fault);
    });
  }, restMs);
}

/** Forgets what was seen of the shop: whoever comes next sees what they may. */
export const forgetSeen = async () => {
  if ('caches' in window) await caches.delete(seen);
};
