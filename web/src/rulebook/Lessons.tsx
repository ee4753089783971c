import { Button, Input, Segmented, Select } from 'antd';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { words, type Schemas } from '../api/client';
import { useLessons, useShop } from '../api/hooks';
import { useKept } from '../parts/kept';
import { usePending } from '../parts/outbox';
import { keepHand, lastHand } from '../parts/written';
import { Exercises } from './Exercises';
import { PracticeRecord } from './PracticeRecord';
import { newId } from '../parts/id';

type Lesson = Schemas['Lesson'];

const parts = [
  { value: 'lessons', label: 'Lessons' },
  { value: 'plates', label: 'A wrong plate' },
  { value: 'record', label: 'Who has answered what' },
];

/** Practice: lessons on a motor at hand, made-up plates with a mistake, and who has answered what. */
export function Lessons({ shop }: { shop: string }) {
  const [query, setQuery] = useSearchParams();
  const [person, setPerson] = useState(() => lastHand());
  const asked = query.get('part');
  const part = parts.some(p => p.value === asked) ? asked : 'lessons';
  return (
    <div className="practising">
      <div className="practice-head">
        <Segmented
          aria-label="Practice"
          value={part ?? 'lessons'}
          options={parts}
          onChange={to =>
            setQuery(
              q => {
                q.set('part', to);
                return q;
              },
              { replace: true },
            )
          }
        />
        <label>
          Who practises{' '}
          <Input
            aria-label="Who practises"
            maxLength={40}
            value={person}
            placeholder="nobody: not kept"
            onChange={e => {
              setPerson(e.target.value);
              keepHand(e.target.value);
            }}
          />
        </label>
      </div>
      {part === 'lessons' && <OnMotor shop={shop} person={person} />}
      {part === 'plates' && <Exercises shop={shop} person={person} />}
      {part === 'record' && <PracticeRecord shop={shop} />}
    </div>
  );
}

/** What practitioners are most often told wrong: a few sentences, one thing to do, one question, on a motor at hand. */
function OnMotor({ shop, person }: { shop: string; person: string }) {
  const machines = useShop(shop).data?.machines ?? [];
  const motors = machines.flatMap(m => m.motors.map(o => ({ value: o.id, label: m.name, stage: o.stage })));
  const [query, setQuery] = useSearchParams();
  const motor = query.get('motor') ?? motors.find(m => m.stage !== 'blank plate')?.value ?? '';
  const book = useLessons(motor);
  const pending = usePending(`practice.${shop}`, 'practice', shop);
  const [name, open] = useState(query.get('lesson') ?? '');
  const [answered, answer] = useKept<Record<string, boolean>>('lessons', {});
  if (motor === '') return <p className="soft">A lesson wants a machine with a plate: add one first.</p>;
  if (book.isError)
    return (
      <p className="problem" role="alert">
        {words(book.error)}
      </p>
    );
  if (!book.data) return <p className="soft">Working the lessons out on this motor…</p>;
  const { lessons, machine } = book.data;
  const one = lessons.find(l => l.name === name) ?? lessons.find(l => !answered[l.name]) ?? lessons[0];
  const right = lessons.filter(l => answered[l.name]).length;
  return (
    <div className="lessons">
      <nav className="panel" aria-label="Lessons">
        <Select
          aria-label="On which motor"
          value={motor}
          options={motors}
          onChange={m => setQuery({ tab: 'lessons', motor: m }, { replace: true })}
        />
        <p className="soft">
          {right} of {lessons.length} answered right
        </p>
        <ol>
          {lessons.map(l => (
            <li key={l.name}>
              <button type="button" aria-current={l === one || undefined} onClick={() => open(l.name)}>
                {answered[l.name] ? '✓ ' : ''}
                {l.title}
              </button>
            </li>
          ))}
        </ol>
      </nav>
      {one && (
        <One
          key={`${motor} ${one.name}`}
          lesson={one}
          at={`/machines/${machine}/${one.step}?motor=${motor}`}
          done={ok => {
            open(one.name);
            answer({ ...answered, [one.name]: ok || (answered[one.name] ?? false) });
            if (person.trim())
              pending.add({
                id: newId(),
                person: person.trim(),
                kind: 'lesson',
                name: one.name,
                right: ok,
              });
          }}
          next={() => open(lessons[(lessons.indexOf(one) + 1) % lessons.length]!.name)}
        />
      )}
    </div>
  );
}

function One({
  lesson,
  at,
  done,
  next,
}: {
  lesson: Lesson;
  at: string;
  done: (right: boolean) => void;
  next: () => void;
}) {
  const [chosen, choose] = useState<number | null>(null);
  return (
    <section className="panel lesson">
      <h2>{lesson.title}</h2>
      {lesson.says.map(s => (
        <p key={s}>{s}</p>
      ))}
      <p className="lesson-do">
        {lesson.do} <Link to={at}>Do it there</Link>
      </p>
      <h3>{lesson.question}</h3>
      <div className="lesson-choices" role="group" aria-label={lesson.question}>
        {lesson.choices.map((c, i) => (
          <Button
            key={c}
            className={chosen === null ? '' : i === lesson.right ? 'is-right' : i === chosen ? 'is-wrong' : ''}
            aria-pressed={i === chosen}
            onClick={() => {
              choose(i);
              done(i === lesson.right);
            }}
          >
            {c}
          </Button>
        ))}
      </div>
      {chosen !== null && (
        <p role="status" className={chosen === lesson.right ? 'lesson-right' : 'lesson-wrong'}>
          {chosen === lesson.right ? '✓ Right. ' : `✗ Not ${lesson.choices[chosen]}. `}
          {lesson.because}
        </p>
      )}
      {chosen !== null && (
        <Button type="primary" onClick={next}>
          Next lesson
        </Button>
      )}
    </section>
  );
}
