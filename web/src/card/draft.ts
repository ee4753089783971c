import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Problem, words, type Machine, type Motor } from '../api/client';
import { readAgain, readBeside, readMachine } from '../api/hooks';
import { keys } from '../api/keys';
import { clock, say } from '../frame/saving';
import {
  adopt,
  begin,
  keepMine,
  same,
  save,
  settled,
  takeTheirs,
  waiting,
  type Draft,
  type Part,
  type Set,
  type Typing,
} from './parts';

export type { Draft, Set } from './parts';

const shelf = (id: string) => `brackmoor.draft.${id}`;

/** What was typed but never reached the server, from this browser. */
function kept(id: string): (Typing & { sent?: Draft }) | null {
  try {
    const value = JSON.parse(localStorage.getItem(shelf(id)) ?? 'null') as Typing | null;
    return value?.draft?.plate && value.from?.plate ? value : null;
  } catch {
    return null;
  }
}

/** A part that could not be saved, and why. */
class Unsaved extends Error {
  constructor(
    readonly part: Part,
    readonly problem: Problem,
  ) {
    super(problem.message);
  }
}

/** How long the hand rests before what it typed is sent, and how long until a lost line is tried again. */
const restMs = 300;
const againMs = 2000;

/**
 * A motor as it is being typed. Each part that changed is sent a moment after the hand rests, at the version it was
 * made from; until it has arrived it is kept in this browser.
 */
export function useDraft(motor: Motor, machine: string) {
  const queries = useQueryClient();
  const [base, setBase] = useState(motor);
  const [typing, setTyping] = useState(() => begin(motor, kept(motor.id)));
  const [fault, setFault] = useState<Unsaved | null>(null);
  const [retry, setRetry] = useState(0);
  const past = useRef<{ field: string; draft: Draft }[]>([]);
  const sending = useRef<Promise<unknown> | null>(null);
  const now = useRef(typing);
  const { draft } = typing;
  const wait = useMemo(() => waiting(typing), [typing]);
  const dirty = wait.length > 0;
  useEffect(() => {
    now.current = typing;
  }, [typing]);

  // Another window's change is taken over, of every part that does not wait to be sent from here.
  useEffect(() => {
    if (motor.version <= base.version || sending.current) return;
    setBase(motor);
    const next = adopt(typing, motor);
    if (next === typing) return;
    setTyping(next);
    past.current = [];
  }, [motor, base.version, typing]);

  const type = useCallback(
    (change: (d: Draft) => Draft) =>
      setTyping(t => {
        const next = change(t.draft);
        return next === t.draft ? t : { ...t, draft: next };
      }),
    [],
  );

  const undo = useCallback(() => {
    const last = past.current.pop();
    if (last) type(() => last.draft);
  }, [type]);

  const set: Set = useCallback(
    (field, patch) => {
      type(d => {
        const next = { ...d, ...patch };
        if (same(d, next)) return d;
        if (past.current.at(-1)?.field !== field) past.current = [...past.current.slice(-49), { field, draft: d }];
        return next;
      });
      setFault(f => (f?.problem.status === 409 ? f : null));
    },
    [type],
  );
  /** Ends a run of changes to one field, so that undo takes them back together. */
  const rest = useCallback(() => {
    if (past.current.length > 0) past.current[past.current.length - 1]!.field = '';
  }, []);

  /** Sends what waits, one part after the other, at what they were made from. */
  const send = useCallback(
    async (t: Typing, then: (saved: Motor, part: Part) => Typing) => {
      for (const part of waiting(t)) {
        try {
          const saved = await save(motor.id, part, t.draft, t.from[part].version);
          queries.setQueryData<Machine>(
            keys.machine(machine),
            page => page && { ...page, motors: page.motors.map(m => (m.id === saved.id ? saved : m)) },
          );
          t = then(saved, part);
        } catch (e) {
          throw new Unsaved(part, e instanceof Problem ? e : new Problem(0, words(e)));
        }
      }
    },
    [motor.id, machine, queries],
  );

  useEffect(() => {
    const keep = (value: Typing & { sent?: Draft }) => localStorage.setItem(shelf(motor.id), JSON.stringify(value));
    if (!dirty) {
      localStorage.removeItem(shelf(motor.id));
      return;
    }
    keep({ ...typing, sent: sending.current ? typing.draft : undefined });
    if (fault && fault.problem.status !== 0) return;
    const timer = setTimeout(async () => {
      if (sending.current) return setRetry(n => n + 1);
      const sent = typing.draft;
      keep({ ...typing, sent });
      say({ text: 'Saving…', bad: false });
      sending.current = send(typing, (saved, part) => {
        const next = settled(now.current, saved, part, sent);
        now.current = next;
        setBase(saved);
        setTyping(next);
        return { ...next, draft: sent };
      });
      try {
        await sending.current;
        setFault(null);
        void readBeside(queries, motor.id);
        say({ text: `Saved ${clock()}`, bad: false, undo: past.current.length > 0 ? undo : undefined });
      } catch (e) {
        const failed = e as Unsaved;
        setFault(failed);
        const lost = failed.problem.status === 0;
        say({ text: lost ? 'Not saved: no connection. Kept here.' : 'Not saved', bad: true });
        if (lost) setTimeout(() => setRetry(n => n + 1), againMs);
      } finally {
        sending.current = null;
      }
    }, restMs);
    return () => clearTimeout(timer);
  }, [typing, dirty, fault, retry, motor.id, queries, send, undo]);

  useEffect(() => {
    const keysDown = (e: KeyboardEvent) => {
      const inText = e.target instanceof HTMLInputElement && e.target.type === 'text';
      if ((e.ctrlKey || e.metaKey) && e.key === 'z' && !e.shiftKey && !inText) {
        e.preventDefault();
        undo();
      }
    };
    window.addEventListener('keydown', keysDown);
    return () => window.removeEventListener('keydown', keysDown);
  }, [undo]);

  // Leaving the card sends what still waits, and takes the undo with it.
  const leaving = useRef<() => void>(() => {});
  useEffect(() => {
    const last = async () => {
      await sending.current;
      await send(now.current, (saved, part) => {
        now.current = settled(now.current, saved, part, now.current.draft);
        return now.current;
      });
      localStorage.removeItem(shelf(motor.id));
      await readAgain(queries); // the sheet may have been asked for before this arrived
    };
    leaving.current = () => {
      // Where that fails it stays in this browser, and is sent when the card is opened again.
      if (dirty && !fault) last().catch(() => {});
    };
  });
  useEffect(
    () => () => {
      leaving.current();
      say({ text: '', bad: false });
    },
    [],
  );

  /** Answers to a conflict: the other window's values, or these ones on top of it. */
  const answer = async (how: typeof takeTheirs) => {
    const theirs = (await readMachine(queries, machine)).motors.find(m => m.id === motor.id);
    if (!theirs || !fault) return;
    setBase(theirs);
    setTyping(t => adopt(how(t, theirs, fault.part), theirs));
    setFault(null);
  };

  const fields = useMemo(() => {
    const says: Record<string, string> = {};
    for (const p of base.reading.problems) says[p.field] = p.says;
    for (const f of fault?.problem.fields ?? []) says[f.location.replace(/^body\.value\.(plate\.)?/, '')] = f.message;
    return says;
  }, [base.reading.problems, fault]);
  return {
    base,
    draft,
    set,
    rest,
    fault: fault?.problem ?? null,
    fields,
    takeTheirs: () => answer(takeTheirs).then(() => say({ text: 'The other window’s values are shown', bad: false })),
    keepMine: () => answer(keepMine),
  };
}
