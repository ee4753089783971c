import { lazy, useEffect, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { Later } from '../parts/Later';
import { words } from '../api/client';
import { chooseShop, useCurrentShop } from './shop';

const FirstShop = lazy(() => import('./FirstShop').then(m => ({ default: m.FirstShop })));

/** A place that shows a shop, the one that its address names or else the one shown last; the first is made there. */
export function WithShop({ children }: { children: (shop: string) => ReactNode }) {
  const { shops, current } = useCurrentShop();
  const [query, setQuery] = useSearchParams();
  const named = query.get('shop');
  useEffect(() => {
    if (!named) return;
    chooseShop(named);
    setQuery(
      q => {
        q.delete('shop');
        return q;
      },
      { replace: true },
    );
  }, [named, setQuery]);
  if (shops.isError)
    return (
      <p className="problem" role="alert">
        {words(shops.error)}
      </p>
    );
  if (shops.isPending || named) return <p className="soft">Reading the shop…</p>;
  if (current) return children(current.id);
  return (
    <Later>
      <FirstShop />
    </Later>
  );
}
