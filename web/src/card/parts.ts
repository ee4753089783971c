import { ask, client, type Motor, type Schemas } from '../api/client';
import { at } from '../api/hooks';

/** A motor as it is typed: every part of it that is saved apart. */
export type Draft = Schemas['Plated'] &
  Schemas['ShopDriven'] &
  Schemas['ShopFed'] & {
    leads: Schemas['WindingTyped'];
    matters: Schemas['FeedMatters'];
    controls: Schemas['ControlsTerminal'][];
    built: string[];
  };
export type Set = (field: string, patch: Partial<Draft>) => void;

export type Part = keyof Schemas['ShopVersions'];

const plate = (d: Draft) => ({ name: d.name, plate: d.plate });
const shaft = (d: Draft) => ({ load: d.load, load_share: d.load_share, shaft: d.shaft });
const way = (d: Draft) => ({
  run_microfarad: d.run_microfarad,
  start_microfarad: d.start_microfarad,
  reversed: d.reversed,
  way: d.way,
});

/** What of a draft each part holds, as a patch of the draft. */
const held: Record<Part, (d: Draft) => Partial<Draft>> = {
  plate,
  leads: d => ({ leads: d.leads }),
  shaft,
  way,
  matters: d => ({ matters: d.matters }),
  controls: d => ({ controls: d.controls }),
  built: d => ({ built: d.built }),
};

export const parts = Object.keys(held) as Part[];
export const holds = (part: Part, d: Draft) => held[part](d);

/** Saves a part at the version that it was made from. */
export function save(id: string, part: Part, d: Draft, version: number): Promise<Motor> {
  const put = <T>(value: T) => ({ ...at(id), body: { version, value } });
  switch (part) {
    case 'plate':
      return ask(client.PUT('/motors/{id}/plate', put(plate(d))));
    case 'leads':
      return ask(client.PUT('/motors/{id}/leads', put(d.leads)));
    case 'shaft':
      return ask(client.PUT('/motors/{id}/shaft', put(shaft(d))));
    case 'way':
      return ask(client.PUT('/motors/{id}/way', put(way(d))));
    case 'matters':
      return ask(client.PUT('/motors/{id}/matters', put(d.matters)));
    case 'controls':
      return ask(client.PUT('/motors/{id}/controls', put(d.controls)));
    case 'built':
      return ask(client.PUT('/motors/{id}/built', put(d.built)));
  }
}

/** Writes a value with its keys in order, whatever order they were typed in. */
const written = (value: unknown) =>
  JSON.stringify(value, (_, v: unknown) =>
    v && typeof v === 'object' && !Array.isArray(v)
      ? Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)))
      : v,
  );
export const same = (a: unknown, b: unknown) => written(a) === written(b);

/** A draft that is as the motor is saved. */
export const draftOf = (m: Motor): Draft => ({
  ...plate(m),
  ...shaft(m),
  ...way(m),
  leads: m.leads,
  matters: m.matters,
  controls: m.controls,
  built: m.built,
});

/** What a part was made from. */
interface Origin {
  version: number;
  value: Partial<Draft>;
}

/**
 * A motor being typed: the draft, and what each of its parts was made from. All of it is plain data, so that the
 * browser keeps it over a reload.
 */
export interface Typing {
  draft: Draft;
  from: Record<Part, Origin>;
}

const originOf = (m: Motor, part: Part): Origin => ({
  version: m.versions[part],
  value: holds(part, draftOf(m)),
});

export const typingOf = (m: Motor): Typing => ({
  draft: draftOf(m),
  from: Object.fromEntries(parts.map(p => [p, originOf(m, p)])) as Record<Part, Origin>,
});

/** The parts that wait to be saved. */
export const waiting = (t: Typing): Part[] => parts.filter(p => !same(holds(p, t.draft), t.from[p].value));

/** Takes over what is saved, of every part that does not wait to be saved here. */
export function adopt(t: Typing, m: Motor): Typing {
  const wait = waiting(t);
  return parts
    .filter(p => !wait.includes(p) && m.versions[p] > t.from[p].version)
    .reduce((next, p) => takeTheirs(next, m, p), t);
}

/** A part as it is saved, in the place of what was typed. */
export const takeTheirs = (t: Typing, m: Motor, part: Part): Typing => ({
  draft: { ...t.draft, ...holds(part, draftOf(m)) },
  from: { ...t.from, [part]: originOf(m, part) },
});

/** A part as it was typed, now made from what is saved: the next save puts it over that. */
export const keepMine = (t: Typing, m: Motor, part: Part): Typing => ({
  ...t,
  from: { ...t.from, [part]: originOf(m, part) },
});

/** After a part was saved as it was sent: what was typed on meanwhile stays. */
export function settled(t: Typing, m: Motor, part: Part, sent: Draft): Typing {
  const untouched = same(holds(part, t.draft), holds(part, sent));
  return adopt(untouched ? takeTheirs(t, m, part) : keepMine(t, m, part), m);
}

/**
 * Where a card begins: with what is saved, and what this browser kept of it. A page left in the middle of a save finds
 * its own change there already: that is no conflict with another window.
 */
export function begin(m: Motor, kept: (Typing & { sent?: Draft }) | null): Typing {
  const saved = typingOf(m);
  if (!kept) return saved;
  return waiting(kept).reduce((t, p) => {
    const mine = holds(p, kept.draft);
    const there = holds(p, saved.draft);
    const arrived = same(mine, there) || (kept.sent !== undefined && same(holds(p, kept.sent), there));
    return {
      draft: { ...t.draft, ...mine },
      from: arrived ? t.from : { ...t.from, [p]: kept.from[p] },
    };
  }, saved);
}
