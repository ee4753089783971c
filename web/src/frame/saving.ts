import { useSyncExternalStore } from 'react';

/** What the top bar says about the last change, and how to take it back. */
export interface Saving {
  text: string;
  bad: boolean;
  undo?: () => void;
}

let now: Saving = { text: '', bad: false };
const listeners = new Set<() => void>();

export function say(saving: Saving) {
  now = saving;
  listeners.forEach(tell => tell());
}

export const useSaving = () =>
  useSyncExternalStore(
    listener => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => now,
  );

export const clock = () => (time ??= new Intl.DateTimeFormat([], { hour: '2-digit', minute: '2-digit' })).format();
let time: Intl.DateTimeFormat | undefined; // it takes a while to make
