import { expect, test } from 'vitest';
import { merged } from './merge';
import type { Site } from './useFloor';

const yard = (): Site => ({
  spaces: 12,
  circuits: [
    { id: 'barn', name: 'Barn', breaker_amps: 60, panel: true },
    { id: 'bench', name: 'Bench', breaker_amps: 20, from: 'barn' },
  ],
  converters: [{ id: 'conv', name: 'Converter', on: 'bench', idler_watts: 4000, label: { input_amps: 30 } }],
  hung: [{ id: 'lathe', on: 'conv' }],
});

/** A tree with something of it changed. */
const with_ = (change: (s: Site) => void) => {
  const site = yard();
  change(site);
  return site;
};

test('what two windows changed apart stands from both', () => {
  const ours = with_(s => {
    s.circuits![1]!.breaker_amps = 30;
    s.converters![0]!.label!.motor_watts = 3000;
    s.loads = [{ id: 'kiln', name: 'Kiln', kind: 'heater', amps: 20 }];
    s.hung![0]!.on = 'bench';
  });
  const theirs = with_(s => {
    s.spaces = 20;
    s.circuits![1]!.name = 'Long bench';
    s.circuits!.push({ id: 'new', name: 'New', breaker_amps: 15 });
    s.converters![0]!.label!.input_amps = 40;
    s.hung!.push({ id: 'mill', on: 'conv' });
  });
  const { site, both } = merged(yard(), ours, theirs);
  expect(both).toEqual([]);
  expect(site.spaces).toBe(20);
  expect(site.circuits!.map(c => [c.name, c.breaker_amps])).toEqual([
    ['Barn', 60],
    ['Long bench', 30],
    ['New', 15],
  ]);
  expect(site.converters![0]!.label).toEqual({ input_amps: 40, motor_watts: 3000 });
  expect(site.loads).toHaveLength(1);
  expect(site.hung).toEqual([
    { id: 'lathe', on: 'bench' },
    { id: 'mill', on: 'conv' },
  ]);
});

test('where both changed the same field ours stands, and the thing is named', () => {
  const set = (amps: number) => with_(s => (s.circuits![1]!.breaker_amps = amps));
  expect(merged(yard(), set(30), set(40))).toMatchObject({ both: ['Bench'] });
  expect(merged(yard(), set(30), set(40)).site.circuits![1]!.breaker_amps).toBe(30);
  expect(merged(yard(), set(30), set(30)).both).toEqual([]);
  expect(merged(yard(), yard(), set(40)).site).toEqual(set(40));
});

test('what is taken away on one side goes, unless the other side worked on it', () => {
  const without = with_(s => (s.circuits = s.circuits!.slice(0, 1)));
  expect(merged(yard(), without, yard()).site).toEqual(without);
  expect(merged(yard(), yard(), without).site).toEqual(without);
  const worked = with_(s => (s.circuits![1]!.breaker_amps = 30));
  const kept = merged(yard(), worked, without);
  expect(kept.site.circuits!.map(c => c.id)).toEqual(['barn', 'bench']);
  expect(kept.both).toEqual(['Bench']);
});
