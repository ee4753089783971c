import { Button, Checkbox, Segmented, Select } from 'antd';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { ask, client, Problem, words } from '../api/client';
import { at, useRulebook, useShop } from '../api/hooks';
import { keys } from '../api/keys';
import { WithShop } from '../frame/WithShop';
import { Numeral } from '../parts/Numeral';
import { DriveBench } from './DriveBench';
import { Feeds } from './Feeds';
import { Rigs } from './Rigs';
import './bench.css';

/** The Bench: the shop’s motors rigged, on a drive and on three feeds, to practise on before anything is touched. */
export function Bench() {
  return <WithShop>{shop => <Stands key={shop} shop={shop} />}</WithShop>;
}

const stands = [
  { value: 'rig', label: 'Rig' },
  { value: 'drive', label: 'Drive' },
  { value: 'feeds', label: 'Three feeds' },
];

function Stands({ shop }: { shop: string }) {
  const [query, setQuery] = useSearchParams();
  const at = stands.find(s => s.value === query.get('stand'))?.value ?? 'rig';
  const choice = (
    <Segmented
      aria-label="What stands on the Bench"
      value={at}
      options={stands}
      onChange={stand => setQuery({ stand }, { replace: true })}
    />
  );
  if (at === 'feeds')
    return (
      <div className="bench">
        <div className="page-head">
          <h1>Bench</h1>
          {choice}
          <span className="soft lead">one drive, fed in three ways, at the same load</span>
        </div>
        <Feeds shop={shop} />
      </div>
    );
  if (at === 'rig') return <Rigs shop={shop} choice={choice} />;
  return <Drives shop={shop} choice={choice} />;
}

function Drives({ shop, choice }: { shop: string; choice: ReactNode }) {
  const queries = useQueryClient();
  const list = useQuery({ queryKey: keys.benches, queryFn: () => ask(client.GET('/bench/drives')), staleTime: 0 });
  const [query, setQuery] = useSearchParams();
  const [setting, setUp] = useState(false);
  const drives = list.data ?? [];
  const shown = drives.find(d => d.id === query.get('drive')) ?? drives.find(d => d.shop === shop) ?? drives[0];
  const look = (id: string) => setQuery({ stand: 'drive', drive: id }, { replace: true });
  const stood = async (id: string) => {
    await queries.invalidateQueries({ queryKey: keys.benches });
    setUp(false);
    look(id);
  };
  const clear = async (id: string) => {
    // It is looked at no more before it is gone.
    queries.setQueryData<typeof list.data>(keys.benches, old => old?.filter(d => d.id !== id));
    await ask(client.DELETE('/bench/drives/{id}', at(id)));
    await queries.invalidateQueries({ queryKey: keys.benches });
  };
  if (list.isError)
    return (
      <p className="problem" role="alert">
        {words(list.error)}
      </p>
    );
  if (!list.data) return <p className="soft">Clearing the Bench…</p>;
  return (
    <div className="bench">
      <div className="page-head">
        <h1>Bench</h1>
        {choice}
        <span className="soft lead">a simulated drive and its motor: nothing here is live</span>
        <span className="gap" />
        {drives.length > 0 && (
          <Segmented
            aria-label="Drive shown"
            value={setting ? '' : (shown?.id ?? '')}
            options={drives.map(d => ({ value: d.id, label: `${d.title} · ${d.profile.replace(/ \(.*/, '')}` }))}
            onChange={id => {
              setUp(false);
              look(id);
            }}
          />
        )}
        {shown && !setting && (
          <>
            <Button onClick={() => setUp(true)}>Set up another</Button>
            <Button danger onClick={() => void clear(shown.id)}>
              Take it down
            </Button>
          </>
        )}
      </div>
      {shown && !setting ? (
        <DriveBench key={shown.id} id={shown.id} clear={() => void clear(shown.id)} />
      ) : (
        <SetUp shop={shop} stood={id => void stood(id)} leave={shown ? () => setUp(false) : undefined} />
      )}
    </div>
  );
}

/** Which motor, which drive, and from which seed. */
function SetUp({ shop, stood, leave }: { shop: string; stood: (id: string) => void; leave?: () => void }) {
  const page = useShop(shop).data;
  const book = useRulebook().data;
  const motors = (page?.machines ?? []).flatMap(m =>
    m.motors.filter(o => o.stage !== 'blank plate').map(o => ({ value: o.id, label: m.name })),
  );
  const profiles = [...(page?.shop.profiles ?? []), ...(book?.profiles ?? [])].filter(p => p.registers?.length);
  const [motor, setMotor] = useState('');
  const [profile, setProfile] = useState('');
  const [three, setThree] = useState(false);
  const [seed, setSeed] = useState<number | null>(null);
  const [fault, setFault] = useState<Problem | null>(null);
  const chosen = motor || (motors[0]?.value ?? '');
  const named = profile || (profiles[0]?.name ?? '');
  const stand = async () => {
    try {
      const body = { motor: chosen, profile: named, three_phase: three, seed: seed ?? 0 };
      stood((await ask(client.POST('/bench/drives', { body }))).id);
    } catch (e) {
      setFault(e instanceof Problem ? e : new Problem(0, words(e)));
    }
  };
  if (page && motors.length === 0)
    return <p className="soft">The Bench takes a motor of the shop: read a plate first.</p>;
  return (
    <section className="panel set-up">
      <h2>Set up a drive with a motor of the shop</h2>
      <p>
        It comes as a drive comes out of its box, mostly set for another country. Set it by its keypad, or over its bus
        from the motor’s Settings, and see what each mistake does: rectifier, bus, inverter and motor are stepped in
        time, and it trips as a real one would.
      </p>
      <div className="set-up-fields">
        <label>
          Motor <Select aria-label="Motor" value={chosen} options={motors} onChange={setMotor} />
        </label>
        <label>
          Drive{' '}
          <Select
            aria-label="Drive"
            value={named}
            options={profiles.map(p => ({ value: p.name, label: p.name }))}
            onChange={setProfile}
          />
        </label>
        <label>
          Seed{' '}
          <Numeral
            keep="bench.seed"
            label="Seed"
            value={seed}
            from={0}
            to={999999}
            integer
            placeholder="none"
            change={setSeed}
          />
        </label>
        <Checkbox checked={three} onChange={e => setThree(e.target.checked)}>
          built for three lines, twice as large
        </Checkbox>
      </div>
      <p className="soft small">
        With the same seed two people have the same drive and motor, each a little off what is written on them.
      </p>
      {fault && (
        <p className="problem" role="alert">
          {fault.message} {fault.fields.map(f => f.message).join(' ')}
        </p>
      )}
      <h3>What to try</h3>
      <ul className="to-try">
        <li>Run it as it comes, and read its speed against the plate’s; then set it by its guided set-up.</li>
        <li>Ramp a heavy load down in a second, and watch the bus; then coast.</li>
        <li>Feed one that is built for three lines by two, and load it.</li>
        <li>Leave the motor amps as they come, and load the shaft past its plate.</li>
        <li>Take the line away while its run contact stays closed, and bring it back.</li>
      </ul>
      <p className="links">
        <Button type="primary" disabled={!chosen || !named} onClick={() => void stand()}>
          Set it up
        </Button>
        {leave && <Button onClick={leave}>Back</Button>}
      </p>
    </section>
  );
}
