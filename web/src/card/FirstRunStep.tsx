import { Button, Input } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { words, type Schemas } from '../api/client';
import { useFirstRun } from '../api/hooks';
import { useKept } from '../parts/kept';
import { keepHand, lastHand, moment } from '../parts/written';
import { usePending } from '../parts/outbox';
import { Waiting } from '../parts/Waiting';
import './firstrun.css';
import { newId } from '../parts/id';
import { useWakeLock } from '../parts/useWakeLock';

type Step = Schemas['RunStep'];

/** From dead to loaded, step by step: each is done, seen, and written down by somebody, in its order. */
export function FirstRunStep({ motor, sound, stamp }: { motor: string; sound: boolean; stamp: number }) {
  const run = useFirstRun(motor, stamp, sound);
  const [hand, setHand] = useState(() => lastHand());
  const shop = run.data?.shop ?? '';
  const pending = usePending(`steps.${motor}`, 'entries', shop);
  // As it was written here: it stands before what the server says of it, which takes a moment.
  const [written, setWritten] = useState<Record<string, string>>(() =>
    Object.fromEntries(pending.waiting.map(e => [e.step ?? '', e.went ?? ''])),
  );
  const underWay = (run.data?.steps ?? []).some(s => (written[s.key] ?? s.went) !== 'well');
  const lit = useWakeLock(sound && underWay);
  if (!sound)
    return (
      <section className="panel empty-step">
        <h2>No first run of this plate yet</h2>
        <p>The sentences on the plate and the verdicts below it say what is missing or does not agree.</p>
      </section>
    );
  if (run.isError)
    return (
      <p className="problem" role="alert">
        {words(run.error)}
      </p>
    );
  if (!run.data) return <p className="soft">Making the steps…</p>;
  const { steps, machine, passed, checks, turn, stops, cleared } = run.data;
  const went = (s: Step) => written[s.key] ?? s.went;
  const next = steps.findIndex(s => went(s) !== 'well');
  const write = (s: Step, how: 'well' | 'not', says: string) => {
    keepHand(hand);
    setWritten({ ...written, [s.key]: how });
    pending.add({
      id: newId(),
      at: moment(),
      hand: hand.trim(),
      kind: 'step',
      machine,
      motor,
      says: `${s.do} ${how === 'well' ? 'It went well.' : 'Not so:'} ${says}${
        how === 'not' && s.not ? ` What it may mean, and what to look at next: ${s.not}` : ''
      }`
        .trim()
        .slice(0, 2000),
      who: '',
      due: '',
      ends: s.went === 'not' ? s.line : '',
      corrects: '',
      step: s.key,
      went: how,
    });
  };
  const open = passed < checks;
  return (
    <div className="first-run">
      <section className="panel">
        <header className="run-head">
          <h2>First run</h2>
          <span className="soft">
            {next < 0 ? 'every step went well' : `step ${next + 1} of ${steps.length} is next`}
            {lit && ' · the screen stays on'}
          </span>
          <span className="gap" />
          <label>
            Done by <Input aria-label="Done by" maxLength={40} value={hand} onChange={e => setHand(e.target.value)} />
          </label>
        </header>
        {stops.map(s => (
          <p className="problem" key={s} role="alert">
            {s}
          </p>
        ))}
        {cleared.map(c => (
          <p className="went" key={c}>
            ✓ Cleared by readings: {c}
          </p>
        ))}
        {open && (
          <p className="caution-line">
            {passed} of {checks} checks before power are passed:{' '}
            <Link to={`/machines/${machine}/wire?motor=${motor}&tab=checks`}>go through the others first</Link>.
          </p>
        )}
        <Waiting
          count={pending.waiting.length}
          refused={pending.refused}
          mend={() => {
            const step = pending.back()?.step;
            if (step) setWritten(Object.fromEntries(Object.entries(written).filter(([key]) => key !== step)));
          }}
        />
        <ol className="run-steps">
          {steps.map((s, i) => (
            <StepRow
              key={s.key}
              motor={motor}
              step={s}
              went={went(s)}
              due={i === next}
              may={hand.trim() !== ''}
              prove={`/machines/${machine}/prove?motor=${motor}`}
              write={(how, says) => write(s, how, says)}
            />
          ))}
        </ol>
        <p className="soft">
          {turn.label}: {turn.value}.
        </p>
      </section>
    </div>
  );
}

/** From how many characters on what is looked for has a line of its own. */
const maxShort = 20;

function StepRow({
  motor,
  step,
  went,
  due,
  may,
  prove,
  write,
}: {
  motor: string;
  step: Step;
  went: string;
  due: boolean;
  may: boolean;
  prove: string;
  write: (how: 'well' | 'not', says: string) => void;
}) {
  const [says, setSays, settle] = useKept(`${motor}.step.${step.key}`, '');
  const done = (how: 'well' | 'not') => {
    write(how, says.trim());
    setSays('');
    settle();
  };
  return (
    <li
      className={went === 'well' ? 'well' : went === 'not' ? 'not' : due ? 'due' : ''}
      aria-current={due || undefined}
    >
      <span className="do">{step.do}</span>
      {step.see && (
        <span>
          <span className="soft">See:</span> {step.see}.
        </span>
      )}
      {step.read.length > 0 && (
        <span className="bands">
          {step.read.map(r => (
            <span key={r.label} className={r.value.length > maxShort ? 'long' : ''}>
              {r.label} <b className={r.value.length > maxShort ? '' : 'figures'}>{r.value}</b>
              {r.remark && <span className="soft"> {r.remark}</span>}
            </span>
          ))}
          {step.state !== 'sequence' && (
            <Link className="alone" to={prove}>
              write the reading down
            </Link>
          )}
        </span>
      )}
      {(due || went === 'not') && step.not && (
        <span className="otherwise">
          <span className="soft">If not:</span> {step.not}
        </span>
      )}
      {went !== '' && (
        <span className={went === 'well' ? 'went' : 'went bad'}>
          {went === 'well' ? '✓ went well' : '✗ not so'}
          {step.by && `, ${step.by}, ${new Date(step.at).toLocaleString()}`}
        </span>
      )}
      {due && (
        <span className="act">
          <Input
            aria-label="Seen, heard, read"
            placeholder="Seen, heard, read"
            maxLength={500}
            value={says}
            onChange={e => setSays(e.target.value)}
          />
          <Button type="primary" disabled={!may} onClick={() => done('well')}>
            Went well
          </Button>
          <Button danger disabled={!may || says.trim() === ''} onClick={() => done('not')}>
            Not so
          </Button>
          {!may && <span className="soft">Say who does it first.</span>}
        </span>
      )}
    </li>
  );
}
