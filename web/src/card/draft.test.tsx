// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Problem, type Machine, type Motor } from '../api/client';
import { keys } from '../api/keys';
import { useDraft } from './draft';
import { motorOf } from './motor.fixture';
import type { Draft, Part } from './parts';

const server = vi.hoisted(() => ({ save: vi.fn(), readMachine: vi.fn(), readAgain: vi.fn(), readBeside: vi.fn() }));
vi.mock('./parts', async real => ({ ...(await real<typeof import('./parts')>()), save: server.save }));
vi.mock('../api/hooks', () => server);

/** A motor kept by a server that knows the version of each part. */
let kept: Motor;
const accept = (_: string, part: Part, d: Draft, version: number): Promise<Motor> => {
  if (version !== kept.versions[part]) return Promise.reject(new Problem(409, 'It was changed in another window.'));
  kept = { ...kept, ...d, version: kept.version + 1, versions: { ...kept.versions, [part]: version + 1 } };
  return Promise.resolve(kept);
};

let root: Root;
let queries: QueryClient;
let d: ReturnType<typeof useDraft>;
function Bench({ motor }: { motor: Motor }) {
  const draft = useDraft(motor, 'machine');
  d = draft;
  return null;
}
const show = (motor: Motor) =>
  act(async () =>
    root.render(
      <QueryClientProvider client={queries}>
        <Bench motor={motor} />
      </QueryClientProvider>,
    ),
  );
const pass = (ms: number) => act(async () => void (await vi.advanceTimersByTimeAsync(ms)));
const type = (patch: Partial<Draft>) => act(async () => d.set(Object.keys(patch).join(), patch));
const sent = () => server.save.mock.calls.map(c => [c[1], c[3]] as [Part, number]);
const shelf = 'brackmoor.draft.m1';

beforeEach(async () => {
  vi.stubGlobal('IS_REACT_ACT_ENVIRONMENT', true);
  vi.useFakeTimers();
  localStorage.clear();
  kept = motorOf();
  server.save.mockReset().mockImplementation(accept);
  server.readAgain.mockReset();
  server.readMachine.mockReset().mockImplementation(() => Promise.resolve({ motors: [kept] }));
  queries = new QueryClient();
  queries.setQueryData(keys.machine('machine'), { motors: [kept] } as Machine);
  root = createRoot(document.createElement('div'));
  await show(kept);
});
afterEach(async () => {
  await act(async () => root.unmount());
  vi.useRealTimers();
});

test('each part is sent apart, once the hand rests', async () => {
  await type({ load: 'saw' });
  await type({ built: ['meter'] });
  await pass(299);
  expect(sent()).toEqual([]);
  expect(localStorage.getItem(shelf)).toContain('saw');
  await pass(1);
  expect(sent()).toEqual([
    ['shaft', 1],
    ['built', 1],
  ]);
  expect(localStorage.getItem(shelf)).toBeNull();
  expect(d.base.version).toBe(3);
  expect(queries.getQueryData<Machine>(keys.machine('machine'))!.motors[0]!.load).toBe('saw');
});

test('a lost line is tried again until it is there', async () => {
  server.save.mockRejectedValueOnce(new Problem(0, 'lost')).mockRejectedValueOnce(new Problem(0, 'lost'));
  await type({ load: 'saw' });
  await pass(300);
  expect(d.fault?.status).toBe(0);
  await pass(2300);
  await pass(2300);
  expect(sent()).toHaveLength(3);
  expect(d.fault).toBeNull();
  expect(kept.load).toBe('saw');
});

test.each([
  ['mine', 'saw'],
  ['theirs', 'fan'],
])('a conflict waits for an answer: %s', async (whose, load) => {
  kept = { ...kept, load: 'fan', version: 2, versions: { ...kept.versions, shaft: 2 } };
  await type({ load: 'saw' });
  await pass(300);
  expect(d.fault?.status).toBe(409);
  expect(d.draft.load).toBe('saw');
  await pass(5000);
  expect(sent()).toHaveLength(1); // nothing is sent over the other's by itself
  await act(async () => (whose === 'mine' ? d.keepMine() : d.takeTheirs()));
  await pass(300);
  expect(d.fault).toBeNull();
  expect([d.draft.load, kept.load]).toEqual([load, load]);
});

test('a part that was saved elsewhere shows here, beside what is being typed', async () => {
  await type({ load: 'saw' });
  kept = { ...kept, built: ['meter'], version: 2, versions: { ...kept.versions, built: 2 } };
  await show(kept);
  expect(d.draft.built).toEqual(['meter']);
  await pass(300);
  expect(d.fault).toBeNull();
  expect([kept.load, kept.built]).toEqual(['saw', ['meter']]);
});

test('leaving sends what still waits; where that fails it stays in this browser', async () => {
  await type({ load: 'saw' });
  await act(async () => root.unmount());
  await pass(0);
  expect(kept.load).toBe('saw');
  expect(localStorage.getItem(shelf)).toBeNull();
  expect(server.readAgain).toHaveBeenCalledTimes(1); // what was drawn from what stood before
  root = createRoot(document.createElement('div'));
  await show(kept);
  server.save.mockRejectedValue(new Problem(0, 'lost'));
  await type({ load: 'winch' });
  await act(async () => root.unmount());
  await pass(0);
  expect(localStorage.getItem(shelf)).toContain('winch');
  server.save.mockImplementation(accept);
  root = createRoot(document.createElement('div'));
  await show(kept);
  expect(d.draft.load).toBe('winch');
  await pass(300);
  expect(kept.load).toBe('winch');
});

test('undo takes a run of keys back together', async () => {
  for (const name of ['S', 'Sp', 'Spindle']) await type({ name });
  await pass(300);
  expect(kept.name).toBe('Spindle');
  await act(async () => void window.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true })));
  await pass(300);
  expect(kept.name).toBe('');
});
