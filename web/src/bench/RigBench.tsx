import { Button, InputNumber, Segmented, Select, Slider, Switch } from 'antd';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { ask, client, Problem, words, type Schemas } from '../api/client';
import { at } from '../api/hooks';
import { keys } from '../api/keys';
import { NextSays } from '../card/NextChange';
import { States } from '../card/States';
import { fixed, number, whole } from '../parts/number';
import { Sign } from '../parts/Verdicts';
import { RigScope, type Channel, type Trigger } from './RigScope';
import { useRig, type Doing, type Rig } from './useRig';

type Shown = Schemas['BenchShown'];
type Meter = Schemas['BenchMeter'];

/** The clamp goes round one line, or two. */
const rounds = ['a', 'b', 'c', 'ab', 'bc', 'ac'];

/** Lines to earth, in their order. */
const earths = ['ae', 'be', 'ce'];

/** A rig on the Bench: board, meters and scope, what was done wrongly, and what was read beside what was foretold. */
export function RigBench({
  id,
  hertz,
  meters,
  clear,
}: {
  id: string;
  hertz: number;
  meters: Meter[];
  clear: () => void;
}) {
  const [clamp, setClamp] = useState('machine.c');
  const [channels, setChannels] = useState<Channel[]>([
    { signal: 'volts.ab', times: 1 },
    { signal: 'volts.bc', times: 1 },
    { signal: 'amps.machine.c', times: 1 },
    { signal: '', times: 1 },
  ]);
  const [trigger, setTrigger] = useState<Trigger>({ channel: 0, rise: true, level: 0 });
  const [cursors, move] = useState<[number, number]>([0.25, 0.583]);
  const probes = [
    'volts:ab',
    'volts:bc',
    'volts:ca',
    'volts:ae',
    'volts:be',
    'volts:ce',
    `amps:${clamp}`,
    'rpm:machine',
    'rpm:idler',
    'celsius:machine',
    'celsius:idler',
    'sequence:machine',
    'two-lead:machine',
  ];
  const [teacher, teach] = useState(false);
  const { rig, fault, says, todo, pace, probe } = useRig(
    id,
    probes,
    channels.map(c => c.signal).filter(Boolean),
    teacher,
  );
  if (fault)
    return (
      <section className="panel">
        <p className="problem" role="alert">
          {fault.message}
        </p>
        <Button onClick={clear}>Clear it from the list</Button>
      </section>
    );
  if (!rig) return <p className="soft">Walking to the Bench…</p>;
  const named = (signal: string) => {
    const [kind, of = '', line = ''] = signal.split('.');
    if (kind === 'volts') return rig.pairs[['ab', 'bc', 'ca'].indexOf(of)] ?? rig.earths[earths.indexOf(of)] ?? of;
    if (signal === 'amps.supply.a') return 'supply amps';
    if (kind === 'amps') return `${of} ${rig.lines['abc'.indexOf(line)]}`;
    return `can ${of}`;
  };
  return (
    <div className="rig-bench">
      <Board rig={rig} todo={todo} />
      <div className="rig-middle">
        <Pace rig={rig} pace={pace} todo={todo} />
        <p className="pad-says" role="status">
          {says}
        </p>
        <RigScope
          traces={rig.traces}
          perCycle={rig.per_cycle}
          channels={channels}
          signals={rig.signals}
          named={named}
          hertz={hertz}
          cursors={cursors}
          trigger={trigger}
          change={setChannels}
          move={move}
          set={setTrigger}
        />
        <Mistakes rig={rig} />
        <Teacher rig={rig} teacher={teacher} teach={teach} />
      </div>
      <MeterPanel rig={rig} clamp={clamp} setClamp={setClamp} meters={meters} probe={probe} />
      <RigProve rig={rig} />
    </div>
  );
}

/** Switches, shafts and cans. */
function Board({ rig, todo }: { rig: Rig; todo: (d: Doing) => void }) {
  const pairs = [
    { value: '', label: 'on the bench' },
    { value: 'ac', label: rig.pairs[2] },
    { value: 'bc', label: rig.pairs[1] },
    { value: 'ab', label: rig.pairs[0] },
  ];
  const throwing = (of: string, title: string) => (
    <label className="contact">
      <Switch
        checked={rig.on[of] ?? false}
        aria-label={title}
        onChange={on => todo({ what: on ? 'close' : 'open', of })}
      />
      <b>{title}</b> {rig.on[of] ? 'on' : 'off'}
    </label>
  );
  return (
    <section className="panel rig-board" aria-label="Board">
      {throwing('supply', 'Supply')}
      <div className="sliding">
        <span>
          Variable transformer <b className="figures">{whole(rig.percent)} %</b>
        </span>
        <Slider
          key={rig.percent}
          ariaLabelForHandle="Variable transformer"
          min={0}
          max={110}
          step={5}
          defaultValue={rig.percent}
          tooltip={{ open: false }}
          onChangeComplete={by => todo({ what: 'turn', by })}
        />
      </div>
      {rig.motors.map(m => (
        <div key={m.id} className="rig-motor">
          {throwing(m.id, m.id === 'idler' ? 'Idler' : 'Machine')}
          <span className={m.hums || m.burnt ? 'problem' : 'soft'}>
            {m.burnt
              ? 'smells burnt'
              : m.hums
                ? 'hums and stands'
                : m.turns === 0
                  ? 'stands'
                  : `turns ${m.turns > 0 ? 'forward' : 'backward'}`}
          </span>
          <div className="rig-shaft">
            <Button size="small" onClick={() => todo({ what: 'spin', of: m.id, by: 300 })}>
              Spin by hand
            </Button>
            <Button size="small" onClick={() => todo({ what: 'spin', of: m.id, by: -300 })}>
              the other way
            </Button>
            <Button size="small" aria-pressed={m.crossed} onClick={() => todo({ what: 'exchange', of: m.id })}>
              {m.crossed ? 'Two leads are exchanged' : 'Exchange two leads'}
            </Button>
          </div>
          {m.id === 'machine' && (
            <div className="sliding">
              <span>
                Brake <b className="figures">{whole(100 * m.brake)} %</b>
              </span>
              <Slider
                key={m.brake}
                ariaLabelForHandle="Brake of the machine"
                min={0}
                max={1.5}
                step={0.05}
                defaultValue={m.brake}
                tooltip={{ open: false }}
                onChangeComplete={by => todo({ what: 'brake', of: m.id, by })}
              />
            </div>
          )}
        </div>
      ))}
      <h2>Cans</h2>
      <ul className="rig-cans">
        {rig.cans.map(c => (
          <li key={c.id}>
            <b className="figures">{number(c.microfarad)} µF</b>
            <Select
              aria-label={`Can ${c.id}`}
              value={c.pair}
              options={pairs}
              onChange={to => todo(to ? { what: 'clip', of: c.id, to } : { what: 'unclip', of: c.id })}
            />
            <Button size="small" disabled={c.pair !== ''} onClick={() => todo({ what: 'discharge', of: c.id })}>
              Drain
            </Button>
            <Button size="small" onClick={() => todo({ what: 'touch', of: c.id })}>
              Touch
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What a teacher sees: what was hidden, and how warm windings really are. */
function Teacher({ rig, teacher, teach }: { rig: Rig; teacher: boolean; teach: (on: boolean) => void }) {
  return (
    <div className="rig-pace">
      <label className="contact">
        <Switch size="small" checked={teacher} onChange={teach} aria-label="What a teacher sees" /> what a teacher sees
      </label>
      {teacher && (
        <span>
          Hidden: <b>{rig.hidden || 'nothing'}</b>.{' '}
          {rig.motors.map(m => `Hottest winding of the ${m.id} ${whole(m.winding_celsius)} °C`).join(', ')}.
        </span>
      )}
    </div>
  );
}

/** How time goes. */
function Pace({ rig, pace, todo }: { rig: Rig; pace: (p: number) => void; todo: (d: Doing) => void }) {
  const [minutes, setMinutes] = useState(10);
  const [watch, setWatch] = useState<{ from: number; to: number | null } | null>(null);
  return (
    <div className="rig-pace">
      <Segmented
        aria-label="Time"
        value={rig.pace}
        options={[
          { value: 0, label: 'Pause' },
          { value: 0.1, label: 'a tenth' },
          { value: 1, label: 'as it is' },
        ]}
        onChange={p => pace(p as number)}
      />
      <span className="figures">{fixed(rig.seconds, 1)} s</span>
      <Button
        onClick={() => setWatch(watch?.to === null ? { ...watch, to: rig.seconds } : { from: rig.seconds, to: null })}
      >
        Stopwatch{watch && ` ${fixed((watch.to ?? rig.seconds) - watch.from, 1)} s`}
      </Button>
      <span className="rig-pass">
        <InputNumber
          aria-label="Minutes to let pass"
          min={1}
          max={240}
          value={minutes}
          onChange={v => setMinutes(v ?? 10)}
        />
        <Button onClick={() => todo({ what: 'pass', by: minutes })}>minutes pass</Button>
      </span>
    </div>
  );
}

/** What would have hurt somebody. */
function Mistakes({ rig }: { rig: Rig }) {
  return (
    <section className="panel rig-mistakes" aria-label="Mistakes">
      <h2>{rig.mistakes.length === 0 ? 'No mistakes so far' : `${rig.mistakes.length} that would have hurt`}</h2>
      <div className="rig-list" tabIndex={0} role="group" aria-label="What would have hurt">
        <ul className="plain">
          {[...rig.mistakes].reverse().map((m, i) => (
            <li key={rig.mistakes.length - i}>
              <Sign severity="stop" size={14} /> <span className="figures">{fixed(m.seconds, 1)} s</span> {m.says}
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
}

/** Meters that lie on the bench, and those that are put somewhere once. */
function MeterPanel({
  rig,
  clamp,
  setClamp,
  meters,
  probe,
}: {
  rig: Rig;
  clamp: string;
  setClamp: (at: string) => void;
  meters: Meter[];
  probe: (meter: string, at: string) => Promise<Shown>;
}) {
  const [put, setPut] = useState({ meter: 'ohms', at: 'machine' });
  const [shown, show] = useState<Shown | null>(null);
  const meter = (title: string, shown: Shown | undefined, unit: string) => (
    <div className="meter">
      <span className="soft">{title}</span>
      <b className="figures">
        {shown?.word || (shown?.value == null ? '–' : number(Number(shown.value.toPrecision(4))))}{' '}
        <span className="unit">{unit}</span>
      </b>
      {shown?.says && <span className="soft small">{shown.says}</span>}
    </div>
  );
  const motors = rig.motors.map(m => m.id);
  const line = (l: string) => [...l].map(k => rig.lines['abc'.indexOf(k)]).join(' + ');
  const once = meters.filter(m => !m.lies || m.on.includes('cans'));
  const chosen = once.find(m => m.name === put.meter);
  const places = chosen?.on.includes('cans') ? rig.cans.map(c => c.id) : motors;
  const there = places.includes(put.at) ? put.at : (places[0] ?? '');
  return (
    <section className="panel rig-meters" aria-label="Meters">
      <div className="meters">
        {meter(rig.pairs[0]!, rig.meters['volts:ab'], 'V')}
        {meter(rig.pairs[1]!, rig.meters['volts:bc'], 'V')}
        {meter(rig.pairs[2]!, rig.meters['volts:ca'], 'V')}
        {rig.earths.map((title, i) => (
          <div key={title}>{meter(title, rig.meters[`volts:${earths[i]}`], 'V')}</div>
        ))}
      </div>
      <div className="rig-clamp">
        <Select
          aria-label="Clamp round"
          value={clamp}
          popupMatchSelectWidth={false}
          options={[
            { value: 'supply.a', label: `supply ${rig.pairs[0]!.split('–')[0]}` },
            ...motors.flatMap(m => rounds.map(l => ({ value: `${m}.${l}`, label: `${m} ${line(l)}` }))),
          ]}
          onChange={setClamp}
        />
        {meter('Clamp', rig.meters[`amps:${clamp}`], 'A')}
      </div>
      <div className="meters">
        {motors.map(m => (
          <div key={m}>
            {meter(`${m}, shaft`, rig.meters[`rpm:${m}`], 'rpm')}
            {meter(`${m}, frame`, rig.meters[`celsius:${m}`], '°C')}
          </div>
        ))}
        {meter('Sequence', rig.meters['sequence:machine'], '')}
        <div className="meter broken">
          <span className="soft">Two leads</span>
          <b className="figures">
            {rig.meters['two-lead:machine']?.word || '–'}{' '}
            {rig.meters['two-lead:machine']?.value != null && (
              <span className="unit">{number(Number(rig.meters['two-lead:machine'].value.toFixed(1)))} ms</span>
            )}
          </b>
        </div>
      </div>
      <h3>Put somewhere once</h3>
      <div className="rig-clamp">
        <Select
          aria-label="Instrument"
          value={put.meter}
          popupMatchSelectWidth={false}
          options={once.map(m => ({ value: m.name, label: m.title }))}
          onChange={name => {
            setPut({ ...put, meter: name });
            show(null);
          }}
        />
        <Select
          aria-label="Put it on"
          value={there}
          popupMatchSelectWidth={false}
          options={places.map(p => ({
            value: p,
            label: rig.cans.some(c => c.id === p)
              ? `${number(rig.cans.find(c => c.id === p)!.microfarad)} µF, ${p}`
              : p,
          }))}
          onChange={place => {
            setPut({ ...put, at: place });
            show(null);
          }}
        />
        <Button
          onClick={() =>
            void probe(put.meter, there).then(show, e =>
              show({ value: null, word: '', says: e instanceof Problem ? e.message : words(e) }),
            )
          }
        >
          Read it
        </Button>
      </div>
      {shown && meter('It shows', shown, chosen?.unit ?? '')}
      <p className="soft small">
        {meters
          .filter(m => m.class_percent > 0)
          .map(m => `${m.title} ${m.class_percent} %`)
          .join(' · ')}
      </p>
    </section>
  );
}

/** What was read off beside what was foretold, and the change to make next: all of it of the Bench alone. */
function RigProve({ rig }: { rig: Rig }) {
  const queries = useQueryClient();
  const [fault, setFault] = useState('');
  const page = useQuery({
    queryKey: keys.rigProof(rig.id),
    staleTime: Infinity,
    queryFn: () => ask(client.GET('/bench/rigs/{id}/prove', at(rig.id))),
  });
  const [state, setState] = useState('');
  const clipped = rig.cans.map(c => c.pair).join();
  useEffect(() => {
    void queries.invalidateQueries({ queryKey: keys.rigProof(rig.id) });
  }, [queries, rig.id, clipped]);
  if (page.isError)
    return (
      <p className="problem" role="alert">
        {words(page.error)}
      </p>
    );
  if (!page.data) return <p className="soft">Foretelling what will be read…</p>;
  const p = page.data;
  const chosen = state || p.due;
  const read = async () => {
    try {
      const next = await ask(client.POST('/bench/rigs/{id}/readings', { ...at(rig.id), body: { state: chosen } }));
      queries.setQueryData(keys.rigProof(rig.id), next);
      setFault('');
      setState('');
    } catch (e) {
      setFault(e instanceof Problem ? [e.message, ...e.fields.map(f => f.message)].join(' ') : words(e));
    }
  };
  return (
    <section className="panel rig-prove" aria-label="Read against foretold">
      <header>
        <h2>Read against foretold</h2>
        <span className="soft">what is read here stays on the Bench: it proves nothing of the machine itself</span>
        <span className="gap" />
        <Select
          aria-label="State that is read"
          value={chosen}
          popupMatchSelectWidth={false}
          options={p.states.filter(s => s.name !== 'starting').map(s => ({ value: s.name, label: s.title }))}
          onChange={setState}
        />
        <Button type="primary" onClick={() => void read()}>
          Read the meters off
        </Button>
      </header>
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      <States page={p} />
      <h3>Next change</h3>
      <NextSays page={p} />
    </section>
  );
}
