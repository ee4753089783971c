import { Button, Input, Segmented } from 'antd';
import { useDeferredValue, useState } from 'react';
import { useSearchParams } from 'react-router';
import { Problem, words } from '../api/client';
import { useFiguresOf, useReckoning } from '../api/hooks';
import { useKept } from '../parts/kept';

const number = (text: string) => Number(text.trim().replace(',', '.'));

/** The sums of a motor any way round: what is typed stands, all that follows from it is reckoned beside it. */
export function Sums() {
  const [query] = useSearchParams();
  const motor = query.get('motor') ?? '';
  const plate = useFiguresOf(motor).data?.given;
  if (motor && !plate) return <p className="soft">Reading the plate…</p>;
  const from = Object.fromEntries(Object.entries(plate ?? {}).map(([n, v]) => [n, String(Number(v.toPrecision(5)))]));
  return <Reckon key={motor} name={motor || 'own'} from={from} />;
}

function Reckon({ name, from }: { name: string; from: Record<string, string> }) {
  const [typed, setTyped, settle] = useKept(`sums.${name}`, { phases: 3, given: from });
  const given = Object.fromEntries(
    Object.entries(typed.given)
      .filter(([, text]) => text.trim() !== '' && Number.isFinite(number(text)))
      .map(([n, text]) => [n, number(text)]),
  );
  const answer = useReckoning(useDeferredValue({ phases: typed.phases as 1 | 3, given }));
  const [last, keep] = useState(answer.data); // while what is typed cannot be reckoned
  if (answer.data && answer.data !== last) keep(answer.data);
  if (!last && answer.isError)
    return (
      <p className="problem" role="alert">
        {words(answer.error)}
      </p>
    );
  if (!last) return <p className="soft">Reckoning…</p>;
  const known = new Map(last.known.map(k => [k.name, k]));
  return (
    <section className="panel sums">
      <header>
        <h2>Sums</h2>
        <Segmented
          aria-label="Phases"
          value={typed.phases}
          options={[
            { value: 3, label: 'three phases' },
            { value: 1, label: 'one phase' },
          ]}
          onChange={phases => setTyped({ ...typed, phases })}
        />
        <span className="soft">type what is known, in any of them; the others follow</span>
        <Button
          size="small"
          onClick={() => {
            setTyped({ phases: 3, given: {} });
            settle();
          }}
        >
          Empty it
        </Button>
      </header>
      {answer.isError && (
        <p className="problem" role="alert">
          {words(answer.error)} {answer.error instanceof Problem && answer.error.fields.map(f => f.message).join(' ')}
        </p>
      )}
      {last.against.map(a => (
        <p key={a} className="caution-line" role="alert">
          {a}
        </p>
      ))}
      <div className="sums-grid">
        {last.quantities.map(q => {
          const k = known.get(q.name);
          const text = typed.given[q.name] ?? '';
          const bad = text.trim() !== '' && !Number.isFinite(number(text));
          return (
            <label key={q.name} className={k && !k.given ? 'sum reckoned' : 'sum'}>
              <span>{q.title}</span>
              <Input
                aria-label={`${q.title} ${q.unit}`}
                aria-invalid={bad}
                status={bad ? 'error' : undefined}
                inputMode="decimal"
                maxLength={14}
                suffix={q.unit}
                placeholder={k && !k.given ? String(Number(k.value.toPrecision(5))) : ''}
                value={text}
                onChange={e => setTyped({ ...typed, given: { ...typed.given, [q.name]: e.target.value } })}
              />
            </label>
          );
        })}
      </div>
      <ol className="sums-list">
        {last.known
          .filter(k => k.sum)
          .map(k => (
            <li key={k.name}>{k.sum}</li>
          ))}
      </ol>
    </section>
  );
}
