import { Button, Input } from 'antd';
import { useState } from 'react';
import { words, type Schemas } from '../api/client';
import { signMotor, useAcceptance, useChange } from '../api/hooks';
import { useKept } from '../parts/kept';
import { Sign, Verdicts } from '../parts/Verdicts';
import { keepHand, lastHand } from '../parts/written';
import { newId } from '../parts/id';

const signs = { fail: 'stop', limits: 'caution', 'not-yet': 'note', pass: '' } as const;

/** Whether the machine is accepted by what was read and done: what is missing, within which limits, and who signed. */
export function AcceptPanel({ motor, stamp }: { motor: string; stamp: number }) {
  const a = useAcceptance(motor, stamp).data;
  if (!a) return null;
  const signed = a.signed as Schemas['StoreLine'] | null;
  return (
    <section className="panel accept" aria-label="Acceptance">
      <header>
        <h2>Acceptance</h2>
        <b className={`accept-verdict ${a.verdict}`}>
          {signs[a.verdict] ? <Sign severity={signs[a.verdict]} size={16} /> : '✓'} {a.title}
        </b>
        <span className="soft">{a.basis}</span>
      </header>
      <ul className="needs">
        {a.needs.map(n => (
          <li key={n.title} className={n.done ? 'done' : ''}>
            <span aria-hidden>{n.done ? '✓' : '○'}</span> {n.title}
            {n.done ? <span className="visually-hidden">, done</span> : <span className="soft">: {n.says}</span>}
          </li>
        ))}
      </ul>
      {a.limits.length > 0 && (
        <>
          <h3>Within these limits</h3>
          <ul>
            {a.limits.map(l => (
              <li key={l}>{l}</li>
            ))}
          </ul>
        </>
      )}
      {a.verdicts.length > 0 && <Verdicts verdicts={a.verdicts} />}
      {a.cleared.length > 0 && (
        <>
          <h3>Stops of the plan that readings have cleared</h3>
          <Verdicts verdicts={a.cleared} />
        </>
      )}
      {signed?.signed && (
        <p className="signed">
          Signed: <b>{signed.signed.title}</b> by {signed.hand}, {new Date(signed.at).toLocaleDateString()}
          {a.since && <span className="late">. Since then: {a.since}.</span>}
        </p>
      )}
      {a.verdict !== 'not-yet' && <SignForm motor={motor} title={a.title} />}
    </section>
  );
}

function SignForm({ motor, title }: { motor: string; title: string }) {
  const [typed, setTyped, settle] = useKept(`${motor}.sign`, { hand: lastHand(), note: '' });
  const [id, setId] = useState(() => newId());
  const sign = useChange((body: { id: string; hand: string; note: string }) => signMotor(motor, body));
  return (
    <div className="sign-form">
      <label className="reading-field">
        <span>Signed by</span>
        <Input
          aria-label="Signed by"
          maxLength={40}
          value={typed.hand}
          onChange={e => setTyped({ ...typed, hand: e.target.value })}
        />
      </label>
      <label className="reading-field grows">
        <span>Note</span>
        <Input
          aria-label="Note to the signature"
          maxLength={500}
          value={typed.note}
          onChange={e => setTyped({ ...typed, note: e.target.value })}
        />
      </label>
      <Button
        type="primary"
        disabled={!typed.hand.trim()}
        loading={sign.isPending}
        onClick={() => {
          keepHand(typed.hand);
          sign.mutate(
            { id, ...typed },
            {
              onSuccess: () => {
                settle();
                setId(newId());
                setTyped({ hand: typed.hand, note: '' });
              },
            },
          );
        }}
      >
        Sign: {title}
      </Button>
      {sign.isError && (
        <p className="problem" role="alert">
          {words(sign.error)}
        </p>
      )}
    </div>
  );
}
