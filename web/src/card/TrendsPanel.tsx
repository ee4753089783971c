import type { Schemas } from '../api/client';
import { Sign } from '../parts/Verdicts';

const width = 160;
const height = 44;

/** What wears, over time: each figure with the doubt of its meter, and what has become of it. */
export function TrendsPanel({ trends }: { trends: Schemas['ProveTrend'][] }) {
  if (trends.length === 0) return null;
  return (
    <section className="panel trends" aria-label="What wears">
      <h2>What wears</h2>
      <ul className="plain">
        {trends.map(t => (
          <li key={t.title}>
            <span>
              <b>{t.title}</b>
              <span className="trend-says">
                {t.mark !== 'good' && <Sign severity={t.mark} size={14} />} {t.says}.
              </span>
            </span>
            <Line trend={t} />
            <b className="figures">
              {Number(t.points.at(-1)!.value.toPrecision(3))} {t.unit}
            </b>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Line({ trend }: { trend: Schemas['ProveTrend'] }) {
  const { points } = trend;
  const times = points.map(p => Date.parse(p.at));
  const [from, to] = [Math.min(...times), Math.max(...times)];
  const low = Math.min(...points.map(p => p.value - 2 * p.sigma));
  const high = Math.max(...points.map(p => p.value + 2 * p.sigma));
  const x = (i: number) => 4 + ((times[i]! - from) / (to - from || 1)) * (width - 8);
  const y = (v: number) => height - 4 - ((v - low) / (high - low || 1)) * (height - 8);
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden>
      <polyline points={points.map((p, i) => `${x(i)},${y(p.value)}`).join(' ')} className="trend-line" />
      {points.map((p, i) => (
        <g key={p.at}>
          <line
            x1={x(i)}
            x2={x(i)}
            y1={y(p.value - 2 * p.sigma)}
            y2={y(p.value + 2 * p.sigma)}
            className="trend-doubt"
          />
          <circle cx={x(i)} cy={y(p.value)} r={3} className="trend-point" />
        </g>
      ))}
    </svg>
  );
}
