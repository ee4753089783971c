import { useCallback, useEffect, useMemo, useState } from 'react';
import { flushSync } from 'react-dom';
import { words, type Page, type Trial } from '../api/client';
import { tryWay } from '../api/hooks';
import { Follower, merged, once } from '../parts/follow';

/** Changes what is tried by hand. */
export type Attempt = (change: Trial) => void;

/** What of a page a trial must say, whatever is turned: the value of every slide and pick. */
const standing = (page: Page): Trial =>
  Object.fromEntries(page.controls.filter(c => c.kind === 'slide' || c.kind === 'pick').map(c => [c.name, c.value]));

/**
 * A way's page as it is sized, following the hand. What is tried is no trial any more once what is saved has been
 * answered: then whole is the new answer, by which the hand is drawn.
 */
export function useTrial(motor: string, whole: Page) {
  const { way } = whole;
  const [tried, setTried] = useState<{ of: Page; page: Page; trial: Trial } | null>(null);
  const [fault, setFault] = useState('');
  const follower = useMemo(
    () =>
      new Follower(
        async ({ of, ask, trial }: { of: Page; ask: (trial: Trial) => Promise<Page>; trial: Trial }) => ({
          of,
          page: await ask(trial),
          trial,
        }),
        // Before anything that may wait is drawn.
        answer =>
          flushSync(() => {
            setTried(answer);
            setFault('');
          }),
        e => setFault(words(e)),
      ),
    [],
  );
  useEffect(() => {
    follower.rest();
    setTried(null);
    setFault('');
  }, [follower, whole]);
  // A slider goes to and fro over the same places.
  const turned = useMemo(
    () => ({ trial: {} as Trial, of: whole, ask: once((trial: Trial) => tryWay(motor, way, trial), 200) }),
    [motor, way, whole],
  );
  const attempt: Attempt = useCallback(
    change => {
      turned.trial = { ...turned.trial, ...change };
      follower.want({ ...turned, trial: { ...standing(turned.of), ...turned.trial } });
    },
    [follower, turned],
  );
  const now = tried?.of === whole ? tried : null;
  const page = useMemo(() => (now ? merged(whole, now.page) : whole), [whole, now]);
  return {
    page,
    /** What is shown was tried with; nothing of it while it is what is saved. */
    trial: now?.trial ?? null,
    attempt,
    fault,
  };
}
