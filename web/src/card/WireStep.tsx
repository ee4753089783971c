import { Button, Checkbox, Segmented, Tabs } from 'antd';
import { useContext, useState } from 'react';
import { useSearchParams } from 'react-router';
import { words, type Schemas } from '../api/client';
import { useChoices, useSheet, useTogether, useWiring } from '../api/hooks';
import { DrawingView } from '../parts/DrawingView';
import { Verdicts } from '../parts/Verdicts';
import { SectionTable } from '../sheet/SectionTable';
import { BoxTab, ChecksTab, LabelsTab, PartsTab, WiresTab } from './Building';
import { OwnControls } from './OwnControls';
import type { Draft, Set } from './parts';
import { Chosen, Found } from './Wired';
import { RunPanel } from './RunPanel';
import { useOwn } from '../rulebook/useOwn';
import { CardShop } from './shop';
import { usePlay } from './usePlay';

type Wiring = Schemas['Wiring'];

/** The circuit: drawn and run, wire by wire, and what it takes to build it. */
export function WireStep({
  machine,
  motor: own,
  draft,
  sound,
  stamp,
  set,
}: {
  machine: string;
  motor: Schemas['MotorView'];
  draft: Draft;
  sound: boolean;
  stamp: number;
  set: Set;
}) {
  const motor = own.id;
  const sheet = useSheet(motor, stamp, sound);
  const wiring = useWiring(motor, stamp, sound);
  const mine = useMine(own);
  if (!sound) return <p className="panel">The plate must be cleared up before anything can be wired from it.</p>;
  return (
    <div className="wire-step">
      {wiring.isError && !wiring.data && (
        <p className="problem" role="alert">
          {words(wiring.error)}
        </p>
      )}
      {wiring.isLoading && <p className="panel soft">Running the circuit through its states…</p>}
      {wiring.data && (
        <Made
          machine={machine}
          motor={motor}
          made={wiring.data}
          draft={draft}
          set={set}
          may={mine.all}
          stops={sheet.data?.verdicts ?? []}
        />
      )}
      {!wiring.isLoading && <Interlocks machine={machine} draft={draft} set={set} />}
      <Checklist motor={own} />
      {sheet.data && (
        <details className="panel">
          <summary>
            <h2>Parts and settings of the way</h2>
          </summary>
          {sheet.data.sections.slice(1).map(s => (
            <SectionTable key={s.title} section={s} />
          ))}
        </details>
      )}
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

function Made({
  machine,
  motor,
  made,
  draft,
  set,
  may,
  stops,
}: {
  machine: string;
  motor: string;
  made: Wiring;
  draft: Draft;
  set: Set;
  may: boolean;
  stops: Schemas['RuleVerdict'][];
}) {
  const { work } = made;
  const [query, setQuery] = useSearchParams();
  const done = (prefix: string, keys: string[]) => keys.filter(k => draft.built.includes(prefix + k)).length;
  const landed = done(
    'land ',
    work.wires.map(w => w.key),
  );
  const passed = done(
    'pass ',
    work.checks.map(c => c.key),
  );
  const tick = (key: string, on: boolean) =>
    set('built', { built: on ? [...draft.built, key] : draft.built.filter(k => k !== key) });
  return (
    <section className="panel wire-tabs">
      <div className="wired-tick">
        <Checkbox
          disabled={!may || landed < work.wires.length || passed < work.checks.length}
          checked={draft.built.includes('done')}
          onChange={e => tick('done', e.target.checked)}
        >
          Wired
        </Checkbox>
      </div>
      <Tabs
        activeKey={query.get('tab') ?? 'circuit'}
        onChange={tab =>
          setQuery(
            q => {
              q.set('tab', tab);
              return q;
            },
            { replace: true },
          )
        }
        items={[
          {
            key: 'circuit',
            label: 'Power and control',
            children: <CircuitTab motor={motor} made={made} draft={draft} set={set} stops={stops} />,
          },
          {
            key: 'wires',
            label: `Wires ${landed}/${work.wires.length}`,
            children: <WiresTab motor={motor} work={work} built={draft.built} tick={tick} may={may} />,
          },
          {
            key: 'checks',
            label: `Before power ${passed}/${work.checks.length}`,
            children: <ChecksTab work={work} built={draft.built} tick={tick} may={may} />,
          },
          {
            key: 'parts',
            label: `Parts ${work.parts.length}`,
            children: <PartsTab motor={motor} machine={machine} work={work} />,
          },
          { key: 'box', label: 'Box', children: <BoxTab motor={motor} made={made} /> },
          {
            key: 'own',
            label: `Machine’s own${draft.controls.length ? ` ${draft.controls.length}` : ''}`,
            children: <OwnControls motor={motor} draft={draft} made={made} set={set} />,
          },
          { key: 'labels', label: 'Labels', children: <LabelsTab motor={motor} work={work} /> },
        ]}
      />
    </section>
  );
}

/** The drawings as they rest or as they are run, what running found, and what is chosen. */
function CircuitTab({
  motor,
  made,
  draft,
  set,
  stops,
}: {
  motor: string;
  made: Wiring;
  draft: Draft;
  set: Set;
  stops: Schemas['RuleVerdict'][];
}) {
  const play = usePlay(motor, made);
  const [looks, setLooks] = useState('1');
  const chosen = draft.way.wiring ?? {};
  const put = (name: string, value: string | number | boolean) =>
    set(`wiring.${name}`, { way: { ...draft.way, wiring: { ...chosen, [name]: value } } });
  const drawings = play.played?.drawings ?? made.drawings;
  const both = looks === 'both';
  return (
    <>
      <Found check={made.check} temporary={chosen.temporary === true} stops={stops} />
      {made.on && (
        <p className="soft">
          It hangs on {made.on}: its circuit is that converter’s with this machine behind it, whatever its Size step
          looks at.
        </p>
      )}
      <RunPanel
        play={play}
        faults={made.faults}
        looks={
          <Segmented
            aria-label="Sheets"
            value={looks}
            options={[
              { value: '0', label: 'Power' },
              { value: '1', label: 'Control' },
              { value: 'both', label: 'Both' },
            ]}
            onChange={setLooks}
          />
        }
      >
        {drawings.map((d, i) =>
          both || looks === String(i) ? (
            <DrawingView key={i} drawing={d} runs={(play.played?.log.length ?? 0) > 1} />
          ) : null,
        )}
      </RunPanel>
      <details className="how-wired">
        <summary>How it is wired: what can be chosen</summary>
        <div className="choices">
          {made.choices.map(c => (
            <Chosen
              key={c.name}
              choice={c}
              value={{ ...made.chosen, ...chosen }[c.name as keyof typeof chosen]}
              put={put}
            />
          ))}
        </div>
      </details>
      <p className="links">
        <a href={`/api/motors/${motor}/circuit.svg`}>Power as SVG</a>
        <a href={`/api/motors/${motor}/circuit.svg?sheet=control`}>Control as SVG</a>
        <a className="alone" href={`/api/motors/${motor}/circuit.pdf`}>
          All of it, PDF
        </a>
        <a href={`/api/motors/${motor}/circuit.json`}>Circuit as JSON</a>
      </p>
    </>
  );
}

/** The checklist with what is ticked of it: for the shop, or, as it once was, for this motor. */
function useMine(machine: Schemas['MotorView']) {
  const shop = useContext(CardShop);
  const list = useChoices().data?.checklist ?? [];
  const ticked = (name: string) => [...(shop?.own.mine ?? []), ...machine.mine].includes(name);
  return { list, ticked, all: list.length > 0 && list.every(item => ticked(item.name)) };
}

/** Whether wiring is one's own to do: asked once for a shop. It hides nothing, and stands before a wire is ticked. */
function Checklist({ motor }: { motor: Schemas['MotorView'] }) {
  const { list, ticked, all } = useMine(motor);
  const shop = useContext(CardShop);
  return (
    <section className="panel checklist" id="mine">
      <details open={!all}>
        <summary>
          <h2>Is this mine to do?</h2>
          <span className="soft">
            {all ? `All ${list.length} are ticked.` : `asked once for ${shop?.name ?? 'a shop'}`}
          </span>
        </summary>
        {shop && <Items shop={shop} list={list} ticked={ticked} />}
      </details>
      {!all && (
        <p className="verdict caution-box">
          <b>Not every line is true.</b> Then this is a licensed electrician’s work: hand over the job sheet, which
          carries the drawing. No wire is marked as landed until they are.
        </p>
      )}
    </section>
  );
}

/** Its items; one is kept after the other, since each makes a new version of the shop. */
function Items({
  shop,
  list,
  ticked,
}: {
  shop: Schemas['ShopHead'];
  list: Schemas['ShopCheckItem'][];
  ticked: (name: string) => boolean;
}) {
  const { keep, fault } = useOwn(shop);
  const [busy, setBusy] = useState(false);
  const put = async (name: string, on: boolean) => {
    setBusy(true);
    const had = shop.own.mine ?? [];
    await keep({ mine: on ? [...had, name] : had.filter(n => n !== name) });
    setBusy(false);
  };
  return (
    <>
      {list.map(item => (
        <Checkbox
          key={item.name}
          disabled={busy}
          checked={ticked(item.name)}
          onChange={e => void put(item.name, e.target.checked)}
        >
          {item.says}
        </Checkbox>
      ))}
      {fault && (
        <p className="problem" role="alert">
          {fault.message}
        </p>
      )}
    </>
  );
}

/** What must not run together with the machine in its shop, and what keeps them apart. */
function Interlocks({ machine, draft, set }: { machine: string; draft: Draft; set: Set }) {
  const shop = useContext(CardShop);
  const together = useTogether(shop?.id ?? '', shop?.version ?? 0, none);
  const sets = together.data?.forbidden.filter(f => f.machines.includes(machine)) ?? [];
  const wired = draft.way.wiring?.apart ?? [];
  if (sets.length === 0 && wired.length === 0) return null;
  const others = sets
    .filter(f => f.contacts)
    .map(f => f.names.filter((_, i) => f.machines[i] !== machine))
    .filter(names => names.length > 0);
  const same = JSON.stringify(others) === JSON.stringify(wired);
  const put = (apart: string[][]) =>
    set('wiring.apart', { way: { ...draft.way, wiring: { ...draft.way.wiring, apart } } });
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
      {!same && others.length > 0 && (
        <Button onClick={() => put(others)}>
          {wired.length > 0 ? 'The circuit has others: put these in' : 'Put their contacts into the circuit'}
        </Button>
      )}
      {wired.length > 0 && (
        <p className="soft">
          In the circuit: break contacts of {wired.map(names => (names ?? []).join(' with ')).join('; ')}.{' '}
          <Button size="small" onClick={() => put([])}>
            Take them out
          </Button>
        </p>
      )}
    </section>
  );
}

const none: Record<string, number> = {};
