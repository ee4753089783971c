import type { CSSProperties } from 'react';
import { legs, tokens } from '../theme/theme';
import type { Drawing } from '../api/client';

type Pen = { stroke: string; width: number; dash?: string; fill?: string };

const strokes: Record<string, Pen> = {
  'wire-a': { stroke: legs.a.colour, width: 2.4, dash: legs.a.dash },
  'wire-b': { stroke: legs.b.colour, width: 2.4, dash: legs.b.dash },
  'wire-c': { stroke: legs.c.colour, width: 2.4, dash: legs.c.dash },
  'wire-d': { stroke: tokens.ink, width: 2.4 },
  'wire-e': { stroke: '#2E6B3A', width: 2, dash: '6 3' },
  'wire-k': { stroke: tokens.ink, width: 1.5 },
  'wire-l': { stroke: '#3A6B82', width: 1.5 },
  'dot-a': { stroke: legs.a.colour, width: 1, fill: legs.a.colour },
  'dot-b': { stroke: legs.b.colour, width: 1, fill: legs.b.colour },
  'dot-c': { stroke: legs.c.colour, width: 1, fill: legs.c.colour },
  'dot-d': { stroke: tokens.ink, width: 1, fill: tokens.ink },
  'dot-e': { stroke: '#2E6B3A', width: 1, fill: '#2E6B3A' },
  'dot-k': { stroke: tokens.ink, width: 1, fill: tokens.ink },
  'dot-l': { stroke: '#3A6B82', width: 1, fill: '#3A6B82' },
  box: { stroke: '#8A8677', width: 2, fill: '#FBF9F4' },
  post: { stroke: tokens.ink, width: 2, fill: '#E4E1D8' },
  'link-bar': { stroke: '#7A5210', width: 1.6, fill: '#E9D3A6' },
  nut: { stroke: tokens.ink, width: 1.6 },
  link: { stroke: tokens.ink, width: 1, dash: '3 4' },
  duct: { stroke: '#B8B2A0', width: 1, fill: '#EDE9DF' },
  machine: { stroke: tokens.ink, width: 2.2 },
  earth: { stroke: '#2E6B3A', width: 2 },
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
                  fill={pen.fill ?? '#fff'}
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
                  fill={pen.fill ?? '#fff'}
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
