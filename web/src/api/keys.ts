/**
 * The keys of every query, in one place. A stamp is the version of the motor that the server answers from, so that a
 * figure is never that of what stood before.
 */
export const keys = {
  choices: ['choices'] as const,
  rulebook: ['rulebook'] as const,
  benches: ['benches'] as const,
  feeds: (motor: string, share: number) => ['feeds', motor, share] as const,
  shops: ['shops'] as const,
  shop: (id: string) => ['shop', id] as const,
  floor: (shop: string) => ['floor', shop] as const,
  doubted: (shop: string) => ['doubted', shop] as const,
  cards: (shop: string) => ['cards', shop] as const,
  converter: (shop: string, id: string) => ['converter', shop, id] as const,
  day: (shop: string) => ['day', shop] as const,
  together: (shop: string) => ['together', shop] as const,
  spoken: (id: string) => ['spoken', id] as const,
  machine: (id: string) => ['machine', id] as const,
  photos: (motor: string) => ['photos', motor] as const,
  suit: (motor: string, stamp: number) => ['suit', motor, stamp] as const,
  leads: (motor: string, stamp: number) => ['leads', motor, stamp] as const,
  sheet: (motor: string, stamp: number) => ['sheet', motor, stamp] as const,
  wiring: (motor: string, stamp: number) => ['wiring', motor, stamp] as const,
  daybook: (shop: string, sought: object) => ['daybook', shop, sought] as const,
  firstRun: (motor: string, stamp: number) => ['first-run', motor, stamp] as const,
  acceptance: (motor: string, stamp: number) => ['acceptance', motor, stamp] as const,
  diagnosis: (motor: string, stamp: number, seen: object) => ['diagnosis', motor, stamp, seen] as const,
  lessons: (motor: string) => ['lessons', motor] as const,
  figures: (motor: string) => ['figures', motor] as const,
  reckoning: (given: object) => ['reckoning', given] as const,
  prove: (motor: string, stamp: number) => ['prove', motor, stamp] as const,
  settings: (motor: string, stamp: number) => ['settings', motor, stamp] as const,
  routes: (motor: string, stamp: number, matters: object) => ['routes', motor, stamp, matters] as const,
  way: (motor: string, way: string, stamp: number) => ['way', motor, way, stamp] as const,
  off: (motor: string, way: string, stamp: number) => ['off', motor, way, stamp] as const,
  /** What no change of a shop touches. */
  standing: ['choices', 'rulebook'],
};
