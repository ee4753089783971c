import { useSyncExternalStore } from 'react';

const query = typeof matchMedia === 'function' ? matchMedia('screen and (max-width: 760px)') : null;

/** Whether the screen is a phone's. */
export const useNarrow = () =>
  useSyncExternalStore(
    tell => {
      query?.addEventListener('change', tell);
      return () => query?.removeEventListener('change', tell);
    },
    () => query?.matches ?? false,
  );
