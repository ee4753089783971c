import { Button, Input } from 'antd';
import { useState } from 'react';
import { words, type Schemas } from '../api/client';
import { fitBank, useChange } from '../api/hooks';
import { useKept } from '../parts/kept';
import { Verdicts } from '../parts/Verdicts';
import { keepHand, lastHand } from '../parts/written';
import { newId } from '../parts/id';

/** What to change next and what will be read then; and where it is said that other capacitors are in. */
export function NextChange({ motor, page }: { motor: string; page: Schemas['Proof'] }) {
  const [fitting, fit] = useState(false);
  return (
    <section className="panel">
      <h2>Next change</h2>
      <NextSays page={page} />
      {page.banks.length > 0 &&
        (fitting ? (
          <BankForm motor={motor} page={page} close={() => fit(false)} />
        ) : (
          <p className="links">
            <Button onClick={() => fit(true)}>Other capacitors are in now</Button>
          </p>
        ))}
      {page.verdicts.length > 0 && <Verdicts verdicts={page.verdicts} />}
    </section>
  );
}

/** The change to make next and what should be read then, or why there is none. */
export function NextSays({ page }: { page: Schemas['Proof'] }) {
  return (
    <>
      {page.next ? (
        <>
          <p className="next-says">{page.next.says}</p>
          <ul className="plain">
            {page.next.then.map(r => (
              <li key={r.label}>
                {r.label} should then read <b className="figures">{r.value}</b>
                <span className="soft">; {r.remark}</span>
              </li>
            ))}
          </ul>
          <p className="soft">{page.next.reason}. Isolate, lock, wait, prove dead, discharge every can first.</p>
        </>
      ) : (
        <p className="soft">{page.no_next}</p>
      )}
    </>
  );
}

function BankForm({ motor, page, close }: { motor: string; page: Schemas['Proof']; close: () => void }) {
  const [id] = useState(() => newId());
  const next: Record<string, number | undefined> = { ac: page.next?.ac_microfarad, bc: page.next?.bc_microfarad };
  const blank: Record<string, string> = {
    hand: lastHand(),
    ...Object.fromEntries(page.banks.map(b => [b.name, String(Math.round(10 * (next[b.name] ?? b.microfarad)) / 10)])),
  };
  const [typed, setTyped, settle] = useKept(`${motor}.bank`, blank);
  const fit = useChange((body: Schemas['FitBankRequest']) => fitBank(motor, body));
  const of = (name: string) => Number((typed[name] ?? '0').trim().replace(',', '.'));
  const wrong = page.banks.some(b => !Number.isFinite(of(b.name)) || of(b.name) < 0);
  const missing = wrong ? 'Microfarads are a number.' : !typed.hand?.trim() ? 'Say who changed them.' : '';
  return (
    <div className="sign-form" role="group" aria-label="Capacitors that are in now">
      {page.banks.map(b => (
        <label className="reading-field" key={b.name}>
          <span>{b.title}</span>
          <Input
            aria-label={`${b.title}, now`}
            inputMode="decimal"
            maxLength={8}
            suffix="µF"
            value={typed[b.name] ?? ''}
            onChange={e => setTyped({ ...typed, [b.name]: e.target.value })}
          />
        </label>
      ))}
      <label className="reading-field">
        <span>Changed by</span>
        <Input
          aria-label="Changed by"
          maxLength={40}
          value={typed.hand}
          onChange={e => setTyped({ ...typed, hand: e.target.value })}
        />
      </label>
      <Button
        type="primary"
        disabled={missing !== ''}
        loading={fit.isPending}
        onClick={() => {
          keepHand(typed.hand ?? '');
          fit.mutate(
            { id, hand: typed.hand ?? '', ac_microfarad: of('ac') || 0, bc_microfarad: of('bc') || 0 },
            {
              onSuccess: () => {
                settle();
                close();
              },
            },
          );
        }}
      >
        They are in
      </Button>
      <Button onClick={close}>Not yet</Button>
      <span className="soft">{missing}</span>
      {fit.isError && (
        <p className="problem" role="alert">
          {words(fit.error)}
        </p>
      )}
    </div>
  );
}
