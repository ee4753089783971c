import { memo, useId } from 'react';
import type { Schemas } from '../api/client';
import type { Draft, Set } from './parts';

type Shaft = Schemas['LoadTyped'];
export interface ShaftField {
  name: keyof Shaft;
  label: string;
  spoken: string;
  hint: string;
}

/** What a start must bring up: an inertia that is known, or a stop by stopwatch. */
export const inertiaFields: ShaftField[] = [
  { name: 'inertia', label: 'Load’s inertia', spoken: 'Inertia of the load', hint: 'kg·m²' },
  { name: 'inertia_rpm', label: 'it turns at', spoken: 'Speed at which the load turns', hint: 'rpm' },
  { name: 'coast_seconds', label: 'or it stops in', spoken: 'Seconds in which it stops with the power off', hint: 's' },
  { name: 'coast_rpm', label: 'from', spoken: 'Motor speed when the power goes off', hint: 'rpm' },
  { name: 'coast_watts', label: 'drag takes', spoken: 'Watts that the drag takes at that speed', hint: 'W' },
];

/** How it works through a session. */
export const dutyFields: ShaftField[] = [
  { name: 'on_minutes', label: 'On for', spoken: 'Minutes on', hint: 'min' },
  { name: 'off_minutes', label: 'then off for', spoken: 'Minutes off', hint: 'min' },
  { name: 'air', label: 'Air around it', spoken: 'Temperature of the air around the motor', hint: '40 °C' },
];

/** Fields of the shaft and its duty, kept as typed; what was not understood is said under its field. */
export const ShaftForm = memo(function ShaftForm({
  fields,
  shaft,
  problems,
  set,
}: {
  fields: ShaftField[];
  shaft: Shaft;
  problems: Record<string, string>;
  set: Set;
}) {
  const id = useId();
  return (
    <form className="shaft-form" onSubmit={e => e.preventDefault()} autoComplete="off">
      {fields.map(({ name, label, spoken, hint }) => {
        const problem = problems[`shaft.${name}`];
        return (
          <div key={name} className={problem ? 'wrong' : undefined}>
            <label htmlFor={id + name}>{label}</label>
            <input
              id={id + name}
              name={name}
              value={shaft[name]}
              placeholder={hint}
              aria-label={spoken}
              aria-invalid={!!problem}
              aria-describedby={problem ? `${id}${name}-says` : undefined}
              maxLength={60}
              spellCheck={false}
              onChange={e => set(`shaft.${name}`, { shaft: { ...shaft, [name]: e.target.value } })}
            />
            {problem && (
              <p id={`${id}${name}-says`} className="problem" role="alert">
                {problem}
              </p>
            )}
          </div>
        );
      })}
    </form>
  );
});

/** What is noted of the shaft and of how it works, for a route that has no picture of its own for it. */
export function ShaftPanel({ draft, problems, set }: { draft: Draft; problems: Record<string, string>; set: Set }) {
  return (
    <section className="panel whole">
      <header>
        <h2>What it brings up</h2>
        <span className="soft">left empty, by the kind of machine</span>
      </header>
      <ShaftForm fields={inertiaFields} shaft={draft.shaft} problems={problems} set={set} />
      <header>
        <h2>How it works</h2>
        <span className="soft">minutes, or with h</span>
      </header>
      <ShaftForm fields={dutyFields} shaft={draft.shaft} problems={problems} set={set} />
    </section>
  );
}
