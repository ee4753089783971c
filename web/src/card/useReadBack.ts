import { useState } from 'react';
import { type Schemas } from '../api/client';
import { useKept } from '../parts/kept';
import { usePending } from '../parts/outbox';
import { keepHand, lastHand, moment } from '../parts/written';
import { newId } from '../parts/id';

type Typed = Record<string, { title: string; meant: string; was: string; read: string }>;

/** What a drive's settings were found at and read back as, until it is written down in one line of the daybook. */
export function useReadBack(motor: string, shop: string) {
  const [typed, setTyped, settle] = useKept<Typed>(`${motor}.read-back`, {});
  const [hand, setHand] = useState(() => lastHand());
  const pending = usePending(`settings.${motor}`, 'entries', shop);
  const filled = Object.entries(typed).filter(([, t]) => (t.was + t.read).trim() !== '');
  const missing = filled.length === 0 ? 'Nothing is typed yet.' : !hand.trim() ? 'Say who set and read it.' : '';
  return {
    hand,
    setHand,
    missing,
    waiting: pending.waiting.length,
    refused: pending.refused,
    of: (name: string) => typed[name] ?? { was: '', read: '' },
    type: (e: Schemas['DriveEntry']) => (patch: { was?: string; read?: string }) =>
      setTyped({
        ...typed,
        [e.name]: { was: '', read: '', ...typed[e.name], ...patch, title: e.title, meant: e.writes || e.value },
      }),
    /** Takes back what the server would not have, to be typed otherwise. */
    mend: () => {
      const entry = pending.back();
      setTyped(Object.fromEntries((entry?.settings ?? []).map(s => [s.name, s])));
    },
    write: (machine: string) => {
      keepHand(hand);
      const settings = filled.map(([name, t]) => ({ name, ...t, was: t.was.trim(), read: t.read.trim() }));
      const words = settings.map(
        s => `${s.title}${s.was && ` was ${s.was},`} meant ${s.meant}${s.read && `, read back ${s.read}`}`,
      );
      pending.add({
        id: newId(),
        at: moment(),
        hand: hand.trim(),
        kind: 'setting',
        machine,
        motor,
        says: `Drive settings: ${words.join('; ')}.`.slice(0, 2000),
        who: '',
        due: '',
        ends: '',
        corrects: '',
        settings,
      });
      setTyped({});
      settle();
    },
  };
}
