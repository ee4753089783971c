import type { Site } from './useFloor';
import { newId } from '../parts/id';

export type Value = string | number | boolean | string[];
type Thing = Record<string, unknown>;
type Lists = Pick<Site, 'circuits' | 'converters' | 'loads' | 'hung'>;

const lists: Record<string, keyof Lists> = {
  circuit: 'circuits',
  converter: 'converters',
  load: 'loads',
  machine: 'hung',
};

/** A thing of a kind, as it is kept; a machine that hangs nowhere yet is a place of its own. */
export function thingOf(site: Site, kind: string, id: string): Thing | undefined {
  if (kind === 'service') return site as Thing;
  const list = (site[lists[kind]!] ?? []) as unknown as Thing[];
  return list.find(x => x.id === id) ?? (kind === 'machine' ? { id } : undefined);
}

/** A thing with a field changed, a path with points into it. */
function withField(thing: Thing, path: string[], value: Value): Thing {
  const [first, ...rest] = path as [string, ...string[]];
  if (rest.length === 0) return { ...thing, [first]: value };
  return { ...thing, [first]: withField((thing[first] ?? {}) as Thing, rest, value) };
}

/** The tree with a field of a thing changed. */
export function changed(site: Site, kind: string, id: string, field: string, value: Value): Site {
  if (kind === 'service') return withField(site as Thing, [field], value) as Site;
  const name = lists[kind]!;
  const list = (site[name] ?? []) as unknown as Thing[];
  const at = thingOf(site, kind, id)!;
  let next = withField(at, field.split('.'), value);
  if (field === 'on') next = { ...next, side: '' }; // sides are those of what it hung on
  const there = list.some(x => x.id === id);
  return { ...site, [name]: there ? list.map(x => (x.id === id ? next : x)) : [...list, next] } as Site;
}

/** What a thing of the tree is. */
export function kindOf(site: Site, id: string): string {
  if (site.circuits?.some(c => c.id === id)) return 'circuit';
  if (site.converters?.some(c => c.id === id)) return 'converter';
  if (site.loads?.some(l => l.id === id)) return 'load';
  return 'machine';
}

/** The tree with something hung elsewhere. */
export const moved = (site: Site, id: string, on: string): Site => {
  const kind = kindOf(site, id);
  return changed(site, kind, id, kind === 'circuit' ? 'from' : 'on', on);
};

/** The tree without a thing; what hung on it hangs on the service's panel. */
export function removed(site: Site, id: string): Site {
  const free = <T extends { on?: string; side?: string }>(x: T): T => (x.on === id ? { ...x, on: '', side: '' } : x);
  return {
    ...site,
    circuits: site.circuits?.filter(c => c.id !== id).map(c => (c.from === id ? { ...c, from: '' } : c)),
    converters: site.converters?.filter(c => c.id !== id).map(free),
    loads: site.loads?.filter(l => l.id !== id).map(free),
    hung: site.hung?.map(free),
  };
}

/** The tree with a new thing of a kind, and its id. */
export function added(
  site: Site,
  kind: 'circuit' | 'converter' | 'bus' | 'load',
  on: string,
): { site: Site; id: string } {
  const id = newId();
  switch (kind) {
    case 'circuit':
      return {
        id,
        site: {
          ...site,
          circuits: [...(site.circuits ?? []), { id, name: 'New circuit', breaker_amps: 20, from: on }],
        },
      };
    case 'converter':
      return {
        id,
        site: {
          ...site,
          converters: [...(site.converters ?? []), { id, name: 'New converter', on, idler_watts: 3728.5 }],
        },
      };
    case 'bus':
      return {
        id,
        site: { ...site, converters: [...(site.converters ?? []), { id, name: 'New dc bus', on, kind: 'bus' }] },
      };
  }
  return {
    id,
    site: { ...site, loads: [...(site.loads ?? []), { id, name: 'New load', kind: 'heater', amps: 10, on }] },
  };
}
