import { useSyncExternalStore } from 'react';
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
