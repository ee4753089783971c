import { useSuit } from '../api/hooks';

/** The plate against the supply: what the model says on both, and what would suit better. */
export function OnSupply({ motor, stamp }: { motor: string; stamp: number }) {
  const suit = useSuit(motor, stamp);
  const s = suit.data?.suit;
  if (!s) return null;
  return (
    <section className="panel">
      <header>
        <h2>On this supply</h2>
        <span className="soft">
          {s.suits ? 'volts per hertz suit the plate' : 'volts per hertz do not suit the plate'}; on three balanced
          lines of these volts
        </span>
      </header>
      <table className="facts">
        <thead>
          <tr>
            <th scope="col">By the model</th>
            <th scope="col">{s.plate}</th>
            <th scope="col">{s.supply}</th>
          </tr>
        </thead>
        <tbody>
          {s.rows.map(r => (
            <tr key={r.name} className={r.here === 'stalls' ? 'bad' : ''}>
              <th scope="row">
                {r.name}
                {r.unit && `, ${r.unit}`}
              </th>
              <td className="figures">{r.own}</td>
              <td className="figures">{r.here}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {s.remedies.length > 0 && (
        <ul className="remedies">
          {s.remedies.map(r => (
            <li key={r.title + r.says}>
              <b>{r.title}</b>: {r.says}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
