// @vitest-environment happy-dom
import { act } from 'react';
import { createRoot } from 'react-dom/client';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { ReadingForm } from './ReadingForm';
import type { Reading } from './useReadings';

const page = {
  due: 'idle',
  states: [{ name: 'idle', title: 'Machine idle', share: 0, loaded: false, hard: false }],
  places: [
    { name: 'volts.ab', title: 'L1–L2', unit: 'V', group: 'Volts' },
    { name: 'frame', title: 'Frame', unit: '°C', group: 'Warmth' },
  ],
  banks: [],
  other_units: { '°C': '°F' },
} as unknown as Schemas['Proof'];

const place = document.createElement('div');
let root: ReturnType<typeof createRoot>;
let written: Reading[];
const show = (from: Partial<Reading> = {}) =>
  act(async () =>
    root.render(<ReadingForm motor="m" page={page} from={from} add={r => written.push(r)} close={() => {}} />),
  );
const field = (label: string) => place.querySelector<HTMLInputElement>(`[aria-label="${label}"]`)!;
const type = (label: string, text: string) =>
  act(async () => {
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(field(label), text);
    field(label).dispatchEvent(new Event('input', { bubbles: true }));
  });
const press = (words: string) =>
  act(async () =>
    [...place.querySelectorAll('button')]
      .find(b => (b.getAttribute('aria-label') ?? b.textContent).startsWith(words))!
      .click(),
  );

beforeEach(() => {
  (globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;
  vi.spyOn(console, 'error').mockImplementation(() => {});
  localStorage.clear();
  written = [];
  document.body.append(place);
  root = createRoot(place);
});
afterEach(async () => {
  await act(async () => root.unmount());
  vi.restoreAllMocks();
});

test('figures are sent as they were read, with the unit of each that another meter showed', async () => {
  await show();
  await type('Read by', 'N.');
  await type('L1–L2 V', '231,5');
  await press('Frame in °C');
  await type('Frame °F', '140');
  await press('Write it down');
  expect(written).toHaveLength(1);
  expect(written[0]!.figures).toEqual([
    { place: 'volts.ab', value: 231.5 },
    { place: 'frame', value: 140 },
  ]);
  expect(written[0]!.in).toEqual({ frame: '°F' });
});

test('the unit that was read in last is the first one next time', async () => {
  await show();
  await press('Frame in °C');
  await act(async () => root.unmount());
  localStorage.removeItem('brackmoor.kept.m.reading.');
  root = createRoot(place);
  await show();
  expect(field('Frame °F')).toBeTruthy();
  await type('Read by', 'N.');
  await type('L1–L2 V', '230');
  await press('Write it down');
  expect(written[0]!.in).toEqual({});
});

test('one that is taken back or corrected is in the unit that it is kept in', async () => {
  localStorage.setItem('brackmoor.in.°C', '°F');
  await show({ corrects: 'r1', figures: [{ place: 'frame', value: 60 }] });
  expect(field('Frame °C').value).toBe('60');
  await act(async () => root.unmount());
  root = createRoot(place);
  await show({ id: 'r2', figures: [{ place: 'frame', value: 140 }], in: { frame: '°F' } });
  expect(field('Frame °F').value).toBe('140');
});

test('what is no number says so at its place and is not written down', async () => {
  await show();
  await type('Read by', 'N.');
  await type('L1–L2 V', '24x');
  expect(place.querySelector('[role=alert]')!.textContent).toBe('L1–L2 is a number.');
  const write = [...place.querySelectorAll('button')].find(b => b.textContent === 'Write it down')!;
  expect(write.disabled).toBe(true);
  expect(field('L1–L2 V').value).toBe('24x');
});
