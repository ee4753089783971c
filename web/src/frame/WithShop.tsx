import { lazy, Suspense, type ReactNode } from 'react';
import { words } from '../api/client';
import { addShop, useChange } from '../api/hooks';
import { chooseShop, useCurrentShop } from './shop';

const ShopForm = lazy(() => import('./ShopForm').then(m => ({ default: m.ShopForm })));

/** A place that shows a shop; while there is none, the first is made there. */
export function WithShop({ children }: { children: (shop: string) => ReactNode }) {
  const { shops, current } = useCurrentShop();
  const make = useChange(addShop);
  if (shops.isError)
    return (
      <p className="problem" role="alert">
        {words(shops.error)}
      </p>
    );
  if (shops.isPending) return <p className="soft">Reading the shop…</p>;
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
