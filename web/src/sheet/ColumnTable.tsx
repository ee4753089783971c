import type { ReactNode } from 'react';
import type { Schemas } from '../api/client';
import './section.css';

/**
 * A table of the job sheet in columns; an empty cell is a box to write in. Cell draws one in a way of its own, by the
 * heads of its row and column.
 */
export function ColumnTable({
  table,
  cell: draw,
}: {
  table: Schemas['RuleTable'];
  cell?: (row: string, column: string, text: string) => ReactNode;
}) {
  return (
    <div className="columns-scroll" tabIndex={0} role="group" aria-label={table.title}>
      <table className="columns">
        <caption>
          {table.title}
          {table.source && <span className="soft"> {table.source}</span>}
        </caption>
        <thead>
          <tr>
            {table.head.map(h => (
              <th key={h} scope="col">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row, i) => (
            <tr key={i}>
              {(row ?? []).map((cell, k) =>
                k === 0 ? (
                  <th key={k} scope="row">
                    {cell}
                  </th>
                ) : (
                  <td key={k}>{draw ? draw(row?.[0] ?? '', table.head[k] ?? '', cell) : cell}</td>
                ),
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
