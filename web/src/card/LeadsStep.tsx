import { Input, Segmented, Select } from 'antd';
import { words, type Leads, type LeadsPage } from '../api/client';
import { useChoices, useLeads } from '../api/hooks';
import { Band } from '../parts/Band';
import { DrawingView } from '../parts/DrawingView';
import { Verdicts } from '../parts/Verdicts';
import type { Draft, Set } from './parts';
import { Kicks } from './Kicks';
import { LeadChanges, LeadEffects } from './LeadEffects';
import { LeadGrid } from './LeadGrid';
import { NextReading } from './NextReading';
import './leads.css';

export type Edit = (field: string, change: (leads: Leads) => Partial<Leads>) => void;

const names = (count: number) => Array.from({ length: count }, (_, i) => String.fromCharCode(65 + i));

/** The leads: their condition, what the meter says, what they are, and how they are joined. */
export function LeadsStep({ motor, draft, stamp, set }: { motor: string; draft: Draft; stamp: number; set: Set }) {
  const page = useLeads(motor, stamp);
  const leads = draft.leads;
  const edit: Edit = (field, change) => set(`leads.${field}`, { leads: { ...leads, ...change(leads) } });
  if (page.isError && !page.data)
    return (
      <p className="problem" role="alert">
        {words(page.error)}
      </p>
    );
  if (!page.data) return <p className="soft">Looking at the leads…</p>;
  const v = page.data;
  const count = leads.leads.length;
  const problems = Object.fromEntries(v.problems.map(p => [p.field, p.says]));
  const recount = (n: number) =>
    edit('count', l => ({
      leads: names(n),
      marks: Array.from({ length: n }, (_, i) => l.marks[i] ?? ''),
    }));
  return (
    <div className="leads-step">
      <Band rows={v.headline} />
      <div className="leads-side">
        <section className="panel box-panel">
          <header>
            <h2>Terminal box</h2>
            {v.drawing && (
              <a className="alone" href={`/api/motors/${motor}/box.svg`}>
                Drawing as SVG
              </a>
            )}
          </header>
          {v.drawing ? <DrawingView drawing={v.drawing} /> : <NoBox v={v} count={count} />}
          <Ways v={v} draft={draft} set={set} />
        </section>
        {count > 0 && <LeadGrid leads={leads} v={v} problems={problems} edit={edit} />}
        <LeadEffects v={v} />
      </div>
      <div className="leads-side">
        <Condition leads={leads} edit={edit} />
        <section className="panel">
          <header>
            <h2>Leads that come out</h2>
          </header>
          <Segmented
            aria-label="Number of leads"
            value={count}
            onChange={n => recount(Number(n))}
            options={[3, 4, 6, 9, 12]}
          />
          {(count === 3 || count === 0 || count === 12) && (
            <p className="inside">
              <label htmlFor="leads-inside">{count === 12 ? 'The plate’s volts are for' : 'Seen inside'}</label>
              <Select
                id="leads-inside"
                value={leads.inside}
                onChange={inside => edit('inside', () => ({ inside }))}
                options={[
                  { value: '', label: 'not known' },
                  { value: 'wye', label: count === 12 ? 'wye' : 'a star point: wye' },
                  { value: 'delta', label: 'delta' },
                ]}
              />
            </p>
          )}
          {count > 0 && (
            <NextReading
              key={JSON.stringify([v.next, v.next_polarity, v.check_polarity])}
              v={v}
              problems={problems}
              edit={edit}
            />
          )}
        </section>
        {v.ways.length > 0 && <LeadChanges v={v} was={leads.was} edit={edit} />}
      </div>
      {leads.polarity.length > 0 && <Kicks leads={leads} problems={problems} edit={edit} />}
      {v.verdicts.length > 0 && (
        <section className="panel wide">
          <header>
            <h2>What the leads say</h2>
          </header>
          <Verdicts verdicts={v.verdicts} />
        </section>
      )}
      <section className="panel wide">
        <header>
          <h2>Cautions</h2>
        </header>
        <Verdicts verdicts={v.cautions} />
      </section>
    </div>
  );
}

/** What stands in the drawing's place while there is none. */
function NoBox({ v, count }: { v: LeadsPage; count: number }) {
  if (count === 0)
    return (
      <p className="soft">
        Say how many leads come out, then measure where the next reading is asked for. The box is drawn as soon as the
        plate’s volts and the windings are known.
      </p>
    );
  if (v.next)
    return (
      <p className="soft">
        The box is drawn when the windings are known. So far:{' '}
        {v.groups
          .map(g => g ?? [])
          .filter(g => g.length > 1)
          .map(g => g.join('–'))
          .join(', ') || 'no two leads belong together yet'}
        .
      </p>
    );
  return (
    <p className="soft">These leads cannot be drawn: see what they say below, and whether the plate has its volts.</p>
  );
}

/** The ways of joining the leads; the one that is chosen is the plate’s “joined for”. */
function Ways({ v, draft, set }: { v: LeadsPage; draft: Draft; set: (field: string, patch: Partial<Draft>) => void }) {
  if (v.ways.length === 0) return null;
  return (
    <>
      <div className="ways" role="group" aria-label="Ways of joining">
        {v.ways.map(w => (
          <button
            key={`${w.name} ${w.volts}`}
            type="button"
            className={`way${w.chosen ? ' chosen' : ''}${w.suits ? '' : ' unsuited'}`}
            aria-pressed={w.chosen}
            onClick={() => set('plate.joined', { plate: { ...draft.plate, joined: String(w.volts) } })}
          >
            <b>
              {w.name}, {w.volts} V
            </b>
            <span>
              {Math.round(w.flux_percent)} % of rated flux here{w.suits ? '' : ': does not suit'}
              {w.origin === 'assumed' ? ', assumed' : ''}
              {w.needs && `; ${w.needs} first`}
            </span>
          </button>
        ))}
      </div>
      {v.no_way && <p className="problem">{v.no_way}</p>}
    </>
  );
}

/** The short check before anything is joined. */
function Condition({ leads, edit }: { leads: Leads; edit: Edit }) {
  const choices = useChoices();
  const items = choices.data?.condition ?? [];
  const all = items.length > 0 && items.every(i => leads.condition[i.name] === 'good');
  const mark = (name: string, state: string) =>
    edit(`condition.${name}`, l => {
      const condition = { ...l.condition };
      if (state) condition[name] = state;
      else delete condition[name];
      return { condition };
    });
  return (
    <section className="panel condition">
      <details open={!all || undefined}>
        <summary>
          <h2>Condition first</h2>
          {all && <span className="soft">all good</span>}
        </summary>
        {items.map(item => (
          <div key={item.name} className={`condition-item ${leads.condition[item.name] ?? ''}`}>
            <span id={`condition-${item.name}`}>{item.says}</span>
            <Segmented
              size="small"
              aria-labelledby={`condition-${item.name}`}
              value={leads.condition[item.name] ?? ''}
              onChange={state => mark(item.name, state)}
              options={[
                { value: '', label: '–' },
                { value: 'good', label: 'Yes' },
                { value: 'bad', label: 'No' },
              ]}
            />
          </div>
        ))}
        <div className="meter">
          <label>
            Test volts
            <Input
              aria-label="Test volts of the insulation tester"
              value={leads.test_volts}
              maxLength={40}
              placeholder="500"
              onChange={e => edit('test_volts', () => ({ test_volts: e.target.value }))}
            />
          </label>
          <label>
            Winding °C
            <Input
              aria-label="Temperature of the winding"
              value={leads.celsius}
              maxLength={40}
              placeholder="20"
              onChange={e => edit('celsius', () => ({ celsius: e.target.value }))}
            />
          </label>
          <label>
            Meter’s leads, Ω
            <Input
              aria-label="Resistance of the meter's own leads"
              value={leads.meter_ohms}
              maxLength={40}
              placeholder="0"
              onChange={e => edit('meter_ohms', () => ({ meter_ohms: e.target.value }))}
            />
          </label>
        </div>
      </details>
    </section>
  );
}
