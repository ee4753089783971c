import type { Size } from '../api/client';
import { Accepted } from './Accepted';

/** A static converter or a phase-shifting box: what is accepted in each state, and what must be known of it. */
export function BoxLook({ size }: { size: Size }) {
  return (
    <>
      <div className="narrow stack">
        <section className="panel">
          <header>
            <h2>Accepted by state</h2>
          </header>
          <Accepted list={size.accept} />
        </section>
        <section className="panel">
          <header>
            <h2>What the meter should say</h2>
          </header>
          <Meter size={size} />
        </section>
      </div>
      <section className="panel narrow">
        <header>
          <h2>The box</h2>
        </header>
        <dl className="box-facts">
          {size.box.map(f => (
            <div key={f.title}>
              <dt>
                {f.title} <b className="figures">{f.value}</b>
              </dt>
              <dd>{f.says}</dd>
            </div>
          ))}
        </dl>
      </section>
    </>
  );
}

/** Volts of the three pairs and the amps in each state. */
function Meter({ size }: { size: Size }) {
  const { live } = size.answer;
  const states = [
    { title: 'standing', s: live.standing },
    { title: 'idle', s: live.idle },
    { title: `load, ${Math.round(100 * live.load_share)} %`, s: live.load },
    { title: 'full load', s: live.full },
  ];
  return (
    <table className="facts">
      <thead>
        <tr>
          <th scope="col">State</th>
          <th scope="col">ab</th>
          <th scope="col">bc</th>
          <th scope="col">ca</th>
          <th scope="col">winding</th>
          <th scope="col">supply</th>
        </tr>
      </thead>
      <tbody>
        {states.map(({ title, s }) => (
          <tr key={title}>
            <th scope="row">{title}</th>
            {s.motor === 'stalled' && s !== live.standing ? (
              <td colSpan={5} className="bad">
                it stalls
              </td>
            ) : (
              <>
                {[s.volts.ab, s.volts.bc, s.volts.ca].map((v, i) => (
                  <td key={i} className="figures">
                    {Math.round(v)} V
                  </td>
                ))}
                <td className={s.over ? 'figures bad' : 'figures'}>{Math.round(s.hottest_percent)} %</td>
                <td className="figures">{s.supply_amps.toFixed(1)} A</td>
              </>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
