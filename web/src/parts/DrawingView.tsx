import type { CSSProperties } from 'react';
import { legs, tokens } from '../theme/theme';
import type { Drawing } from '../api/client';

type Pen = { stroke: string; width: number; dash?: string; fill?: string };

const strokes: Record<string, Pen> = {
  'wire-a': { stroke: legs.a.colour, width: 2.4, dash: legs.a.dash },
  'wire-b': { stroke: legs.b.colour, width: 2.4, dash: legs.b.dash },
  'wire-c': { stroke: legs.c.colour, width: 2.4, dash: legs.c.dash },
  'wire-d': { stroke: tokens.ink, width: 2.4 },
  'wire-e': { stroke: tokens.good, width: 2, dash: '6 3' },
  'wire-k': { stroke: tokens.ink, width: 1.5 },
  'wire-l': { stroke: tokens.note, width: 1.5 },
  'dot-a': { stroke: legs.a.colour, width: 1, fill: legs.a.colour },
  'dot-b': { stroke: legs.b.colour, width: 1, fill: legs.b.colour },
  'dot-c': { stroke: legs.c.colour, width: 1, fill: legs.c.colour },
  'dot-d': { stroke: tokens.ink, width: 1, fill: tokens.ink },
  'dot-e': { stroke: tokens.good, width: 1, fill: tokens.good },
  'dot-k': { stroke: tokens.ink, width: 1, fill: tokens.ink },
  'dot-l': { stroke: tokens.note, width: 1, fill: tokens.note },
  box: { stroke: tokens.edge, width: 2, fill: tokens.card },
  post: { stroke: tokens.ink, width: 2, fill: tokens.trough },
  'link-bar': { stroke: tokens.linkBar, width: 1.6, fill: tokens.cautionGround },
  nut: { stroke: tokens.ink, width: 1.6 },
  link: { stroke: tokens.ink, width: 1, dash: '3 4' },
  duct: { stroke: tokens.edge, width: 1, fill: tokens.sunk },
  machine: { stroke: tokens.ink, width: 2.2 },
  earth: { stroke: tokens.good, width: 2 },
};
const part: Pen = { stroke: tokens.ink, width: 1.8 };

/** How a shape is drawn while its circuit is run: what has volts or conducts stands out, what has none is pale. */
function seen(pen: Pen, item: Drawing['items'][number], runs: boolean): Pen & { opacity?: number } {
  if (!runs) return pen;
  const wire = item.class.startsWith('wire-');
  if (item.live) return wire ? { ...pen, width: pen.width + 1.2 } : { ...pen, stroke: tokens.brass, width: 3 };
  return wire && item.class !== 'wire-e' ? { ...pen, opacity: 0.3 } : pen;
}

const sizes: Record<string, number> = { label: 14, mark: 10, number: 10 };
const inks: Record<string, string> = { caution: tokens.caution, stop: tokens.stop, number: tokens.soft };

/** Renders a drawing that the core has laid out. */
export function DrawingView({ drawing, runs = false }: { drawing: Drawing; runs?: boolean }) {
  return (
    <div className="drawing-scroll" tabIndex={0} role="group" aria-label={drawing.title}>
      <svg
        viewBox={`0 0 ${drawing.width} ${drawing.height}`}
        width="100%"
        role="img"
        aria-label={drawing.title}
        className="drawing"
        style={{ maxWidth: drawing.width, '--least': `${drawing.width * 0.72}px` } as CSSProperties}
      >
        {drawing.items.map((item, i) => {
          const pen = seen(strokes[item.class] ?? part, item, runs);
          const p = item.points[0]!;
          switch (item.kind) {
            case 'line':
              return (
                <polyline
                  key={i}
                  points={item.points.map(q => `${q.x},${q.y}`).join(' ')}
                  fill="none"
                  stroke={pen.stroke}
                  strokeWidth={pen.width}
                  strokeDasharray={pen.dash}
                  opacity={pen.opacity}
                />
              );
            case 'rect': {
              const q = item.points[1]!;
              return (
                <rect
                  key={i}
                  x={p.x}
                  y={p.y}
                  width={q.x - p.x}
                  height={q.y - p.y}
                  fill={pen.fill ?? tokens.clear}
                  stroke={pen.stroke}
                  strokeWidth={pen.width}
                />
              );
            }
            case 'circle':
              return (
                <circle
                  key={i}
                  cx={p.x}
                  cy={p.y}
                  r={item.radius}
                  fill={pen.fill ?? tokens.clear}
                  stroke={pen.stroke}
                  strokeWidth={pen.width}
                />
              );
            default:
              return (
                <text
                  key={i}
                  x={p.x}
                  y={p.y}
                  textAnchor={item.anchor as 'start' | 'middle' | 'end'}
                  fontSize={sizes[item.class] ?? 12.5}
                  fontWeight={['small', 'mark', 'number'].includes(item.class) ? 400 : 600}
                  fill={inks[item.class] ?? tokens.ink}
                >
                  {item.text}
                </text>
              );
          }
        })}
      </svg>
    </div>
  );
}
