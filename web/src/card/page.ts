import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { words, type Page, type Trial } from '../api/client';
import { tryWay } from '../api/hooks';
import { exact, Follower, merged, once, onward } from '../parts/follow';

/** Changes what is tried by hand. */
export type Attempt = (change: Trial) => void;

/** What of a page a trial must say, whatever is turned: the value of every slide and pick. */
const standing = (page: Page): Trial =>
  Object.fromEntries(page.controls.filter(c => c.kind === 'slide' || c.kind === 'pick').map(c => [c.name, c.value]));

/** What is asked of a page: by what, and with what in the place of what stands. */
interface Asked {
  of: Page;
  ask: (trial: Trial) => Promise<Page>;
  trial: Trial;
}

/** Where a hand goes: what it turns, and by how much at a time. */
interface Going {
  name: keyof Trial;
  by: number;
}

/** Where a hand went from one trial to another; nothing where it turned nothing. */
export function went(from: Trial, to: Trial): Going | null {
  const name = (Object.keys(to) as (keyof Trial)[]).find(name => to[name] !== from[name]);
  return name ? { name, by: (to[name] ?? 0) - (from[name] ?? 0) } : null;
}

/** The trial that comes after one if the hand goes on as it does; nothing past the end of a slide. */
export function next(page: Page, trial: Trial, { name, by }: Going): Trial | null {
  const slide = page.controls.find(c => c.name === name && c.kind === 'slide');
  const to = slide && onward(trial[name] ?? 0, by, slide.least / slide.scale, slide.most / slide.scale);
  return typeof to === 'number' ? { ...trial, [name]: to } : null;
}

/**
 * A way's page as it is sized, following the hand. What is tried is no trial any more once what is saved has been
 * answered: then whole is the new answer, by which the hand is drawn. What comes if the hand goes on is asked for while
 * it rests, so that its picture is there when it does.
 */
export function useTrial(motor: string, whole: Page) {
  const { way } = whole;
  const [tried, setTried] = useState<(Asked & { page: Page }) | null>(null);
  const [fault, setFault] = useState('');
  const going = useRef<Going | null>(null);
  const foresee = useCallback(({ of, ask, trial }: Asked) => {
    const then = going.current && next(of, trial, going.current);
    if (then) ask(then).catch(() => {}); // it is said where it is come to
  }, []);
  const follower = useMemo(
    () =>
      new Follower(
        async (asked: Asked) => ({ asked, page: await asked.ask(asked.trial) }),
        // Before anything that may wait is drawn.
        ({ asked, page }) => {
          flushSync(() => {
            setTried({ ...asked, page });
            setFault('');
          });
          if (!follower.behind) foresee(asked);
        },
        e => setFault(words(e)),
      ),
    [foresee],
  );
  // A slider goes to and fro over the same places.
  const turned = useMemo(
    () => ({ trial: {} as Trial, of: whole, ask: once((trial: Trial) => tryWay(motor, way, trial), 200) }),
    [motor, way, whole],
  );
  useEffect(() => {
    follower.rest();
    setTried(null);
    setFault('');
    foresee({ ...turned, trial: standing(turned.of) });
  }, [follower, foresee, turned]);
  const attempt: Attempt = useCallback(
    change => {
      const trial = () => ({ ...standing(turned.of), ...turned.trial });
      const before = trial();
      const to = Object.entries(change).map(([name, value]) => [name, exact(value)]);
      turned.trial = { ...turned.trial, ...(Object.fromEntries(to) as Trial) };
      going.current = went(before, trial()) ?? going.current;
      follower.want({ ...turned, trial: trial() });
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
