import { Button } from 'antd';
import { Link, useNavigate, useParams } from 'react-router';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { words, type Schemas } from '../api/client';
import { changeSite, readFloor, useConverter } from '../api/hooks';
import { keys } from '../api/keys';
import { clock, say } from '../frame/saving';
import { useLines } from '../frame/shop';
import { WithShop } from '../frame/WithShop';
import { fixed, number, whole } from '../parts/number';
import { Sign } from '../parts/Verdicts';
import { changed } from './tree';
import '../parts/band.css';
import './converter.css';

type Rung = Schemas['FloorRung'];

/** A converter's card: what it is, what it could be, and what it costs. */
export function ConverterPage() {
  const { converter = '' } = useParams();
  return <WithShop>{shop => <OfShop shop={shop} id={converter} />}</WithShop>;
}

function OfShop({ shop, id }: { shop: string; id: string }) {
  const lines = useLines();
  const choice = useConverter(shop, id);
  const floor = useQuery({ queryKey: keys.floor(shop), queryFn: () => readFloor(shop) });
  const queries = useQueryClient();
  const navigate = useNavigate();
  if (choice.isError)
    return (
      <p className="problem" role="alert">
        {words(choice.error)}
      </p>
    );
  if (!choice.data) return <p className="soft">Trying idlers of all sizes…</p>;
  const { name, rungs, best, instead, at_once, hours_on, idle_money_an_hour, start_is_seconds_of_idling } = choice.data;
  const now = rungs.find(r => r.as_it_is);
  const usable = rungs[0]?.usable.map(u => u.name).join(' · ');
  const take = async (r: Rung) => {
    if (!floor.data) return;
    let site = floor.data.site;
    if (!r.as_it_is) {
      site = changed(site, 'converter', id, 'idler', '');
      site = changed(site, 'converter', id, 'idler_watts', r.watts);
    }
    site = changed(site, 'converter', id, 'balance_ac_microfarad', r.balance_ac_microfarad);
    site = changed(site, 'converter', id, 'balance_bc_microfarad', r.balance_bc_microfarad);
    try {
      queries.setQueryData(keys.floor(shop), await changeSite(shop, { version: floor.data.shop.version, site }));
      await queries.invalidateQueries({ queryKey: keys.converter(shop, id) });
      say({ text: `Saved ${clock()}`, bad: false });
      navigate(`/?at=${id}&shop=${shop}`);
    } catch (e) {
      say({ text: words(e), bad: true });
    }
  };
  return (
    <div className="converter-page">
      <header className="page-head">
        <h1>{name}</h1>
        <span className="soft">for all that hangs on it, through its day</span>
        <span className="gap" />
        <Link className="alone" to={`/?at=${id}&shop=${shop}`}>
          On the Floor
        </Link>
      </header>
      {rungs.length === 0 && <p className="soft">No machine hangs on it yet.</p>}
      {now && (
        <dl className="band">
          <Big
            title="Idler"
            value={now.title}
            of={`${number(now.balance_ac_microfarad)} + ${number(now.balance_bc_microfarad)} µF`}
          />
          <Big title="Idling" value={`${whole(now.idle_watts)} W`} of={`${number(idle_money_an_hour)} an hour`} />
          <Big
            title="Its winding"
            value={`${whole(now.most_percent)} %`}
            of={`${whole(now.idle_percent)} % with nothing on it`}
          />
          <Big
            title="Legs apart"
            value={`${fixed(now.unbalance_percent, 1)} %`}
            of={`${fixed(now.unbalance_loaded_percent, 1)} % loaded`}
          />
          <Big
            title="Hardest start"
            value={now.seconds === undefined || now.seconds === null ? 'hangs' : `${fixed(now.seconds, 1)} s`}
            of={`${now.hardest}, lowest ${whole(now.lowest_volts)} V`}
          />
        </dl>
      )}
      {rungs.length > 0 && (
        <section className="panel">
          <header>
            <h2>Idlers side by side</h2>
            <span className="soft">each with the balance capacitors that suit its day best</span>
          </header>
          <div className="scrolls">
            <table className="rungs">
              <thead>
                <tr>
                  <th scope="col">Idler</th>
                  <th scope="col">
                    {lines.a}–{lines.c}, {lines.b}–{lines.c} µF
                  </th>
                  <th scope="col">Its winding: idle, most</th>
                  <th scope="col">Machines’ hottest</th>
                  <th scope="col">Legs apart: idle, loaded</th>
                  <th scope="col">Hardest start</th>
                  <th scope="col">Usable</th>
                  <th scope="col">Idling, heard at 1 m</th>
                  <th scope="col">Parts</th>
                  <th scope="col">Lost a year</th>
                  <th scope="col">
                    <span className="visually-hidden">Take it</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {rungs.map((r, i) => (
                  <tr key={`${r.watts}${r.as_it_is}`} className={i === best ? 'best' : r.works ? '' : 'not'}>
                    <th scope="row">
                      {r.title}
                      {r.as_it_is && <span className="tag">as it is</span>}
                      {i === best && <span className="tag">cheapest that does</span>}
                    </th>
                    <td>
                      {number(r.balance_ac_microfarad)}, {number(r.balance_bc_microfarad)}
                    </td>
                    <td>
                      {whole(r.idle_percent)}, {whole(r.most_percent)} %
                    </td>
                    <td>{whole(r.hottest_percent)} %</td>
                    <td>
                      {fixed(r.unbalance_percent, 1)}, {fixed(r.unbalance_loaded_percent, 1)} %
                    </td>
                    <td>
                      {r.seconds === undefined || r.seconds === null
                        ? 'hangs'
                        : `${fixed(r.seconds, 1)} s, ${whole(r.lowest_volts)} V`}
                    </td>
                    <td title={r.usable.map(u => `${u.name} ${whole(100 * u.share)} %`).join(', ')}>
                      {r.usable.map(u => whole(100 * u.share)).join(' · ')} %
                    </td>
                    <td>
                      {whole(r.idle_watts)} W, {whole(r.decibels)} dB(A)
                    </td>
                    <td>{r.as_it_is ? '–' : whole(r.money)}</td>
                    <td>{whole(r.money_a_year)}</td>
                    <td>
                      {r.works ? (
                        <Button size="small" onClick={() => void take(r)} disabled={r.as_it_is}>
                          Take
                        </Button>
                      ) : (
                        <span className="why">
                          <Sign severity="stop" size={14} /> {r.says}
                        </span>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <p className="soft small">
            Usable: share of plate output of {usable}, each by itself, no winding past what it bears. The machines’
            hottest is with all of them on at their loads, over what each bears.
          </p>
        </section>
      )}
      {rungs.length > 0 && (
        <div className="beside">
          <section className="panel">
            <h2>Instead of it</h2>
            <ul>
              {instead.map(x => (
                <li key={x.title}>
                  <b>{x.title}.</b> Parts {whole(x.money)}, lost a year {whole(x.money_a_year)}
                  {x.decibels > 0 && `, about ${whole(x.decibels)} dB(A)`}. {x.says}.
                </li>
              ))}
            </ul>
          </section>
          {at_once.length > 0 && (
            <section className="panel">
              <h2>All converters at once</h2>
              <p className="soft small">As when volts come back to all that were left switched in.</p>
              <ul>
                {at_once.map(b => (
                  <li key={b.id}>
                    <b>{b.name}</b> {b.seconds == null ? 'does not come up' : `is up in ${fixed(b.seconds, 1)} s`}
                    {b.seconds_alone != null && `, alone in ${fixed(b.seconds_alone, 1)} s`}; lowest{' '}
                    {whole(b.lowest_volts)} V, at most {whole(b.peak_amps)} A. {b.says}
                  </li>
                ))}
              </ul>
            </section>
          )}
          <section className="panel">
            <h2>Left on, or started for each job</h2>
            <p>
              Its machines’ days make about {number(hours_on)} hours of it. An hour of idling costs{' '}
              {number(idle_money_an_hour)}; a start takes as much as {whole(start_is_seconds_of_idling)} seconds of
              idling. Watts speak for switching it off in every pause; contactor, start capacitors and windings for few
              starts an hour.
            </p>
          </section>
        </div>
      )}
    </div>
  );
}

function Big({ title, value, of }: { title: string; value: string; of: string }) {
  return (
    <div>
      <dt>{title}</dt>
      <dd className="figures">{value}</dd>
      <dd className="remark">{of}</dd>
    </div>
  );
}
