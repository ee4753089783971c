import { useCallback, useEffect, useMemo, useState } from 'react';
import { words, type Page, type Trial } from '../api/client';
import { tryWay, useWay } from '../api/hooks';
import { Follower, merged } from './follow';

/** Changes what is tried by hand. */
export type Attempt = (change: Trial) => void;

/** What of a page a trial must say, whatever is turned: the value of every slide and pick. */
const standing = (page: Page): Trial =>
  Object.fromEntries(page.controls.filter(c => c.kind !== 'switch').map(c => [c.name, c.value]));

/**
 * A way's page, following the hand. What is tried is no trial any more once what is saved has been answered: then
 * whole is the new answer, by which the hand is drawn.
 */
export function usePage(motor: string, way: string, stamp: number, sound: boolean) {
  const query = useWay(motor, way, stamp, sound);
  const whole = sound ? query.data : undefined;
  const [tried, setTried] = useState<{ of: Page; page: Page; trial: Trial } | null>(null);
  const [fault, setFault] = useState('');
  const follower = useMemo(
    () =>
      new Follower(
        async ({ of, trial }: { of: Page; trial: Trial }) => ({ of, page: await tryWay(motor, way, trial), trial }),
        answer => {
          setTried(answer);
          setFault('');
        },
        e => setFault(words(e)),
      ),
    [motor, way],
  );
  useEffect(() => {
    follower.rest();
    setTried(null);
    setFault('');
  }, [follower, whole]);
  const turned = useMemo(() => ({ trial: {} as Trial, of: whole }), [whole]);
  const attempt: Attempt = useCallback(
    change => {
      if (!whole) return;
      turned.trial = { ...turned.trial, ...change };
      follower.want({ of: whole, trial: { ...standing(whole), ...turned.trial } });
    },
    [follower, whole, turned],
  );
  const page = useMemo(
    () => (whole && tried && tried.of === whole ? merged(whole, tried.page) : whole),
    [whole, tried],
  );
  return {
    whole,
    page,
    /** What is shown was tried with; nothing of it while it is what is saved. */
    trial: tried && tried.of === whole ? tried.trial : null,
    attempt,
    fault: query.isError ? words(query.error) : fault,
  };
}
