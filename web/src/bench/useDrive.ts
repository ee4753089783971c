import { useCallback, useEffect, useRef, useState } from 'react';
import { ask, client, Problem, words, type Schemas } from '../api/client';
import { at } from '../api/hooks';

export type Drive = Schemas['BenchPicture'];
export type Inputs = Schemas['WireBenchRequest'];

/** One look at it, for the strip of the last half minute. */
export interface Look {
  at: number;
  hertz: number;
  amps: number;
  bus: number;
}

/** How long between looks, and for how long they are kept, in ms and s. */
const everyMs = 120;
const keptSeconds = 30;

/** A simulated drive as it runs: looked at several times a second while the page is seen, and what is done to it. */
export function useDrive(id: string) {
  const [drive, setDrive] = useState<Drive | null>(null);
  const [strip, setStrip] = useState<Look[]>([]);
  const [fault, setFault] = useState<Problem | null>(null);
  const [says, setSays] = useState('');
  const last = useRef(0);
  const take = useCallback((d: Drive) => {
    // Answers may overtake one another: an older one is let go.
    if (d.seconds < last.current) return;
    last.current = d.seconds;
    setDrive(d);
    setFault(null);
    setStrip(list => [
      ...list.filter(l => l.at < d.seconds && l.at > d.seconds - keptSeconds),
      { at: d.seconds, hertz: Math.abs(d.hertz), amps: d.amps, bus: d.bus },
    ]);
  }, []);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    let gone = false;
    const look = async () => {
      try {
        if (!document.hidden) {
          const d = await ask(client.GET('/bench/drives/{id}', at(id)));
          if (gone) return;
          take(d);
        }
      } catch (e) {
        if (!gone) setFault(e instanceof Problem ? e : new Problem(0, words(e)));
      }
      if (!gone) timer = setTimeout(() => void look(), everyMs);
    };
    void look();
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [id, take]);
  const act = useCallback(
    async (request: Promise<{ data?: Drive; error?: unknown; response: Response }>) => {
      try {
        const d = await ask(request);
        take(d);
        setSays(d.says);
      } catch (e) {
        setSays(words(e));
      }
    },
    [take],
  );
  return {
    drive,
    strip,
    fault,
    says,
    press: (key: string, times = 1) => act(client.POST('/bench/drives/{id}/keys', { ...at(id), body: { key, times } })),
    wire: (body: Inputs) => act(client.PUT('/bench/drives/{id}/inputs', { ...at(id), body })),
  };
}
