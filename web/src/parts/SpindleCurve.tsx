import { tokens } from '../theme/theme';
import type { Schemas } from '../api/client';
import { Chart, scale } from './Chart';
import { whole } from './number';

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
