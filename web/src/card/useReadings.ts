import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { ask, client, Problem, words, type Schemas } from '../api/client';
import { at } from '../api/hooks';

export type Reading = Schemas['ProveReading'];

const shelf = (motor: string) => `brackmoor.readings.${motor}`;

/** How long until a server that is away is tried again. */
const againMs = 3000;

function kept(motor: string): Reading[] {
  try {
    return (JSON.parse(localStorage.getItem(shelf(motor)) ?? '[]') as Reading[] | null) ?? [];
  } catch {
    return [];
  }
}

/**
 * Readings that are on their way. Each has an id of its own from the start and stays in this browser until the server
 * has it: one that is sent twice is written once.
 */
export function useReadings(motor: string) {
  const queries = useQueryClient();
  const [waiting, setWaiting] = useState(() => kept(motor));
  const [fault, setFault] = useState<Problem | null>(null);
  const busy = useRef(false);
  const put = useCallback(
    (list: Reading[]) => {
      localStorage.setItem(shelf(motor), JSON.stringify(list));
      setWaiting(list);
    },
    [motor],
  );
  const send = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    try {
      for (let first = kept(motor)[0]; first; first = kept(motor)[0]) {
        const page = await ask(client.POST('/motors/{id}/readings', { ...at(motor), body: first }));
        put(kept(motor).filter(r => r.id !== first!.id));
        setFault(null);
        queries.setQueriesData({ queryKey: ['prove', motor] }, page);
      }
    } catch (e) {
      setFault(e instanceof Problem ? e : new Problem(0, words(e)));
    } finally {
      busy.current = false;
    }
  }, [motor, put, queries]);
  const away = waiting.length > 0 && (fault === null || fault.status === 0 || fault.status === 503);
  useEffect(() => {
    if (!away) return;
    void send();
    const timer = setInterval(() => void send(), againMs);
    return () => clearInterval(timer);
  }, [away, send]);
  const add = useCallback(
    (r: Reading) => {
      put([...kept(motor), r]);
      setFault(null);
      void send();
    },
    [motor, put, send],
  );
  /** Takes back what the server would not take, to be mended. */
  const back = useCallback(() => {
    const [first, ...rest] = kept(motor);
    put(rest);
    setFault(null);
    return first;
  }, [motor, put]);
  return { waiting, fault, add, back };
}
