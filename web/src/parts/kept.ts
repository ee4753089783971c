import { useCallback, useState } from 'react';

/** State that this browser keeps until it is settled, so that a reload loses nothing typed. */
export function useKept<T>(key: string, saved: T): [value: T, set: (value: T) => void, settle: () => void] {
  const shelf = `brackmoor.kept.${key}`;
  const [value, setValue] = useState<T>(() => {
    try {
      return (JSON.parse(localStorage.getItem(shelf) ?? 'null') as T | null) ?? saved;
    } catch {
      return saved;
    }
  });
  const set = useCallback(
    (next: T) => {
      setValue(next);
      localStorage.setItem(shelf, JSON.stringify(next));
    },
    [shelf],
  );
  const settle = useCallback(() => localStorage.removeItem(shelf), [shelf]);
  return [value, set, settle];
}
