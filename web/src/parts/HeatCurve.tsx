import { tokens } from '../theme/theme';
import type { Schemas } from '../api/client';

type Live = Schemas['CapacitorLive'];
const box = { left: 40, right: 16, top: 8, bottom: 34, width: 340, height: 206 };

/** The hottest winding, in percent of plate amps, against the load on the shaft. */
export function HeatCurve({ live }: { live: Live }) {
  const values = live.heat.map((p) => p.percent).filter((p): p is number => p !== null);
  const top = Math.min(Math.max(150, Math.ceil(Math.max(0, ...values) / 50) * 50), 300);
  const x = (share: number) => box.left + (box.width - box.left - box.right) * share;
  const y = (percent: number) => box.top + (box.height - box.top - box.bottom) * (1 - Math.min(percent, top) / top);
  let pen = false;
  const path = live.heat.map((p) => {
    if (p.percent === null) { pen = false; return ''; }
    const command = pen ? 'L' : 'M';
    pen = true;
    return `${command}${x(p.load_share).toFixed(1)},${y(p.percent).toFixed(1)}`;
  }).join('');
  const text = { fontSize: 13, fill: tokens.soft };
  return (
    <svg viewBox={`0 0 ${box.width} ${box.height}`} width="100%" role="img" data-picture="heat" aria-label="Hottest winding against load">
      {[0, 50, 100, 150, 200, 250, 300].filter((v) => v <= top).map((v) => (
        <g key={v}>
          <path d={`M${box.left},${y(v)}H${box.width - box.right}`} stroke={v === 100 ? tokens.stop : tokens.rule} strokeWidth={v === 100 ? 2 : 1} />
          <text x={box.left - 6} y={y(v) + 4} textAnchor="end" {...text} className="figures">{v}</text>
        </g>
      ))}
      {[0, 0.25, 0.5, 0.75, 1].map((v) => (
        <text key={v} x={x(v)} y={box.height - 18} textAnchor="middle" {...text} className="figures">{v * 100}</text>
      ))}
      <text x={(box.left + box.width) / 2} y={box.height - 3} textAnchor="middle" {...text}>load, % of plate output</text>
      <path d={path} fill="none" stroke={tokens.brass} strokeWidth={3} />
      {live.load.motor === 'running' && (
        <g>
          <path d={`M${x(live.load_share)},${y(0)}V${y(live.load.hottest_percent)}`} stroke={tokens.brass} strokeDasharray="2 3" />
          <circle cx={x(live.load_share)} cy={y(live.load.hottest_percent)} r={6} fill={live.load.over ? tokens.stop : tokens.brass} stroke="#fff" strokeWidth={2} />
        </g>
      )}
    </svg>
  );
}
