import { Button, Segmented } from 'antd';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, client, words, type Schemas } from '../api/client';
import { at } from '../api/hooks';
import { keys } from '../api/keys';
import { useKept } from '../parts/kept';
import { newId } from '../parts/id';

/** A made-up plate with one figure that is wrong: which one? The mistake is named afterwards. */
export function Exercises({ shop, person }: { shop: string; person: string }) {
  const [place, setPlace] = useKept<{ level: number; seed: number }>('exercise', { level: 1, seed: 1 });
  const [told, tell] = useState<{ picked: string; answer: Schemas['LessonAnswered'] } | null>(null);
  const [fault, setFault] = useState('');
  const page = useQuery({
    queryKey: keys.exercise(place.level, place.seed),
    staleTime: Infinity,
    queryFn: () =>
      ask(client.GET('/exercises/{level}/{seed}', { params: { path: { level: place.level, seed: place.seed } } })),
  });
  const go = (next: { level: number; seed: number }) => {
    setPlace(next);
    tell(null);
    setFault('');
  };
  const pick = async (field: string) => {
    try {
      const body = { id: newId(), person, level: place.level, seed: place.seed, field };
      tell({ picked: field, answer: await ask(client.POST('/shops/{id}/exercises', { ...at(shop), body })) });
      setFault('');
    } catch (e) {
      setFault(words(e));
    }
  };
  const x = page.data;
  return (
    <section className="panel lesson exercise">
      <header>
        <h2>One figure on this plate is wrong</h2>
        <Segmented
          aria-label="Level"
          value={place.level}
          options={[1, 2, 3].map(value => ({ value, label: `Level ${value}` }))}
          onChange={level => go({ level, seed: place.seed })}
        />
      </header>
      {page.isError && (
        <p className="problem" role="alert">
          {words(page.error)}
        </p>
      )}
      {x && (
        <div className="exercise-plate" role="group" aria-label="Which figure is wrong?">
          {x.fields.map(f => (
            <button
              key={f.name}
              type="button"
              disabled={told !== null}
              className={
                told === null
                  ? ''
                  : f.name === told.answer.field
                    ? 'is-right'
                    : f.name === told.picked
                      ? 'is-wrong'
                      : ''
              }
              onClick={() => void pick(f.name)}
            >
              <span>{f.title}</span>
              <b>{f.value}</b>
            </button>
          ))}
        </div>
      )}
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      {told && (
        <p role="status" className={told.answer.right ? 'lesson-right' : 'lesson-wrong'}>
          {told.answer.right ? '✓ Right. ' : '✗ It is another. '}
          {told.answer.title} should be <b className="figures">{told.answer.should}</b>. {told.answer.says}
        </p>
      )}
      {told && (
        <Button type="primary" onClick={() => go({ ...place, seed: place.seed + 1 })}>
          Next plate
        </Button>
      )}
      <p className="soft small">Plate {place.seed}: the same one for everybody who asks for it.</p>
    </section>
  );
}
