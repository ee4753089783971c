import type { Motor } from '../api/client';
import type { Draft, Typing } from './parts';

/** A motor as the server shows it, of which nothing was typed yet. */
export const motorOf = (): Motor =>
  ({
    id: 'm1',
    name: '',
    version: 1,
    versions: { plate: 1, leads: 1, shaft: 1, way: 1, matters: 1, controls: 1, built: 1 },
    plate: { output: '3 hp', volts: '230', rpm: '1745' },
    load: 'spindle',
    load_share: null,
    shaft: {},
    run_microfarad: null,
    start_microfarad: null,
    reversed: false,
    way: { route: '', kept: [] },
    leads: { leads: [] },
    matters: { speed: false },
    mine: [],
    controls: [],
    built: [],
    reading: { problems: [] },
  }) as unknown as Motor;

export const typed = (t: Typing, patch: Partial<Draft>): Typing => ({ ...t, draft: { ...t.draft, ...patch } });
