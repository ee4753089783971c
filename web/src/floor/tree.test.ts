import { expect, test } from 'vitest';
import { added, changed, kindOf, moved, removed, thingOf } from './tree';
import type { Site } from './useFloor';

const yard = (): Site => ({
  spaces: 12,
  circuits: [
    { id: 'barn', name: 'Barn', breaker_amps: 60, panel: true },
    { id: 'bench', name: 'Bench', breaker_amps: 20, from: 'barn', change_over: true },
  ],
  converters: [{ id: 'conv', name: 'Converter', on: 'bench', side: 'a', idler_watts: 4000 }],
  loads: [{ id: 'kiln', name: 'Kiln', kind: 'heater', amps: 12, on: 'bench', side: 'b' }],
  hung: [{ id: 'lathe', on: 'conv' }],
});

test('a field of a thing is changed, one of its label among them, and nothing else', () => {
  const before = yard();
  expect(changed(before, 'circuit', 'barn', 'metre', 20).circuits![0]).toEqual({ ...before.circuits![0], metre: 20 });
  const labelled = changed(before, 'converter', 'conv', 'label.input_amps', 30);
  expect(labelled.converters![0]!.label).toEqual({ input_amps: 30 });
  expect(changed(labelled, 'converter', 'conv', 'label.motor_watts', 9).converters![0]!.label).toEqual({
    input_amps: 30,
    motor_watts: 9,
  });
  expect(changed(before, 'service', 'service', 'spaces', 20)).toEqual({ ...before, spaces: 20 });
  expect(before).toEqual(yard());
});

test('what hangs elsewhere has no side of what it hung on', () => {
  expect(moved(yard(), 'kiln', 'conv').loads![0]).toMatchObject({ on: 'conv', side: '' });
  expect(moved(yard(), 'bench', '').circuits![1]!.from).toBe('');
  expect(moved(yard(), 'saw', 'conv').hung).toContainEqual({ id: 'saw', on: 'conv', side: '' });
  expect(thingOf(yard(), 'machine', 'saw')).toEqual({ id: 'saw' });
  expect(['barn', 'conv', 'kiln', 'lathe'].map(id => kindOf(yard(), id))).toEqual([
    'circuit',
    'converter',
    'load',
    'machine',
  ]);
});

test('what hung on what is taken away hangs on the service', () => {
  const rest = removed(yard(), 'bench');
  expect(rest.circuits!.map(c => c.id)).toEqual(['barn']);
  expect(rest.converters![0]).toMatchObject({ on: '', side: '' });
  expect(rest.loads![0]).toMatchObject({ on: '', side: '' });
  expect(removed(yard(), 'barn').circuits![0]).toMatchObject({ id: 'bench', from: '' });
  expect(removed(yard(), 'conv').hung![0]).toMatchObject({ on: '' });
});

test('what is added has an id of its own and hangs where it is put', () => {
  for (const kind of ['circuit', 'converter', 'bus', 'load'] as const) {
    const { site, id } = added(yard(), kind, 'bench');
    expect(id).toMatch(/^[a-z0-9][a-z0-9-]{0,63}$/);
    expect(thingOf(site, kind === 'bus' ? 'converter' : kind, id)).toMatchObject(
      kind === 'circuit' ? { from: 'bench' } : { on: 'bench' },
    );
    expect(added({}, kind, '').site).not.toEqual({});
  }
});
