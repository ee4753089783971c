import { Link } from 'react-router';
import { useDaybook } from '../api/hooks';

/** How much is open or due, of a machine or of the whole shop; nothing where nothing is. */
export function OpenItems({ shop, machine = '' }: { shop: string; machine?: string }) {
  const lines = useDaybook(shop, { machine, open: true }).data?.lines ?? [];
  if (lines.length === 0) return null;
  const late = lines.filter(l => l.late).length;
  return (
    <Link
      className={late > 0 ? 'alone open-items late' : 'alone open-items'}
      to={`/daybook?open=yes&machine=${machine}`}
    >
      {lines.length} open{late > 0 && `, ${late} late`}
    </Link>
  );
}
