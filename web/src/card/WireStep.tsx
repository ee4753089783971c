import { Button, Checkbox } from 'antd';
import { useContext, useState } from 'react';
import { words } from '../api/client';
import { useChoices, useSheet, useTogether } from '../api/hooks';
import { DrawingView } from '../parts/DrawingView';
import { Verdicts } from '../parts/Verdicts';
import { SectionTable } from '../sheet/SectionTable';
import type { Draft, Set } from './parts';
import { Wired } from './Wired';
import { CardShop } from './shop';

/** The checklist first, then the circuit with its parts and cautions. */
export function WireStep({
  machine,
  motor,
  draft,
  sound,
  stamp,
  set,
}: {
  machine: string;
  motor: string;
  draft: Draft;
  sound: boolean;
  stamp: number;
  set: Set;
}) {
  const choices = useChoices();
  const [shown, setShown] = useState(false);
  const sheet = useSheet(motor, stamp, sound);
  if (!sound) return <p className="panel">The plate must be cleared up before anything can be wired from it.</p>;
  const list = choices.data?.checklist ?? [];
  const all = list.length > 0 && list.every(item => draft.mine.includes(item.name));
  return (
    <div className="wire-step">
      <section className="panel checklist">
        <details open={!all}>
          <summary>
            <h2>Is this mine to do?</h2>
            {all && <span className="soft">All {list.length} are ticked.</span>}
          </summary>
          {list.map(item => (
            <Checkbox
              key={item.name}
              checked={draft.mine.includes(item.name)}
              onChange={e =>
                set(`mine.${item.name}`, {
                  mine: e.target.checked ? [...draft.mine, item.name] : draft.mine.filter(n => n !== item.name),
                })
              }
            >
              {item.says}
            </Checkbox>
          ))}
        </details>
        {!all && (
          <p className="verdict caution-box">
            <b>Not every line is true.</b> Then this is a licensed electrician’s work: hand over the job sheet, which
            carries the drawing.
          </p>
        )}
        {!all && !shown && <Button onClick={() => setShown(true)}>Show the drawing to talk it over</Button>}
      </section>
      {sheet.isError && (
        <p className="problem" role="alert">
          {words(sheet.error)}
        </p>
      )}
      {(all || shown) && sheet.data && (
        <>
          <section className="panel drawing-panel">
            <header>
              <h2>Circuit</h2>
              <a href={`/api/motors/${motor}/circuit.svg`}>Drawing as SVG</a>
            </header>
            <DrawingView drawing={sheet.data.drawing} />
          </section>
          <Wired motor={motor} draft={draft} stamp={stamp} set={set} />
          <div className="two">
            {sheet.data.sections.slice(1).map(s => (
              <section className="panel" key={s.title}>
                <SectionTable section={s} />
              </section>
            ))}
          </div>
        </>
      )}
      <Interlocks machine={machine} />
      {sheet.data && (
        <section className="panel">
          <header>
            <h2>Cautions</h2>
          </header>
          <Verdicts verdicts={sheet.data.cautions} />
        </section>
      )}
    </div>
  );
}

/** What must not run together with the machine in its shop, and what keeps them apart. */
function Interlocks({ machine }: { machine: string }) {
  const shop = useContext(CardShop);
  const together = useTogether(shop?.id ?? '', shop?.version ?? 0, none);
  const sets = together.data?.forbidden.filter(f => f.machines.includes(machine)) ?? [];
  if (sets.length === 0) return null;
  return (
    <section className="panel interlocks">
      <header>
        <h2>Interlocks</h2>
        <span className="soft">what must not run together with it in {shop?.name}</span>
      </header>
      <ul>
        {sets.map(f => (
          <li key={f.machines.join()}>
            <b>{f.names.join(' · ')}.</b> {f.says} {f.how}
          </li>
        ))}
      </ul>
    </section>
  );
}

const none: Record<string, number> = {};
