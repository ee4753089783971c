import { Button } from 'antd';
import { words, type Schemas } from '../api/client';
import { learnMotor, useChange } from '../api/hooks';
import { lastHand } from '../parts/written';
import { SectionTable } from '../sheet/SectionTable';

/** What the readings say of the machines, and whether it answers everywhere in the place of the plate. */
export function LearnedPanel({ motor, page }: { motor: string; page: Schemas['Proof'] }) {
  const change = useChange((take: boolean) => learnMotor(motor, { take, hand: lastHand() }));
  const taken = page.taken as Schemas['MachineLearned'] | null;
  const fitted = page.fitted as Schemas['MachineLearned'] | null;
  const more = taken && fitted ? fitted.readings - taken.readings : 0;
  return (
    <section className="panel">
      <SectionTable section={{ title: 'What the readings say of the machines', rows: page.learned }} />
      {taken && (
        <p className="learned-line">
          <b className="learned-mark">learned</b> The machine of {taken.readings} readings answers everywhere in the
          place of its plate, by {taken.hand}, {new Date(taken.at).toLocaleDateString()}.
          {more > 0 && ` ${more} more are read since.`}
        </p>
      )}
      {(fitted ?? taken) && (
        <p className="links">
          {fitted && (!taken || more !== 0) && (
            <Button loading={change.isPending} disabled={!lastHand()} onClick={() => change.mutate(true)}>
              {taken ? 'Learn it anew' : 'Answer everywhere with the learned machine'}
            </Button>
          )}
          {!lastHand() && (
            <span className="soft">Whose hand takes it is not known: it is that of what was written down last.</span>
          )}
          {taken && (
            <Button loading={change.isPending} onClick={() => change.mutate(false)}>
              Lay it aside
            </Button>
          )}
        </p>
      )}
      {change.isError && (
        <p className="problem" role="alert">
          {words(change.error)}
        </p>
      )}
    </section>
  );
}
