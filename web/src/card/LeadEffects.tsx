import { Input } from 'antd';
import type { LeadsPage } from '../api/client';
import { number, whole } from '../parts/number';
import type { Edit } from './LeadsStep';

const percent = (share: number) => whole(100 * share);

/** What a new connection changes at the machine and in the circuit the model sees. */
export function LeadChanges({ v, was, edit }: { v: LeadsPage; was: string; edit: Edit }) {
  return (
    <section className="panel changes">
      <header>
        <h2>What this changes</h2>
        <label className="was">
          Found joined for, V{' '}
          <Input
            value={was}
            maxLength={40}
            placeholder="its highest"
            onChange={e => edit('was', () => ({ was: e.target.value }))}
          />
        </label>
      </header>
      {v.changes.length === 0 ? (
        <p className="soft">Nothing: it is joined as it was, or the plate is not understood yet.</p>
      ) : (
        <>
          <table className="facts">
            <thead>
              <tr>
                <th scope="col">What</th>
                <th scope="col">{v.was}</th>
                <th scope="col">now</th>
              </tr>
            </thead>
            <tbody>
              {v.changes.map(c => (
                <tr key={c.what}>
                  <th scope="row">
                    {c.what}
                    <span className="soft">{c.do}</span>
                  </th>
                  <td className="figures">{c.from}</td>
                  <td className="figures">{c.to}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <details>
            <summary>The circuit the model sees: × {number(v.times)}</summary>
            <table className="facts">
              <tbody>
                {v.circuit.map(o => (
                  <tr key={o.name}>
                    <th scope="row">{o.name}</th>
                    <td className="figures">{number(o.before)} Ω</td>
                    <td className="figures">{number(o.after)} Ω</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </details>
        </>
      )}
      {v.stator_ohm > 0 && (
        <p className="soft">
          {'The model’s stator resistance is the one measured: '}
          <span className="figures">{number(v.stator_ohm)} Ω</span> hot, at the terminals.
        </p>
      )}
    </section>
  );
}

/** The first energising in steps, and what a reversed winding does. */
export function LeadEffects({ v }: { v: LeadsPage }) {
  return (
    <>
      {v.steps.length > 0 && (
        <section className="panel">
          <header>
            <h2>First energising, in steps</h2>
            <span className="soft">for a motor nobody knows, or a large one: uncoupled, on its capacitors</span>
          </header>
          <table className="facts">
            <thead>
              <tr>
                <th scope="col">Volts</th>
                <th scope="col">Standing</th>
                <th scope="col">off past</th>
                <th scope="col">Running bare</th>
                <th scope="col">off past</th>
              </tr>
            </thead>
            <tbody>
              {v.steps.map(s => (
                <tr key={s.percent}>
                  <th scope="row" className="figures">
                    {whole(s.volts)} ({whole(s.percent)} %)
                  </th>
                  <td className="figures">{number(s.standing_amps)} A</td>
                  <td className="figures">{number(s.abort_standing)} A</td>
                  {s.turns && s.idle_amps > 0 ? (
                    <>
                      <td className="figures">{number(s.idle_amps)} A</td>
                      <td className="figures">{number(s.abort_idle)} A</td>
                    </>
                  ) : (
                    <td colSpan={2}>too little torque to turn</td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
          <p className="soft">
            Amps of the line that draws most. Standing amps only for a second or two. {v.abort.says}
          </p>
        </section>
      )}
      {v.reversed.length > 0 && (
        <section className="panel">
          <header>
            <h2>One winding by the wrong end</h2>
            <span className="soft">on three balanced lines, % of plate amps</span>
          </header>
          <table className="facts">
            <thead>
              <tr>
                <th scope="col">State</th>
                <th scope="col">Joined</th>
                <th scope="col">Lines a, b, c</th>
                <th scope="col">Torque</th>
              </tr>
            </thead>
            <tbody>
              {v.reversed.flatMap(r =>
                (
                  [
                    ['right', r.right],
                    ['reversed', r.wrong],
                  ] as const
                ).map(([how, t]) => (
                  <tr key={r.state + how} className={how === 'reversed' ? 'bad' : ''}>
                    <th scope="row">
                      {how === 'right' ? r.state : <span className="visually-hidden">{r.state}</span>}
                    </th>
                    <td>{how}</td>
                    <td className="figures">{t.line_share.map(percent).join(' · ')}</td>
                    <td className="figures">{number(t.torque_nm)} N·m</td>
                  </tr>
                )),
              )}
            </tbody>
          </table>
          <p className="soft">Growling, hardly any torque, one line far above the others: switch off at once.</p>
        </section>
      )}
    </>
  );
}
