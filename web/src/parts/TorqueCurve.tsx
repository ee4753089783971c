import { tokens } from '../theme/theme';
import type { Schemas } from '../api/client';
import { whole } from './number';

type Live = Schemas['CapacitorLive'];

const box = { left: 44, right: 20, top: 8, bottom: 34, width: 340, height: 206 };

/** Torque against speed: with the run capacitor, with the start capacitor too, and the load. */
export function TorqueCurve({ live, synchronous }: { live: Live; synchronous: number }) {
  const most = Math.max(150, ...live.curve.map((p) => Math.max(p.run, p.start, p.load)));
  const step = most > 260 ? 100 : 50;
  const top = Math.ceil(most / step) * step;
  const x = (rpm: number) => box.left + ((box.width - box.left - box.right) * rpm) / synchronous;
  const y = (percent: number) => box.top + (box.height - box.top - box.bottom) * (1 - Math.max(percent, 0) / top);
  const path = (of: (p: Live['curve'][number]) => number) => live.curve.map((p, i) => `${i ? 'L' : 'M'}${x(p.rpm).toFixed(1)},${y(of(p)).toFixed(1)}`).join('');
  const marks = [];
  for (let v = 0; v <= top; v += step) marks.push(v);
  const speeds = [0, 0.25, 0.5, 0.75, 1].map((s) => s * synchronous);
  const text = { fontSize: 13, fill: tokens.soft };
  const keys = [
    ...(live.start_microfarad > 0 ? [{ stroke: tokens.enamel, dash: undefined, title: 'run + start' }] : []),
    { stroke: tokens.brass, dash: undefined, title: 'run' },
    { stroke: tokens.ink, dash: '6 4', title: 'load' },
  ];
  return (
    <svg viewBox={`0 0 ${box.width} ${box.height}`} width="100%" role="img" data-picture="torque"
      aria-label={`Torque against speed: at standstill ${whole(live.curve[0]?.start ?? 0)} percent of rated, load ${whole(live.curve[0]?.load ?? 0)} percent`}>
      {marks.map((v) => (
        <g key={v}>
          <path d={`M${box.left},${y(v)}H${box.width - box.right}`} stroke={tokens.rule} />
          <text x={box.left - 6} y={y(v) + 4} textAnchor="end" {...text} className="figures">{v}</text>
        </g>
      ))}
      {speeds.map((v) => (
        <text key={v} x={x(v)} y={box.height - 18} textAnchor="middle" {...text} className="figures">{whole(v)}</text>
      ))}
      <text x={(box.left + box.width) / 2} y={box.height - 3} textAnchor="middle" {...text}>rpm</text>
      {live.cut_out_rpm > 0 && (
        <g>
          <path d={`M${x(live.cut_out_rpm)},${box.top}V${y(0)}`} stroke={tokens.ink} strokeDasharray="2 4" />
          <text x={x(live.cut_out_rpm) - 4} y={box.top + 11} textAnchor="end" fontSize={13} fill={tokens.ink}>start out</text>
        </g>
      )}
      <path d={path((p) => p.load)} fill="none" stroke={tokens.ink} strokeWidth={2} strokeDasharray="6 4" />
      {live.start_microfarad > 0 && <path d={path((p) => p.start)} fill="none" stroke={tokens.enamel} strokeWidth={2.4} />}
      <path d={path((p) => p.run)} fill="none" stroke={tokens.brass} strokeWidth={2.8} />
      {keys.map(({ stroke, dash, title }, i) => (
        <g key={title} transform={`translate(${box.left + 8} ${box.top + 13 + 16 * i})`}>
          <path d="M0,-4H24" stroke={stroke} strokeWidth={3} strokeDasharray={dash} />
          <text x={30} fontSize={13} fill={tokens.ink}>{title}</text>
        </g>
      ))}
    </svg>
  );
}
