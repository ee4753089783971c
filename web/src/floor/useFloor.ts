import { replaceEqualDeep, useQuery, useQueryClient } from '@tanstack/react-query';
import { startTransition, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { Problem, words, type Schemas } from '../api/client';
import { changeSite, leaveFloor, readFloor, startOnFloor, tryFloor } from '../api/hooks';
import { keys } from '../api/keys';
import { clock, say } from '../frame/saving';
import { Follower, once } from '../parts/follow';
import { merged } from './merge';

export type Page = Schemas['FloorPage'];
export type Picture = Schemas['FloorPicture'];
export type State = Schemas['SiteState'];
export type Site = Schemas['Site'];
export type Start = Schemas['FloorStart'];

/** How long a state rests before it is kept, and a change of the tree before it is sent. */
const restMs = 400;

/** Does the latest thing that is wanted once the hand rests, and at once where the page is left before. */
function useLater() {
  const later = useMemo(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let wanted: (() => unknown) | undefined;
    const now = () => {
      clearTimeout(timer);
      const due = wanted;
      wanted = undefined;
      due?.();
    };
    const want = (what: () => unknown, ms = restMs) => {
      clearTimeout(timer);
      wanted = what;
      timer = setTimeout(now, ms);
    };
    return { want, now };
  }, []);
  useEffect(() => {
    window.addEventListener('pagehide', later.now);
    return () => {
      window.removeEventListener('pagehide', later.now);
      later.now();
    };
  }, [later]);
  return later;
}

/** How many times another field was come to. */
function useVisits() {
  const visits = useRef(0);
  useEffect(() => {
    const count = () => {
      visits.current++;
    };
    document.addEventListener('focusin', count);
    return () => document.removeEventListener('focusin', count);
  }, []);
  return visits;
}

/** A change of what is on, and how it is loaded. */
type Change = (s: State) => State;

/** A thing, and what is switched with it, on or off. */
export const flipped =
  ([id, ...within]: string[], on: boolean): Change =>
  s => {
    const rest = (s.on ?? []).filter(x => x !== id && !within.includes(x));
    return { ...s, on: on ? [...rest, id!] : rest };
  };

/** A motor's load. */
export const turned =
  (motor: string, share: number): Change =>
  s => ({ ...s, shares: { ...s.shares, [motor]: share } });

/** The whole shop: what it is fed by, what is on, and what comes of it, following the hand. */
export function useFloor(shop: string) {
  const queries = useQueryClient();
  const page = useQuery({ queryKey: keys.floor(shop), queryFn: () => readFloor(shop) });
  const [state, setState] = useState<State | null>(null);
  const [picture, setPicture] = useState<Picture | null>(null);
  const [start, setStart] = useState<Start | null>(null);
  const [draft, setDraft] = useState<Site | null>(null);
  const [fault, setFault] = useState<unknown>(null);
  const later = useLater();
  const sooner = useLater();
  const now = useRef<State>({});
  const touched = useRef(false);
  const held = useRef<{ site: Site; base: Site; version: number; before: Site } | null>(null);
  const visits = useVisits();
  const entered = useRef<{ visit: number; before: Site; left?: Site }>(undefined);

  /** What waits for the picture to be shown: a start takes longer, and is not to hold it up. */
  const shownNow = useRef<() => void>(() => {});
  const first = useRef<Picture>(undefined);
  first.current = page.data?.picture;
  // What a hand is about to do is asked for when it comes near, so that its picture is there when it does it.
  const version = page.data?.shop.version;
  const ahead = useRef<(s: State) => Promise<Picture>>(() => Promise.reject(new Error('no shop yet')));
  ahead.current = useMemo(
    () => once((s: State) => tryFloor(shop, s), 12),
    // An answer is that of a shop as it was when it was read last.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [shop, page.dataUpdatedAt],
  );
  const foresee = useCallback((change: Change) => {
    ahead.current(change(now.current)).catch(() => {}); // it is said where it is done
  }, []);
  /** What comes if a hand goes on, which is foreseen while it rests. */
  const coming = useRef<Change | null>(null);
  const follower = useMemo(
    () =>
      new Follower(
        (s: State) => ahead.current(s),
        answer =>
          flushSync(() => {
            // What is as it was stays the same, so that it is not drawn anew.
            setPicture(was => replaceEqualDeep(was ?? first.current, answer));
            setState(now.current);
            setFault(null);
            shownNow.current();
            if (coming.current && !follower.behind) foresee(coming.current);
          }),
        setFault,
      ),
    // Each shop has one of its own.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [shop],
  );
  useEffect(() => {
    follower.rest();
    setState(null);
    setPicture(null);
    setStart(null);
    coming.current = null;
    held.current = null;
    setDraft(null);
  }, [follower]);

  // A shop that was changed is solved anew in the state that is tried here.
  useEffect(() => {
    if (version !== undefined && state) follower.want(now.current);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [version, page.data?.picture]);

  const shown = state ?? page.data?.state ?? {};
  if (!touched.current) now.current = shown;
  const put = useCallback(
    (next: State, follows = true, then: Change | null = null) => {
      touched.current = true;
      now.current = next;
      coming.current = then;
      if (follows) setState(next); // what is under the hand; the rest is drawn with its picture
      follower.want(next);
      say({ text: 'Keeping…', bad: false });
      later.want(() => {
        const key = keys.floor(shop);
        // How it is left is no other reading of the shop: what was foreseen of it still holds.
        const keep = (picture?: Picture) =>
          queries.setQueryData(
            key,
            (old?: Page) =>
              old && { ...old, state: next, picture: replaceEqualDeep(old.picture, picture ?? old.picture) },
            { updatedAt: queries.getQueryState(key)?.dataUpdatedAt },
          );
        keep();
        leaveFloor(shop, next).then(
          answer => {
            keep(answer);
            say({ text: `Left so ${clock()}`, bad: false });
          },
          e => say({ text: words(e), bad: true }),
        );
      });
    },
    [follower, later, queries, shop],
  );

  const began = useCallback(
    (id: string) => {
      startOnFloor(shop, { state: now.current, id }).then(answer => startTransition(() => setStart(answer)), setFault);
    },
    [shop],
  );
  const closeStart = useCallback(() => setStart(null), []);
  const flip = useCallback(
    (ids: string[], on: boolean) => {
      shownNow.current = () => {
        shownNow.current = () => {};
        if (on) requestAnimationFrame(() => began(ids[0]!));
      };
      put(flipped(ids, on)(now.current), false);
    },
    [put, began],
  );
  /** Turns a motor's load; then is where it comes to if the hand goes on. */
  const turn = useCallback(
    (motor: string, share: number, then: number | null) =>
      put(turned(motor, share)(now.current), false, then === null ? null : turned(motor, then)),
    [put],
  );
  const throwOver = useCallback(
    (circuit: string, side: string) =>
      put({ ...now.current, thrown: { ...now.current.thrown, [circuit]: side as 'a' | 'b' } }),
    [put],
  );

  // The tree is sent once the hand rests, with what it was made from; what was refused stays to be mended.
  const sent = useRef(Promise.resolve());
  const hold = useCallback((next: typeof held.current) => {
    held.current = next;
    setDraft(next && next.site);
  }, []);
  const send = useCallback(
    async (tries = 3): Promise<void> => {
      const going = held.current;
      if (!going) return;
      try {
        const answer = await changeSite(shop, { version: going.version, site: going.site });
        queries.setQueryData(keys.floor(shop), answer);
        if (entered.current) entered.current.left = queries.getQueryData<Page>(keys.floor(shop))?.site;
        const since = held.current; // what was typed on meanwhile goes on what stands now
        const { site, shop: head } = answer;
        if (since === going) hold(null);
        else if (since)
          hold({ ...since, site: merged(going.site, since.site, site).site, base: site, version: head.version });
        setFault(null);
        void queries.invalidateQueries({ queryKey: keys.cards(shop) });
        void queries.invalidateQueries({ queryKey: keys.together(shop) });
        void queries.invalidateQueries({ queryKey: keys.shops });
        const undo = () => {
          const present = held.current?.site ?? queries.getQueryData<Page>(keys.floor(shop))?.site;
          if (present) again.current(merged(going.site, going.before, present).site, 0);
        };
        say({ text: `Saved ${clock()}`, bad: false, undo });
      } catch (e) {
        const fresh =
          e instanceof Problem && e.status === 409 && tries > 0 && (await readFloor(shop).catch(() => null));
        if (fresh) {
          // Another window was faster: what was made here goes on what stands there now.
          queries.setQueryData(keys.floor(shop), fresh);
          const ours = held.current ?? going;
          const { site, both } = merged(ours.base, ours.site, fresh.site);
          const before = merged(ours.base, ours.before, fresh.site).site;
          hold({ site, base: fresh.site, version: fresh.shop.version, before });
          await send(tries - 1);
          if (both.length > 0)
            say({ text: `Saved. Another window changed ${both.join(', ')} too: yours stands.`, bad: true });
          return;
        }
        setFault(e);
        say({ text: 'Not saved', bad: true });
      }
    },
    [hold, queries, shop],
  );
  const edit = useCallback(
    (site: Site, wait = restMs) => {
      const from = held.current ?? (page.data && { base: page.data.site, version: page.data.shop.version });
      if (!from) return;
      // Undo goes back to what stood when a field was come to, however often it was saved while it was typed.
      const e = entered.current;
      const typed = wait > 0 && e && (e.visit === visits.current || held.current);
      const before = typed && (held.current?.before ?? (e.left === from.base && e.before));
      entered.current = { visit: visits.current, before: before || from.base };
      hold({ site, base: from.base, version: from.version, before: entered.current.before });
      say({ text: 'Saving…', bad: false });
      // One after the other, each on what the one before it left.
      sooner.want(() => (sent.current = sent.current.then(() => send())), wait);
    },
    [hold, page.data, send, sooner, visits],
  );
  const again = useRef(edit);
  again.current = edit;

  return {
    page,
    site: draft ?? page.data?.site ?? {},
    state: shown,
    picture: picture ?? page.data?.picture,
    start,
    fault,
    flip,
    foresee,
    turn,
    throwOver,
    began,
    edit,
    closeStart,
  };
}

export type Floor = ReturnType<typeof useFloor>;
