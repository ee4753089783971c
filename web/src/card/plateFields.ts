import type { Plate } from '../api/client';

type Name = keyof Plate;

interface Field {
  name: Name;
  label: string;
  spoken: string;
  span: number;
  figure?: boolean; // one bare figure, for which a phone shows its keypad
}

/** The fields of the plate as they stand on it, row by row. */
export const rows: Field[][] = [
  [
    { name: 'output', label: 'Output', spoken: 'Output, hp or kW', span: 6 },
    { name: 'rpm', label: 'RPM', spoken: 'Speed in rpm', span: 6 },
  ],
  [
    { name: 'volts', label: 'Volts', spoken: 'Volts', span: 6 },
    { name: 'amps', label: 'Amps', spoken: 'Amps', span: 6 },
  ],
  [
    { name: 'hertz', label: 'Hz', spoken: 'Frequency in hertz', span: 3 },
    { name: 'service_factor', label: 'SF', spoken: 'Service factor', span: 3, figure: true },
    { name: 'code', label: 'Code', spoken: 'Code letter', span: 3 },
    { name: 'design', label: 'Des.', spoken: 'Design letter', span: 3 },
  ],
  [
    { name: 'power_factor', label: 'P. factor', spoken: 'Power factor', span: 4, figure: true },
    { name: 'efficiency', label: 'Eff. %', spoken: 'Efficiency in percent', span: 4, figure: true },
    { name: 'locked_rotor', label: 'LR amps', spoken: 'Locked-rotor amps', span: 4, figure: true },
  ],
  [
    { name: 'leads', label: 'Leads', spoken: 'Number of leads', span: 3, figure: true },
    { name: 'connection', label: 'Joined as', spoken: 'Connection: wye, delta, series or parallel', span: 5 },
    { name: 'joined', label: 'For V', spoken: 'Volts it is joined for', span: 4, figure: true },
  ],
];

const also: Record<string, string> = { phases: 'Phases', poles: 'Poles' };

/** What a field is called on the plate, or among the rest of it. */
export const fieldName = (name: string, rest: { name: string; title: string }[]): string =>
  rows.flat().find(f => f.name === name)?.spoken ?? rest.find(f => f.name === name)?.title ?? also[name] ?? name;
