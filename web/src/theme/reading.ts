import { useSyncExternalStore } from 'react';

/** How the person at this device reads figures: what was chosen of each thing that the server lists. */
export type Reading = Record<string, string>;

/** The server writes its sentences and sheets by it, so that every request and every link must carry it. */
const cookie = 'brackmoor-reading';

function kept(): Reading {
  const all = typeof document === 'undefined' ? '' : document.cookie; // figures are printed in tests without a page
  const found = all.split('; ').find(c => c.startsWith(`${cookie}=`));
  return Object.fromEntries(new URLSearchParams(found?.slice(cookie.length + 1)));
}

let now = kept();
const listeners = new Set<() => void>();

export function setReading(next: Reading) {
  now = { ...now, ...next };
  const year = 365 * 24 * 3600;
  document.cookie = `${cookie}=${new URLSearchParams(now)}; path=/; max-age=${year}; samesite=strict`;
  listeners.forEach(l => l());
}

const listen = (l: () => void) => {
  listeners.add(l);
  return () => listeners.delete(l);
};
export const useReading = () => useSyncExternalStore(listen, () => now);

/** What parts whole from decimals. */
export const decimalMark = () => (now.mark === 'comma' ? ',' : '.');
