import { Button } from 'antd';
import { Link, useSearchParams } from 'react-router';
import { words } from '../api/client';
import { useDaybook, useShop } from '../api/hooks';
import { useCurrentShop } from '../frame/shop';
import { WithShop } from '../frame/WithShop';
import { ColumnTable } from '../sheet/ColumnTable';
import '../sheet/sheet.css';

/** How many lines are printed at most: more is for the table of comma-separated values. */
const most = 2000;

/** The daybook, or what is sought in it, as a log for whoever inherits or inspects the machine. */
export function LogPage() {
  return <WithShop>{shop => <Log id={shop} />}</WithShop>;
}

function Log({ id }: { id: string }) {
  const [query] = useSearchParams();
  const of = (name: string) => query.get(name) ?? '';
  const book = useDaybook(id, {
    machine: of('machine'),
    kind: of('kind'),
    words: of('words'),
    from: of('from'),
    until: of('until'),
    open: of('open') === 'true',
    most,
  });
  const shop = useShop(id);
  const { current } = useCurrentShop();
  if (book.isError)
    return (
      <p className="problem" role="alert">
        {words(book.error)}
      </p>
    );
  if (!book.data || !shop.data) return <p className="soft">Reading the daybook…</p>;
  const { lines, kinds, more } = book.data;
  const machine = (m: string) => shop.data.machines.find(x => x.id === m)?.name ?? (m ? 'a machine that is gone' : '');
  return (
    <>
      <div className="sheet-tools no-print">
        <Link to={`/daybook?${query}`}>Back to the daybook</Link>
        <Button type="primary" autoFocus onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <article className="sheet log">
        <header>
          <h1>{current?.name}: daybook</h1>
          <p>
            {lines.length} lines, the latest first{of('machine') && `, of ${machine(of('machine'))}`}
            {more && '; older ones are not printed'}. A line that was corrected since says so.
          </p>
        </header>
        <ColumnTable
          table={{
            name: 'log',
            title: '',
            source: '',
            head: ['When', 'Machine', 'Kind', 'What', 'By', 'Ended'],
            rows: lines.map(l => [
              new Date(l.at).toLocaleString([], { dateStyle: 'short', timeStyle: 'short' }),
              machine(l.machine),
              kinds.find(k => k.name === l.kind)?.title ?? l.kind,
              l.corrected_by ? `Corrected since: ${l.says}` : l.says,
              l.hand,
              l.open ? (l.who ? `open, for ${l.who}` : 'open') : l.ended_by ? 'ended' : '–',
            ]),
          }}
        />
        <footer>
          A line is never changed: one that corrects or ends another is a line of its own. Local code and a licensed
          electrician have the last word.
        </footer>
      </article>
    </>
  );
}
