import { Button } from 'antd';
import { Link, useParams } from 'react-router';
import { words } from '../api/client';
import { useProve } from '../api/hooks';
import { ColumnTable } from '../sheet/ColumnTable';
import '../sheet/sheet.css';

/** The same machine on two sources, state by state, on a page to print. */
export function SourcesPage() {
  const { motor = '' } = useParams();
  const page = useProve(motor, 0, true);
  if (page.isError)
    return (
      <p className="problem" role="alert">
        {words(page.error)}
      </p>
    );
  if (!page.data) return <p className="soft">Setting them side by side…</p>;
  const p = page.data;
  return (
    <>
      <div className="sheet-tools no-print">
        <Link to={`/machines/${p.machine_id}/prove?motor=${motor}`}>Back to Prove</Link>
        <Button type="primary" autoFocus onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <article className="sheet sources">
        <header>
          <h1>{p.machine}: one source beside another</h1>
          <p>
            Here: {p.way}. The same machine in the same states; the last column is how far the other is off, in the same
            unit.
          </p>
        </header>
        {p.sources.length === 0 && (
          <p>
            Nothing is read on another source yet: a reading says what fed it, such as a box, a drive, three lines of
            the street, or before a change.
          </p>
        )}
        {p.sources.map(t => (
          <ColumnTable key={t.name} table={t} />
        ))}
        <footer>
          Legs apart is the largest difference from the mean, in percent of it (NEMA MG 1, 14.36). A figure behind a
          drive is what a meter made of its pulses.
        </footer>
      </article>
    </>
  );
}
