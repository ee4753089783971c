import { Button } from 'antd';
import { Link } from 'react-router';
import { words } from '../api/client';
import { useDay } from '../api/hooks';
import { useCurrentShop } from '../frame/shop';
import { WithShop } from '../frame/WithShop';
import { Verdicts } from '../parts/Verdicts';
import './day.css';

/** The shop's day on a card for its wall, in large type. */
export function DayCard() {
  return <WithShop>{shop => <OfShop shop={shop} />}</WithShop>;
}

function OfShop({ shop }: { shop: string }) {
  const day = useDay(shop);
  const { current } = useCurrentShop();
  if (day.isError)
    return (
      <p className="problem" role="alert">
        {words(day.error)}
      </p>
    );
  if (!day.data) return <p className="soft">Working it out…</p>;
  const { begin, end, together, never, cautions } = day.data;
  const steps = (title: string, list: string[]) => (
    <section>
      <h2>{title}</h2>
      <ol>
        {list.map(s => (
          <li key={s}>{s}</li>
        ))}
      </ol>
    </section>
  );
  const lines = (title: string, list: string[]) =>
    list.length > 0 && (
      <section>
        <h2>{title}</h2>
        <ul>
          {list.map(s => (
            <li key={s}>{s}</li>
          ))}
        </ul>
      </section>
    );
  return (
    <article className="day">
      <header className="page-head">
        <h1>{current?.name}: the day</h1>
        <span className="gap" />
        <Link className="alone" to="/">
          To the Floor
        </Link>
        <Button type="primary" onClick={() => window.print()}>
          Print
        </Button>
      </header>
      <div className="day-columns">
        {steps('Start of day', begin)}
        <div>
          {steps('End of day', end)}
          {lines('May run together', together)}
          {lines('Never', never)}
        </div>
      </div>
      <Verdicts verdicts={cautions} />
    </article>
  );
}
