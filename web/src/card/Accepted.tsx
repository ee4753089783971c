import type { Schemas } from '../api/client';
import { number } from '../parts/number';

const figure = (v: number) => number(Number(v.toPrecision(3)));

/** What is accepted in each state of work: the figure expected beside its limit. */
export function Accepted({ list }: { list: Schemas['RuleJudged'][] }) {
  return (
    <table className="facts accepted">
      <thead>
        <tr>
          <th scope="col">State</th>
          <th scope="col">Judged by</th>
          <th scope="col">Expected</th>
          <th scope="col">Accepted</th>
        </tr>
      </thead>
      <tbody>
        {list.map((j, i) => (
          <tr key={j.state + j.figure}>
            <th scope="row">
              {list[i - 1]?.state === j.state ? <span className="visually-hidden">{j.state}</span> : j.state}
            </th>
            <td>{j.figure}</td>
            {j.rule === '' ? (
              <td colSpan={2} className="bad">
                {j.unit}
              </td>
            ) : (
              <>
                <td className={j.accepted ? 'figures' : 'figures bad'}>
                  {figure(j.value)} {j.unit}
                  {!j.accepted && <span className="visually-hidden"> not accepted</span>}
                </td>
                <td className="figures">
                  {j.least ? '≥' : '≤'} {figure(j.limit)} {j.unit}
                </td>
              </>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
