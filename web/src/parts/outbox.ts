import { useCallback, useSyncExternalStore } from 'react';
import { ask, client, Problem, words, type Schemas } from '../api/client';
import { at } from '../api/hooks';
import { sendPhoto } from '../api/photos';

/** A photo that waits: its picture lies beside it, under its id. */
export interface WaitingPhoto {
  id: string;
  name: string;
  type: string;
  shows?: string;
}

/** What may be made away from the server, by where it goes. */
interface Bodies {
  photos: WaitingPhoto;
  entries: Schemas['DaybookEntry'];
  practice: Schemas['LessonPractised'];
  readings: Schemas['ProveReading'];
}
export type Kind = keyof Bodies;

/** One that is on its way: from which place of the application, where to, whose it is, and when it was made. */
export interface Item {
  id: string;
  place: string;
  kind: Kind;
  of: string;
  who: string;
  made: number;
  body: unknown;
}

const shelf = 'brackmoor.outbox';

/** Where the pictures of photos that wait are kept: there is no such place over plain HTTP off this machine. */
const pictures = 'outbox-photos';
const pictureAt = (id: string) => `/outbox/${id}`;
export const keepsPhotos = () => typeof caches !== 'undefined';
export const keepPicture = async (id: string, file: File) =>
  (await caches.open(pictures)).put(pictureAt(id), new Response(file));

async function postPhoto(of: string, { id, name, type, shows }: WaitingPhoto) {
  const kept = await caches.open(pictures);
  const picture = await kept.match(pictureAt(id));
  if (!picture) throw new Problem(410, `This browser no longer has the picture of ${name}.`);
  const sent = await sendPhoto(`motors/${of}`, new File([await picture.blob()], name, { type }), id, shows);
  await kept.delete(pictureAt(id));
  return sent;
}

const posts: { [K in Kind]: (of: string, body: Bodies[K]) => Promise<unknown> } = {
  entries: (of, body) => ask(client.POST('/shops/{id}/entries', { ...at(of), body })),
  practice: (of, body) => ask(client.POST('/shops/{id}/practice', { ...at(of), body })),
  photos: postPhoto,
  readings: (of, body) => ask(client.POST('/motors/{id}/readings', { ...at(of), body })),
};
const post = (item: Item) => posts[item.kind](item.of, item.body as never);

const read = () => {
  try {
    return (JSON.parse(localStorage.getItem(shelf) ?? '[]') as Item[] | null) ?? [];
  } catch {
    return [];
  }
};

/** What waits, and why the server would not take the first of a place. */
export interface Outbox {
  list: Item[];
  refused: Record<string, Problem>;
}
let state: Outbox = { list: read(), refused: {} };
const listeners = new Set<() => void>();
const tell = (next: Partial<Outbox>) => {
  state = { ...state, ...next };
  listeners.forEach(l => l());
};
window.addEventListener('storage', e => {
  if (e.key === shelf) tell({ list: read() });
});

/** Changes what waits, as it stands in every window of this browser. */
function change(how: (list: Item[]) => Item[]) {
  const list = how(read());
  localStorage.setItem(shelf, JSON.stringify(list));
  tell({ list });
}

const without = (place: string) => Object.fromEntries(Object.entries(state.refused).filter(([p]) => p !== place));

/** Everything that waits. */
export const useOutbox = () =>
  useSyncExternalStore(
    l => {
      listeners.add(l);
      return () => listeners.delete(l);
    },
    () => state,
  );

/** Takes the first of a place back, to be mended. */
export function takeBack(place: string): Item | undefined {
  const first = read().find(i => i.place === place);
  if (first) change(list => list.filter(i => i.id !== first.id));
  if (first?.kind === 'photos') void caches.open(pictures).then(kept => kept.delete(pictureAt(first.id)));
  tell({ refused: without(place) });
  return first;
}

let busy = false;

/** Whether the server is away, or does not know who is there: then all of it waits. */
const later = (fault: Problem) => [0, 401, 502, 503, 504].includes(fault.status);

/**
 * Sends what waits, in the order in which it was made. Each has an id of its own from the start and stays in this
 * browser until the server has it: what is sent twice is written once. What is refused holds up its own place alone;
 * what somebody else made waits until they are there.
 */
export async function sendAll(who: string, sent: (item: Item, answer: unknown) => void) {
  if (busy) return;
  busy = true;
  try {
    const due = () => read().find(i => !state.refused[i.place] && (i.who === '' || i.who === who));
    for (let item = due(); item; item = due()) {
      const { id, place } = item;
      try {
        const answer = await post(item);
        change(list => list.filter(i => i.id !== id));
        sent(item, answer);
      } catch (e) {
        const fault = e instanceof Problem ? e : new Problem(0, words(e));
        if (later(fault)) return;
        tell({ refused: { ...state.refused, [place]: fault } });
      }
    }
  } finally {
    busy = false;
  }
}

const owner = 'brackmoor.made-by';

/** Whose what is made is, "" for nobody who is known by name: kept, since away from the server nobody says. */
export const maker = () => localStorage.getItem(owner) ?? '';
export const madeBy = (who: string) => localStorage.setItem(owner, who);

/** What a place of the application has on its way. */
export function usePending<K extends Kind>(place: string, kind: K, of: string) {
  const { list, refused } = useOutbox();
  const waiting = list.filter(i => i.place === place).map(i => i.body as Bodies[K]);
  const add = useCallback(
    (body: Bodies[K]) => {
      tell({ refused: without(place) });
      const item = { id: body.id, place, kind, of, who: maker(), made: Date.now(), body };
      change(all => [...all, item]);
    },
    [place, kind, of],
  );
  const back = useCallback(() => takeBack(place)?.body as Bodies[K] | undefined, [place]);
  return { waiting, refused: refused[place] ?? null, add, back };
}
