import { Button, Checkbox, Input } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { words, type Schemas } from '../api/client';
import { useDiagnosis } from '../api/hooks';
import { useKept } from '../parts/kept';
import { usePending } from '../parts/outbox';
import { Sign } from '../parts/Verdicts';
import { Waiting } from '../parts/Waiting';
import { keepHand, lastHand, moment } from '../parts/written';
import { DriveFaults } from './DriveFaults';
import './fault.css';
import { newId } from '../parts/id';

type Looked = Schemas['DiagnoseLooked'];

/** What was said and looked at; since is that what was read was read since it went wrong. */
type Seen = { symptoms: string[]; looked: Looked[]; since?: boolean };
const nothing: Seen = { symptoms: [], looked: [] };

/** How many causes are shown at most, and from which probability. */
const most = 6;
const least = 0.01;

/** From what is seen and heard to the cure: the model weighs every cause, and names the next look. */
export function FaultStep({ motor, sound, stamp }: { motor: string; sound: boolean; stamp: number }) {
  const [seen, see, settle] = useKept<Seen>(`${motor}.fault`, nothing);
  const found = useDiagnosis(motor, stamp, seen, sound);
  if (!sound)
    return (
      <section className="panel empty-step">
        <h2>Nothing can be weighed by this plate yet</h2>
        <p>The sentences on the plate and the verdicts below it say what is missing or does not agree.</p>
      </section>
    );
  if (found.isError)
    return (
      <div className="fault-refused">
        <p className="problem" role="alert">
          {words(found.error)}
        </p>
        <Button onClick={() => see(nothing)}>Begin anew</Button>
      </div>
    );
  if (!found.data) return <p className="soft">Doing every fault to the model…</p>;
  const d = found.data;
  if (d.drive.length > 0) return <DriveFaults motor={motor} found={d} />;
  if (!d.known)
    return (
      <section className="panel empty-step">
        <h2>No capacitors and no idler to weigh here</h2>
        <p>Causes are weighed where capacitors or an idler feed the motor, once a way is taken.</p>
      </section>
    );
  const anything = seen.symptoms.length + seen.looked.length + d.readings > 0;
  const next = d.next as Schemas['DiagnoseNext'] | null;
  return (
    <div className="fault-step">
      <section className="panel symptoms" aria-label="What is seen and heard">
        <h2>What is seen and heard</h2>
        {[...new Set(d.symptoms.map(s => s.when))].map(when => (
          <div role="group" aria-label={when} key={when}>
            <h3>{when}</h3>
            {d.symptoms
              .filter(s => s.when === when)
              .map(s => (
                <Checkbox
                  key={s.id}
                  checked={seen.symptoms.includes(s.id)}
                  onChange={e =>
                    see({
                      ...seen,
                      symptoms: e.target.checked ? [...seen.symptoms, s.id] : seen.symptoms.filter(x => x !== s.id),
                    })
                  }
                >
                  {s.title}
                </Checkbox>
              ))}
          </div>
        ))}
        {d.readings > 0 && (
          <div role="group" aria-label="Read on Prove">
            <h3>
              Read on Prove: {d.readings} {d.readings === 1 ? 'state' : 'states'}
            </h3>
            <Checkbox checked={seen.since ?? false} onChange={e => see({ ...seen, since: e.target.checked })}>
              Read since it went wrong: it counts in full
            </Checkbox>
          </div>
        )}
      </section>
      <div className="fault-side">
        {anything && next && (
          <section className="panel next-look" aria-label="Next look">
            <h2>Next look</h2>
            <p className={next.live ? 'caution-line' : 'look-says'}>
              {next.live && <Sign severity="caution" size={16} />} {next.says}
            </p>
            <p className="soft">
              It parts {named(d, next.parts[0])} from {named(d, next.parts[1])}. What is found?
            </p>
            <p className="links">
              {next.found.map(f => (
                <Button
                  key={f.id}
                  onClick={() => see({ ...seen, looked: [...seen.looked, { look: next.look, found: f.id }] })}
                >
                  {f.title}
                </Button>
              ))}
            </p>
          </section>
        )}
        <section className="panel causes" aria-label="Causes">
          <h2>{anything ? 'What it may be' : 'Say what is seen: every cause is then weighed by what it would show'}</h2>
          {anything && (
            <ol>
              {d.causes
                .slice(0, most)
                .filter((c, i) => i === 0 || c.probability >= least)
                .map((c, i) => (
                  <li key={c.cause} className={i === 0 ? 'first' : ''}>
                    <span className="cause-line">
                      <progress value={c.probability} max={1} aria-label={`${c.says} ${percent(c.probability)}`} />
                      <b className="figures">{percent(c.probability)}</b>
                    </span>
                    <span>{c.says}</span>
                    {c.fits.length + c.against.length > 0 && (
                      <span className="soft small">
                        {c.fits.length > 0 && `Shows: ${c.fits.join('; ').toLowerCase()}. `}
                        {c.against.length > 0 && `Would not show: ${c.against.join('; ').toLowerCase()}.`}
                      </span>
                    )}
                    {i === 0 && <span className="cure">{c.cure}</span>}
                  </li>
                ))}
            </ol>
          )}
          {seen.looked.length > 0 && (
            <>
              <h3>Looked at</h3>
              <ul className="looked">
                {seen.looked.map(l => {
                  const look = d.looks.find(x => x.id === l.look);
                  return (
                    <li key={l.look}>
                      {look?.says} <b>{look?.found.find(f => f.id === l.found)?.title}</b>{' '}
                      <Button
                        size="small"
                        type="text"
                        onClick={() => see({ ...seen, looked: seen.looked.filter(x => x.look !== l.look) })}
                      >
                        Take it back
                      </Button>
                    </li>
                  );
                })}
              </ul>
            </>
          )}
        </section>
        <Cure
          motor={motor}
          found={d}
          seen={d.symptoms.filter(s => seen.symptoms.includes(s.id)).map(s => s.title)}
          cure={`${d.causes[0]?.says ?? ''} ${d.causes[0]?.cure ?? ''}`}
          said={seen.symptoms.length + seen.looked.length > 0}
          done={() => {
            see(nothing);
            settle();
          }}
        />
      </div>
    </div>
  );
}

const percent = (p: number) => `${p >= 0.995 ? '>99' : Math.round(100 * p)} %`;

/** A cause by the first words of what is said of it. */
const named = (d: Schemas['Diagnosis'], cause = '') => {
  const says = d.causes.find(c => c.cause === cause)?.says ?? cause;
  const short = says.split(':')[0]!.replace(/\.$/, '');
  return `“${short}”`;
};

/** The fault and what cured it, written into the daybook in one go; then it is run and read again. */
export function Cure({
  motor,
  found,
  seen,
  cure,
  said,
  done,
}: {
  motor: string;
  found: Schemas['Diagnosis'];
  /** What was seen, and what cured it, in words. */
  seen: string[];
  cure: string;
  said: boolean;
  done: () => void;
}) {
  const [hand, setHand] = useState(() => lastHand());
  const [cured, setCured] = useState(false);
  const pending = usePending(`faults.${motor}`, 'entries', found.shop);
  const write = () => {
    keepHand(hand);
    const blank = { at: moment(), hand: hand.trim(), machine: found.machine, motor, who: '', due: '', corrects: '' };
    const fault = newId();
    const says = seen.length > 0 ? `${seen.join('; ')}.` : 'Readings were not as they should be.';
    pending.add({ ...blank, id: fault, kind: 'fault', says, ends: '' });
    pending.add({
      ...blank,
      id: newId(),
      kind: 'cure',
      says: cure.slice(0, 2000),
      ends: fault,
    });
    setCured(true); // and what was seen is done with
    done();
  };
  const open = said || (found.readings > 0 && !cured);
  if (!open && !cured && pending.waiting.length === 0) return null;
  return (
    <section className="panel" aria-label="Cured">
      <Waiting count={pending.waiting.length} refused={pending.refused} mend={() => void pending.back()} />
      {!open ? (
        <p className="went">
          ✓ Written down. Now see that it took: run it as the{' '}
          <Link to={`/machines/${found.machine}/run?motor=${motor}`}>First run</Link> says, and{' '}
          <Link to={`/machines/${found.machine}/prove?motor=${motor}`}>read it again</Link>.
        </p>
      ) : (
        <p className="links">
          <label>
            Cured by <Input aria-label="Cured by" maxLength={40} value={hand} onChange={e => setHand(e.target.value)} />
          </label>
          <Button type="primary" disabled={!hand.trim()} onClick={write}>
            It was {found.known ? 'the first of these' : 'this'}, and is cured
          </Button>
        </p>
      )}
    </section>
  );
}
