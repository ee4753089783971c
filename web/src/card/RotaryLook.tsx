import { Select } from 'antd';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, client, words } from '../api/client';
import { Triangle } from '../parts/Triangle';
import { Verdicts } from '../parts/Verdicts';
import { whole } from '../parts/number';
import { Facts } from './Facts';

/** The same motor behind a rotary converter: the idler, its capacitors, and the legs in each state of work. */
export function RotaryLook({ motor, stamp, supply }: { motor: string; stamp: number; supply: number }) {
  const [idler, setIdler] = useState(-1);
  const rotary = useQuery({
    queryKey: ['rotary', motor, stamp, idler], staleTime: Infinity, placeholderData: keepPreviousData,
    queryFn: () => ask(client.GET('/motors/{id}/rotary', { params: { path: { id: motor }, query: { idler } } })),
  });
  if (rotary.isError) return <p className="problem whole" role="alert">{words(rotary.error)}</p>;
  if (!rotary.data) return <p className="soft whole">Sizing an idler…</p>;
  const { answer, rows, ratings } = rotary.data;
  const loaded = answer.states[2]!;
  return (
    <>
      <section className="panel picture narrow">
        <header><h2>Leg volts</h2><span className="soft">{loaded.title}, {loaded.unbalance_percent.toFixed(1)} % apart</span></header>
        <Triangle state={loaded} supply={supply} />
      </section>
      <section className="panel narrow">
        <header>
          <h2>Expect</h2>
          <label className="idler">Idler <Select aria-label="Idler" value={idler} onChange={setIdler} popupMatchSelectWidth={false}
            options={[{ value: -1, label: 'the model’s choice' }, ...ratings.map((w) => ({ value: w, label: `${(w / 1000).toPrecision(3)} kW` }))]} /></label>
        </header>
        <table className="facts">
          <thead><tr><th scope="col">State</th><th scope="col">ab</th><th scope="col">bc</th><th scope="col">ca</th><th scope="col">machine</th><th scope="col">idler</th><th scope="col">supply</th></tr></thead>
          <tbody>
            {answer.states.map((s) => (
              <tr key={s.title}>
                <th scope="row">{s.title}</th>
                {[s.volts.ab, s.volts.bc, s.volts.ca].map((v, i) => <td key={i} className="figures">{whole(v)}</td>)}
                <td className="figures">{s.hottest_percent > 0 ? `${whole(s.hottest_percent)} %` : '–'}</td><td className="figures">{whole(s.idler_percent)} %</td><td className="figures">{s.supply_amps.toFixed(1)} A</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section className="panel wide-facts">
        <Facts rows={rows} />
      </section>
      <section className="whole"><Verdicts verdicts={answer.verdicts} /></section>
    </>
  );
}
