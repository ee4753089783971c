import type { Site } from './useFloor';

type Plain = Record<string, unknown>;

const plain = (x: unknown): x is Plain => typeof x === 'object' && x !== null && !Array.isArray(x);
const same = (a: unknown, b: unknown) => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);
const identified = (list: unknown): list is { id: string; name?: string }[] =>
  Array.isArray(list) && list.every(x => plain(x) && typeof x.id === 'string');

/**
 * What was made of a tree here, put on what another window made of it meanwhile. Things are told apart by their ids and
 * merged field by field; where both changed the same field ours stands, and `both` names the thing.
 */
export function merged(base: Site, ours: Site, theirs: Site): { site: Site; both: string[] } {
  const both = new Set<string>();
  const thing = (was: Plain, mine: Plain, other: Plain, name: string): Plain => {
    const out: Plain = { ...other };
    for (const key of new Set([...Object.keys(was), ...Object.keys(mine)])) {
      const [a, b, c] = [was[key], mine[key], other[key]];
      if (same(a, b)) continue; // not changed here
      if (identified(b ?? []) && identified(c ?? []) && identified(a ?? []) && (Array.isArray(b) || Array.isArray(a)))
        out[key] = list((a ?? []) as Named[], (b ?? []) as Named[], (c ?? []) as Named[]);
      else if (plain(b) && plain(c)) out[key] = thing(plain(a) ? a : {}, b, c, name);
      else {
        if (!same(a, c) && !same(b, c)) both.add(name);
        out[key] = b;
      }
    }
    return out;
  };
  type Named = Plain & { id: string; name?: string };
  const list = (was: Named[], mine: Named[], other: Named[]): Named[] => {
    const before = new Map(was.map(x => [x.id, x]));
    const here = new Map(mine.map(x => [x.id, x]));
    const out = other
      .filter(x => here.has(x.id) || !before.has(x.id)) // what was taken away here goes there too
      .map(x => {
        const own = here.get(x.id);
        return own ? (thing(before.get(x.id) ?? {}, own, x, x.name ?? own.name ?? x.id) as Named) : x;
      });
    const there = new Set(other.map(x => x.id));
    for (const x of mine) {
      const old = before.get(x.id);
      if (there.has(x.id) || (old && same(old, x))) continue; // taken away there and not touched here
      if (old) both.add(x.name ?? x.id);
      out.push(x);
    }
    return out;
  };
  return { site: thing(base as Plain, ours as Plain, theirs as Plain, 'The service') as Site, both: [...both] };
}
