import { InputNumber, Select, Slider, Switch } from 'antd';
import { useEffect, useRef } from 'react';
import type { Schemas } from '../api/client';
import { asItIs, legs, tokens } from '../theme/theme';
import { number } from '../parts/number';

export interface Channel {
  signal: string;
  times: number; // 1 or 10, of its probe
}

export interface Trigger {
  channel: number;
  rise: boolean;
  level: number;
}

const strokes = [
  { colour: legs.a.colour, dash: [] },
  { colour: legs.b.colour, dash: [9, 5] },
  { colour: legs.c.colour, dash: [2, 4, 9, 4] },
  { colour: tokens.ink, dash: [1, 3] },
];

/** What is drawn. */
interface Drawn {
  traces: Schemas['BenchTrace'][];
  perCycle: number;
  channels: Channel[];
  cursors: [number, number];
  trigger: Trigger;
}

/** How many cycles are seen. */
const cycles = 3;

/** A scope of four channels: each with its probe, steady by the first one's rise through nothing, and two cursors. */
export function RigScope({
  traces,
  perCycle,
  channels,
  signals,
  named,
  hertz,
  cursors,
  trigger,
  change,
  move,
  set,
}: {
  traces: Schemas['BenchTrace'][];
  /** How many samples a cycle has. */
  perCycle: number;
  channels: Channel[];
  signals: string[];
  named: (signal: string) => string;
  hertz: number;
  cursors: [number, number];
  /** Which channel it is steady by, and whether by its rise. */
  trigger: Trigger;
  change: (channels: Channel[]) => void;
  move: (cursors: [number, number]) => void;
  set: (trigger: Trigger) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const latest = useRef({ traces, perCycle, channels, cursors, trigger });
  useEffect(() => {
    latest.current = { traces, perCycle, channels, cursors, trigger };
  });
  useEffect(() => {
    let frame = 0;
    const draw = () => {
      if (canvas.current) paint(canvas.current, latest.current);
      frame = requestAnimationFrame(draw);
    };
    frame = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(frame);
  }, []);
  const from = begin({ traces, perCycle, channels, trigger });
  const value = (c: Channel, cursor: number) => {
    const t = traces.find(x => x.signal === c.signal);
    return (t?.values?.[from + Math.round(cursor * cycles * perCycle)] ?? 0) / c.times;
  };
  const ms = (1000 * cycles * Math.abs(cursors[1] - cursors[0])) / hertz;
  return (
    <section className="panel rig-scope" aria-label="Scope">
      <canvas ref={canvas} role="img" aria-label="Traces of the scope" />
      <div className="scope-channels">
        {channels.map((c, i) => (
          <div key={i} className="scope-channel">
            <svg width={26} height={10} aria-hidden="true">
              <path
                d="M0,5H26"
                stroke={strokes[i]!.colour}
                strokeWidth={3}
                strokeDasharray={strokes[i]!.dash.join(' ') || undefined}
              />
            </svg>
            <Select
              aria-label={`Channel ${i + 1}`}
              value={c.signal}
              popupMatchSelectWidth={false}
              options={[{ value: '', label: 'off' }, ...signals.map(s => ({ value: s, label: named(s) }))]}
              onChange={signal => change(channels.map((x, k) => (k === i ? { ...x, signal } : x)))}
            />
            <label>
              <Switch
                size="small"
                checked={c.times === 10}
                aria-label={`Probe of channel ${i + 1} on ×10`}
                onChange={on => change(channels.map((x, k) => (k === i ? { ...x, times: on ? 10 : 1 } : x)))}
              />{' '}
              ×10
            </label>
            {c.signal && (
              <span className="figures">
                {number(Math.round(value(c, cursors[0])))} · {number(Math.round(value(c, cursors[1])))}
              </span>
            )}
          </div>
        ))}
      </div>
      <div className="scope-trigger">
        steady by{' '}
        <Select
          aria-label="Trigger"
          value={trigger.channel}
          popupMatchSelectWidth={false}
          options={channels.map((_, i) => ({ value: i, label: `channel ${i + 1}` }))}
          onChange={channel => set({ ...trigger, channel })}
        />
        <Select
          aria-label="Edge"
          value={trigger.rise ? 'rise' : 'fall'}
          popupMatchSelectWidth={false}
          options={[
            { value: 'rise', label: 'as it rises through' },
            { value: 'fall', label: 'as it falls through' },
          ]}
          onChange={edge => set({ ...trigger, rise: edge === 'rise' })}
        />
        <InputNumber
          aria-label="Level of the trigger"
          value={trigger.level}
          min={-500}
          max={500}
          step={10}
          onChange={level => set({ ...trigger, level: level ?? 0 })}
        />
      </div>
      <div className="scope-cursors">
        <span>
          Cursors <b className="figures">{number(Number(ms.toFixed(2)))} ms</b>
          {ms > 0.05 && (
            <>
              , <b className="figures">{number(Number((1000 / ms).toFixed(1)))} Hz</b>
            </>
          )}
        </span>
        <Slider
          range
          ariaLabelForHandle={['First cursor', 'Second cursor']}
          min={0}
          max={1}
          step={0.005}
          value={cursors}
          tooltip={{ open: false }}
          onChange={v => move(v as [number, number])}
        />
      </div>
    </section>
  );
}

/** Where a trace begins: where its channel last passed the level so, with room for what is seen behind it. */
function begin({ traces, perCycle, channels, trigger }: Omit<Drawn, 'cursors'>) {
  const { channel, rise, level } = trigger;
  const signal = channels[channel]?.signal;
  const values = (traces.find(t => t.signal === signal) ?? traces[0])?.values ?? [];
  const last = values.length - cycles * perCycle - 1;
  const way = rise ? 1 : -1;
  for (let k = last; k > 0; k--) if (way * (values[k - 1]! - level) < 0 && way * (values[k]! - level) >= 0) return k;
  return Math.max(0, last);
}

function paint(canvas: HTMLCanvasElement, { traces, perCycle, channels, cursors, trigger }: Drawn) {
  const ratio = window.devicePixelRatio || 1;
  const wide = canvas.clientWidth;
  const tall = canvas.clientHeight;
  if (canvas.width !== wide * ratio || canvas.height !== tall * ratio) {
    canvas.width = wide * ratio;
    canvas.height = tall * ratio;
  }
  const pen = canvas.getContext('2d');
  if (!pen) return;
  pen.setTransform(ratio, 0, 0, ratio, 0, 0);
  pen.clearRect(0, 0, wide, tall);
  pen.strokeStyle = asItIs(tokens.rule);
  pen.lineWidth = 1;
  pen.setLineDash([]);
  for (let k = 0; k <= 2 * cycles; k++) line(pen, (wide * k) / 2 / cycles, 0, (wide * k) / 2 / cycles, tall);
  for (let k = 0; k <= 4; k++) line(pen, 0, (tall * k) / 4, wide, (tall * k) / 4);
  const from = begin({ traces, perCycle, channels, trigger });
  channels.forEach((c, i) => {
    const values = traces.find(t => t.signal === c.signal)?.values;
    if (!values) return;
    const most = c.signal.startsWith('amps') ? 40 : 450;
    pen.strokeStyle = asItIs(strokes[i]!.colour);
    pen.setLineDash(strokes[i]!.dash);
    pen.lineWidth = 2;
    pen.beginPath();
    for (let k = 0; k <= cycles * perCycle; k++) {
      const x = (wide * k) / (cycles * perCycle);
      const y = (tall / 2) * (1 - (values[from + k] ?? 0) / c.times / most);
      if (k === 0) pen.moveTo(x, y);
      else pen.lineTo(x, y);
    }
    pen.stroke();
  });
  pen.setLineDash([3, 3]);
  pen.strokeStyle = asItIs(tokens.brass);
  pen.lineWidth = 1.5;
  for (const c of cursors) line(pen, wide * c, 0, wide * c, tall);
}

function line(pen: CanvasRenderingContext2D, x: number, y: number, toX: number, toY: number) {
  pen.beginPath();
  pen.moveTo(x, y);
  pen.lineTo(toX, toY);
  pen.stroke();
}
