import { lazy, memo, useId, useState, type KeyboardEvent } from 'react';
import { Later } from '../parts/Later';
import type { Plate, Schemas } from '../api/client';
import type { Set } from './parts';
import { rows } from './plateFields';
import './plate.css';

const PlateText = lazy(() => import('./PlateText').then(m => ({ default: m.PlateText })));

type Hints = Schemas['StudyReading']['hints'];

/** The nameplate, which is the form: a field where a plate has one. */
export const PlateForm = memo(function PlateForm({
  plate,
  hints,
  problems,
  set,
  onRest,
  focus,
}: {
  plate: Plate;
  hints: Hints;
  problems: Record<string, string>;
  set: Set;
  onRest: () => void;
  focus?: boolean;
}) {
  const id = useId();
  const [pasting, setPasting] = useState(false);
  // Enter goes on to the next field, as Tab does.
  const next = (e: KeyboardEvent<HTMLInputElement>) => {
    if (e.key !== 'Enter') return;
    const inputs = [...(e.currentTarget.form?.elements ?? [])] as HTMLElement[];
    inputs[inputs.indexOf(e.currentTarget) + 1]?.focus();
    e.preventDefault();
  };
  return (
    <form className="plate" aria-label="Nameplate" onSubmit={e => e.preventDefault()} autoComplete="off">
      <div className="plate-head">
        <p className="plate-title">Three-phase motor</p>
        <button type="button" className="plate-paste" onClick={() => setPasting(true)}>
          Paste text
        </button>
      </div>
      {pasting && (
        <Later>
          <PlateText
            onClose={() => setPasting(false)}
            onRead={fields => set('plate.text', { plate: { ...plate, ...fields } })}
          />
        </Later>
      )}
      {rows.map(row => (
        <div key={row[0]!.name} className="plate-row">
          {row.map(({ name, label, spoken, span, figure }) => {
            const text = plate[name];
            const hint = hints[name];
            const problem = problems[name];
            const filled = text === '' && hint && hint.origin !== 'stated';
            const needed = text === '' && !!problem;
            const state = needed ? ' needed' : problem ? ' wrong' : filled ? ` ${hint.origin}` : '';
            return (
              <div key={name} className={`plate-field s${span}${state}`}>
                <label htmlFor={id + name}>{label}</label>
                <input
                  id={id + name}
                  name={name}
                  value={text}
                  inputMode={figure ? 'decimal' : undefined}
                  placeholder={filled ? hint.text : ''}
                  aria-label={spoken}
                  aria-invalid={!!problem}
                  aria-describedby={problem ? `${id}${name}-says` : undefined}
                  maxLength={80}
                  autoFocus={focus && name === 'output'}
                  title={filled ? `${hint.origin}: ${hint.source}` : undefined}
                  onChange={e => set(`plate.${name}`, { plate: { ...plate, [name]: e.target.value } })}
                  onBlur={onRest}
                  onKeyDown={next}
                  spellCheck={false}
                />
                {(filled || needed) && <em>{needed ? 'needed' : hint!.origin}</em>}
                {needed && (
                  <span id={`${id}${name}-says`} className="visually-hidden">
                    {problem}
                  </span>
                )}
              </div>
            );
          })}
          {row
            .filter(({ name }) => problems[name] && plate[name] !== '')
            .map(({ name, label }) => (
              <p key={name} id={`${id}${name}-says`} className="plate-says" role="alert">
                {label}: {problems[name]}
              </p>
            ))}
        </div>
      ))}
    </form>
  );
});
