import { useQuery } from '@tanstack/react-query';
import { ask, client, words, type Size } from '../api/client';
import { Triangle } from '../parts/Triangle';
import { Verdicts } from '../parts/Verdicts';
import { whole } from '../parts/number';

/** The same motor on a static converter: it starts on three legs, then runs on two; what the meter should say in each state. */
export function StaticLook({ motor, stamp, size, supply }: { motor: string; stamp: number; size: Size; supply: number }) {
  const { start_microfarad: start, load_share: share } = size.answer.live;
  const bare = useQuery({
    queryKey: ['static', motor, stamp, start, share], staleTime: Infinity,
    queryFn: () => ask(client.GET('/motors/{id}/size', { params: { path: { id: motor }, query: { run: 0, start, share, quick: true } } })),
  });
  if (bare.isError) return <p className="problem whole" role="alert">{words(bare.error)}</p>;
  if (!bare.data) return <p className="soft whole">Taking the run capacitor away…</p>;
  const { live } = bare.data.answer;
  const states = [
    { title: 'standing, start box in', s: live.standing }, { title: 'idle', s: live.idle }, { title: `load, ${whole(100 * live.load_share)} %`, s: live.load }, { title: 'full plate output', s: live.full },
  ];
  return (
    <>
      <section className="panel picture narrow">
        <header><h2>Leg volts</h2><span className="soft">on two legs, at {whole(100 * live.load_share)} % load</span></header>
        {live.load.motor === 'running' ? <Triangle state={live.load} supply={supply} /> : <p className="soft">It does not run at this load.</p>}
      </section>
      <section className="panel narrow">
        <header><h2>What the meter should say</h2></header>
        <table className="facts">
          <thead><tr><th scope="col">State</th><th scope="col">ab</th><th scope="col">bc</th><th scope="col">ca</th><th scope="col">hottest</th><th scope="col">supply</th></tr></thead>
          <tbody>
            {states.map(({ title, s }) => (
              <tr key={title}>
                <th scope="row">{title}</th>
                {s.motor === 'stalled' && s !== live.standing ? <td colSpan={5} className="bad">it stalls</td> : (
                  <>
                    {[s.volts.ab, s.volts.bc, s.volts.ca].map((v, i) => <td key={i} className="figures">{whole(v)}</td>)}
                    <td className={s.over ? 'figures bad' : 'figures'}>{whole(s.hottest_percent)} %</td><td className="figures">{s.supply_amps.toFixed(1)} A</td>
                  </>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section className="panel wide-facts">
        <table className="facts">
          <thead><tr><th scope="col">What is left of plate output</th><th scope="col">says</th></tr></thead>
          <tbody>{size.usable.map((u) => <tr key={u.title}><th scope="row">{u.title}</th><td>{u.words}</td></tr>)}</tbody>
        </table>
        <p className="soft">The box stays connected: when load slows the motor so far that its relay falls back, the start capacitors come in again, under load, and again. Before the motor turns, the made leg may read near zero against one line: it is live all the same.</p>
      </section>
      <section className="whole"><Verdicts verdicts={live.verdicts} /></section>
    </>
  );
}
