import { useCallback, useEffect, useRef, useState } from 'react';
import { Problem, words } from '../api/client';

/** How long until a server that is away is tried again. */
const againMs = 3000;

function kept<T>(shelf: string): T[] {
  try {
    return (JSON.parse(localStorage.getItem(shelf) ?? '[]') as T[] | null) ?? [];
  } catch {
    return [];
  }
}

/**
 * What was written down and is on its way. Each has an id of its own from the start and stays in this browser until the
 * server has it: what is sent twice is written once.
 */
export function usePending<T extends { id: string }>(name: string, post: (one: T) => Promise<void>) {
  const shelf = `brackmoor.pending.${name}`;
  const [waiting, setWaiting] = useState(() => kept<T>(shelf));
  const [fault, setFault] = useState<Problem | null>(null);
  const busy = useRef(false);
  const put = useCallback(
    (list: T[]) => {
      localStorage.setItem(shelf, JSON.stringify(list));
      setWaiting(list);
    },
    [shelf],
  );
  const send = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    try {
      for (let first = kept<T>(shelf)[0]; first; first = kept<T>(shelf)[0]) {
        await post(first);
        put(kept<T>(shelf).filter(r => r.id !== first!.id));
        setFault(null);
      }
    } catch (e) {
      setFault(e instanceof Problem ? e : new Problem(0, words(e)));
    } finally {
      busy.current = false;
    }
  }, [shelf, put, post]);
  const away = waiting.length > 0 && (fault === null || fault.status === 0 || fault.status === 503);
  useEffect(() => {
    if (!away) return;
    void send();
    const timer = setInterval(() => void send(), againMs);
    return () => clearInterval(timer);
  }, [away, send]);
  const add = useCallback(
    (one: T) => {
      put([...kept<T>(shelf), one]);
      setFault(null);
      void send();
    },
    [shelf, put, send],
  );
  /** Takes back what the server would not take, to be mended. */
  const back = useCallback(() => {
    const [first, ...rest] = kept<T>(shelf);
    put(rest);
    setFault(null);
    return first;
  }, [shelf, put]);
  return { waiting, refused: fault !== null && !away ? fault : null, add, back };
}
