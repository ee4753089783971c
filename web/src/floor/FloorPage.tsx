import { Button, Dropdown, Input, Segmented } from 'antd';
import { memo, useCallback, useMemo, useRef, useState, type FormEvent } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useQueryClient } from '@tanstack/react-query';
import { words } from '../api/client';
import { addMachine } from '../api/hooks';
import { keys } from '../api/keys';
import { OpenItems } from '../daybook/OpenItems';
import { WithShop } from '../frame/WithShop';
import { useKept } from '../parts/kept';
import { useNarrow } from '../parts/narrow';
import { Verdicts } from '../parts/Verdicts';
import { drawn } from './Boxes';
import { Drawing, List } from './Drawing';
import { BrokenList, namesOf, StartPanel, TogetherPanel } from './Side';
import { ThingForm } from './ThingForm';
import { added, kindOf, moved } from './tree';
import { useFloor } from './useFloor';
import './floor.css';

/** The home screen: the whole shop on its one supply. */
export function FloorPage() {
  return <WithShop>{shop => <ShopFloor key={shop} shop={shop} />}</WithShop>;
}

function ShopFloor({ shop }: { shop: string }) {
  const floor = useFloor(shop);
  const [params, setParams] = useSearchParams();
  const [look, setLook] = useKept<'drawing' | 'list'>('floor.look', 'drawing');
  const [adding, setAdding] = useState(false);
  const narrow = useNarrow();
  const page = floor.page.data;
  const { picture } = floor;
  const selected = params.get('at') ?? '';
  const set = useRef(setParams);
  set.current = setParams;
  const select = useCallback((id: string) => set.current(id ? { at: id } : {}, { replace: true }), []);
  const adds = useRef<(kind: Kind) => void>(() => {});
  const add = useCallback((kind: Kind) => adds.current(kind), []);
  const askName = useCallback(() => setAdding(true), []);
  const { flip, foresee, turn, throwOver } = floor;
  const acts = useMemo(() => ({ flip, foresee, turn, throwOver, select }), [flip, foresee, turn, throwOver, select]);
  if (floor.page.isError)
    return (
      <p className="problem" role="alert">
        {words(floor.page.error)}
      </p>
    );
  if (!page || !picture) return null;
  const names = namesOf(page, picture);
  const at = selected === 'main' ? 'service' : selected;
  const motorOf = picture.machines.find(m => m.motors.some(o => o.id === at))?.id;
  const box = page.layout.boxes.find(b => b.id === (motorOf ?? at));
  adds.current = (kind: Kind) => {
    const on = box && kindOf(floor.site, box.id) === 'circuit' ? box.id : '';
    const panel = floor.site.circuits?.find(c => c.id === on)?.panel === true;
    const made = added(floor.site, kind, panel === (kind === 'circuit') ? on : '');
    floor.edit(made.site, 0);
    select(made.id);
  };
  const past = picture.broken.length > 0 && (
    <section className="broken" aria-label="Past a limit" aria-live="polite">
      <BrokenList broken={picture.broken} select={select} />
    </section>
  );
  const shown = { page, picture, boxes: drawn(page, picture, floor, acts, box?.id ?? '') };
  return (
    <div className="floor">
      <Head shop={shop} look={look} setLook={setLook} add={add} addMachine={askName} />
      <div className="floor-columns">
        <div className="floor-main">
          {narrow && past}
          {narrow || look === 'list' ? (
            <List {...shown} />
          ) : (
            <Drawing
              {...shown}
              move={(id, on) => {
                floor.edit(moved(floor.site, id, on), 0);
                select(id);
              }}
            />
          )}
          <TogetherPanel page={page} shares={floor.state.shares} />
          {page.layout.boxes.length === 1 && (
            <p className="soft">
              Nothing hangs on the service yet. Add a circuit, then a machine on it; a machine’s plate is enough for a
              first answer.
            </p>
          )}
        </div>
        <aside
          className="floor-side"
          aria-label="What comes of it"
          onKeyDown={e => e.key === 'Escape' && box && select('')}
        >
          {adding && <NewMachine shop={shop} done={id => (setAdding(false), id && select(id))} />}
          {box && (
            <ThingForm
              page={page}
              floor={floor}
              kind={box.kind}
              id={box.id}
              name={names.get(box.id) ?? ''}
              close={() => select('')}
            />
          )}
          {!box && !narrow && past}
          {floor.start && (
            <StartPanel
              start={floor.start}
              name={names.get(floor.start.id) ?? ''}
              service={page.shop.supply.volts}
              close={floor.closeStart}
            />
          )}
          {!box && floor.fault instanceof Error && (
            <p className="problem" role="alert">
              {words(floor.fault)}
            </p>
          )}
          {box && !narrow && past}
          {!past && !box && !floor.start && <p className="all-well">Nothing here is past its limit.</p>}
          {!box && <Verdicts verdicts={page.cautions} fold />}
        </aside>
      </div>
    </div>
  );
}

type Kind = Parameters<typeof added>[1];

/** What stands above the floor, apart from it: a switch thrown changes nothing here. */
const Head = memo(function Head({
  shop,
  look,
  setLook,
  add,
  addMachine,
}: {
  shop: string;
  look: 'drawing' | 'list';
  setLook: (look: 'drawing' | 'list') => void;
  add: (kind: Kind) => void;
  addMachine: () => void;
}) {
  return (
    <header className="page-head">
      <h1>Floor</h1>
      <span className="soft lead">flip a switch, turn a load: volts, amps and limits follow</span>
      <OpenItems shop={shop} />
      <span className="gap" />
      <Segmented
        aria-label="How it is shown"
        value={look}
        onChange={setLook}
        options={[
          { value: 'drawing', label: 'Drawing' },
          { value: 'list', label: 'List' },
        ]}
      />
      <Link to="/day" className="ant-btn-like">
        Day card
      </Link>
      <Button href={`/api/shops/${shop}/floor.svg`}>SVG</Button>
      <Dropdown
        autoFocus
        trigger={['click']}
        menu={{
          items: [
            { key: 'machine', label: 'Machine', onClick: addMachine },
            { key: 'circuit', label: 'Circuit', onClick: () => add('circuit') },
            { key: 'converter', label: 'Rotary converter', onClick: () => add('converter') },
            { key: 'bus', label: 'DC bus for drives', onClick: () => add('bus') },
            { key: 'load', label: 'Heater, welder, lights…', onClick: () => add('load') },
          ],
        }}
      >
        <Button type="primary">Add…</Button>
      </Dropdown>
    </header>
  );
});

/** Names a machine that is added. */
function NewMachine({ shop, done }: { shop: string; done: (id: string) => void }) {
  const [name, setName] = useState('');
  const [fault, setFault] = useState('');
  const queries = useQueryClient();
  async function send(event: FormEvent) {
    event.preventDefault();
    try {
      const machine = await addMachine(shop, name);
      await queries.invalidateQueries({ queryKey: keys.floor(shop) });
      void queries.invalidateQueries({ queryKey: keys.shop(shop) });
      done(machine.id);
    } catch (e) {
      setFault(words(e));
    }
  }
  return (
    <form className="panel thing" onSubmit={send}>
      <h2>A new machine</h2>
      <label htmlFor="floor-machine">What it is called</label>
      <Input id="floor-machine" autoFocus value={name} maxLength={80} onChange={e => setName(e.target.value)} />
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      <span className="line">
        <Button type="primary" htmlType="submit">
          Add it
        </Button>
        <Button onClick={() => done('')}>Not now</Button>
      </span>
    </form>
  );
}
