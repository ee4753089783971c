import { useSyncExternalStore } from 'react';
import type { Schemas } from '../api/client';
import { useShops } from '../api/hooks';

const key = 'brackmoor.shop';
const listeners = new Set<() => void>();

/** Makes a shop the one that is shown; remembered in this browser. */
export function chooseShop(id: string) {
  localStorage.setItem(key, id);
  listeners.forEach(tell => tell());
}

/** The shop that is shown: the one chosen last if it is still here, else the first. */
export function useCurrentShop() {
  const shops = useShops();
  const chosen = useSyncExternalStore(
    listener => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => localStorage.getItem(key),
  );
  const list = shops.data ?? [];
  return { shops, current: list.find(s => s.id === chosen) ?? list[0] };
}

const letters: Schemas['LineNames'] = { a: 'a', b: 'b', c: 'c', ab: 'ab', bc: 'bc', ca: 'ca' };

/** What the lines are called in the shop that is shown; the model's letters until it is read. */
export function useLines(): Schemas['LineNames'] {
  return useCurrentShop().current?.lines ?? letters;
}
