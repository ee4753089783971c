import { useSyncExternalStore } from 'react';

/** How the screen is lit and how large its type is: each device has its own. */
export interface Display {
  ground: 'paper' | 'torch' | 'device';
  type: 'usual' | 'large';
}

const shelf = 'brackmoor.display';
const usual: Display = { ground: 'paper', type: 'usual' };
const darkly = typeof matchMedia === 'function' ? matchMedia('(prefers-color-scheme: dark)') : null;

function kept(): Display {
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(shelf) ?? '{}') as Partial<Display>) };
  } catch {
    return usual;
  }
}

let now = kept();
const listeners = new Set<() => void>();

let printing = false;

/** Whether the ground is dark: never that of a print. */
const isTorch = () => !printing && (now.ground === 'torch' || (now.ground === 'device' && !!darkly?.matches));

/** Puts the choice on the page, where base.css has what it means. */
function show() {
  document.documentElement.dataset.ground = isTorch() ? 'torch' : 'paper';
  document.documentElement.dataset.type = now.type;
  listeners.forEach(l => l());
}
show();
darkly?.addEventListener('change', show);
for (const [event, prints] of [
  ['beforeprint', true],
  ['afterprint', false],
] as const)
  window.addEventListener(event, () => {
    printing = prints;
    show();
  });
window.addEventListener('storage', e => {
  if (e.key !== shelf) return;
  now = kept();
  show();
});

export function setDisplay(next: Partial<Display>) {
  now = { ...now, ...next };
  localStorage.setItem(shelf, JSON.stringify(now));
  show();
}

const listen = (l: () => void) => {
  listeners.add(l);
  return () => listeners.delete(l);
};
export const useDisplay = () => useSyncExternalStore(listen, () => now);
/** Whether the ground is dark, anew when that changes. */
export const useTorch = () => useSyncExternalStore(listen, isTorch);
