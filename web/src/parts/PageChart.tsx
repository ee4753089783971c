import type { Schemas } from '../api/client';
import { tokens } from '../theme/theme';
import { Chart, scale, type Line, type Scale } from './Chart';

type Drawn = Schemas['FeedChart'];

/** How each style of line is drawn. */
const styles: Record<string, Pick<Line, 'stroke' | 'dash' | 'width'>> = {
  main: { stroke: tokens.brass, width: 2.8 },
  second: { stroke: tokens.enamel, width: 2.4 },
  against: { stroke: tokens.ink, dash: '6 4', width: 2 },
  beside: { stroke: tokens.brass, dash: '8 4' },
  faint: { stroke: tokens.soft, dash: '6 4' },
};
const styleOf = (name: string) => styles[name] ?? styles.main!;

/** The keys of a chart's lines, to stand beside its title. */
export const keysOf = (chart: Drawn) => chart.lines.map(l => ({ title: l.title, ...styleOf(l.style) }));

/** A scale as it is asked for: with steps of its own, or such as suit what it reaches to. */
export function scaleOf(axis: Schemas['FeedAxis'], upTo: boolean): Scale {
  const limit = axis.limit > 0 ? axis.limit : undefined;
  const named = { limit, limitTitle: axis.limit_title || undefined };
  if (axis.step > 0) return { ...named, most: axis.most, step: axis.step };
  const own = { ...named, ...scale(axis.most, limit) };
  return upTo ? { ...own, most: axis.most } : own;
}

/** Curves as the server names them. */
export function PageChart({ chart }: { chart: Drawn }) {
  const { dot } = chart;
  return (
    <Chart
      name={chart.name}
      label={chart.label}
      keys={chart.keys}
      lines={chart.lines.map(l => ({
        title: l.title,
        right: l.right,
        points: l.points.map(p => (p ? [p[0]!, p[1]!] : null)),
        ...styleOf(l.style),
      }))}
      x={scaleOf(chart.x, true)}
      y={{ ...scaleOf(chart.y, false), title: chart.y.title || undefined }}
      right={chart.right && { ...scaleOf(chart.right, false), title: chart.right.title || undefined }}
      below={chart.x.title}
      marks={chart.marks}
    >
      {at => {
        if (!dot) return null;
        const [x, y] = at(dot.x, dot.y);
        const [, foot] = at(0, 0);
        return (
          <g>
            <path d={`M${x},${foot}V${y}`} stroke={tokens.brass} strokeDasharray="2 3" />
            <circle
              cx={x}
              cy={y}
              r={6}
              fill={dot.over ? tokens.stop : tokens.brass}
              stroke={tokens.clear}
              strokeWidth={2}
            />
          </g>
        );
      }}
    </Chart>
  );
}
