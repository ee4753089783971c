// @vitest-environment happy-dom
import { act } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Problem, type Schemas } from '../api/client';
import { madeBy, sendAll, takeBack, useOutbox, usePending, type Outbox } from './outbox';

/** A server that takes, refuses or is away, and what it was sent in its order. */
type Answer = (one: { id: string }) => unknown;
const server = vi.hoisted(() => ({ sent: [] as string[], answer: (() => ({})) as Answer }));
vi.mock('../api/client', async real => {
  const own = await real<typeof import('../api/client')>();
  const POST = (_: string, { body }: { body: { id: string } }) => {
    server.sent.push(body.id);
    return server.answer(body);
  };
  return { ...own, client: { POST }, ask: async (answer: unknown) => await answer };
});
vi.mock('../api/hooks', () => ({ at: (id: string) => ({ params: { path: { id } } }) }));

let root: Root;
let box: Outbox;
let steps: ReturnType<typeof usePending<'entries'>>;
let readings: ReturnType<typeof usePending<'readings'>>;
function Places() {
  box = useOutbox();
  steps = usePending('steps.m1', 'entries', 'shop');
  readings = usePending('readings.m1', 'readings', 'm1');
  return null;
}
const entry = (id: string) => ({ id, says: id }) as Schemas['DaybookEntry'];
const reading = (id: string) => ({ id, state: 'idle' }) as Schemas['ProveReading'];
const send = (who = '') => act(() => sendAll(who, () => {}));

beforeEach(async () => {
  vi.stubGlobal('IS_REACT_ACT_ENVIRONMENT', true);
  localStorage.clear();
  window.dispatchEvent(new StorageEvent('storage', { key: 'brackmoor.outbox' }));
  server.sent = [];
  server.answer = () => ({});
  madeBy('');
  root = createRoot(document.createElement('div'));
  await act(async () => root.render(<Places />));
  await act(async () => void takeBack('steps.m1'));
});
afterEach(() => act(async () => root.unmount()));

test('what waits is sent in the order in which it was made, whichever place it is of', async () => {
  await act(async () => {
    steps.add(entry('1'));
    readings.add(reading('2'));
    steps.add(entry('3'));
  });
  expect(steps.waiting.map(e => e.id)).toEqual(['1', '3']);
  await send();
  expect(server.sent).toEqual(['1', '2', '3']);
  expect(box.list).toEqual([]);
});

test('nothing is lost or passed over while the server is away', async () => {
  await act(async () => {
    steps.add(entry('1'));
    readings.add(reading('2'));
  });
  server.answer = () => Promise.reject(new Problem(0, 'away'));
  await send();
  expect(server.sent).toEqual(['1']);
  expect(box.list.map(i => i.id)).toEqual(['1', '2']);
  expect(JSON.parse(localStorage.getItem('brackmoor.outbox')!)).toHaveLength(2);
  server.answer = () => ({});
  await send();
  expect(server.sent).toEqual(['1', '1', '2']);
});

test('what is refused holds up its own place alone, and is mended or let go of', async () => {
  await act(async () => {
    steps.add(entry('bad'));
    steps.add(entry('after'));
    readings.add(reading('other'));
  });
  server.answer = ({ id }) => (id === 'bad' ? Promise.reject(new Problem(422, 'no')) : {});
  await send();
  expect(server.sent).toEqual(['bad', 'other']);
  expect(steps.refused?.message).toBe('no');
  expect(readings.refused).toBeNull();
  await act(async () => void expect(steps.back()?.id).toBe('bad'));
  expect(steps.refused).toBeNull();
  await send();
  expect(box.list).toEqual([]);
});

test('what somebody made waits until they are there', async () => {
  madeBy('Ada');
  await act(async () => steps.add(entry('hers')));
  madeBy('');
  await act(async () => steps.add(entry('anybody’s')));
  await send('Ben');
  expect(server.sent).toEqual(['anybody’s']);
  await send('Ada');
  expect(server.sent).toEqual(['anybody’s', 'hers']);
});

test('whose it is is known away from the server too', async () => {
  madeBy('Ada');
  await act(async () => root.unmount());
  root = createRoot(document.createElement('div'));
  await act(async () => root.render(<Places />));
  await act(async () => steps.add(entry('hers')));
  expect(box.list[0]?.who).toBe('Ada');
  await send('Ben');
  expect(server.sent).toEqual([]);
});

test('another window’s changes are seen', async () => {
  await act(async () => steps.add(entry('1')));
  localStorage.setItem('brackmoor.outbox', '[]');
  await act(async () => void window.dispatchEvent(new StorageEvent('storage', { key: 'brackmoor.outbox' })));
  expect(steps.waiting).toEqual([]);
});
