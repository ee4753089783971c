import type { Schemas } from '../api/client';
import { Sign } from '../parts/Verdicts';
import { fixed } from '../parts/number';
import './prove.css';

type Page = Schemas['Proof'];

const marks = { stop: 'stop', caution: 'caution', note: 'note' } as const;

/** Every state in a row: what was read, where it should lie, and how it is judged. */
export function States({ page }: { page: Page }) {
  const scale = page.columns.map((_, i) => {
    const all = page.rows.flatMap(r => {
      const c = r.cells[i]!;
      return (c.low === null ? [] : [c.read, c.low, c.high]).filter((v): v is number => v !== null);
    });
    const [low, high] = [Math.min(...all), Math.max(...all)];
    const pad = (high - low || Math.abs(high) || 1) * 0.08;
    return { low: low - pad, high: high + pad };
  });
  return (
    <div className="states" role="table" aria-label="Read against foretold">
      <div className="state head" role="row">
        <span role="columnheader">State</span>
        {page.columns.map(c => (
          <span key={c.name} role="columnheader">
            {c.title} {c.unit}
          </span>
        ))}
        <span role="columnheader">by state</span>
      </div>
      {page.rows.map(row => (
        <div className="state" role="row" key={row.state}>
          <span role="rowheader" className="state-name">
            <b>{row.title}</b>
            {row.by && <span className="soft small">{row.by}</span>}
          </span>
          {row.cells.map((c, i) => (
            <Cell key={i} cell={c} column={page.columns[i]!} scale={scale[i]!} />
          ))}
          <span role="cell" className="by-state">
            {row.mark === 'good' ? (
              <span className="good-mark" aria-label="good">
                ✓
              </span>
            ) : (
              <Sign severity={marks[row.mark as keyof typeof marks]} size={16} />
            )}{' '}
            {row.says.join('; ')}
            {row.facts.length > 0 && <span className="soft small by-facts">{row.facts.join('; ')}</span>}
          </span>
        </div>
      ))}
    </div>
  );
}

function Cell({
  cell,
  column,
  scale,
}: {
  cell: Schemas['ProveCell'];
  column: Schemas['ProvePlace'];
  scale: { low: number; high: number };
}) {
  const x = (v: number) => ((v - scale.low) / (scale.high - scale.low)) * 100;
  const { read, low, high, out, wrong } = cell;
  const shown = (v: number) => fixed(v, Math.abs(v) >= 100 ? 0 : 1);
  return (
    <span role="cell" className={out ? 'cell out' : 'cell'} title={wrong || undefined}>
      <span className="cell-name soft small">
        {cell.title} {column.unit}
      </span>
      <b className="figures">{read === null ? '–' : shown(read)}</b>
      {cell.place.startsWith('amps.idler') && <span className="soft small cell-of">idler</span>}
      {low !== null && high !== null && (
        <svg viewBox="0 0 100 12" preserveAspectRatio="none" aria-hidden>
          <rect x={x(low)} y={4} width={Math.max(x(high) - x(low), 2)} height={4} rx={2} className="should" />
          {read !== null && <rect x={x(read) - 0.8} y={0} width={1.6} height={12} className="is" />}
        </svg>
      )}
      {low !== null && high !== null && (
        <span className="soft small figures">
          {shown(low)}–{shown(high)}
        </span>
      )}
      {wrong && <span className="wrong small">{wrong}</span>}
    </span>
  );
}
