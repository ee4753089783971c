import { Button, Checkbox, Input, Modal } from 'antd';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { ask, client, Problem, words, type Schemas } from '../api/client';
import { at, readSome } from '../api/hooks';
import { number } from '../parts/number';
import { Sign } from '../parts/Verdicts';
import { keepHand, lastHand } from '../parts/written';
import type { Draft, Set } from './parts';
import { newId } from '../parts/id';

type List = Schemas['BusList'];
type Row = Schemas['BusRow'];
type Now = Schemas['BusNow'];

/** The drive at hand over its bus: what it holds beside what is meant, written after each change was shown. */
export function BusPanel({
  motor,
  draft,
  canRun,
  hertz,
  set,
}: {
  motor: string;
  draft: Draft;
  canRun: boolean;
  hertz: number;
  set: Set;
}) {
  const queries = useQueryClient();
  const { way } = draft;
  const [list, setList] = useState<List | null>(null);
  const [fault, setFault] = useState('');
  const [busy, setBusy] = useState(false);
  const [asking, confirm] = useState(false);
  const fail = (e: unknown) =>
    setFault(e instanceof Problem ? [e.message, ...e.fields.map(f => f.message)].join(' ') : words(e));
  const run = async (request: () => Promise<List>) => {
    setBusy(true);
    setFault('');
    try {
      setList(await request());
      return true;
    } catch (e) {
      fail(e);
      return false;
    } finally {
      setBusy(false);
    }
  };
  const compare = () => run(() => ask(client.POST('/motors/{id}/bus/compare', at(motor))));
  const write = async (hand: string, changes: Row[]) => {
    keepHand(hand);
    const body = {
      id: newId(),
      hand,
      stands: true,
      changes: changes.map(r => ({ setting: r.setting, is: r.is, meant: r.meant })),
    };
    const good = await run(() => ask(client.POST('/motors/{id}/bus/write', { ...at(motor), body })));
    confirm(false);
    if (good) readSome(queries, 'settings', 'daybook');
  };
  const rows = list?.rows ?? [];
  const off = rows.filter(r => !r.agrees && !r.written && !r.says);
  const shown = rows.filter(r => !r.agrees || r.written);
  return (
    <section className="panel bus-panel">
      <header>
        <h2>On its bus</h2>
        <span className="soft">Modbus TCP; read at any time, written while the motor stands</span>
      </header>
      <div className="bus-line">
        <label>
          Answers at{' '}
          <Input
            aria-label="Where the drive answers"
            value={way.bus ?? ''}
            maxLength={60}
            placeholder="192.168.1.40:502"
            onChange={e => set('way.bus', { way: { ...way, bus: e.target.value } })}
          />
        </label>
        <Button disabled={busy || !way.bus} onClick={() => void compare()}>
          Compare
        </Button>
        {off.length > 0 && (
          <Button type="primary" disabled={busy} onClick={() => confirm(true)}>
            Write {off.length} that differ…
          </Button>
        )}
        {list && !list.says && (
          <span role="status">
            {rows.length - off.length} of {rows.length} agree
          </span>
        )}
      </div>
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      {list?.broken && (
        <p className="problem" role="alert">
          <Sign severity="stop" size={16} /> {list.broken}
        </p>
      )}
      {list?.says && (
        <p role="status">
          {rows.filter(r => r.written === 'yes').length} of {rows.length} written and read back; it is in the Daybook.
        </p>
      )}
      {shown.length > 0 && <Held rows={shown} />}
      {way.bus && <Live motor={motor} fail={fail} />}
      {canRun && way.bus && (
        <Turning
          motor={motor}
          hertz={hertz}
          may={way.bus_starts ?? false}
          change={bus_starts => set('way.bus_starts', { way: { ...way, bus_starts } })}
        />
      )}
      <Confirm open={asking} rows={off} busy={busy} leave={() => confirm(false)} write={(h, r) => void write(h, r)} />
    </section>
  );
}

/** What the drive holds of what does not agree, or was written. */
function Held({ rows }: { rows: Row[] }) {
  const written = { yes: '✓ written, read back', no: 'not written', unknown: 'not known', '': '' };
  return (
    <div className="settings-table" tabIndex={0} role="region" aria-label="What the drive holds">
      <table className="facts">
        <thead>
          <tr>
            <th scope="col">Setting</th>
            <th scope="col">In the drive</th>
            <th scope="col">Meant</th>
            <th scope="col">What became of it</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(r => (
            <tr key={r.setting}>
              <th scope="row">{r.title}</th>
              <td className="figures" data-label="In the drive">
                {r.is || 'not read'} {r.is && r.unit}
              </td>
              <td className="figures" data-label="Meant">
                {r.meant} {r.unit}
              </td>
              <td className={r.written === 'yes' && r.agrees ? '' : 'differs'}>
                {written[r.written as keyof typeof written] || (r.says ? '' : 'differs')} {r.says}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Each change is shown before it is written, to somebody who says that the motor stands. */
function Confirm({
  open,
  rows,
  busy,
  leave,
  write,
}: {
  open: boolean;
  rows: Row[];
  busy: boolean;
  leave: () => void;
  write: (hand: string, rows: Row[]) => void;
}) {
  const [hand, setHand] = useState(() => lastHand());
  const [stands, setStands] = useState(false);
  const [out, leaveOut] = useState<string[]>([]);
  const chosen = rows.filter(r => !out.includes(r.setting));
  return (
    <Modal
      open={open}
      title="Write these into the drive"
      onCancel={leave}
      okText={`Write ${chosen.length}`}
      okButtonProps={{ disabled: busy || !stands || !hand.trim() || chosen.length === 0 }}
      onOk={() => {
        setStands(false);
        write(hand.trim(), chosen);
      }}
      width={640}
      destroyOnHidden
    >
      <div className="changes" tabIndex={0} role="region" aria-label="Changes">
        <table className="facts">
          <thead>
            <tr>
              <th scope="col">Write</th>
              <th scope="col">From</th>
              <th scope="col">To</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(r => (
              <tr key={r.setting}>
                <td>
                  <Checkbox
                    checked={!out.includes(r.setting)}
                    onChange={e => leaveOut(e.target.checked ? out.filter(s => s !== r.setting) : [...out, r.setting])}
                  >
                    {r.title}
                  </Checkbox>
                </td>
                <td className="figures">
                  {r.is} {r.unit}
                </td>
                <td className="figures">
                  {r.meant} {r.unit}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="caution-line">
        What starts the motor, and from where, may change with these. Nobody is at the machine while they are written.
      </p>
      <p>
        <Checkbox checked={stands} onChange={e => setStands(e.target.checked)}>
          The motor stands, and I can see it.
        </Checkbox>
      </p>
      <label className="bus-hand">
        Written by <Input aria-label="Written by" value={hand} maxLength={40} onChange={e => setHand(e.target.value)} />
      </label>
    </Modal>
  );
}

const liveMs = 600;

/** What the drive shows of itself, again and again while it is watched. */
function Live({ motor, fail }: { motor: string; fail: (e: unknown) => void }) {
  const [watching, watch] = useState(false);
  const [now, setNow] = useState<Now | null>(null);
  const failed = useRef(fail);
  useEffect(() => {
    failed.current = fail;
  });
  useEffect(() => {
    if (!watching) return;
    let timer: ReturnType<typeof setTimeout>;
    let gone = false;
    const look = async () => {
      try {
        const shown = await ask(client.GET('/motors/{id}/bus/now', at(motor)));
        if (!gone) setNow(shown);
      } catch (e) {
        if (!gone) {
          failed.current(e);
          watch(false);
        }
        return;
      }
      if (!gone) timer = setTimeout(() => void look(), liveMs);
    };
    void look();
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [motor, watching]);
  return (
    <div className="bus-live">
      <Button onClick={() => watch(!watching)}>{watching ? 'Stop watching' : 'Watch it'}</Button>
      {now && watching && (
        <>
          <b>{now.state}</b>
          {now.shown.map(s => (
            <span key={s.name}>
              <span className="soft">{s.title}</span>{' '}
              <b className="figures">
                {s.value} {s.unit}
              </b>
            </span>
          ))}
          {now.fault && (
            <p className="problem">
              <Sign severity="stop" size={16} /> {now.fault.title}. {now.fault.means} {now.fault.look}
            </p>
          )}
        </>
      )}
    </div>
  );
}

/** How often a finger that holds is told of: well within the second after which the motor stops. */
const holdMs = 250;

/** Turning the motor over its bus: switched on for this drive alone, with somebody at the machine, and held. */
function Turning({
  motor,
  hertz,
  may,
  change,
}: {
  motor: string;
  hertz: number;
  may: boolean;
  change: (may: boolean) => void;
}) {
  const [hand, setHand] = useState(() => lastHand());
  const [here, setHere] = useState(false);
  const [now, setNow] = useState<Now | null>(null);
  const [says, setSays] = useState('');
  const held = useRef(false);
  useEffect(() => () => void (held.current = false), []);
  const hold = async () => {
    if (held.current) return;
    held.current = true;
    setSays('');
    keepHand(hand);
    const body = { hand: hand.trim(), here };
    while (held.current) {
      try {
        setNow(await ask(client.POST('/motors/{id}/bus/hold', { ...at(motor), body })));
      } catch (e) {
        held.current = false;
        setSays(e instanceof Problem ? [e.message, ...e.fields.map(f => f.message)].join(' ') : words(e));
        return;
      }
      await new Promise(done => setTimeout(done, holdMs));
    }
    try {
      setNow(await ask(client.POST('/motors/{id}/bus/stop', at(motor))));
    } catch (e) {
      setSays(words(e));
    }
  };
  const release = () => (held.current = false);
  return (
    <details className="turning" open={may}>
      <summary>Turn the motor over the bus</summary>
      <p>
        <Checkbox checked={may} onChange={e => change(e.target.checked)}>
          This drive may be started over its bus
        </Checkbox>
      </p>
      {may && (
        <>
          <p className="caution-line">
            Its shaft will turn. Guards on, chuck empty or uncoupled, and one who stands there with the emergency stop
            at hand: the drive stops within a second when nobody holds it, but that is no emergency stop.
          </p>
          <div className="bus-line">
            <label>
              At the machine{' '}
              <Input aria-label="At the machine" value={hand} maxLength={40} onChange={e => setHand(e.target.value)} />
            </label>
            <Checkbox checked={here} onChange={e => setHere(e.target.checked)}>
              I stand at it
            </Checkbox>
            <Button
              danger
              disabled={!here || !hand.trim()}
              onPointerDown={() => void hold()}
              onPointerUp={release}
              onPointerLeave={release}
              onPointerCancel={release}
              onKeyDown={e => (e.key === ' ' || e.key === 'Enter') && !e.repeat && void hold()}
              onKeyUp={release}
              onBlur={release}
            >
              Hold: {number(hertz)} Hz
            </Button>
            {now && (
              <span role="status">
                {now.state} {now.shown.find(s => s.name === 'output_hertz')?.value} Hz,{' '}
                {number(Number(now.shown.find(s => s.name === 'output_amps')?.value ?? 0))} A
              </span>
            )}
          </div>
        </>
      )}
      {says && (
        <p className="problem" role="alert">
          {says}
        </p>
      )}
    </details>
  );
}
