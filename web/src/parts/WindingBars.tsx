import { legs, tokens } from '../theme/theme';
import type { Schemas } from '../api/client';
import { whole } from './number';

/** Winding amps in percent of plate amps, for several states, against the plate's limit. */
export function WindingBars({ windings }: { windings: Schemas['FeedWindings'] }) {
  const { names, states } = windings;
  const width = 300;
  const row = 18;
  const top = 20;
  const left = 34;
  const most = Math.max(150, ...states.flatMap(s => s.percents.filter(Number.isFinite))) * 1.04;
  const scale = (width - left - 42) / Math.min(most, 260);
  const length = (percent: number) => Math.min(percent, 260) * scale;
  const block = row * 3 + 22;
  const height = top + states.length * block;
  const colours = [legs.a.colour, legs.b.colour, legs.c.colour];
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width="100%"
      role="img"
      data-picture="windings"
      aria-label={states.map(s => `${s.title}: ${s.percents.map(whole).join(', ')} percent of plate amps`).join('; ')}
    >
      <text x={left + 100 * scale} y={11} textAnchor="middle" fontSize={13} fill={tokens.soft}>
        plate amps
      </text>
      <path d={`M${left + 100 * scale},16V${height}`} stroke={tokens.ink} strokeWidth={1.4} strokeDasharray="3 3" />
      {states.map(({ title, percents, over: overs }, s) => (
        <g key={title} transform={`translate(0 ${top + s * block})`}>
          <text x={0} y={12} fontSize={14} fill={tokens.ink} fontWeight={500}>
            {title}
          </text>
          {percents.map((percent, i) => {
            const y = 17 + i * row;
            const over = overs[i];
            return (
              <g key={names[i]}>
                <text x={0} y={y + 12} fontSize={14} fontWeight={600} fill={colours[i]}>
                  {names[i]}
                </text>
                <rect
                  x={left}
                  y={y}
                  width={length(percent)}
                  height={13}
                  fill={colours[i]}
                  fillOpacity={over ? 1 : 0.62}
                />
                <text
                  x={left + length(percent) + 5}
                  y={y + 12}
                  fontSize={14}
                  className="figures"
                  fontWeight={over ? 600 : 500}
                  paintOrder="stroke"
                  stroke={tokens.card}
                  strokeWidth={5}
                  fill={over ? tokens.stop : tokens.ink}
                >
                  {whole(percent)}
                </text>
              </g>
            );
          })}
        </g>
      ))}
    </svg>
  );
}
