import { memo, useState, type DragEvent } from 'react';
import type { Schemas } from '../api/client';
import { legs } from '../theme/theme';
import { Inside, worstAt, type Drawn } from './Boxes';
import type { Page, Picture } from './useFloor';

type Box = Schemas['FloorBox'];

const strokes: Record<string, { colour: string; dash: string | undefined }> = legs;

/** The lines between boxes, a stroke for each; those to what is dead are faint. */
const Wires = memo(function Wires({ layout, dead }: { layout: Schemas['FloorLayout']; dead: string }) {
  const faint = new Set(dead.split(' '));
  return (
    <svg className="wires" width={layout.width} height={layout.height} aria-hidden="true">
      {layout.wires.map(w => {
        return w.lines.map((line, i) => {
          const leg = strokes[line] ?? legs.n;
          const off = 4 * (i - (w.lines.length - 1) / 2);
          const last = w.path.length - 1;
          const path = w.path
            .map(({ x, y }, k) => `${k ? 'L' : 'M'}${k === 0 || k === last ? x : x + off},${y + off}`)
            .join('');
          return (
            <path
              key={`${w.to} ${i}`}
              d={path}
              fill="none"
              stroke={leg.colour}
              strokeDasharray={leg.dash}
              strokeWidth={2}
              opacity={faint.has(w.to) ? 0.3 : 1}
            />
          );
        });
      })}
    </svg>
  );
});

/** The ids of what no current is at. */
function deadIn({ converters, machines, loads }: Picture): string {
  return [
    ...converters.filter(c => !c.on),
    ...machines.filter(m => !m.motors.some(o => o.live)),
    ...loads.filter(l => !l.live),
  ]
    .map(x => x.id)
    .join(' ');
}

/** What the drawing and the list are made from. */
export interface Shown {
  page: Page;
  picture: Picture;
  boxes: Drawn[];
}

/** The classes of a box by what it is and what is wrong with it. */
const classes = (d: Drawn, picture: Picture) => {
  const at = d.kind === 'service' ? ['main'] : [d.id, ...(d.machine?.motors.map(m => m.id) ?? [])];
  return `box ${d.kind} ${worstAt(picture.broken, at)} ${d.selected ? 'selected' : ''}`;
};

/** The shop as a one-line drawing that is worked on: switches and loads where they stand, boxes dragged elsewhere. */
export function Drawing({ page, picture, boxes, move }: Shown & { move: (id: string, on: string) => void }) {
  const { layout } = page;
  const [over, setOver] = useState('');
  const holds = (kind: string) => kind === 'service' || kind === 'circuit' || kind === 'converter';
  const drop = (box: Box) => ({
    onDragOver: (e: DragEvent) => {
      if (!holds(box.kind)) return;
      e.preventDefault();
      setOver(box.id);
    },
    onDragLeave: () => setOver(''),
    onDrop: (e: DragEvent) => {
      e.preventDefault();
      setOver('');
      const id = e.dataTransfer.getData('text/brackmoor');
      if (id && id !== box.id) move(id, box.kind === 'service' ? '' : box.id);
    },
  });
  return (
    <div className="floor-drawing" style={{ width: layout.width, height: layout.height }}>
      <Wires layout={layout} dead={deadIn(picture)} />
      {layout.boxes.map((box, i) => (
        <section
          key={box.id}
          className={`${classes(boxes[i]!, picture)} ${over === box.id ? 'over' : ''}`}
          style={{ left: box.x, top: box.y, width: box.w, height: box.h }}
          draggable={box.kind !== 'service'}
          onDragStart={e => e.dataTransfer.setData('text/brackmoor', box.id)}
          {...drop(box)}
        >
          {box.side && <span className="side">{box.side.toUpperCase()}</span>}
          <Inside d={boxes[i]!} />
        </section>
      ))}
    </div>
  );
}

/** The same as an indented list, for a phone, or for whoever likes it better. */
export function List({ page, picture, boxes }: Shown) {
  return (
    <ul className="floor-list">
      {page.layout.boxes.map((box, i) => (
        <li key={box.id} className={classes(boxes[i]!, picture)} style={{ marginLeft: 12 * box.depth }}>
          {box.side && <span className="side">{box.side.toUpperCase()}</span>}
          <Inside d={boxes[i]!} />
        </li>
      ))}
    </ul>
  );
}
