import { Checkbox, InputNumber, Select } from 'antd';
import type { Schemas } from '../api/client';
import { Sign } from '../parts/Verdicts';

type Choice = Schemas['CircuitChoice'];

/** One of the choices: of words, a number, or a yes. */
export function Chosen({
  choice,
  value,
  put,
}: {
  choice: Choice;
  value: unknown;
  put: (name: string, value: string | number | boolean) => void;
}) {
  const { name, title, options, words: said, least, most, unit } = choice;
  if (options.length > 0)
    return (
      <label>
        {title}
        <Select
          aria-label={title}
          value={(value as string) || options[0]}
          popupMatchSelectWidth={false}
          options={options.map((o, i) => ({ value: o, label: said[i] ?? o }))}
          onChange={v => put(name, v)}
        />
      </label>
    );
  if (most > 0)
    return (
      <label>
        {title}
        <InputNumber
          aria-label={title}
          value={(value as number) || null}
          placeholder={unit === 'V' ? 'as the lines' : unit ? 'usual' : String(least)}
          min={least}
          max={most}
          suffix={unit}
          onChange={v => put(name, v ?? 0)}
        />
      </label>
    );
  return (
    <Checkbox checked={value === true} onChange={e => put(name, e.target.checked)}>
      {title}
    </Checkbox>
  );
}

/** What running the circuit through every state found. */
export function Found({
  check,
  temporary,
  stops,
}: {
  check: Schemas['LadderCheck'];
  temporary: boolean;
  stops: Schemas['RuleVerdict'][];
}) {
  const { states, whole, violations } = check;
  const worst = violations.some(v => v.severity === 'stop') ? 'stop' : 'caution';
  return (
    <div className="wired-run">
      <p className={violations.length === 0 ? 'searched' : `searched ${worst}`}>
        <b className="figures">{states.toLocaleString('en').replaceAll(',', ' ')} states</b> of hands, time and volts,
        sound and with each single thing broken{!whole && '; more there are than were looked at'}:{' '}
        {violations.length === 0
          ? 'nothing restarts by itself, every stop stops, no load comes before its lines, no potentials meet.'
          : `${violations.length} found.`}
      </p>
      {temporary && (
        <p className="verdict caution">
          <Sign severity="caution" size={16} />{' '}
          <span>
            <b>Temporary hook-up.</b> It stands on every sheet; it is taken down, or wired by the list, before the
            machine works.
          </span>
        </p>
      )}
      <ul>
        {stops
          .filter(v => v.severity === 'stop')
          .map(v => (
            <li key={v.rule}>
              <Sign severity="stop" size={16} /> <b>{v.title}.</b> {v.says}
            </li>
          ))}
        {violations.map(v => (
          <li key={v.rule + v.parts.join() + v.fault}>
            <Sign severity={v.severity} size={16} /> <b>{v.says}</b>
            {v.fault && <> With {v.fault}.</>}
            {v.trace.length > 0 && (
              <details>
                <summary>How it comes to that</summary>
                <span className="soft">{v.trace.join(' → ')}</span>
              </details>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
