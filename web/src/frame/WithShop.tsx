import { lazy, Suspense, useEffect, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { words } from '../api/client';
import { addShop, useChange } from '../api/hooks';
import { chooseShop, useCurrentShop } from './shop';

const ShopForm = lazy(() => import('./ShopForm').then(m => ({ default: m.ShopForm })));

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
  const make = useChange(addShop);
  if (shops.isError)
    return (
      <p className="problem" role="alert">
        {words(shops.error)}
      </p>
    );
  if (shops.isPending || named) return <p className="soft">Reading the shop…</p>;
  if (current) return children(current.id);
  return (
    <section className="panel first-shop">
      <h1>Your shop first</h1>
      <p>Say what comes in from the street. Every answer for a machine rests on it.</p>
      <Suspense>
        <ShopForm
          action="Make the shop"
          onSave={async ({ name, supply }) => chooseShop((await make.mutateAsync({ name, supply, version: 0 })).id)}
        />
      </Suspense>
    </section>
  );
}
