import { words } from '../api/client';
import { Band } from '../parts/Band';
import { Facts } from './Facts';
import { useSinglePhase } from './way';

/** A single-phase motor in the machine's place. */
export function MotorLook({ motor, stamp, choose }: { motor: string; stamp: number; choose: React.ReactNode }) {
  const single = useSinglePhase(motor, stamp, true);
  if (single.isError) return <>{choose}<p className="problem whole" role="alert">{words(single.error)}</p></>;
  if (!single.data) return <>{choose}<p className="soft whole">Looking for a motor…</p></>;
  return (
    <>
      <Band rows={single.data.headline} open={false} />
      <div className="looks-row">{choose}</div>
      <section className="panel wide-facts"><Facts rows={single.data.rows} /></section>
    </>
  );
}
