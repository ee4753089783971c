import { Input, Select } from 'antd';
import { Link } from 'react-router';
import type { Plate, Schemas } from '../api/client';
import { useChoices } from '../api/hooks';
import { OnSupply } from './OnSupply';
import { Photos } from './Photos';
import { fixed, number } from '../parts/number';
import { Figure } from '../parts/Workings';
import type { Draft, Set } from './parts';

const percent = (value: number) => fixed(value, 1);

const names: [string, string, string][] = [
  ['output', 'Output', ''],
  ['joined', 'Joined for', 'V'],
  ['amps', 'Amps at those volts', 'A'],
  ['hertz', 'Frequency', 'Hz'],
  ['rpm', 'Speed', 'rpm'],
  ['poles', 'Poles', ''],
  ['power_factor', 'Power factor', ''],
  ['efficiency', 'Efficiency', '%'],
  ['service_factor', 'Service factor', ''],
  ['connection', 'Connection', ''],
];

/** What was understood of the plate, and what had to be taken from tables. */
export function PlateStep({
  motor,
  stamp,
  draft,
  reading,
  problems,
  set,
}: {
  motor: string;
  stamp: number;
  draft: Draft;
  reading: Schemas['StudyReading'];
  problems: Record<string, string>;
  set: Set;
}) {
  const choices = useChoices();
  const known = Object.keys(reading.hints).length > 0;
  return (
    <div className="plate-step">
      <Photos
        motor={motor}
        shows="plate"
        plate={{
          have: draft.plate,
          onRead: fields => set('plate.photo', { plate: { ...draft.plate, ...fields } }),
        }}
      />
      <div className="plate-pair">
        <section className="panel">
          <header>
            <h2>What the plate was taken to say</h2>
            {reading.sound && (
              <Link className="alone" to={`/rulebook?tab=sums&motor=${motor}`}>
                Reckon on with it
              </Link>
            )}
          </header>
          {!known && (
            <p className="soft">Volts are needed, and output or amps; with rpm there is a full first answer.</p>
          )}
          {known && (
            <table className="facts">
              <thead>
                <tr>
                  <th scope="col">Figure</th>
                  <th scope="col">Value</th>
                  <th scope="col">From</th>
                </tr>
              </thead>
              <tbody>
                {names.map(([field, title, unit]) => {
                  const hint = reading.hints[field];
                  return (
                    hint && (
                      <tr key={field}>
                        <th scope="row">{title}</th>
                        <td className="figures">
                          {hint.text} {unit}
                        </td>
                        <td>
                          <span className={`origin ${hint.origin}`}>{hint.origin}</span>: {hint.source}
                        </td>
                      </tr>
                    )
                  );
                })}
              </tbody>
            </table>
          )}
          {reading.sound && (
            <p>
              <Figure figure="plate-amps">
                <span className="link value">From output to input to amps, step by step</span>
              </Figure>
            </p>
          )}
        </section>
        {reading.sound && <OnSupply motor={motor} stamp={stamp} />}
      </div>
      {reading.choices.length > 1 && (
        <section className="panel">
          <header>
            <h2>
              <label htmlFor="joined-for">Joined for</label>
            </h2>
          </header>
          <Select
            id="joined-for"
            className="wide"
            value={draft.plate.joined}
            onChange={joined => set('plate.joined', { plate: { ...draft.plate, joined } })}
            options={[
              { value: '', label: 'Whatever suits this supply best' },
              ...reading.choices.map(c => ({
                value: String(c.volts),
                label: [
                  `${c.volts} V`,
                  c.connection && `, ${c.connection}`,
                  c.deduced && ' (the leads allow it)',
                  c.needs && `: ${c.needs} first`,
                ]
                  .filter(Boolean)
                  .join(''),
              })),
            ]}
          />
        </section>
      )}
      <section className="panel">
        <header>
          <h2>The rest of the plate</h2>
          <span className="soft">kept and printed on the job sheet</span>
        </header>
        <div className="rest-grid">
          {choices.data?.rest.map(({ name, title, unit }) => {
            const field = name as keyof Plate;
            return (
              <div key={name}>
                <label htmlFor={`rest-${name}`}>
                  {title}
                  {unit && `, ${unit}`}
                </label>
                <Input
                  id={`rest-${name}`}
                  value={draft.plate[field]}
                  maxLength={60}
                  status={problems[name] ? 'error' : undefined}
                  onChange={e => set(`plate.${name}`, { plate: { ...draft.plate, [field]: e.target.value } })}
                />
                {problems[name] && (
                  <p className="problem" role="alert">
                    {problems[name]}
                  </p>
                )}
              </div>
            );
          })}
        </div>
      </section>
      {reading.sound && (
        <section className="panel">
          <header>
            <h2>The circuit fitted from it</h2>
            <span className="soft">what it gives back</span>
          </header>
          <table className="facts">
            <thead>
              <tr>
                <th scope="col">Figure</th>
                <th scope="col">Asked</th>
                <th scope="col">Got</th>
                <th scope="col">Off by</th>
                <th scope="col">Kind</th>
              </tr>
            </thead>
            <tbody>
              {reading.residuals.map(r => (
                <tr key={r.name} className={r.holds ? '' : 'bad'}>
                  <th scope="row">{r.name}</th>
                  <td className="figures">{number(r.target)}</td>
                  <td className="figures">{number(r.got)}</td>
                  <td className="figures">{percent(r.error_percent)} %</td>
                  <td>
                    {r.kind}
                    {!r.holds && ', not met'}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="soft">
            Locked-rotor amps are over rated amps, torques over rated torque. A limit is its class’s least or most; a
            typical figure is only aimed at.
          </p>
          <details>
            <summary>Parameters and the bounds they keep</summary>
            <table className="facts">
              <tbody>
                {reading.parameters.map(p => (
                  <tr key={p.name}>
                    <th scope="row">{p.name}</th>
                    <td className="figures">{number(p.value)}</td>
                    <td>
                      {p.unit}, {number(p.low)} to {number(p.high)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </details>
        </section>
      )}
    </div>
  );
}
