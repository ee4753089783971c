// @vitest-environment happy-dom
import { act } from 'react';
import { createRoot, type Root } from 'react-dom/client';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Problem, type Schemas } from '../api/client';
import { keepPicture, madeBy, sendAll, takeBack, useOutbox, usePending, type Outbox } from './outbox';

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
let photos: ReturnType<typeof usePending<'photos'>>;
function Places() {
  box = useOutbox();
  steps = usePending('steps.m1', 'entries', 'shop');
  readings = usePending('readings.m1', 'readings', 'm1');
  photos = usePending('photos.m1', 'photos', 'm1');
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

/** The browser's place for pictures, and a server that takes photos or is away. */
function pictures(taken: { url: string; size: number }[], away: { now: boolean }) {
  const kept = new Map<string, Response>();
  vi.stubGlobal('caches', {
    open: async () => ({
      put: async (at: string, picture: Response) => void kept.set(at, picture),
      match: async (at: string) => kept.get(at)?.clone(),
      delete: async (at: string) => kept.delete(at),
    }),
  });
  vi.stubGlobal('fetch', async (url: string, { body }: { body: File }) => {
    if (away.now) throw new TypeError('no connection');
    taken.push({ url, size: body.size });
    return new Response('{}', { headers: { 'Content-Type': 'application/json' } });
  });
  return kept;
}

test('a photo waits with its picture, is sent under the id that it was given, and leaves nothing behind', async () => {
  const taken: { url: string; size: number }[] = [];
  const away = { now: true };
  const kept = pictures(taken, away);
  await keepPicture('p1', new File(['12345'], 'box.jpg', { type: 'image/jpeg' }));
  await act(async () => photos.add({ id: 'p1', name: 'box.jpg', type: 'image/jpeg' }));
  await send();
  expect(box.list.map(i => i.id)).toEqual(['p1']);
  expect(kept.size).toBe(1);
  away.now = false;
  await send();
  expect(taken).toEqual([{ url: '/api/motors/m1/photos?name=box.jpg&id=p1', size: 5 }]);
  expect(box.list).toEqual([]);
  expect(kept.size).toBe(0);
});

test('a photo whose picture is gone says so, and is let go of', async () => {
  const kept = pictures([], { now: false });
  await act(async () => photos.add({ id: 'p1', name: 'box.jpg', type: 'image/jpeg' }));
  await send();
  expect(box.refused['photos.m1']?.message).toContain('no longer has the picture of box.jpg');
  await keepPicture('p1', new File(['1'], 'box.jpg'));
  await act(async () => void takeBack('photos.m1'));
  await vi.waitFor(() => expect(kept.size).toBe(0));
  expect(box.list).toEqual([]);
});
