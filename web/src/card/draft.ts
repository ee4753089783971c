import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { ask, client, Problem, words, type Machine, type Motor, type Schemas } from '../api/client';
import { at, keys } from '../api/hooks';
import { clock, say } from '../frame/saving';

export type Draft = Omit<Schemas['MotorChange'], 'version'>;

const draftOf = (m: Motor): Draft => ({
  name: m.name, plate: m.plate, load: m.load, load_share: m.load_share, run_microfarad: m.run_microfarad,
  start_microfarad: m.start_microfarad, reversed: m.reversed, mine: m.mine, leads: m.leads,
});
const same = (a: Draft, b: Draft) => JSON.stringify(a) === JSON.stringify(b);
const shelf = (id: string) => `brackmoor.draft.${id}`;

/** What was typed but never reached the server, from this browser. */
function kept(id: string): { version: number; draft: Draft } | null {
  try {
    const value = JSON.parse(localStorage.getItem(shelf(id)) ?? 'null') as { version: number; draft: Draft } | null;
    return value && typeof value.version === 'number' && value.draft?.plate ? value : null;
  } catch {
    return null;
  }
}

/**
 * A motor as it is being typed. Every change is sent a moment after the hand
 * rests, at the version it was made from; until it has arrived it is kept in
 * this browser.
 */
export function useDraft(motor: Motor, machine: string) {
  const queries = useQueryClient();
  const [base, setBase] = useState(motor);
  const [version, setVersion] = useState(() => kept(motor.id)?.version ?? motor.version);
  const [draft, setDraft] = useState<Draft>(() => {
    const now = draftOf(motor);
    const before = kept(motor.id)?.draft;
    return before ? { ...now, ...before, plate: { ...now.plate, ...before.plate } } : now;
  });
  const [fault, setFault] = useState<Problem | null>(null);
  const [retry, setRetry] = useState(0);
  const past = useRef<{ field: string; draft: Draft }[]>([]);
  const sending = useRef<{ draft: Draft; saved: Promise<Motor> } | null>(null);
  const dirty = !same(draft, draftOf(base));

  // Another window's change is taken over as long as nothing here waits to be sent.
  useEffect(() => {
    if (motor.version > base.version && !dirty && !sending.current) {
      setBase(motor);
      setVersion(motor.version);
      setDraft(draftOf(motor));
      past.current = [];
    }
  }, [motor, base.version, dirty]);

  const undo = useCallback(() => {
    const last = past.current.pop();
    if (last) setDraft(last.draft);
  }, []);

  const set = useCallback((field: string, patch: Partial<Draft>) => {
    setDraft((now) => {
      const next = { ...now, ...patch };
      if (same(now, next)) return now;
      if (past.current.at(-1)?.field !== field) past.current = [...past.current.slice(-49), { field, draft: now }];
      return next;
    });
    setFault((f) => (f?.status === 409 ? f : null));
  }, []);
  /** Ends a run of changes to one field, so that undo takes them back together. */
  const rest = useCallback(() => {
    if (past.current.length > 0) past.current[past.current.length - 1]!.field = '';
  }, []);

  useEffect(() => {
    if (!dirty) {
      localStorage.removeItem(shelf(motor.id));
      return;
    }
    localStorage.setItem(shelf(motor.id), JSON.stringify({ version, draft }));
    if (fault && fault.status !== 0) return;
    const timer = setTimeout(async () => {
      if (sending.current) return setRetry((n) => n + 1);
      sending.current = { draft, saved: ask(client.PUT('/motors/{id}', { ...at(motor.id), body: { ...draft, version } })) };
      say({ text: 'Saving…', bad: false });
      try {
        const saved = await sending.current.saved;
        setBase(saved);
        setVersion(saved.version);
        setFault(null);
        queries.setQueryData<Machine>(keys.machine(machine), (page) => page && { ...page, motors: page.motors.map((m) => (m.id === saved.id ? saved : m)) });
        void queries.invalidateQueries({ queryKey: keys.sheet(motor.id) });
        void queries.invalidateQueries({ queryKey: ['shop'] });
        say({ text: `Saved ${clock()}`, bad: false, undo: past.current.length > 0 ? undo : undefined });
      } catch (e) {
        const problem = e instanceof Problem ? e : new Problem(0, words(e));
        setFault(problem);
        say({ text: problem.status === 0 ? 'Not saved: no connection. Kept here.' : 'Not saved', bad: true });
        if (problem.status === 0) setTimeout(() => setRetry((n) => n + 1), 2000);
      } finally {
        sending.current = null;
      }
    }, 300);
    return () => clearTimeout(timer);
  }, [draft, dirty, fault, version, retry, motor.id, machine, queries, undo]);

  useEffect(() => {
    const keysDown = (e: KeyboardEvent) => {
      const typing = e.target instanceof HTMLInputElement && e.target.type === 'text';
      if ((e.ctrlKey || e.metaKey) && e.key === 'z' && !e.shiftKey && !typing) {
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
    const send = async () => {
      const under = sending.current;
      const last = under ? (await under.saved).version : version;
      if (!under || !same(under.draft, draft)) await ask(client.PUT('/motors/{id}', { ...at(motor.id), body: { ...draft, version: last } }));
      localStorage.removeItem(shelf(motor.id));
      await Promise.all([keys.sheet(motor.id), ['shop'], keys.machine(machine)].map((queryKey) => queries.invalidateQueries({ queryKey })));
    };
    leaving.current = () => {
      if (dirty && !fault) send().catch(() => {}); // then it stays in this browser, and is sent when the card is opened again
    };
  });
  useEffect(() => () => {
    leaving.current();
    say({ text: '', bad: false });
  }, []);

  const read = async () => {
    const page = await queries.fetchQuery({ queryKey: keys.machine(machine), queryFn: () => ask(client.GET('/machines/{id}', at(machine))), staleTime: 0 });
    return page.motors.find((m) => m.id === motor.id);
  };
  /** Answers to a conflict: the other window's values, or these ones on top of it. */
  const takeTheirs = async () => {
    const theirs = await read();
    if (!theirs) return;
    setBase(theirs);
    setVersion(theirs.version);
    setDraft(draftOf(theirs));
    setFault(null);
    say({ text: 'The other window’s values are shown', bad: false });
  };
  const keepMine = async () => {
    const theirs = await read();
    if (!theirs) return;
    setBase(theirs);
    setVersion(theirs.version);
    setFault(null);
  };

  const fields = useMemo(() => {
    const says: Record<string, string> = {};
    for (const p of base.reading.problems) says[p.field] = p.says;
    for (const f of fault?.fields ?? []) says[f.location.replace(/^body\.(plate\.)?/, '')] = f.message;
    return says;
  }, [base.reading.problems, fault]);
  return { base, draft, set, rest, fault, fields, takeTheirs, keepMine };
}
