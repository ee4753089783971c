import type { Schemas } from '../api/client';
import { Figure } from './Workings';

/** Lines of cells under heads; a head that is that of the line above is only spoken. */
export function PageTable({ table }: { table: Schemas['FeedTable'] }) {
  return (
    <div className="table-scroll" tabIndex={0} role="group" aria-label={table.head.join(', ')}>
      <table className="facts">
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
            <tr key={i} className={row.model ? 'model' : undefined}>
              <th scope="row">
                {i > 0 && table.rows[i - 1]!.head === row.head ? (
                  <span className="visually-hidden">{row.head}</span>
                ) : (
                  row.head
                )}
              </th>
              {row.cells.map((cell, k) => (
                <td key={k} className={`${cell.words ? '' : 'figures'}${cell.bad ? ' bad' : ''}`}>
                  <Figure figure={cell.figure}>
                    <span className="value">{cell.text}</span>
                  </Figure>
                  {cell.bad && <span className="visually-hidden"> past a limit</span>}
                </td>
              ))}
              {row.span !== '' && (
                <td
                  colSpan={Math.max(1, table.head.length - 1 - row.cells.length)}
                  className={row.bad ? 'span bad' : 'span'}
                >
                  {row.span}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
