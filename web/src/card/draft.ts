import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { ask, client, Problem, words, type Machine, type Motor, type Schemas } from '../api/client';
import { at, keys } from '../api/hooks';
import { clock, say } from '../frame/saving';

export type Draft = Omit<Schemas['MotorChange'], 'version'>;

const draftOf = (m: Motor): Draft => ({
  name: m.name,
  plate: m.plate,
  load: m.load,
  load_share: m.load_share,
  run_microfarad: m.run_microfarad,
  start_microfarad: m.start_microfarad,
  reversed: m.reversed,
  mine: m.mine,
  leads: m.leads,
  shaft: m.shaft,
  matters: m.matters,
  way: m.way,
});
/** Writes a value with its keys in order, whatever order they were typed in. */
const written = (value: unknown) =>
  JSON.stringify(value, (_, v: unknown) =>
    v && typeof v === 'object' && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );
const same = (a: Draft, b: Draft) => written(a) === written(b);
const shelf = (id: string) => `brackmoor.draft.${id}`;

/**
 * What this browser keeps of a motor until it has arrived: the draft, the version it was made from, and what was last
 * sent.
 */
interface Kept {
  version: number;
  draft: Draft;
  sent?: Draft;
}

/** What was typed but never reached the server, from this browser. */
function kept(id: string): Kept | null {
  try {
    const value = JSON.parse(localStorage.getItem(shelf(id)) ?? 'null') as Kept | null;
    return value && typeof value.version === 'number' && value.draft?.plate ? value : null;
  } catch {
    return null;
  }
}

/**
 * Where a card begins: with what is saved, or with what this browser kept. A page
 * left in the middle of a save finds its own change there already: that is no
 * conflict with another window.
 */
function begin(motor: Motor): { version: number; draft: Draft } {
  const saved = draftOf(motor);
  const before = kept(motor.id);
  if (!before) return { version: motor.version, draft: saved };
  const draft = { ...saved, ...before.draft, plate: { ...saved.plate, ...before.draft.plate } };
  const ours = same(draft, saved) || (before.sent && same(before.sent, saved));
  return { version: ours ? motor.version : before.version, draft };
}

/**
 * A motor as it is being typed. Every change is sent a moment after the hand
 * rests, at the version it was made from; until it has arrived it is kept in
 * this browser.
 */
export function useDraft(motor: Motor, machine: string) {
  const queries = useQueryClient();
  const [base, setBase] = useState(motor);
  const [first] = useState(() => begin(motor));
  const [version, setVersion] = useState(first.version);
  const [draft, setDraft] = useState(first.draft);
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
    setDraft(now => {
      const next = { ...now, ...patch };
      if (same(now, next)) return now;
      if (past.current.at(-1)?.field !== field) past.current = [...past.current.slice(-49), { field, draft: now }];
      return next;
    });
    setFault(f => (f?.status === 409 ? f : null));
  }, []);
  /** Ends a run of changes to one field, so that undo takes them back together. */
  const rest = useCallback(() => {
    if (past.current.length > 0) past.current[past.current.length - 1]!.field = '';
  }, []);

  useEffect(() => {
    const keep = (value: Kept) => localStorage.setItem(shelf(motor.id), JSON.stringify(value));
    if (!dirty) {
      localStorage.removeItem(shelf(motor.id));
      return;
    }
    keep({ version, draft, sent: sending.current?.draft });
    if (fault && fault.status !== 0) return;
    const timer = setTimeout(async () => {
      if (sending.current) return setRetry(n => n + 1);
      keep({ version, draft, sent: draft });
      sending.current = {
        draft,
        saved: ask(client.PUT('/motors/{id}', { ...at(motor.id), body: { ...draft, version } })),
      };
      say({ text: 'Saving…', bad: false });
      try {
        const saved = await sending.current.saved;
        setBase(saved);
        setVersion(saved.version);
        setFault(null);
        queries.setQueryData<Machine>(
          keys.machine(machine),
          page => page && { ...page, motors: page.motors.map(m => (m.id === saved.id ? saved : m)) },
        );
        void queries.invalidateQueries({ queryKey: keys.sheet(motor.id) });
        void queries.invalidateQueries({ queryKey: ['shop'] });
        say({ text: `Saved ${clock()}`, bad: false, undo: past.current.length > 0 ? undo : undefined });
      } catch (e) {
        const problem = e instanceof Problem ? e : new Problem(0, words(e));
        setFault(problem);
        say({ text: problem.status === 0 ? 'Not saved: no connection. Kept here.' : 'Not saved', bad: true });
        if (problem.status === 0) setTimeout(() => setRetry(n => n + 1), 2000);
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
      if (!under || !same(under.draft, draft))
        await ask(client.PUT('/motors/{id}', { ...at(motor.id), body: { ...draft, version: last } }));
      localStorage.removeItem(shelf(motor.id));
      await Promise.all(
        [keys.sheet(motor.id), ['shop'], keys.machine(machine)].map(queryKey =>
          queries.invalidateQueries({ queryKey }),
        ),
      );
    };
    leaving.current = () => {
      // Where that fails it stays in this browser, and is sent when the card is opened again.
      if (dirty && !fault) send().catch(() => {});
    };
  });
  useEffect(
    () => () => {
      leaving.current();
      say({ text: '', bad: false });
    },
    [],
  );

  const read = async () => {
    const page = await queries.fetchQuery({
      queryKey: keys.machine(machine),
      queryFn: () => ask(client.GET('/machines/{id}', at(machine))),
      staleTime: 0,
    });
    return page.motors.find(m => m.id === motor.id);
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
