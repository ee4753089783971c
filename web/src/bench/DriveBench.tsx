import { Button, Segmented, Select, Slider, Switch } from 'antd';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { tokens } from '../theme/theme';
import { Chart, Keys, scale } from '../parts/Chart';
import { number, whole } from '../parts/number';
import { Sign } from '../parts/Verdicts';
import { Keypad } from './Keypad';
import '../parts/facts.css';
import { useDrive, type Drive, type Inputs, type Look } from './useDrive';

/** A simulated drive on the Bench: its keypad, what is wired to it, what meters tell, and how it went. */
export function DriveBench({ id, clear }: { id: string; clear?: () => void }) {
  const { drive, strip, fault, says, press, wire } = useDrive(id);
  if (fault)
    return (
      <section className="panel">
        <p className="problem" role="alert">
          {fault.message}
        </p>
        {clear && <Button onClick={clear}>Clear it from the list</Button>}
      </section>
    );
  if (!drive) return <p className="soft">Walking to the Bench…</p>;
  return (
    <div className="drive-bench">
      <div className="drive-left">
        <Keypad drive={drive} press={(key, times) => void press(key, times)} />
        <p className="pad-says" role="status">
          {says}
        </p>
        <p className="soft small">
          {drive.rating.watts / 1000} kW, {number(drive.rating.amps)} A, built for{' '}
          {drive.rating.three_phase ? 'three lines' : 'one phase'}
          {drive.seed > 0 && `, seed ${drive.seed}`}. Its bus (Modbus TCP, number 1) answers at{' '}
          <b className="figures">{drive.address}</b>
          {drive.machine ? (
            <>
              : <Link to={`/machines/${drive.machine}/settings?motor=${drive.motor}`}>Settings</Link> reads and writes
              it there.
            </>
          ) : (
            '.'
          )}
        </p>
      </div>
      <Wiring drive={drive} wire={body => void wire(body)} />
      <Meters drive={drive} strip={strip} />
      <Log drive={drive} />
    </div>
  );
}

/** What is wired to it: lines, inputs by its own marks, and the brake on its motor. */
function Wiring({ drive, wire }: { drive: Drive; wire: (body: Inputs) => void }) {
  const { inputs, terminals } = drive;
  const set = (patch: Partial<Inputs>) => wire({ ...inputs, load: drive.load, ...patch });
  const mark = (name: string) => <b className="figures">{terminals[name] ?? name}</b>;
  const contact = (label: string, name: string, on: boolean, change: (on: boolean) => void) => (
    <label className="contact">
      <Switch checked={on} onChange={change} aria-label={label} />
      {mark(name)} {label}, {on ? 'closed' : 'open'}
    </label>
  );
  return (
    <section className="panel wiring-bench">
      <header>
        <h2>Wired to it</h2>
      </header>
      <div className="contact">
        <Segmented
          aria-label="Lines that feed it"
          value={inputs.lines}
          options={[
            { value: 0, label: 'off' },
            { value: 2, label: 'two lines' },
            { value: 3, label: 'three' },
          ]}
          onChange={lines => set({ lines: lines as number })}
        />
        {mark('L1')} {mark('L2')}
      </div>
      {contact('enable', 'enable', inputs.enable, enable => set({ enable }))}
      {contact('run', 'di1', inputs.run, run => set({ run }))}
      {contact('reverse', 'di2', inputs.reverse, reverse => set({ reverse }))}
      <label className="contact">
        <Select
          aria-label="Fixed speed"
          value={inputs.preset}
          onChange={preset => set({ preset })}
          options={[0, 1, 2, 3].map(value => ({ value, label: value === 0 ? 'none' : `fixed speed ${value}` }))}
        />
        {mark('di3')} {mark('di4')}
      </label>
      <Sliding
        label="Potentiometer"
        of={terminals['ai1'] ?? ''}
        value={inputs.turned}
        most={1}
        set={turned => set({ turned })}
      />
      <Sliding label="Brake on its shaft" of="" value={drive.load} most={1.5} set={load => set({ load })} />
      <label className="contact">
        <Switch checked={inputs.earth_bad} onChange={earth_bad => set({ earth_bad })} aria-label="Damp windings" />
        damp windings: amps leak to the frame
      </label>
    </section>
  );
}

function Sliding({
  label,
  of,
  value,
  most,
  set,
}: {
  label: string;
  of: string;
  value: number;
  most: number;
  set: (value: number) => void;
}) {
  return (
    <div className="sliding">
      <span>
        {of && <b className="figures">{of} </b>}
        {label} <b className="figures">{whole(100 * value)} %</b>
        {most > 1 && <span className="soft"> of its rated torque</span>}
      </span>
      <Slider
        key={value}
        ariaLabelForHandle={label}
        min={0}
        max={most}
        step={0.05}
        defaultValue={value}
        tooltip={{ open: false }}
        onChangeComplete={set}
      />
    </div>
  );
}

/** What meters tell, and the last half minute of it. */
function Meters({ drive, strip }: { drive: Drive; strip: Look[] }) {
  const meter = (title: string, value: string, unit: string, hot = false) => (
    <div className={hot ? 'meter hot' : 'meter'}>
      <span className="soft">{title}</span>
      <b className="figures">
        {value} <span className="unit">{unit}</span>
      </b>
    </div>
  );
  const from = (strip.at(-1)?.at ?? 0) - 30;
  const lines = [
    { title: 'Bus, V', stroke: tokens.ink, of: (l: Look) => l.bus, right: true },
    { title: 'Hz', stroke: tokens.lineA, of: (l: Look) => l.hertz },
    { title: 'A', stroke: tokens.lineB, dash: '9 5', of: (l: Look) => l.amps },
  ];
  const most = Math.max(60, ...strip.flatMap(l => [l.hertz, l.amps]));
  return (
    <section className="panel meters-bench">
      <header>
        <h2>Meters</h2>
        <Keys lines={lines} />
      </header>
      <div className="meters">
        {meter('Shaft', whole(drive.rpm), 'rpm')}
        {meter('Output', number(Number(Math.abs(drive.hertz).toFixed(1))), 'Hz')}
        {meter('Motor', number(Number(drive.amps.toFixed(1))), 'A')}
        {meter('Motor', whole(drive.volts), 'V')}
        {meter('Bus', whole(drive.bus), 'V', drive.near.includes('bus'))}
        {meter('Bus ripple', whole(drive.ripple), 'V')}
        {meter('Line', number(Number(drive.input_amps.toFixed(1))), 'A')}
        {meter('Heat sink', whole(drive.sink_celsius), '°C', drive.near.includes('sink'))}
        {meter('Overload', whole(drive.overload_percent), '%', drive.near.includes('overload'))}
      </div>
      <Chart
        name="bench-strip"
        keys={false}
        below="seconds, now at the right"
        label="Frequency, amps and bus volts over the last half minute"
        x={{ most: 30, step: 10 }}
        y={scale(most)}
        right={scale(420)}
        lines={lines.map(l => ({ ...l, points: strip.map(s => [s.at - from, l.of(s)] as [number, number]) }))}
      />
    </section>
  );
}

/** What it has tripped on, and what the fault that stands means. */
function Log({ drive }: { drive: Drive }) {
  const last = drive.log[0];
  return (
    <section className="panel trips-bench">
      <header>
        <h2>Faults it keeps</h2>
        <span className="soft">{drive.log.length === 0 && 'none since it was set up'}</span>
      </header>
      {drive.means && (
        <p className="trip-means">
          <Sign severity="stop" size={16} /> <b>{drive.means.title}.</b> {drive.means.means} {drive.means.look}
        </p>
      )}
      {last && (
        <table className="facts">
          <thead>
            <tr>
              <th scope="col">Shown</th>
              <th scope="col">Fault</th>
              <th scope="col">At</th>
              <th scope="col">Hz</th>
              <th scope="col">A</th>
              <th scope="col">Bus</th>
            </tr>
          </thead>
          <tbody>
            {drive.log.map((t: Schemas['InverterTrip']) => (
              <tr key={t.seconds}>
                <td className="figures">{drive.faults[t.fault] ?? t.fault}</td>
                <td>{drive.titles[t.fault] ?? t.fault}</td>
                <td className="figures">{whole(t.seconds)} s</td>
                <td className="figures">{number(Number(t.hertz.toFixed(1)))}</td>
                <td className="figures">{number(Number(t.amps.toFixed(1)))}</td>
                <td className="figures">{whole(t.bus_volts)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
