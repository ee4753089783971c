import { Input, Segmented } from 'antd';
import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { useSpoken } from '../api/hooks';

type Rule = Schemas['Rule'];
type Spoken = Schemas['Spoken'];

/** The rules by where they speak, found by a word or by how much they matter; those that speak in this shop first. */
export function Rules({ book, shop }: { book: Schemas['Rulebook']; shop: string | undefined }) {
  const [params] = useSearchParams();
  const sought = params.get('find') ?? '';
  const [word, setWord] = useState(sought);
  useEffect(() => setWord(sought), [sought]);
  const [severity, setSeverity] = useState('all');
  const [where, setWhere] = useState('all');
  const spoken = useSpoken(shop).data;
  const speaks = (id: string) => spoken?.filter(s => s.rule === id) ?? [];
  const of = Object.fromEntries(book.rules.map(r => [r.id, r]));
  const fits = (r: Rule) =>
    (severity === 'all' || r.severity === severity) &&
    `${r.id} ${r.title} ${r.why} ${r.source}`.toLowerCase().includes(word.toLowerCase());
  const places = book.places
    .filter(p => where === 'all' || where === p.name)
    .map(p => ({ ...p, list: p.rules.map(id => of[id]).filter(r => r !== undefined && fits(r)) as Rule[] }))
    .filter(p => p.list.length > 0);
  const shown = places.reduce((n, p) => n + p.list.length, 0);
  const first = (list: Rule[]) => [
    ...list.filter(r => speaks(r.id).length > 0),
    ...list.filter(r => speaks(r.id).length === 0),
  ];
  return (
    <section className="panel">
      <header>
        <h2>Rules</h2>
        <Input
          aria-label="Find a rule"
          placeholder="find a word"
          value={word}
          onChange={e => setWord(e.target.value)}
          maxLength={60}
        />
        <Segmented
          aria-label="Severity"
          value={severity}
          onChange={setSeverity}
          options={['all', 'stop', 'caution', 'note']}
        />
        <span className="soft">
          {shown} of {book.rules.length}; those that speak in this shop first
        </span>
      </header>
      <Segmented
        aria-label="Where it speaks"
        className="places"
        value={where}
        onChange={setWhere}
        options={[{ value: 'all', label: 'Everywhere' }, ...book.places.map(p => ({ value: p.name, label: p.title }))]}
      />
      {shown === 0 && <p className="soft">No rule has that word.</p>}
      {places.map(p => (
        <section key={p.name} aria-label={p.title}>
          <h3>{p.title}</h3>
          <ul className="rules">
            {first(p.list).map(r => (
              <Entry key={r.id} rule={r} speaks={speaks(r.id)} open={word !== '' && shown < 6} />
            ))}
          </ul>
        </section>
      ))}
    </section>
  );
}

/** One rule: its title and where it speaks; opened, its reason, source and limits. */
function Entry({ rule, speaks, open }: { rule: Rule; speaks: Spoken[]; open: boolean }) {
  return (
    <li className={rule.severity}>
      <details open={open}>
        <summary>
          <b>{rule.title}</b> <span className="severity">{rule.severity}</span>
        </summary>
        <p>{rule.why}</p>
        <p className="soft">
          {rule.source}
          {rule.limits &&
            Object.entries(rule.limits)
              .map(([name, v]) => `; ${name.replaceAll('_', ' ')} ${v}`)
              .join('')}
          ; {rule.id}
        </p>
      </details>
      {speaks.map((s, i) => (
        <p key={i} className="speaks">
          <Link to={`/machines/${s.machine_id}/${s.step}?motor=${s.motor_id}`}>
            {s.machine}
            {s.motor && `, ${s.motor}`}
          </Link>
          : {s.says}
        </p>
      ))}
    </li>
  );
}
