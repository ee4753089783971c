import { Segmented } from 'antd';
import { memo, useState, type ReactNode } from 'react';
import type { Panel, Schemas } from '../api/client';
import { useLines } from '../frame/shop';
import { Keys } from '../parts/Chart';
import { PageChart, keysOf } from '../parts/PageChart';
import { PageTable } from '../parts/PageTable';
import { Triangle } from '../parts/Triangle';
import { WindingBars } from '../parts/WindingBars';
import { Facts } from './Facts';

function Legs({ legs }: { legs: Schemas['FeedLegs'] }) {
  return <Triangle state={legs} supply={legs.supply} lines={useLines()} />;
}

/** What a kind of panel shows. Those that are typed or turned by hand are made by whoever shows the panels. */
type Own = Record<string, (panel: Panel) => ReactNode>;

const pictures: Record<string, (p: Panel) => ReactNode> = {
  legs: p => p.legs && <Legs legs={p.legs} />,
  windings: p => p.windings && <WindingBars windings={p.windings} />,
  chart: p => p.chart && <PageChart chart={p.chart} />,
  table: p => p.table && <PageTable table={p.table} />,
  facts: p => <Facts rows={p.facts ?? []} />,
  notes: p => (
    <dl className="box-facts">
      {(p.notes ?? []).map(n => (
        <div key={n.title}>
          <dt>
            {n.title} <b className="figures">{n.value}</b>
            {n.advised && <em className="advised">advised</em>}
          </dt>
          <dd>{n.says}</dd>
        </div>
      ))}
    </dl>
  ),
  steps: p => (
    <ol className="change-over">
      {(p.steps ?? []).map(line => (
        <li key={line}>{line}</li>
      ))}
    </ol>
  ),
};

/** Panels that stand in one place: one after the other by their turn, or one above the other in a column. */
function places(panels: Panel[]): Panel[][][] {
  const columns: Panel[][][] = [];
  for (const p of panels) {
    const column = columns.at(-1);
    const before = column?.at(-1)?.[0];
    if (column && before && before.turn !== '' && before.turn === p.turn) column.at(-1)!.push(p);
    else if (column && before && before.width === p.width && stacked.includes(p.width)) column.push([p]);
    else columns.push([[p]]);
  }
  return columns;
}
const stacked = ['rest', 'stack', 'half-stack'];

/** The panels of a view, each drawn by its kind. */
export function Panels({ panels, own }: { panels: Panel[]; own: Own }) {
  return places(panels).map(column => {
    const first = column[0]![0]!;
    const list = column.map(turns => <Place key={turns[0]!.name} turns={turns} own={own} />);
    return column.length === 1 && !stacked.includes(first.width) ? (
      list
    ) : (
      <div key={first.name} className={`stack at-${first.width}`}>
        {list}
      </div>
    );
  });
}

/** Drawn anew only where one of its panels is another, or what is typed in it. */
const Place = memo(
  function Place({ turns, own }: { turns: Panel[]; own: Own }) {
    const [name, setName] = useState(turns[0]!.name);
    const panel = turns.find(p => p.name === name) ?? turns[0]!;
    const made = own[panel.kind];
    if (made && panel.title === '') return made(panel);
    const drawn = (made ?? pictures[panel.kind])?.(panel);
    const width = stacked.includes(panel.width) ? '' : ` at-${panel.width}`;
    return (
      <section className={`panel kind-${panel.kind}${width}`} data-panel={panel.name}>
        {panel.title !== '' && (
          <header>
            {turns.length > 1 ? <Turns panels={turns} value={panel.name} turn={setName} /> : <h2>{panel.title}</h2>}
            {panel.chart && !panel.chart.keys && panel.chart.lines.length > 1 && <Keys lines={keysOf(panel.chart)} />}
            {panel.note !== '' && <span className="soft">{panel.note}</span>}
          </header>
        )}
        {drawn}
      </section>
    );
  },
  (before, now) =>
    before.turns.every(p => before.own[p.kind] === now.own[p.kind]) &&
    before.turns.length === now.turns.length &&
    before.turns.every((p, i) => p === now.turns[i]),
);

/** Which of the panels of one place is shown. */
const Turns = memo(
  function Turns({ panels, value, turn }: { panels: Panel[]; value: string; turn: (name: string) => void }) {
    return (
      <Segmented
        size="small"
        value={value}
        onChange={turn}
        options={panels.map(p => ({ value: p.name, label: p.title }))}
        aria-label={panels[0]!.turn}
      />
    );
  },
  (before, now) => before.value === now.value && before.panels.every((p, i) => p.name === now.panels[i]?.name),
);
