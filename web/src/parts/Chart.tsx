import type { ReactNode } from 'react';
import { tokens } from '../theme/theme';
import { number } from './number';
import './chart.css';

export interface Line {
  title: string;
  /** A null breaks the line. */
  points: ([number, number] | null)[];
  stroke: string;
  dash?: string;
  width?: number;
  /** Reads against the right-hand scale. */
  right?: boolean;
}

export interface Scale {
  most: number;
  step: number;
  /** A value that must not be passed, drawn across. */
  limit?: number;
  limitTitle?: string;
  title?: string;
  /** Where the scale begins, if not at nothing, and how its steps are written: for a logarithmic one. */
  from?: number;
  show?: (v: number) => string;
}

const box = { left: 46, right: 16, top: 8, bottom: 34, width: 340, height: 206 };

/** The steps of a scale up to a value, about four of them, of 1, 2, 2.5 or 5 times a power of ten. */
export function scale(most: number, limit?: number, title?: string): Scale {
  const rough = Math.max(most, limit ?? 0, 1e-9) / 4;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 2.5, 5, 10].map(k => k * power).find(s => s >= rough * 0.999) ?? 10 * power;
  return { most: Math.max(1, Math.ceil(Math.max(most, limit ?? 0) / step)) * step, step, limit, title };
}

/** Keys of lines, to stand beside a heading. */
export function Keys({ lines }: { lines: Pick<Line, 'title' | 'stroke' | 'dash'>[] }) {
  return (
    <span className="keys">
      {lines.map(({ title, stroke, dash }) => (
        <span key={title}>
          <svg width={24} height={10} aria-hidden="true">
            <path d="M0,5H24" stroke={stroke} strokeWidth={3} strokeDasharray={dash} />
          </svg>
          {title}
        </span>
      ))}
    </span>
  );
}

/**
 * Curves over a common scale, with a second one at the right where a line asks for it, marks across, and what else is
 * drawn on top.
 */
export function Chart({
  lines,
  x,
  y,
  right,
  marks = [],
  label,
  name,
  keys = true,
  below,
  children,
}: {
  lines: Line[];
  x: Scale;
  y: Scale;
  right?: Scale;
  marks?: { at: number; title: string }[];
  label: string;
  name: string;
  keys?: boolean;
  /** Words under the scale. */
  below: string;
  children?: (at: (x: number, y: number) => [number, number]) => ReactNode;
}) {
  const wide = box.width - box.left - box.right - (right ? 30 : 0);
  const tall = box.height - box.top - box.bottom;
  const begin = x.from ?? 0;
  const px = (v: number) => box.left + (wide * (v - begin)) / (x.most - begin);
  const py = (v: number, s: Scale = y) => box.top + tall * (1 - Math.min(Math.max(v, 0), s.most) / s.most);
  const path = (line: Line) => {
    let pen = false;
    return line.points
      .map(p => {
        if (!p) {
          pen = false;
          return '';
        }
        const command = pen ? 'L' : 'M';
        pen = true;
        return `${command}${px(p[0]).toFixed(1)},${py(p[1], line.right ? right : y).toFixed(1)}`;
      })
      .join('');
  };
  const steps = (s: Scale) =>
    Array.from({ length: Math.round((s.most - (s.from ?? 0)) / s.step) + 1 }, (_, i) => (s.from ?? 0) + i * s.step);
  const text = { fontSize: 13, fill: tokens.soft };
  return (
    <svg viewBox={`0 0 ${box.width} ${box.height}`} width="100%" role="img" data-picture={name} aria-label={label}>
      {steps(y).map(v => (
        <g key={v}>
          <path d={`M${box.left},${py(v)}h${wide}`} stroke={tokens.rule} />
          <text x={box.left - 6} y={py(v) + 4} textAnchor="end" {...text} className="figures">
            {number(v)}
          </text>
        </g>
      ))}
      {y.limit !== undefined && (
        <g>
          <path d={`M${box.left},${py(y.limit)}h${wide}`} stroke={tokens.stop} strokeWidth={2} />
          {y.limitTitle && (
            <text
              x={box.left + wide}
              y={py(y.limit) + 15}
              textAnchor="end"
              fontSize={13}
              fill={tokens.stop}
              paintOrder="stroke"
              stroke={tokens.card}
              strokeWidth={4}
            >
              {y.limitTitle}
            </text>
          )}
        </g>
      )}
      {right &&
        steps(right).map(v => (
          <text key={v} x={box.left + wide + 6} y={py(v, right) + 4} {...text} className="figures">
            {number(v)}
          </text>
        ))}
      {y.title && (
        <text x={4} y={box.top + tall + 20} {...text}>
          {y.title}
        </text>
      )}
      {right?.title && (
        <text x={box.width - 2} y={box.top + tall + 20} textAnchor="end" {...text}>
          {right.title}
        </text>
      )}
      {steps(x).map(v => (
        <text key={v} x={px(v)} y={box.height - 18} textAnchor="middle" {...text} className="figures">
          {x.show ? x.show(v) : number(v)}
        </text>
      ))}
      <text x={box.left + wide / 2} y={box.height - 3} textAnchor="middle" {...text}>
        {below}
      </text>
      {marks.map(m => (
        <g key={m.title}>
          <path d={`M${px(m.at)},${box.top}V${py(0)}`} stroke={tokens.ink} strokeDasharray="2 4" />
          <text
            x={px(m.at) + (m.at > (begin + x.most) / 2 ? -4 : 4)}
            y={box.top + 11}
            textAnchor={m.at > (begin + x.most) / 2 ? 'end' : 'start'}
            fontSize={13}
            fill={tokens.ink}
          >
            {m.title}
          </text>
        </g>
      ))}
      {lines.map(line => (
        <path
          key={line.title}
          d={path(line)}
          fill="none"
          stroke={line.stroke}
          strokeWidth={line.width ?? 2.6}
          strokeDasharray={line.dash}
        />
      ))}
      {children?.((a, b) => [px(a), py(b)])}
      {keys &&
        lines.map(({ stroke, dash, title }, i) => (
          <g key={title} transform={`translate(${box.left + 8} ${box.top + 13 + 16 * i})`}>
            <path d="M0,-4H24" stroke={stroke} strokeWidth={3} strokeDasharray={dash} />
            <text x={30} fontSize={13} fill={tokens.ink} paintOrder="stroke" stroke={tokens.card} strokeWidth={4}>
              {title}
            </text>
          </g>
        ))}
    </svg>
  );
}
