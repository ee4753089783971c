import { Button, Segmented, Select } from 'antd';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { ask, client, Problem, words, type Schemas } from '../api/client';
import { at, useShop } from '../api/hooks';
import { keys } from '../api/keys';
import { Numeral } from '../parts/Numeral';
import { RigBench } from './RigBench';

/** The rigs that stand on the Bench, and where one is rigged. */
export function Rigs({ shop, choice }: { shop: string; choice: ReactNode }) {
  const queries = useQueryClient();
  const list = useQuery({ queryKey: keys.rigs, queryFn: () => ask(client.GET('/bench/rigs')), staleTime: 0 });
  const hertz = useShop(shop).data?.shop.supply.hertz ?? 60;
  const [query, setQuery] = useSearchParams();
  const [rigging, setRigging] = useState(false);
  if (list.isError)
    return (
      <p className="problem" role="alert">
        {words(list.error)}
      </p>
    );
  if (!list.data) return <p className="soft">Clearing the Bench…</p>;
  const { rigs, plants, meters } = list.data;
  const shown = rigs.find(r => r.id === query.get('rig')) ?? rigs.find(r => r.shop === shop) ?? rigs[0];
  const look = (id: string) => setQuery({ stand: 'rig', rig: id }, { replace: true });
  const stood = async (id: string) => {
    await queries.invalidateQueries({ queryKey: keys.rigs });
    setRigging(false);
    look(id);
  };
  const clear = async (id: string) => {
    // It is looked at no more before it is gone.
    queries.setQueryData<typeof list.data>(
      keys.rigs,
      old => old && { ...old, rigs: old.rigs.filter(r => r.id !== id) },
    );
    await ask(client.DELETE('/bench/rigs/{id}', at(id)));
    await queries.invalidateQueries({ queryKey: keys.rigs });
  };
  return (
    <div className="bench">
      <div className="page-head">
        <h1>Bench</h1>
        {choice}
        {!shown && <span className="soft lead">a motor on its way, in time: nothing here is live</span>}
        <span className="gap" />
        {rigs.length > 0 && (
          <Segmented
            aria-label="Rig shown"
            value={rigging ? '' : (shown?.id ?? '')}
            options={rigs.map(r => ({ value: r.id, label: `${r.title} · ${r.way}` }))}
            onChange={id => {
              setRigging(false);
              look(id);
            }}
          />
        )}
        {shown && !rigging && (
          <>
            <Button onClick={() => setRigging(true)}>Rig another</Button>
            <Button danger onClick={() => void clear(shown.id)}>
              Take it down
            </Button>
          </>
        )}
      </div>
      {shown && !rigging ? (
        <RigBench key={shown.id} id={shown.id} hertz={hertz} meters={meters} clear={() => void clear(shown.id)} />
      ) : (
        <RigUp
          shop={shop}
          plants={plants}
          stood={id => void stood(id)}
          leave={shown ? () => setRigging(false) : undefined}
        />
      )}
    </div>
  );
}

const invented = { value: '', label: 'one that is invented, by the seed' };

/** Which motor, from which seed, and what a teacher hides in it. */
function RigUp({
  shop,
  plants,
  stood,
  leave,
}: {
  shop: string;
  plants: Schemas['ProvePlant'][];
  stood: (id: string) => void;
  leave?: () => void;
}) {
  const page = useShop(shop).data;
  const motors = (page?.machines ?? []).flatMap(m =>
    m.motors.filter(o => o.stage !== 'blank plate').map(o => ({ value: o.id, label: m.name })),
  );
  const [motor, setMotor] = useState<string | null>(null);
  const [plant, setPlant] = useState('');
  const [seed, setSeed] = useState<number | null>(1);
  const [fault, setFault] = useState<Problem | null>(null);
  const chosen = motor ?? motors[0]?.value ?? '';
  const rig = async () => {
    try {
      stood((await ask(client.POST('/bench/rigs', { body: { shop, motor: chosen, plant, seed: seed ?? 0 } }))).id);
    } catch (e) {
      setFault(e instanceof Problem ? e : new Problem(0, words(e)));
    }
  };
  return (
    <section className="panel set-up">
      <h2>Rig a motor of the shop on the way that it takes</h2>
      <p>
        Its iron is a little off its plate, as every motor’s is. Cans are clipped in by hand and keep their charge;
        switches are thrown in the order that you choose; meters have their class and are slow. What would have hurt
        somebody is counted, and what you read is set beside what was foretold.
      </p>
      <div className="set-up-fields">
        <label>
          Motor <Select aria-label="Motor to rig" value={chosen} options={[...motors, invented]} onChange={setMotor} />
        </label>
        <label>
          Seed{' '}
          <Numeral
            keep="bench.rig-seed"
            label="Seed of the rig"
            value={seed}
            from={0}
            to={999999}
            integer
            placeholder="as its plate"
            change={setSeed}
          />
        </label>
        <label>
          A teacher hides{' '}
          <Select
            aria-label="A teacher hides"
            value={plant}
            popupMatchSelectWidth={false}
            options={plants.map(p => ({ value: p.name, label: p.title }))}
            onChange={setPlant}
          />
        </label>
      </div>
      <p className="soft small">With the same seed two people have the same machine, meters and cans.</p>
      {fault && (
        <p className="problem" role="alert">
          {fault.message} {fault.fields.map(f => f.message).join(' ')}
        </p>
      )}
      <p className="links">
        <Button type="primary" disabled={!page} onClick={() => void rig()}>
          Rig it
        </Button>
        {leave && <Button onClick={leave}>Back</Button>}
      </p>
    </section>
  );
}
