import { expect, test, vi } from 'vitest';
import type { Page } from '../api/client';
import { Follower, merged, once } from './follow';

/** An ask whose answers come when they are let. */
function held() {
  const let_: ((fault?: Error) => void)[] = [];
  const ask = vi.fn(
    (n: number) => new Promise<number>((answer, refuse) => let_.push(fault => (fault ? refuse(fault) : answer(n)))),
  );
  return { ask, answer: async (fault?: Error) => (let_.shift()!(fault), await new Promise(done => setTimeout(done))) };
}

test('one question is under way, and the latest wish is asked next', async () => {
  const { ask, answer } = held();
  const shown: number[] = [];
  const f = new Follower(ask, n => shown.push(n), vi.fn());
  for (const n of [1, 2, 3, 4]) f.want(n);
  expect(ask.mock.calls).toEqual([[1]]);
  await answer();
  expect(ask.mock.calls).toEqual([[1], [4]]);
  await answer();
  expect(shown).toEqual([1, 4]);
});

test('the next is asked before what came is drawn, and it is behind until nothing is to come', async () => {
  const { ask, answer } = held();
  const seen: [number, number, boolean][] = [];
  const f = new Follower(ask, n => seen.push([n, ask.mock.calls.length, f.behind]), vi.fn());
  f.want(1);
  f.want(2);
  await answer();
  await answer();
  expect(seen).toEqual([
    [1, 2, true],
    [2, 2, false],
  ]);
});

test('what cannot be shown is told, and the hand is followed on', async () => {
  const { ask, answer } = held();
  const fail = vi.fn();
  const show = vi.fn().mockImplementationOnce(() => {
    throw new Error('not drawn');
  });
  const f = new Follower(ask, show, fail);
  f.want(1);
  await answer();
  expect(fail.mock.calls).toEqual([[new Error('not drawn')]]);
  f.want(2);
  await answer();
  expect(show).toHaveBeenLastCalledWith(2);
});

test('whatever comes between, no answer overtakes another and the last wish is shown last', async () => {
  for (let round = 0; round < 30; round += 1) {
    const { ask, answer } = held();
    const happened: string[] = [];
    const shown: number[] = [];
    const f = new Follower(ask, n => shown.push(n), vi.fn());
    let wanted = 0;
    let answered = 0;
    let failed = 0;
    const come = async () => {
      const fault = Math.random() < 0.2 ? new Error('no') : undefined;
      happened.push(fault ? 'fault' : 'answer');
      if (fault) failed = ask.mock.calls[answered]![0];
      answered += 1;
      await answer(fault);
    };
    for (let step = 0; step < 20; step += 1) {
      if (Math.random() < 0.5) {
        happened.push('want');
        f.want((wanted += 1));
      } else if (answered < ask.mock.calls.length) await come();
      expect(ask.mock.calls.length - answered, happened.join()).toBeLessThanOrEqual(1);
      expect(f.behind, happened.join()).toBe(answered < ask.mock.calls.length);
    }
    while (answered < ask.mock.calls.length) await come();
    expect(shown, happened.join()).toEqual([...shown].sort((a, b) => a - b));
    expect(failed === wanted || shown.at(-1) === wanted || wanted === 0, happened.join()).toBe(true);
  }
});

test('a question is asked once while its answer is among the latest', async () => {
  const ask = vi.fn((n: number) => (n < 0 ? Promise.reject(new Error('no')) : Promise.resolve(n)));
  const f = once(ask, 2);
  for (const n of [1, 2, 1, 3]) expect(await f(n)).toBe(n);
  expect(ask.mock.calls).toEqual([[1], [2], [3]]);
  await f(1);
  expect(ask).toHaveBeenCalledTimes(3);
  await f(2);
  expect(ask).toHaveBeenCalledTimes(4);
  await expect(f(-1)).rejects.toThrow('no');
  await expect(f(-1)).rejects.toThrow('no');
  expect(ask).toHaveBeenCalledTimes(6);
});

test('what is under way is not shown once nothing is wanted any more', async () => {
  const { ask, answer } = held();
  const show = vi.fn();
  const f = new Follower(ask, show, vi.fn());
  f.want(1);
  f.want(2);
  f.rest();
  await answer();
  expect(show).not.toHaveBeenCalled();
  expect(ask).toHaveBeenCalledTimes(1);
  f.want(3);
  await answer();
  expect(show.mock.calls).toEqual([[3]]);
});

test('a fault is told only while its question is still the latest', async () => {
  const { ask, answer } = held();
  const fail = vi.fn();
  const show = vi.fn();
  const f = new Follower(ask, show, fail);
  f.want(1);
  f.want(2);
  await answer(new Error('the first'));
  expect(fail).not.toHaveBeenCalled();
  await answer(new Error('the last'));
  expect(fail.mock.calls).toEqual([[new Error('the last')]]);
  f.want(3);
  await answer();
  expect(show.mock.calls).toEqual([[3]]);
});

const panel = (name: string, note: string) => ({ name, kind: 'facts', title: name, note, turn: '', width: 'full' });
const page = (note: string, views: [string, string[]][]): Page => ({
  way: 'w',
  title: note,
  headline: [],
  views: views.map(([name, panels]) => ({ name, title: name, panels: panels.map(p => panel(p, note)) })),
  below: [panel('below', note)],
  controls: [],
  verdicts: [],
  workings: [],
});

test('what was tried takes the place of its like, and the rest stands', () => {
  const whole = page('whole', [
    ['one', ['a', 'b']],
    ['two', ['c']],
  ]);
  const got = merged(whole, page('tried', [['one', ['b']]]));
  const notes = got.views.map(v => v.panels.map(p => `${p.name} ${p.note}`));
  expect(notes).toEqual([['a whole', 'b tried'], ['c whole']]);
  expect(got.below[0]!.note).toBe('whole');
  expect(got.title).toBe('whole');
  // A headline that a trial does not have is that of the whole.
  const row = { label: 'Run', value: '55 µF', remark: '', assumed: false, figure: '' };
  expect(merged({ ...whole, headline: [row] }, whole).headline).toEqual([row]);
});
