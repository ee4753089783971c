// @vitest-environment happy-dom
import { act } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { Control, Page, Trial } from '../api/client';
import { next, useTrial, went } from './page';

const server = vi.hoisted(() => ({ tryWay: vi.fn() }));
vi.mock('../api/hooks', () => server);

const slide = (name: string, value: number, least: number, most: number, step: number, scale: number): Control => ({
  ...{ name, value, least, most, step, scale, title: name, kind: 'slide', unit: '', named: '' },
  ...{ chosen: false, options: [] },
});
const whole = (run: number): Page => ({
  ...{ way: 'w', title: '', headline: [], views: [], below: [], verdicts: [], workings: [] },
  controls: [slide('run_microfarad', run, 0, 50, 1, 1), slide('load_share', 0.5, 10, 100, 5, 100)],
});

let root: Root;
let hand: ReturnType<typeof useTrial>;
function Hand({ page }: { page: Page }) {
  hand = useTrial('m', page);
  return null;
}
const show = (page: Page) => act(async () => root.render(<Hand page={page} />));
const turn = (change: Trial) => act(async () => hand.attempt(change));
const asked = () => server.tryWay.mock.calls.map(c => (c[2] as Trial).run_microfarad);

beforeEach(() => {
  vi.stubGlobal('IS_REACT_ACT_ENVIRONMENT', true);
  server.tryWay
    .mockReset()
    .mockImplementation((_m, _w, t: Trial) =>
      Promise.resolve({ ...whole(t.run_microfarad!), title: `${t.run_microfarad}` }),
    );
  root = createRoot(document.createElement('div'));
});
afterEach(() => act(async () => root.unmount()));

test('where a hand goes is what it turned last, and by how much', () => {
  expect(went({ load_share: 0.5 }, { load_share: 0.55 })).toEqual({ name: 'load_share', by: expect.closeTo(0.05) });
  expect(went({ load_share: 0.5 }, { load_share: 0.5 })).toBeNull();
});

test('from end to end of a slide each place is foreseen as the slide itself comes to it, and none past the end', () => {
  const page = whole(20);
  for (const { name, least, most, step, scale } of page.controls)
    for (const by of [step, -step, 2 * step, -3 * step]) {
      const places: number[] = [];
      for (let v = by > 0 ? least : most; v >= least && v <= most; v += by) places.push(v / scale);
      let at: Trial = { [name]: places[0] };
      for (const place of places) {
        expect(at[name as keyof Trial]).toBeCloseTo(place, 12);
        at = next(page, { [name]: place }, { name: name as keyof Trial, by: by / scale }) ?? {};
      }
      expect(at).toEqual({});
    }
  expect(next(page, { idler_watts: 1000 }, { name: 'idler_watts', by: 1 })).toBeNull();
});

test('what comes if the hand goes on is asked for while it rests, and is there when it does', async () => {
  await show(whole(20));
  expect(asked()).toEqual([]);
  await turn({ run_microfarad: 21 });
  expect(asked()).toEqual([21, 22]);
  expect(hand.page.controls[0]!.value).toBe(20); // what is turned by is that of what is kept
  expect(hand.trial).toEqual({ run_microfarad: 21, load_share: 0.5 });
  await turn({ run_microfarad: 22 });
  expect(asked()).toEqual([21, 22, 23]);
  expect(hand.trial?.run_microfarad).toBe(22);
  await turn({ run_microfarad: 22 }); // let go of
  expect(asked()).toEqual([21, 22, 23]);
  await turn({ run_microfarad: 20 });
  expect(asked()).toEqual([21, 22, 23, 20, 18]);
});

test('what is foreseen goes on from what was kept, and its fault is said only where it is come to', async () => {
  await show(whole(48));
  await turn({ run_microfarad: 49 });
  server.tryWay.mockImplementation(() => Promise.reject(new Error('It does not start.')));
  await show(whole(49));
  expect(asked()).toEqual([49, 50, 50]); // the first of another answer, with what was kept
  expect(hand.trial).toBeNull();
  expect(hand.fault).toBe('');
  await turn({ run_microfarad: 50 });
  expect(asked()).toEqual([49, 50, 50, 50]);
  expect(hand.fault).toBe('It does not start.');
});
