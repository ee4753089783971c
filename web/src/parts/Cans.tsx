import { memo } from 'react';
import { number } from './number';
import { tokens } from '../theme/theme';
import type { Schemas } from '../api/client';

/** The capacitor bank as cans standing side by side: run ones light, start ones dark, with what bleeds them. */
export const Cans = memo(function Cans({
  run,
  start,
  bleeds,
}: {
  run: number[];
  start: Schemas['CapacitorStartPart'][];
  bleeds: Schemas['CapacitorBleed'][];
}) {
  const cans = [
    ...run.map(value => ({ value, text: number(value), dark: false })),
    ...start.map(p => ({ value: (p.low + p.high) / 2, text: `${p.low}–${p.high}`, dark: true })),
  ];
  if (cans.length === 0) return <p className="soft">No capacitor: two bare legs.</p>;
  let x = 2;
  const drawn = cans.map(can => {
    const width = can.dark ? 62 : 40;
    const height = Math.min(62, 34 + 3.2 * Math.sqrt(can.value));
    const at = x;
    x += width + 8;
    return { ...can, width, height, at };
  });
  const slowest = Math.max(...bleeds.map(b => b.seconds));
  return (
    <div className="cans">
      <svg
        width={x}
        height={74}
        viewBox={`0 0 ${x} 74`}
        role="img"
        aria-label={`Capacitors: ${cans.map(c => `${c.dark ? 'start' : 'run'} ${c.text} µF`).join(', ')}`}
      >
        {drawn.map((can, i) => {
          const top = 70 - can.height;
          return (
            <g key={i}>
              <path
                d={`M${can.at + can.width * 0.3},${top - 6}v5M${can.at + can.width * 0.7},${top - 6}v5`}
                stroke={tokens.ink}
                strokeWidth={3}
              />
              <rect
                x={can.at}
                y={top}
                width={can.width}
                height={can.height}
                rx={5}
                fill={can.dark ? tokens.soft : tokens.trough}
                stroke={tokens.ink}
              />
              <text
                x={can.at + can.width / 2}
                y={top + can.height / 2 + 6}
                textAnchor="middle"
                fontSize={13}
                fontWeight={600}
                className="figures"
                fill={can.dark ? tokens.clear : tokens.ink}
              >
                {can.text}
              </text>
            </g>
          );
        })}
      </svg>
      <p className="soft">
        Bleed on every can: {number(bleeds[0]?.safe_volts ?? 0)} V after {number(slowest)} s at most. Then prove it.
      </p>
    </div>
  );
});
