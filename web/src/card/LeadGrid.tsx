import { Fragment } from 'react';
import type { Leads, LeadsPage } from '../api/client';
import type { Edit } from './LeadsStep';

const frame = 'frame';

/** Writes a reading between two leads, or a lead and the frame; an empty text takes it away. */
export function noted(l: Leads, a: string, b: string, text: string): Partial<Leads> {
  const others = l.readings.filter(e => !(e.a === a && e.b === b) && !(e.a === b && e.b === a));
  return { readings: text === '' ? others : [...others, { a, b, text }] };
}

const said = (l: Leads, a: string, b: string) =>
  l.readings.find(e => (e.a === a && e.b === b) || (e.a === b && e.b === a))?.text ?? '';

/** Every pair of leads as a cell to type in: the pair to be measured next stands out. */
export function LeadGrid({
  leads,
  v,
  problems,
  edit,
}: {
  leads: Leads;
  v: LeadsPage;
  problems: Record<string, string>;
  edit: Edit;
}) {
  const list = leads.leads;
  const next = (a: string, b: string) => !!v.next && v.next.includes(a) && v.next.includes(b);
  const groupOf = new Map(
    v.groups.map(g => g ?? []).flatMap((g, i) => (g.length > 1 ? g.map(lead => [lead, i] as const) : [])),
  );
  const wrong = Object.entries(problems).filter(([field]) => !field.startsWith('kick.'));
  const cell = (a: string, b: string) => {
    const says = problems[`reading.${a}.${b}`] ?? problems[`reading.${b}.${a}`];
    const same = groupOf.has(a) && groupOf.get(a) === groupOf.get(b);
    return (
      <td key={a} className={`${next(a, b) ? 'next' : ''}${same ? ' same' : ''}${says ? ' wrong' : ''}`}>
        <input
          aria-label={b === frame ? `Lead ${a} to frame, megohms` : `Lead ${a} to lead ${b}`}
          value={said(leads, a, b)}
          maxLength={40}
          aria-invalid={!!says}
          spellCheck={false}
          onChange={e => edit(`reading.${a}.${b}`, l => noted(l, a, b, e.target.value))}
        />
      </td>
    );
  };
  return (
    <section className="panel lead-grid">
      <header>
        <h2>Readings</h2>
        <span className="soft">ohms or “open”, in any order; megohms to the frame</span>
      </header>
      <div className="drawing-scroll">
        <table>
          <thead>
            <tr>
              <td />
              {list.map(a => (
                <th key={a} scope="col">
                  {a}
                </th>
              ))}
            </tr>
            <tr className="marks">
              <th scope="row">Mark</th>
              {list.map((a, i) => (
                <td key={a} className={problems[`mark.${a}`] ? 'wrong' : ''}>
                  <input
                    aria-label={`Mark on lead ${a}`}
                    value={leads.marks[i] ?? ''}
                    maxLength={12}
                    spellCheck={false}
                    aria-invalid={!!problems[`mark.${a}`]}
                    onChange={e =>
                      edit(`mark.${a}`, l => ({
                        marks: l.leads.map((_, k) => (k === i ? e.target.value : (l.marks[k] ?? ''))),
                      }))
                    }
                  />
                </td>
              ))}
            </tr>
            <tr className="is">
              <th scope="row">Is</th>
              {v.marks.map(m => (
                <td key={m.lead} className="figures">
                  {m.nema ? (
                    <>
                      {m.iec}
                      <br />
                      {m.nema}
                    </>
                  ) : (
                    '?'
                  )}
                </td>
              ))}
            </tr>
          </thead>
          <tbody>
            {list.slice(1).map((b, row) => (
              <tr key={b}>
                <th scope="row">{b}</th>
                {list.slice(0, row + 1).map(a => cell(a, b))}
              </tr>
            ))}
            <tr className="to-frame">
              <th scope="row">frame</th>
              {list.map(a => (
                <Fragment key={a}>{cell(a, frame)}</Fragment>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
      {wrong.map(([field, says]) => (
        <p key={field} className="problem" role="alert">
          {place(field)}
          {says}
        </p>
      ))}
    </section>
  );
}

/** Where a problem stands, in words. */
function place(field: string): string {
  const [what, a, b] = field.split('.');
  if (what === 'reading') return `${a}–${b}: `;
  if (what === 'mark') return `Mark on ${a}: `;
  return { meter_ohms: 'Meter’s leads: ', celsius: 'Winding °C: ', test_volts: 'Test volts: ' }[field] ?? '';
}
