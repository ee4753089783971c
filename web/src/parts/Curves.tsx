import { tokens } from '../theme/theme';
import type { Schemas } from '../api/client';
import { Chart, scale, type Line } from './Chart';
import { whole } from './number';

type Live = Schemas['CapacitorLive'];

/** Torque against speed: with the run capacitor, with the start capacitor too, and the load. */
export function TorqueCurve({ live, synchronous }: { live: Live; synchronous: number }) {
  const most = Math.max(150, ...live.curve.map(p => Math.max(p.run, p.start, p.load)));
  const of = (value: (p: Live['curve'][number]) => number): Line['points'] => live.curve.map(p => [p.rpm, value(p)]);
  const lines: Line[] = [
    ...(live.start_microfarad > 0
      ? [{ title: 'run + start', points: of(p => p.start), stroke: tokens.enamel, width: 2.4 }]
      : []),
    { title: 'run', points: of(p => p.run), stroke: tokens.brass, width: 2.8 },
    { title: 'load', points: of(p => p.load), stroke: tokens.ink, dash: '6 4', width: 2 },
  ];
  return (
    <Chart
      name="torque"
      lines={lines}
      x={{ most: synchronous, step: synchronous / 4 }}
      y={{ most: Math.ceil(most / 50) * 50, step: most > 260 ? 100 : 50 }}
      below="rpm"
      marks={live.cut_out_rpm > 0 ? [{ at: live.cut_out_rpm, title: 'start out' }] : []}
      label={
        `Torque against speed: at standstill ${whole(live.curve[0]?.start ?? 0)} percent of rated, ` +
        `load ${whole(live.curve[0]?.load ?? 0)} percent`
      }
    />
  );
}

export const runUpKeys = [
  { title: 'rpm', stroke: tokens.enamel },
  { title: 'hottest winding', stroke: tokens.brass, dash: '8 4' },
] as const;

/** A start through time: speed, and the hottest winding's amps. */
export function RunUpCurve({ live, synchronous }: { live: Live; synchronous: number }) {
  const { points, cut_out_seconds: out, seconds } = live.run_up;
  const end = points.at(-1)?.t_s ?? 1;
  const amps = Math.max(100, ...points.map(p => p.hottest_percent));
  return (
    <Chart
      name="run-up"
      lines={[
        { ...runUpKeys[0], points: points.map(p => [p.t_s, p.rpm]) },
        { ...runUpKeys[1], points: points.map(p => [p.t_s, p.hottest_percent]), right: true },
      ]}
      x={{ ...scale(end), most: Math.max(end, 1e-3) }}
      y={{ most: synchronous, step: synchronous / 4, title: 'rpm' }}
      right={scale(amps, undefined, '%')}
      below="seconds"
      keys={false}
      marks={out != null ? [{ at: out, title: 'start out' }] : []}
      label={seconds != null ? `It comes up in ${seconds.toFixed(2)} seconds` : 'It does not come up'}
    />
  );
}

export const sessionKeys = [
  { title: 'hottest winding', stroke: tokens.brass },
  { title: 'frame', stroke: tokens.soft, dash: '6 4' },
] as const;

/** Temperatures over a session: the hottest winding against its class, and what the frame shows. */
export function SessionCurve({ session }: { session: Schemas['CapacitorHeat'] }) {
  const hottest = session.session.map((s): [number, number] => [s.minutes, Math.max(...s.windings_c)]);
  const limit = session.thermal.limit_c;
  const end = hottest.at(-1)?.[0] ?? 60;
  return (
    <Chart
      name="session"
      lines={[
        { ...sessionKeys[0], points: hottest },
        { ...sessionKeys[1], points: session.session.map(s => [s.minutes, s.frame_c]) },
      ]}
      x={{ most: end, step: end / 4 }}
      y={{
        ...scale(Math.min(Math.max(limit, ...hottest.map(p => p[1])), 2.5 * limit), limit, '°C'),
        limitTitle: `class ${session.thermal.class}`,
      }}
      below="minutes"
      keys={false}
      label={
        `Hottest winding ${whole(session.hottest_c)} °C, frame ${whole(session.frame_c)} °C, ` +
        `class ${session.thermal.class} bears ${whole(limit)} °C`
      }
    />
  );
}

export const rippleKeys = [
  { title: 'bus volts', stroke: tokens.enamel },
  { title: 'line amps', stroke: tokens.brass, dash: '8 4' },
] as const;

/**
 * One cycle of a drive's front end: the bus with its ripple, and the amps of the line, half of which flow the other
 * way.
 */
export function RippleCurve({ front }: { front: Schemas['RectifierResult'] }) {
  const { series } = front;
  if (!series) return null;
  const begin = series.t_s[0] ?? 0;
  const cycle = ((series.t_s.at(-1) ?? 1) - begin) * 1000;
  const of = (values: number[]): Line['points'] => values.map((v, i) => [(series.t_s[i]! - begin) * 1000, Math.abs(v)]);
  return (
    <Chart
      name="ripple"
      keys={false}
      lines={[
        { ...rippleKeys[0], points: of(series.bus_volts) },
        { ...rippleKeys[1], points: of(series.input_amps), right: true },
      ]}
      x={{ ...scale(cycle), most: cycle }}
      y={scale(Math.max(...series.bus_volts), undefined, 'V')}
      right={scale(front.input_peak_amps, undefined, 'A')}
      below="ms"
      label={
        `Bus ${whole(front.bus_mean_volts)} volts with ${whole(front.ripple_pp_volts)} volts of ripple; ` +
        `line amps up to ${whole(front.input_peak_amps)}`
      }
    />
  );
}

export const speedKeys = [
  { title: 'for good', stroke: tokens.brass },
  { title: 'breakdown', stroke: tokens.ink, dash: '6 4' },
] as const;

/** Torque across the frequencies of a drive: what the motor may give for good, and the most it can. */
export function SpeedCurve({ drive }: { drive: Schemas['DriveAnswer'] }) {
  const top = drive.speed.at(-1)?.hertz ?? 100;
  return (
    <Chart
      name="speed"
      keys={false}
      lines={[
        { ...speedKeys[0], points: drive.speed.map(p => [p.hertz, p.torque_nm]) },
        { ...speedKeys[1], points: drive.speed.map(p => [p.hertz, p.breakdown_nm]) },
      ]}
      x={{ most: top, step: top / 4 }}
      y={scale(1.15 * Math.max(...drive.speed.map(p => p.breakdown_nm)), undefined, 'N·m')}
      below="Hz"
      marks={[{ at: drive.base_hertz, title: 'base point' }].filter(m => m.at < top)}
      label={`Torque across speed: base point at ${whole(drive.base_hertz)} hertz`}
    />
  );
}

const stepDashes = [undefined, '8 4', '2 4', '10 4 2 4', '4 2', '14 5'];

/**
 * Torque for good at the spindle over its rpm, doubling from mark to mark, a line for each step, with the cut that is
 * wanted: its cooling and its limit are in the lines.
 */
export function SpindleCurve({ spindle }: { spindle: Schemas['StudySpindle'] }) {
  const points = spindle.rows.flatMap(r => r.points);
  const least = Math.floor(Math.log2(Math.min(...points.map(p => p.rpm))));
  const most = Math.ceil(Math.log2(Math.max(...points.map(p => p.rpm))));
  const { cut } = spindle;
  return (
    <Chart
      name="spindle"
      lines={spindle.rows.map((r, i) => ({
        title: r.title,
        points: r.points.map((p): [number, number] => [Math.log2(p.rpm), p.torque_nm]),
        stroke: i % 2 ? tokens.ink : tokens.brass,
        dash: stepDashes[i % stepDashes.length],
      }))}
      keys={false}
      x={{ from: least, most, step: Math.max(1, Math.ceil((most - least) / 6)), show: v => whole(2 ** v) }}
      y={scale(1.15 * Math.max(...points.map(p => p.torque_nm)), undefined, 'N·m')}
      below="spindle rpm"
      marks={cut && cut.reached ? [{ at: Math.log2(cut.got_rpm), title: 'the cut' }] : []}
      label={
        `Torque at the spindle for good, for ${spindle.rows.length} steps` +
        (cut ? `; the cut at ${whole(cut.got_rpm)} rpm has ${whole(cut.torque_nm)} newton metres` : '')
      }
    >
      {at =>
        spindle.rows.map(r => {
          const middle = r.points[Math.floor(r.points.length / 2)];
          if (!middle) return null;
          const [px, py] = at(Math.log2(middle.rpm), middle.torque_nm);
          return (
            <text
              key={r.title}
              x={px}
              y={py - 8}
              textAnchor="middle"
              fontSize={13}
              fill={tokens.ink}
              paintOrder="stroke"
              stroke={tokens.card}
              strokeWidth={4}
            >
              {r.title}
            </text>
          );
        })
      }
    </Chart>
  );
}

/** The hottest winding, in percent of plate amps, against the load on the shaft. */
export function HeatCurve({ live }: { live: Live }) {
  const values = live.heat.map(p => p.percent).filter((p): p is number => p !== null);
  const top = Math.min(Math.max(150, Math.ceil(Math.max(0, ...values) / 50) * 50), 300);
  return (
    <Chart
      name="heat"
      keys={false}
      lines={[
        {
          title: 'hottest winding',
          points: live.heat.map(p => (p.percent === null ? null : [p.load_share * 100, p.percent])),
          stroke: tokens.brass,
          width: 3,
        },
      ]}
      x={{ most: 100, step: 25 }}
      y={{ most: top, step: 50, limit: 100 }}
      below="load, % of plate output"
      label="Hottest winding against load"
    >
      {at => {
        if (live.load.motor !== 'running') return null;
        const [x, y] = at(live.load_share * 100, live.load.hottest_percent);
        const [, foot] = at(0, 0);
        return (
          <g>
            <path d={`M${x},${foot}V${y}`} stroke={tokens.brass} strokeDasharray="2 3" />
            <circle
              cx={x}
              cy={y}
              r={6}
              fill={live.load.over ? tokens.stop : tokens.brass}
              stroke="#fff"
              strokeWidth={2}
            />
          </g>
        );
      }}
    </Chart>
  );
}
