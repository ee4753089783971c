import { Button } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { words, type Schemas } from '../api/client';
import { useProve } from '../api/hooks';
import { Band } from '../parts/Band';
import { Waiting } from '../parts/Waiting';
import { SectionTable } from '../sheet/SectionTable';
import { AcceptPanel } from './AcceptPanel';
import { LearnedPanel } from './LearnedPanel';
import { NextChange } from './NextChange';
import { ReadingForm } from './ReadingForm';
import { States } from './States';
import { TrendsPanel } from './TrendsPanel';
import { useReadings, type Reading } from './useReadings';
import './prove.css';

type Page = Schemas['Proof'];

/** What was read on the running machine beside what was foretold, and what to change next. */
export function ProveStep({ motor, sound, stamp }: { motor: string; sound: boolean; stamp: number }) {
  const page = useProve(motor, stamp, sound);
  const readings = useReadings(motor);
  const [typing, type] = useState<Partial<Reading> | null>(null);
  if (!sound)
    return (
      <section className="panel empty-step">
        <h2>Nothing is foretold from this plate yet</h2>
        <p>The sentences on the plate and the verdicts below it say what is missing or does not agree.</p>
      </section>
    );
  if (page.isError)
    return (
      <p className="problem" role="alert">
        {words(page.error)}
      </p>
    );
  if (!page.data) return <p className="soft">Foretelling what will be read…</p>;
  const p = page.data;
  return (
    <div className="prove-all">
      <Band rows={p.headline} />
      <Waiting count={readings.waiting.length} refused={readings.refused} mend={() => type(readings.back() ?? null)} />
      {typing && (
        <ReadingForm
          key={typing.id ?? typing.corrects ?? ''}
          motor={motor}
          page={p}
          from={typing}
          add={r => {
            readings.add(r);
            type(null);
          }}
          close={() => type(null)}
        />
      )}
      <section className="panel prove-table">
        <header>
          <h2>Read against foretold</h2>
          <span className="soft">
            the bar is where nine of ten readings should lie; the mark is what the meter said
          </span>
          <span className="gap" />
          {!typing && (
            <Button type="primary" onClick={() => type({})}>
              Type a reading
            </Button>
          )}
        </header>
        <States page={p} />
      </section>
      <div className="prove-below">
        <div className="prove-side">
          <NextChange motor={motor} page={p} />
          <LearnedPanel motor={motor} page={p} />
        </div>
        <div className="prove-side">
          <AcceptPanel motor={motor} stamp={stamp} />
          <section className="panel">
            <SectionTable section={{ title: 'Yardsticks of the trade', rows: p.folk }} />
          </section>
          <TrendsPanel trends={p.trends} />
        </div>
      </div>
      {p.sources.map(t => (
        <Beside key={t.name} title={t.title} head={t.head} rows={t.rows.map(r => r ?? [])} />
      ))}
      {p.sources.length > 0 && (
        <p className="links">
          <Link to={`/motors/${motor}/sources`}>Side by side, on a page to print</Link>
        </p>
      )}
      {p.readings.length > 0 && <History page={p} correct={r => type({ ...r, id: undefined, corrects: r.id })} />}
    </div>
  );
}

/** What was read on another source, state by state beside what was read here. */
function Beside({ title, head, rows }: { title: string; head: string[]; rows: string[][] }) {
  return (
    <section className="panel">
      <h2>{title}</h2>
      <div className="scrolls" role="region" aria-label={title} tabIndex={0}>
        <table className="facts">
          <thead>
            <tr>
              {head.map(h => (
                <th scope="col" key={h}>
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((r, i) => (
              <tr key={r.slice(0, 2).join()}>
                <th scope="row">
                  {r[0] === rows[i - 1]?.[0] ? <span className="visually-hidden">{r[0]}</span> : r[0]}
                </th>
                {r.slice(1).map((c, k) => (
                  <td key={head[k + 1]} className={k > 0 ? 'figures' : ''}>
                    {c}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** Everything that was written down, the latest first; what was corrected stays. */
function History({ page, correct }: { page: Page; correct: (r: Reading) => void }) {
  const titles = new Map(page.states.map(s => [s.name, s.title]));
  const gone = new Set(page.readings.map(r => r.corrects));
  const places = new Map(page.places.map(p => [p.name, p]));
  return (
    <section className="panel">
      <h2>Written down</h2>
      <ul className="plain written">
        {[...page.readings].reverse().map(r => (
          <li key={r.id} className={gone.has(r.id) ? 'corrected' : ''}>
            <b>{titles.get(r.state) ?? r.state}</b>{' '}
            <span className="soft">
              {new Date(r.at).toLocaleString()}, {r.hand}
              {r.source && `, on ${r.source}`}
              {r.meter && `, by ${r.meter}`}
              {!!r.volts_percent && `, at ${r.volts_percent} % of the volts`}
              {r.unable && ', could not be brought about'}
              {page.banks.map(b => ` · ${b.title} ${b.name === 'ac' ? r.ac_microfarad : r.bc_microfarad} µF`)}
            </span>
            <span className="figures">
              {r.figures
                .map(f => `${places.get(f.place)?.title ?? f.place} ${f.value} ${places.get(f.place)?.unit ?? ''}`)
                .join(' · ')}
            </span>
            {r.note && <span>{r.note}</span>}
            {gone.has(r.id) ? (
              <span className="soft">corrected since</span>
            ) : (
              <Button size="small" type="text" onClick={() => correct(r)}>
                Correct it
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
