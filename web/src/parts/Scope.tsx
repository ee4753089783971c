import { replaceEqualDeep } from '@tanstack/react-query';
import { Button, Segmented } from 'antd';
import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import uPlot from 'uplot';
import 'uplot/dist/uPlot.min.css';
import type { Schemas } from '../api/client';
import { useTorch } from '../theme/display';
import { asItIs, legs, tokens } from '../theme/theme';
import { number } from './number';
import './scope.css';

type Traces = Pick<Schemas['ScopeView'], 't_s' | 'channels'>;
type View = Omit<Schemas['ScopeView'], keyof Traces>;
interface Channel {
  name: string;
  title: string;
  unit: string;
  stroke: string;
  dash?: number[];
  scale: string;
}

const dashOf = (dash: string | undefined) => dash?.split(' ').map(Number);
const setsOf = (lines: Schemas['LineNames']): Record<string, Channel[]> => ({
  Volts: [
    { name: 'ab', title: lines.ab, unit: 'V', stroke: tokens.ink, scale: 'V' },
    { name: 'bc', title: lines.bc, unit: 'V', stroke: legs.b.colour, dash: dashOf(legs.b.dash), scale: 'V' },
    { name: 'ca', title: lines.ca, unit: 'V', stroke: legs.c.colour, dash: dashOf(legs.c.dash), scale: 'V' },
  ],
  Amps: (['a', 'b', 'c'] as const).map(leg => ({
    name: leg,
    title: lines[leg],
    unit: 'A',
    stroke: legs[leg].colour,
    dash: dashOf(legs[leg].dash),
    scale: 'A',
  })),
  'Speed and torque': [
    { name: 'rpm', title: 'speed', unit: 'rpm', stroke: tokens.enamel, scale: 'rpm' },
    { name: 'torque', title: 'torque', unit: 'N·m', stroke: tokens.brass, dash: [8, 4], scale: 'N·m' },
  ],
});

/** How much more than what is seen is asked for on either side, and on that to which a pan goes, in its widths. */
const beyond = 1;
const ahead = 3;
/** How long a hand rests, in ms, before what it sees is drawn strongly, and asked for anew where it is coarse. */
const rest = 150;
/** How wide a trace is drawn, in px, and while a hand moves it: one of a pixel is drawn faster. */
const strong = 1.6;
const thin = 1;
/** Seconds that hold any trace whole. */
const whole: [number, number] = [0, 100];
const nothing = Object.freeze({ from: 0, to: 0, span: 0 });

/**
 * Traces of the three legs through time, thinned by the server to what is seen. Drag to
 * look closer; a click or Space sets a second cursor to measure from.
 */
export default function Scope({
  ask,
  stamp,
  lines,
}: {
  ask: (from: number, to: number, buckets: number, channels: string[]) => Promise<View & Traces>;
  stamp: string;
  lines: Schemas['LineNames'];
}) {
  const place = useRef<HTMLDivElement>(null);
  const plot = useRef<uPlot | null>(null);
  const seen = useRef<[number, number]>([0, 1]);
  const pin = useRef<number | null>(null);
  const traces = useRef<Traces>({ t_s: [], channels: {} });
  const marks = useRef<View['marks']>([]);
  const wanted = useRef(0);
  const resting = useRef(0);
  const asked = useRef<{ from: number; to: number; span: number }>(nothing);
  const [kind, setKind] = useState('Volts');
  const wish = useRef(kind);
  const [view, setView] = useState<View | null>(null);
  const [fault, setFault] = useState('');
  const [reading, setReading] = useState<{ t: number; values: (number | null)[]; from: number | null } | null>(null);
  const sets = useMemo(() => setsOf(lines), [lines]);
  const channels = sets[kind]!;

  /** Asks for what is seen and more; `way` is where a pan goes: below 0 earlier, above it later. */
  const fetch = async (from: number, to: number, way = 0) => {
    const turn = ++wanted.current;
    const as = wish.current;
    const span = to - from;
    const least = Math.max(0, from - span * (way < 0 ? ahead : beyond));
    const most = to + span * (way > 0 ? ahead : beyond);
    asked.current = { from: least, to: most, span };
    const width = place.current?.clientWidth ?? 800;
    try {
      const next = await ask(
        least,
        most,
        Math.min(4000, Math.ceil((width * (most - least)) / span / 2)),
        sets[as]!.map(c => c.name),
      );
      if (turn !== wanted.current) return;
      const { t_s, channels, ...facts } = next;
      if (seen.current[1] === 0) seen.current = [0, next.end_s];
      asked.current.span = Math.min(span, next.end_s);
      traces.current = { t_s, channels };
      marks.current = next.marks;
      setFault('');
      setView(was => replaceEqualDeep(was, facts)); // what stays the same is not drawn anew
      setKind(as);
      fill.current(as);
    } catch (e) {
      if (turn !== wanted.current) return;
      asked.current = nothing;
      setFault(e instanceof Error ? e.message : String(e));
    }
  };
  const look = (from: number, to: number) => {
    if (!view || seen.current[1] === 0) return; // nothing is there yet
    const end = view.end_s;
    const span = Math.min(Math.max(to - from, 1e-4), end);
    const begin = Math.min(Math.max(from, 0), end - span);
    const way = Math.abs(span - (seen.current[1] - seen.current[0])) > 1e-6 * span ? 0 : begin - seen.current[0];
    seen.current = [begin, begin + span];
    draw(thin);
    plot.current?.setScale('x', { min: begin, max: begin + span });
    // What is there, or comes, and reaches half a width further need not be asked for at once.
    const { from: least, to: most, span: fine } = asked.current;
    const reaches = (least <= 0 || begin - span / 2 >= least) && (most >= end || begin + (3 * span) / 2 <= most);
    const now = !reaches || span < fine / 3;
    if (now) void fetch(begin, begin + span, way);
    clearTimeout(resting.current);
    resting.current = window.setTimeout(() => {
      draw(strong);
      plot.current?.redraw(false);
      if (!now && span < 0.9 * fine) void fetch(begin, begin + span);
    }, rest);
  };
  const draw = (width: number) => plot.current?.series.slice(1).forEach(s => (s.width = width));
  const lookRef = useRef(look);
  useEffect(() => {
    lookRef.current = look;
  });

  const torch = useTorch();
  useEffect(() => {
    plot.current?.redraw();
  }, [torch]);

  // The whole trace first, and anew when what it rests on changes.
  useEffect(() => {
    seen.current = [0, 0];
    pin.current = null;
    asked.current = nothing;
    setReading(null);
    void fetch(...whole);
    return () => clearTimeout(resting.current);
    // fetch is made anew each time but asks the same.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [stamp]);

  const data = () => [traces.current.t_s, ...channels.map(c => traces.current.channels[c.name]!)] as uPlot.AlignedData;
  const fill = useRef<(as: string) => void>(() => {});
  useEffect(() => {
    fill.current = as => {
      if (as !== kind) return; // another picture is made of it
      plot.current?.setData(data(), false);
      plot.current?.setScale('x', { min: seen.current[0], max: seen.current[1] });
    };
  });

  useEffect(() => {
    if (!view || !place.current) return;
    const [t_s, ...values] = data(); // what was read off other traces is read off these
    setReading(was => {
      const at = was ? t_s.findIndex(t => t >= was.t) : -1;
      return was && at >= 0 ? { ...was, values: values.map(s => s[at] ?? null) } : null;
    });
    const element = place.current;
    const u = new uPlot(
      {
        width: element.clientWidth,
        height: 232,
        legend: { show: false },
        cursor: { drag: { x: true, y: false, setScale: false }, points: { show: true } },
        scales: { x: { time: false, min: seen.current[0], max: seen.current[1] } },
        axes: [
          {
            stroke: () => asItIs(tokens.soft),
            grid: { stroke: () => asItIs(tokens.rule) },
            font: '13px Barlow',
            values: (_, ticks) => ticks.map(t => `${number(t)} s`),
          },
          ...[...new Set(channels.map(c => c.scale))].map(
            (name, i) =>
              ({
                scale: name,
                side: i === 0 ? 3 : 1,
                stroke: () => asItIs(tokens.soft),
                grid: { show: i === 0, stroke: () => asItIs(tokens.rule) },
                font: '13px Barlow',
                size: 62,
                values: (_: uPlot, ticks: number[]) => ticks.map(t => number(t)),
                label: name,
                labelFont: '13px Barlow',
                labelSize: 18,
              }) as uPlot.Axis,
          ),
        ],
        series: [
          {},
          ...channels.map(c => ({
            label: c.title,
            stroke: () => asItIs(c.stroke),
            width: strong,
            dash: c.dash,
            scale: c.scale,
            points: { show: false },
          })),
        ],
        hooks: {
          setSelect: [
            self => {
              const { left, width } = self.select;
              if (width > 3) lookRef.current(self.posToVal(left, 'x'), self.posToVal(left + width, 'x'));
              self.setSelect({ left: 0, top: 0, width: 0, height: 0 }, false);
            },
          ],
          setCursor: [
            self => {
              const { idx } = self.cursor;
              if (idx == null) return;
              setReading({
                t: self.data[0][idx]!,
                values: self.data.slice(1).map(s => (s as (number | null)[])[idx] ?? null),
                from: pin.current,
              });
            },
          ],
          draw: [
            self => {
              element.dataset.seen = `${self.scales.x!.min} ${self.scales.x!.max}`;
              const c = self.ctx;
              const ratio = self.width > 0 ? self.bbox.width / (self.over.clientWidth || 1) : 1;
              const upright = (at: number, colour: string, title: string, row = 0) => {
                const top = self.bbox.top + row * 18 * ratio;
                const x = self.valToPos(at, 'x', true);
                if (x < self.bbox.left || x > self.bbox.left + self.bbox.width) return;
                c.save();
                c.strokeStyle = asItIs(colour);
                c.setLineDash([3 * ratio, 4 * ratio]);
                c.beginPath();
                c.moveTo(x, self.bbox.top);
                c.lineTo(x, self.bbox.top + self.bbox.height);
                c.stroke();
                c.font = `500 ${13 * ratio}px Barlow`;
                c.textAlign = 'left';
                const wide = c.measureText(title).width;
                c.fillStyle = asItIs(tokens.card);
                c.fillRect(x + 2 * ratio, top, wide + 6 * ratio, 17 * ratio);
                c.fillStyle = asItIs(colour);
                c.fillText(title, x + 5 * ratio, top + 13 * ratio);
                c.restore();
              };
              marks.current.forEach((m, i) => upright(m.t_s, tokens.ink, m.title, i));
              if (pin.current !== null) upright(pin.current, tokens.stop, 'from here', marks.current.length);
            },
          ],
        },
      },
      data(),
      element,
    );
    const size = new ResizeObserver(() => u.setSize({ width: element.clientWidth, height: 232 }));
    size.observe(element);
    plot.current = u;
    return () => {
      size.disconnect();
      u.destroy();
      plot.current = null;
    };
    // A change of the picture's lines makes it anew, new samples only fill it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [kind, view === null]);

  const choose = (next: string) => {
    wish.current = next;
    void fetch(...(seen.current[1] > 0 ? seen.current : whole));
  };
  const hold = () => {
    if (reading) pin.current = pin.current === reading.t ? null : reading.t;
    if (reading) setReading({ ...reading, from: pin.current });
    plot.current?.redraw(false);
  };
  const move = (by: number) =>
    look(
      seen.current[0] + by * (seen.current[1] - seen.current[0]),
      seen.current[1] + by * (seen.current[1] - seen.current[0]),
    );
  const zoom = (by: number) => {
    const [from, to] = seen.current;
    const middle = reading && reading.t > from && reading.t < to ? reading.t : (from + to) / 2;
    look(middle - (middle - from) * by, middle + (to - middle) * by);
  };
  const step = (by: number) => {
    const u = plot.current;
    if (!u) return;
    const at = u.valToIdx(reading?.t ?? (seen.current[0] + seen.current[1]) / 2) + by;
    const t = u.data[0][Math.min(Math.max(at, 0), u.data[0].length - 1)]!;
    u.setCursor({ left: u.valToPos(t, 'x'), top: 20 });
  };
  const keys: Record<string, () => void> = {
    ArrowLeft: () => move(-0.25),
    ArrowRight: () => move(0.25),
    '+': () => zoom(0.5),
    '=': () => zoom(0.5),
    '-': () => zoom(2),
    Home: () => look(0, view?.end_s ?? 1),
    ' ': hold,
    ',': () => step(-1),
    '.': () => step(1),
  };
  const pressed = (e: KeyboardEvent) => {
    const act = keys[e.key];
    if (!act || e.target !== e.currentTarget) return;
    e.preventDefault();
    act();
  };
  return (
    <div className="scope">
      <header>
        <Segmented size="small" value={kind} onChange={choose} options={Object.keys(sets)} aria-label="Traces" />
        <span className="scope-buttons">
          <Button aria-label="Earlier" onClick={() => move(-0.5)}>
            ◂
          </Button>
          <Button aria-label="Later" onClick={() => move(0.5)}>
            ▸
          </Button>
          <Button aria-label="Closer" onClick={() => zoom(0.4)}>
            +
          </Button>
          <Button aria-label="Wider" onClick={() => zoom(2.5)}>
            −
          </Button>
          <Button onClick={() => look(0, view?.end_s ?? 1)}>All</Button>
          <Button onClick={hold} disabled={!reading}>
            {reading && reading.from !== null && reading.from === reading.t ? 'Drop mark' : 'Measure from here'}
          </Button>
        </span>
        <p className="scope-reading figures" aria-live="off">
          {reading ? (
            <>
              <span>{number(reading.t * 1000)} ms</span>
              {channels.map((c, i) => (
                <span key={c.name} style={{ color: c.stroke }}>
                  {c.title} {reading.values[i] == null ? '–' : number(reading.values[i]!)} {c.unit}
                </span>
              ))}
              {reading.from !== null && reading.from !== reading.t && (
                <span>
                  Δ {number((reading.t - reading.from) * 1000)} ms, {number(1 / Math.abs(reading.t - reading.from))} Hz
                </span>
              )}
            </>
          ) : (
            <span className="soft">
              {channels.map(c => c.title).join(', ')}: point at it to read; drag to look closer
            </span>
          )}
        </p>
        {view && (
          <p className="scope-peaks soft">
            Peaks: {number(view.inrush_amps)} A, {number(view.peak_torque_nm)} N·m
            {Object.entries(view.capacitor_peak_volts)
              .map(([id, volts]) => `, ${id} capacitor ${number(volts)} V`)
              .join('')}
            {view.start_keeps_volts > 0 &&
              `; the start capacitor keeps ${number(view.start_keeps_volts)} V until it is bled`}
            .
          </p>
        )}
      </header>
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      {!view && !fault && <p className="soft">Stepping it through time…</p>}
      <div
        ref={place}
        className="scope-place"
        tabIndex={0}
        role="application"
        onKeyDown={pressed}
        data-picture="scope"
        data-samples={view?.samples}
        aria-label={
          `Scope: ${kind}. Arrow keys move, plus and minus look closer or wider, Home shows all, ` +
          'comma and point move the cursor, Space measures from it.'
        }
        onClick={hold}
      />
    </div>
  );
}
