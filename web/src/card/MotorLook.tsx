import { words } from '../api/client';
import { Band } from '../parts/Band';
import type { Draft } from './draft';
import { Facts } from './Facts';
import { useSinglePhase } from './way';
import { Driven } from './WhatIf';

/** A single-phase motor in the machine's place. */
export function MotorLook({
  motor,
  draft,
  stamp,
  set,
  choose,
}: {
  motor: string;
  draft: Draft;
  stamp: number;
  set: (field: string, patch: Partial<Draft>) => void;
  choose: React.ReactNode;
}) {
  const single = useSinglePhase(motor, stamp, true);
  if (single.isError)
    return (
      <>
        {choose}
        <p className="problem whole" role="alert">
          {words(single.error)}
        </p>
      </>
    );
  if (!single.data)
    return (
      <>
        {choose}
        <p className="soft whole">Looking for a motor…</p>
      </>
    );
  return (
    <>
      <Band rows={single.data.headline} open={false} />
      <div className="looks-row">{choose}</div>
      <section className="panel whatif slim">
        <header>
          <h2>What it drives</h2>
        </header>
        <Driven load={draft.load} set={set} />
      </section>
      <section className="panel wide-facts">
        <Facts rows={single.data.rows} />
      </section>
    </>
  );
}
