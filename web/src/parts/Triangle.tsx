import { legs, tokens } from '../theme/theme';
import type { Schemas } from '../api/client';
import { whole } from './number';

/** The triangle of line-to-line volts, b and a at its foot, c on top. */
export function Triangle({
  state,
  supply,
  lines,
}: {
  state: Pick<Schemas['FeedLegs'], 'volts' | 'degrees'>;
  supply: number;
  lines: Schemas['LineNames'];
}) {
  const width = 300;
  const height = 200;
  const scale = 160 / supply;
  const foot = { x: 70, y: 166 };
  const b = foot;
  const a = { x: foot.x + state.volts.ab * scale, y: foot.y };
  // v_ca runs from a to c; degrees are counted against the source a–b.
  const angle = (state.degrees.ca * Math.PI) / 180;
  const turn = (state.degrees.ab * Math.PI) / 180;
  const c = {
    x: a.x + state.volts.ca * scale * Math.cos(angle - turn),
    y: a.y - Math.abs(state.volts.ca * scale * Math.sin(angle - turn)),
  };
  const ideal = { x: (a.x + b.x) / 2, y: foot.y - (Math.sqrt(3) / 2) * (a.x - b.x) };
  // Beside the middle of a leg, but clear of the foot when c hangs low.
  const side = (foot: number) => Math.min((foot + c.y) / 2, foot - 26);
  const pill = (p: { x: number; y: number }, text: string) => {
    const wide = 14 + 8 * text.length;
    return { x: p.x - wide / 2, y: p.y - 11, width: wide };
  };
  const node = (name: 'a' | 'b' | 'c', p: { x: number; y: number }) => (
    <g>
      <rect {...pill(p, lines[name])} height={22} rx={11} fill={legs[name].colour} />
      <text x={p.x} y={p.y + 4.5} textAnchor="middle" fill={tokens.clear} fontSize={14} fontWeight={600}>
        {lines[name]}
      </text>
    </g>
  );
  const volts = (pair: 'ab' | 'bc' | 'ca') => `${whole(state.volts[pair])} V`;
  const said = (pair: 'ab' | 'bc' | 'ca') => `${lines[pair]} ${volts(pair)}`;
  const label = (x: number, y: number, anchor: 'start' | 'middle' | 'end', text: string) => (
    <text x={x} y={y} textAnchor={anchor} fontSize={15} className="figures" fontWeight={600} fill={tokens.ink}>
      {text}
    </text>
  );
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      role="img"
      data-picture="triangle"
      aria-label={`Leg volts: ${said('ab')}, ${said('bc')}, ${said('ca')}`}
    >
      <path
        d={`M${b.x},${b.y}L${a.x},${a.y}L${ideal.x},${ideal.y}Z`}
        fill="none"
        stroke={tokens.edge}
        strokeDasharray="3 4"
      />
      <path d={`M${b.x},${b.y}L${a.x},${a.y}L${c.x},${c.y}Z`} fill={tokens.brass} fillOpacity={0.1} />
      <path d={`M${b.x},${b.y}L${a.x},${a.y}`} stroke={tokens.ink} strokeWidth={3} />
      <path d={`M${b.x},${b.y}L${c.x},${c.y}`} stroke={legs.c.colour} strokeWidth={3} strokeDasharray={legs.c.dash} />
      <path d={`M${a.x},${a.y}L${c.x},${c.y}`} stroke={legs.c.colour} strokeWidth={3} strokeDasharray={legs.c.dash} />
      {node('a', a)}
      {node('b', b)}
      {node('c', c)}
      {label((b.x + a.x) / 2, b.y + 25, 'middle', volts('ab'))}
      {label(Math.min((b.x + c.x) / 2, ideal.x - 24) - 14, side(b.y), 'end', volts('bc'))}
      {label(Math.max((a.x + c.x) / 2, ideal.x + 24) + 14, side(a.y), 'start', volts('ca'))}
    </svg>
  );
}
