import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { words, type Schemas } from '../api/client';
import { playWiring } from '../api/hooks';
import { Follower } from '../parts/follow';

export type Played = Schemas['Played'];
type Action = Schemas['LadderAction'];

/** The clock goes on so often while anything is under way, and stands still once all rests. */
const tickMs = 100;
/** Between two things that are done while all rests. */
const pauseMs = 400;

/**
 * A circuit that is run: what was done to it is kept here, and the server says how it stands after it. One question is
 * under way at a time.
 */
export function usePlay(motor: string, of: unknown) {
  const [played, setPlayed] = useState<Played | null>(null);
  const [broken, setBroken] = useState('');
  const [fault, setFault] = useState('');
  const done = useRef<Action[]>([]);
  const now = useRef(0);
  const follower = useMemo(
    () =>
      new Follower(
        (body: Schemas['Playing']) => playWiring(motor, body),
        answer => {
          setPlayed(answer);
          setFault('');
        },
        e => setFault(words(e)),
      ),
    [motor],
  );
  const look = useCallback(
    (with_: string) => follower.want({ broken: with_, actions: done.current, now_ms: now.current }),
    [follower],
  );
  const anew = useCallback(
    (with_ = '') => {
      follower.rest();
      done.current = [];
      now.current = 0;
      setBroken(with_);
      look(with_);
    },
    [follower, look],
  );
  useEffect(() => {
    setPlayed(null); // another circuit
    anew();
  }, [anew, of]);
  useEffect(() => () => follower.rest(), [follower]);

  const moves = played?.due_ms !== undefined && played.due_ms !== null;
  useEffect(() => {
    if (!moves) return;
    const timer = setInterval(() => {
      now.current += tickMs;
      look(broken);
    }, tickMs);
    return () => clearInterval(timer);
  }, [moves, look, broken]);

  const act = useCallback(
    (what: Omit<Action, 'at_ms'>) => {
      if (!moves && what.to !== 0) now.current += pauseMs;
      done.current = [...done.current, { ...what, at_ms: now.current }];
      look(broken);
    },
    [look, moves, broken],
  );
  return { played, act, anew, broken, fault };
}
