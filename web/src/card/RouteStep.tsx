import { Button, Checkbox, Segmented, Select } from 'antd';
import { words, type Schemas } from '../api/client';
import { useChoices, useRoutes } from '../api/hooks';
import { Numeral } from '../parts/Numeral';
import { Verdicts } from '../parts/Verdicts';
import { Figure, Workings } from '../parts/Workings';
import { number, whole } from '../parts/number';
import type { Draft, Set } from './parts';
import { keep, take, type Way } from './way';
import './route.css';

type Matters = Schemas['FeedMatters'];
type Route = Schemas['CompareRoute'];

const counts: {
  field: 'hours_per_day' | 'circuit_amps' | 'interlocks';
  text: string;
  label: string;
  from: number;
  to: number;
  integer?: boolean;
  usual?: string;
}[] = [
  { field: 'hours_per_day', text: 'Hours a day', label: 'Hours a day', from: 0, to: 24, usual: '3' },
  { field: 'circuit_amps', text: 'Circuit, A', label: 'Amps of its circuit', from: 0, to: 600 },
  { field: 'interlocks', text: 'Interlocks', label: 'Interlocks', from: 0, to: 20, integer: true, usual: '0' },
];

/** The ways of feeding the machine side by side, the best first, by what matters to its owner. */
export function RouteStep({
  motor,
  draft,
  sound,
  stamp,
  set,
  main,
}: {
  motor: string;
  draft: Draft;
  sound: boolean;
  stamp: number;
  set: Set;
  main: number;
}) {
  const { matters, way } = draft;
  const choices = useChoices().data;
  // What is shown follows the switches at once, before they are kept, and what is saved of the rest.
  const answer = useRoutes(motor, stamp, sound, matters);
  if (!sound)
    return (
      <section className="panel empty-step">
        <h2>No routes from this plate yet</h2>
        <p>The sentences on the plate and the verdicts below it say what is missing or does not agree.</p>
      </section>
    );
  const change = (patch: Partial<Matters>) =>
    set(`matters.${Object.keys(patch).join()}`, { matters: { ...matters, ...patch } });
  const controls = (patch: Partial<Matters['controls']>) => change({ controls: { ...matters.controls, ...patch } });
  const figures = { ...matters, ...matters.controls };
  const chosen = { way, change: (next: Way) => set('way', { way: next }) };
  return (
    <div className="route-step">
      {answer.data && <Recommended answer={answer.data} {...chosen} />}
      <section className="panel matters" aria-label="What matters here">
        <h2>What matters here</h2>
        <div className="wishes">
          {choices?.wishes.map(({ name, title }) => (
            <Checkbox
              key={name}
              checked={matters[name as keyof Matters] === true}
              onChange={e => change({ [name]: e.target.checked })}
            >
              {title}
            </Checkbox>
          ))}
        </div>
        <div className="matters-more">
          {counts.map(({ field, text, label, from, to, integer, usual }) => (
            <label key={field}>
              {text}{' '}
              <Numeral
                keep={`${motor}.${field}`}
                label={label}
                value={figures[field] || null}
                from={from}
                to={to}
                integer={integer}
                placeholder={usual ?? String(main)}
                change={v => (field in matters ? change({ [field]: v ?? 0 }) : controls({ [field]: v ?? 0 }))}
              />
            </label>
          ))}
          {answer.data && (
            <label>
              Run, {answer.data.run.unit}{' '}
              <Numeral
                keep={`${motor}.run`}
                label="Length of its conductors"
                value={
                  matters.run_metre > 0 ? Math.round(matters.run_metre * answer.data.run.per_metre * 10) / 10 : null
                }
                from={0}
                to={Math.floor(500 * answer.data.run.per_metre)}
                placeholder="–"
                change={v => change({ run_metre: (v ?? 0) / answer.data.run.per_metre })}
              />
            </label>
          )}
          <label>
            Switch{' '}
            <Select
              aria-label="Its switch"
              value={matters.controls.switch}
              onChange={v => controls({ switch: v })}
              popupMatchSelectWidth={false}
              options={[
                { value: '', label: 'not looked at' },
                ...(choices?.switches ?? []).map(s => ({
                  value: s.name as Matters['controls']['switch'],
                  label: s.title,
                })),
              ]}
            />
          </label>
          <Checkbox checked={matters.controls.brake} onChange={e => controls({ brake: e.target.checked })}>
            Brake
          </Checkbox>
          <Checkbox checked={matters.controls.reversing} onChange={e => controls({ reversing: e.target.checked })}>
            Reversing switch
          </Checkbox>
          <span className="permits">
            Drive’s maker permits it{' '}
            <Segmented
              aria-label="Drive’s maker permits one phase"
              value={matters.maker_permits}
              onChange={v => change({ maker_permits: v as Matters['maker_permits'] })}
              options={[
                { value: '', label: 'not known' },
                { value: 'yes', label: 'yes' },
                { value: 'no', label: 'no' },
              ]}
            />
          </span>
        </div>
      </section>
      {answer.isError && (
        <p className="problem" role="alert">
          {words(answer.error)}
        </p>
      )}
      {answer.data ? (
        <Ranked answer={answer.data} {...chosen} />
      ) : (
        !answer.isError && <p className="soft">Working the routes out…</p>
      )}
    </div>
  );
}

const bestOf = (answer: Schemas['CompareAnswer']) => answer.routes.find(r => r.route === answer.recommended);

interface Choice {
  way: Way;
  change: (next: Way) => void;
}

/** The recommendation in words, what would change it, and what was taken. */
function Recommended({ answer, way, change }: { answer: Schemas['CompareAnswer'] } & Choice) {
  const best = bestOf(answer);
  const chosen = answer.routes.find(r => r.route === way.route);
  return (
    <section className="panel recommended" aria-live="polite">
      <header>
        <h2>{best?.title ?? 'Nothing does all of this'}</h2>
        {best && best.route !== way.route && (
          <Button type="primary" onClick={() => change(take(way, best.route))}>
            Take it
          </Button>
        )}
        {chosen && <span className="taken">{best?.route === way.route ? 'Taken' : `Taken: ${chosen.title}`}</span>}
      </header>
      <p>{answer.reasons.join(' ')}</p>
      {answer.notes.map(note => (
        <p key={note}>{note}</p>
      ))}
      {answer.otherwise.length > 0 && <p className="soft">{answer.otherwise.join(' ')}</p>}
    </section>
  );
}

/** The head of a route's column: taken, or to be taken or kept beside. */
function Head({ route, best, way, change }: { route: Route; best: boolean } & Choice) {
  const name = route.route;
  return (
    <th scope="col" className={best ? 'best' : undefined}>
      {route.title}
      {way.route === name ? (
        <span className="taken">Taken</span>
      ) : (
        <span className="choose">
          <Button size="small" aria-label={`Take ${route.title}`} onClick={() => change(take(way, name))}>
            Take
          </Button>
          {way.route !== '' && (
            <Checkbox
              aria-label={`Keep ${route.title}`}
              checked={way.kept.includes(name)}
              onChange={e => change(keep(way, name, e.target.checked))}
            >
              keep
            </Checkbox>
          )}
        </span>
      )}
    </th>
  );
}

/** The routes as columns, the best first. */
function Ranked({ answer, ...chosen }: { answer: Schemas['CompareAnswer'] } & Choice) {
  const best = bestOf(answer);
  const workings = answer.routes.flatMap(r => r.workings);
  return (
    <Workings list={workings}>
      <section className="panel routes">
        <table>
          <thead>
            <tr>
              <th scope="col">
                <span className="visually-hidden">Figure</span>
              </th>
              {answer.routes.map(r => (
                <Head key={r.route} route={r} best={r.route === answer.recommended} {...chosen} />
              ))}
            </tr>
          </thead>
          <tbody>
            <tr>
              <th scope="row">Fits</th>
              {answer.routes.map(r => (
                <td key={r.route} className={r.fits ? 'fits' : 'not'}>
                  {r.fits ? <b>yes</b> : <b>no</b>}
                </td>
              ))}
            </tr>
            <Row title="Start, × asked" routes={answer.routes} show={r => <Stated route={r} figure="start" />} />
            <Row title="Up to speed, s" routes={answer.routes} show={r => <Stated route={r} figure="seconds" />} />
            <Row
              title="Output left"
              routes={answer.routes}
              show={r => <Stated route={r} figure="usable" none="none" />}
            />
            <Row
              title="At its duty"
              routes={answer.routes}
              show={r => <Stated route={r} figure="duty" />}
              note="by winding heat"
            />
            <Row
              title="Hottest winding, %"
              routes={answer.routes}
              show={r => <Stated route={r} figure="hottest" />}
              note="idle · load · full"
            />
            <Row
              title="Legs apart, %"
              routes={answer.routes}
              show={r => <Stated route={r} figure="apart" />}
              note="idle · load · full"
            />
            <Row
              title="Supply amps"
              routes={answer.routes}
              show={r => <Stated route={r} figure="amps" />}
              note="idle · load · full"
            />
            <Row title="Starting amps" routes={answer.routes} show={r => <Stated route={r} figure="starting" />} />
            <Row
              title="Parts · hours"
              routes={answer.routes}
              show={r => (
                <Figure figure={`route.${r.route}.cost`}>
                  {whole(r.cost.parts)} · {number(r.cost.hours)} h
                </Figure>
              )}
              note="by the Rulebook"
            />
            <Row
              title="A year"
              routes={answer.routes}
              show={r => <Figure figure={`route.${r.route}.cost`}>{whole(r.cost.per_year)}</Figure>}
              note="by the Rulebook"
            />
            <Row title="Against it" routes={answer.routes} show={r => r.why.join('; ') || '–'} words />
            <Row title="Takes" routes={answer.routes} show={r => <Takes sizes={r.takes} />} words />
            <Row title="Leaves unsolved" routes={answer.routes} show={r => r.unsolved.join('; ')} words />
            <Row title="Turn it round" routes={answer.routes} show={r => r.reversal} words />
          </tbody>
        </table>
      </section>
      {answer.schools.length > 0 && (
        <section className="panel">
          <h2>Who sees it otherwise</h2>
          <ul>
            {answer.schools.map(s => (
              <li key={s}>{s}</li>
            ))}
          </ul>
        </section>
      )}
      {best && best.verdicts.length > 0 && (
        <section className="panel">
          <h2>{best.title}</h2>
          <Verdicts verdicts={best.verdicts} fold />
        </section>
      )}
    </Workings>
  );
}

const figure = (v: number | null) => (v === null ? '–' : number(Number(v.toPrecision(3))));

/** A route's figure as it was worked out, or that there is none. */
function Stated({ route, figure, none = '–' }: { route: Route; figure: string; none?: string }) {
  const working = route.workings.find(w => w.figure === `route.${route.route}.${figure}`);
  return working ? <Figure figure={working.figure}>{working.shown}</Figure> : none;
}

function Row({
  title,
  note,
  routes,
  show,
  words,
}: {
  title: string;
  note?: string;
  routes: Route[];
  show: (r: Route) => React.ReactNode;
  words?: boolean;
}) {
  return (
    <tr>
      <th scope="row">
        {title}
        {note && <span className="soft">{note}</span>}
      </th>
      {routes.map(r => (
        <td key={r.route} className={words ? 'words' : 'figures'}>
          {show(r)}
        </td>
      ))}
    </tr>
  );
}

/** What it takes, each size by its name. */
function Takes({ sizes }: { sizes: Route['takes'] }) {
  return (
    <ul className="sizes">
      {sizes.map(({ name, title, value, unit }) => (
        <li key={name}>
          {title}{' '}
          <span className="figures">
            {figure(value)} {unit}
          </span>
        </li>
      ))}
    </ul>
  );
}
