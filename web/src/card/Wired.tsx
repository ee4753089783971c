import { Checkbox, InputNumber, Select } from 'antd';
import { words, type Schemas } from '../api/client';
import { useWiring } from '../api/hooks';
import { Sign } from '../parts/Verdicts';
import type { Draft, Set } from './parts';

type Choice = Schemas['CircuitChoice'];
type Wiring = NonNullable<Draft['way']['wiring']>;

/** The circuit, wire by wire: what is chosen of it, what running it found, and the wires themselves. */
export function Wired({ motor, draft, stamp, set }: { motor: string; draft: Draft; stamp: number; set: Set }) {
  const wiring = useWiring(motor, stamp);
  if (wiring.isError && !wiring.data)
    return (
      <p className="problem" role="alert">
        {words(wiring.error)}
      </p>
    );
  if (!wiring.data) return <p className="panel soft">Running the circuit through its states…</p>;
  const { choices, circuit, check } = wiring.data;
  const chosen: Wiring = draft.way.wiring ?? {};
  const put = (name: string, value: string | number | boolean) =>
    set(`wiring.${name}`, { way: { ...draft.way, wiring: { ...chosen, [name]: value } as Wiring } });
  return (
    <>
      <section className="panel wired-choices">
        <header>
          <h2>How it is wired</h2>
          <span className="soft">the circuit follows</span>
        </header>
        <div className="choices">
          {choices.map(c => (
            <Chosen key={c.name} choice={c} value={(chosen as Record<string, unknown>)[c.name]} put={put} />
          ))}
        </div>
      </section>
      <Run check={check} />
      <section className="panel wire-list">
        <header>
          <h2>Wire by wire</h2>
          <span className="soft">
            {circuit.parts.length} parts, {circuit.wires.length} wires
          </span>
          <a href={`/api/motors/${motor}/circuit.json`}>Circuit as JSON</a>
        </header>
        <div className="scrolls" role="region" aria-label="Wires" tabIndex={0}>
          <table className="facts">
            <thead>
              <tr>
                <th scope="col">Wire</th>
                <th scope="col">From</th>
                <th scope="col">To</th>
                <th scope="col">Size</th>
                <th scope="col">Colour</th>
                <th scope="col">Is</th>
              </tr>
            </thead>
            <tbody>
              {circuit.wires.map(w => (
                <tr key={w.number} className={w.class}>
                  <th scope="row">{w.number}</th>
                  <td>
                    <End circuit={circuit} end={w.from} />
                  </td>
                  <td>
                    <End circuit={circuit} end={w.to} />
                  </td>
                  <td>{w.size}</td>
                  <td>{w.colour}</td>
                  <td>{w.class === 'made' ? 'made leg' : w.class}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </section>
    </>
  );
}

/** One of the choices: of words, a number, or a yes. */
function Chosen({
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
          placeholder={unit ? 'as the lines' : String(least)}
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
function Run({ check }: { check: Schemas['LadderCheck'] }) {
  const { states, whole, violations } = check;
  return (
    <section className="panel wired-run">
      <header>
        <h2>Run before it is built</h2>
        <span className="soft">
          {states} states of hands, time and volts, sound and with each single thing broken
          {!whole && '; more there are than were looked at'}
        </span>
      </header>
      {violations.length === 0 ? (
        <p>
          It breaks no rule: nothing restarts by itself, every stop stops, no load comes on before its lines are up, and
          no two potentials meet.
        </p>
      ) : (
        <ul>
          {violations.map(v => (
            <li key={v.rule + v.parts.join() + v.fault}>
              <Sign severity={v.severity} size={16} /> <b>{v.says}</b>
              {v.fault && <> With {v.fault}.</>}
              {v.trace.length > 0 && <span className="soft"> {v.trace.join(' → ')}</span>}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** A terminal with what its part is. */
function End({ circuit, end }: { circuit: Schemas['Circuit']; end: string }) {
  const part = circuit.parts.find(p => p.id === end.split(':')[0]);
  return (
    <>
      <span className="figures">{end}</span> {part?.name && <span className="soft">{part.name}</span>}
    </>
  );
}
