import type { Schemas } from '../api/client';
import './section.css';

/** A table of the job sheet in columns; an empty cell is a box to write in. */
export function ColumnTable({ table }: { table: Schemas['RuleTable'] }) {
  return (
    <div className="columns-scroll">
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
                  <td key={k}>{cell}</td>
                ),
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
