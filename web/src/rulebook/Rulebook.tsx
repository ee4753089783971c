import { Segmented } from 'antd';
import { useSearchParams } from 'react-router';
import { words, type Schemas } from '../api/client';
import { useRulebook, useShop } from '../api/hooks';
import { useCurrentShop } from '../frame/shop';
import { Lessons } from './Lessons';
import { Loads } from './Loads';
import { Prices } from './Prices';
import { Profiles } from './Profiles';
import { Rules } from './Rules';
import { Sums } from './Sums';
import { Tables } from './Tables';
import '../parts/facts.css';
import './rulebook.css';

const tabs = [
  { value: 'prices', label: 'Prices' },
  { value: 'rules', label: 'Rules' },
  { value: 'schools', label: 'Schools' },
  { value: 'tables', label: 'Tables' },
  { value: 'loads', label: 'Loads' },
  { value: 'profiles', label: 'Drive profiles' },
  { value: 'sums', label: 'Sums' },
  { value: 'lessons', label: 'Lessons' },
];

/**
 * The rules with their reasons and sources, schools, tables, the figures of loads, and what the shop has of its own.
 */
export function Rulebook() {
  const book = useRulebook();
  const { current } = useCurrentShop();
  const shop = useShop(current?.id);
  const [query, setQuery] = useSearchParams();
  const asked = query.get('tab');
  const tab = tabs.some(t => t.value === asked) ? asked : 'rules';
  if (book.isError)
    return (
      <p className="problem" role="alert">
        {words(book.error)}
      </p>
    );
  if (!book.data) return <p className="soft">Opening the Rulebook…</p>;
  const key = shop.data && `${shop.data.shop.id} ${shop.data.shop.version}`;
  return (
    <div className="rulebook">
      <header className="rulebook-head">
        <h1>Rulebook</h1>
        <Segmented
          aria-label="Part of the Rulebook"
          value={tab}
          options={tabs}
          onChange={t => setQuery({ tab: t as string }, { replace: true })}
        />
      </header>
      {tab === 'prices' && shop.data && <Prices key={key} shop={shop.data.shop} book={book.data} />}
      {tab === 'rules' && <Rules book={book.data} shop={current?.id} />}
      {tab === 'schools' && <Schools schools={book.data.schools} />}
      {tab === 'tables' && shop.data && <Tables shop={shop.data.shop} tables={book.data.tables} />}
      {tab === 'loads' && shop.data && <Loads key={key} shop={shop.data.shop} usual={book.data.loads} />}
      {tab === 'sums' && <Sums />}
      {tab === 'lessons' && current && <Lessons shop={current.id} />}
      {tab === 'profiles' && shop.data && <Profiles key={key} shop={shop.data.shop} book={book.data} />}
    </div>
  );
}

/** What practitioners go by, each with an example; where they differ the model stands beside them. */
function Schools({ schools }: { schools: Schemas['StudySchool'][] }) {
  return (
    <section className="panel">
      <header>
        <h2>Schools</h2>
        <span className="soft">what practitioners go by; the model stands beside each on the Size step</span>
      </header>
      <div className="scrolls">
        <table className="facts schools-list">
          <thead>
            <tr>
              <th scope="col">About</th>
              <th scope="col">Says</th>
              <th scope="col">For example</th>
              <th scope="col">Source</th>
            </tr>
          </thead>
          <tbody>
            {schools.map((s, i) => (
              <tr key={s.about + s.says}>
                <th scope="row">
                  {schools[i - 1]?.about === s.about ? <span className="visually-hidden">{s.about}</span> : s.about}
                </th>
                <td>{s.says}</td>
                <td>{s.example}</td>
                <td className="soft">{s.source}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
