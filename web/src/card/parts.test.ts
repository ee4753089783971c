import { expect, test } from 'vitest';
import type { Motor } from '../api/client';
import { adopt, begin, draftOf, holds, keepMine, parts, settled, takeTheirs, typingOf, waiting } from './parts';
import { motorOf, typed } from './motor.fixture';

test('every field of a draft is held by one part', () => {
  const d = draftOf(motorOf());
  const held = parts.flatMap(p => Object.keys(holds(p, d)));
  expect(held.sort()).toEqual(Object.keys(d).sort());
});

test('a part that is typed waits, and no other', () => {
  const t = typingOf(motorOf());
  expect(waiting(t)).toEqual([]);
  expect(waiting(typed(t, { load: 'saw' }))).toEqual(['shaft']);
  expect(waiting(typed(t, { name: 'Spindle', built: ['meter'] }))).toEqual(['plate', 'built']);
});

/** The motor as another window left it. */
const other = (m: Motor, change: Partial<Motor>, ...changed: (keyof Motor['versions'])[]): Motor => ({
  ...m,
  ...change,
  version: m.version + changed.length,
  versions: { ...m.versions, ...Object.fromEntries(changed.map(p => [p, m.versions[p] + 1])) },
});

test('what another window saved is taken over, but for what waits here', () => {
  const m = motorOf();
  const t = typed(typingOf(m), { load: 'saw' });
  const next = adopt(t, other(m, { load: 'fan', built: ['meter'] }, 'shaft', 'built'));
  expect(next.draft.built).toEqual(['meter']);
  expect(next.draft.load).toBe('saw');
  expect(next.from.shaft.version).toBe(1); // so that sending it is a conflict
  expect(next.from.built.version).toBe(2);
  expect(adopt(t, m)).toBe(t);
});

test('a conflict is answered by theirs or by mine', () => {
  const m = motorOf();
  const t = typed(typingOf(m), { load: 'saw' });
  const theirs = other(m, { load: 'fan' }, 'shaft');
  expect(takeTheirs(t, theirs, 'shaft').draft.load).toBe('fan');
  expect(waiting(takeTheirs(t, theirs, 'shaft'))).toEqual([]);
  const mine = keepMine(t, theirs, 'shaft');
  expect(mine.draft.load).toBe('saw');
  expect(mine.from.shaft.version).toBe(2);
  expect(waiting(mine)).toEqual(['shaft']);
});

test('what was typed on while a part was being saved stays, and waits', () => {
  const m = motorOf();
  const sent = typed(typingOf(m), { load: 'saw' });
  const saved = other(m, { load: 'saw' }, 'shaft');
  expect(waiting(settled(sent, saved, 'shaft', sent.draft))).toEqual([]);
  const on = typed(sent, { load: 'winch' });
  const next = settled(on, saved, 'shaft', sent.draft);
  expect(next.draft.load).toBe('winch');
  expect(waiting(next)).toEqual(['shaft']);
  expect(next.from.shaft.version).toBe(2);
});

test('what the server puts right is taken over', () => {
  const m = motorOf();
  const way = (kept: string[]) => ({ way: { ...m.way, kept } });
  const sent = typed(typingOf(m), way(['rotary', 'rotary']));
  const next = settled(sent, other(m, way(['rotary']), 'way'), 'way', sent.draft);
  expect(next.draft.way.kept).toEqual(['rotary']);
  expect(waiting(next)).toEqual([]);
});

test('a card begins with what this browser kept', () => {
  const m = motorOf();
  const t = typed(typingOf(m), { load: 'saw' });
  expect(begin(m, null)).toEqual(typingOf(m));
  expect(waiting(begin(m, t))).toEqual(['shaft']);
  // Another window's change of it meanwhile is a conflict still.
  const changed = other(m, { load: 'fan' }, 'shaft');
  expect(begin(changed, t).from.shaft.version).toBe(1);
  // One's own that had arrived is none.
  const arrived = other(m, { load: 'saw' }, 'shaft');
  expect(waiting(begin(arrived, t))).toEqual([]);
  const later = typed(t, { load: 'winch' });
  const again = begin(arrived, { ...later, sent: t.draft });
  expect(again.draft.load).toBe('winch');
  expect(again.from.shaft.version).toBe(2);
});
