import type { CSSProperties } from 'react';
import { legs, tokens } from '../theme/theme';
import type { Drawing } from '../api/client';

const strokes: Record<string, { stroke: string; width: number; dash?: string; fill?: string }> = {
  'wire-a': { stroke: legs.a.colour, width: 2.4, dash: legs.a.dash },
  'wire-b': { stroke: legs.b.colour, width: 2.4, dash: legs.b.dash },
  'wire-c': { stroke: legs.c.colour, width: 2.4, dash: legs.c.dash },
  'dot-a': { stroke: legs.a.colour, width: 1, fill: legs.a.colour },
  'dot-b': { stroke: legs.b.colour, width: 1, fill: legs.b.colour },
  'dot-c': { stroke: legs.c.colour, width: 1, fill: legs.c.colour },
  box: { stroke: '#8A8677', width: 2, fill: '#FBF9F4' },
  post: { stroke: tokens.ink, width: 2, fill: '#E4E1D8' },
  'link-bar': { stroke: '#7A5210', width: 1.6, fill: '#E9D3A6' },
  nut: { stroke: tokens.ink, width: 1.6 },
  link: { stroke: tokens.ink, width: 1, dash: '3 4' },
  machine: { stroke: tokens.ink, width: 2.2 },
  earth: { stroke: '#2E6B3A', width: 2 },
};
const part = { stroke: tokens.ink, width: 1.8, dash: undefined, fill: undefined };

/** Renders a drawing that the core has laid out. */
export function DrawingView({ drawing }: { drawing: Drawing }) {
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
          const pen = strokes[item.class] ?? part;
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
                  fontSize={item.class === 'label' ? 14 : 12.5}
                  fontWeight={item.class === 'small' ? 400 : 600}
                  fill={item.class === 'caution' ? tokens.caution : item.class === 'stop' ? tokens.stop : tokens.ink}
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
