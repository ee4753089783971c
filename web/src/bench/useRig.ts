import { useCallback, useEffect, useRef, useState } from 'react';
import { ask, client, Problem, words, type Schemas } from '../api/client';
import { at } from '../api/hooks';

export type Rig = Schemas['RigPicture'];
export type Doing = Schemas['BenchDoing'];

const everyMs = 110;

/** A rig as it runs: looked at several times a second with its meters and scope, and what is done to it. */
export function useRig(id: string, probes: string[], signals: string[], teacher: boolean) {
  const [rig, setRig] = useState<Rig | null>(null);
  const [fault, setFault] = useState<Problem | null>(null);
  const [says, setSays] = useState('');
  const last = useRef(0);
  const asked = useRef({ probes: '', signals: '', teacher: false });
  useEffect(() => {
    asked.current = { probes: probes.join(), signals: signals.join(), teacher };
  });
  const where = useCallback(() => ({ params: { path: { id }, query: asked.current } }), [id]);
  const take = useCallback((r: Rig) => {
    if (r.seconds < last.current) return;
    last.current = r.seconds;
    setRig(r);
    setFault(null);
  }, []);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>;
    let gone = false;
    const look = async () => {
      try {
        if (!document.hidden) {
          const r = await ask(client.GET('/bench/rigs/{id}', where()));
          if (gone) return;
          take(r);
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
  }, [take, where]);
  const act = async (request: Promise<{ data?: Rig; error?: unknown; response: Response }>) => {
    try {
      const r = await ask(request);
      take(r);
      setSays(r.says);
    } catch (e) {
      setSays(words(e));
    }
  };
  return {
    rig,
    fault,
    says,
    todo: (body: Doing) => void act(client.POST('/bench/rigs/{id}/doings', { ...where(), body })),
    pace: (pace: number) => void act(client.POST('/bench/rigs/{id}/pace', { ...where(), body: { pace } })),
    probe: (meter: string, place: string) =>
      ask(client.POST('/bench/rigs/{id}/probe', { ...at(id), body: { meter, at: place } })),
  };
}
