import { words } from '../api/client';
import { useDrive } from '../api/hooks';
import { Keys } from '../parts/Chart';
import { RippleCurve, rippleKeys, SpeedCurve, speedKeys } from '../parts/Curves';
import { Verdicts } from '../parts/Verdicts';
import { Facts } from './Facts';

/** The same motor on a drive fed from one phase: its bus, its torque across speed, and what one phase leaves of it. */
export function DriveLook({ motor, stamp }: { motor: string; stamp: number }) {
  const drive = useDrive(motor, stamp);
  if (drive.isError) return <p className="problem whole" role="alert">{words(drive.error)}</p>;
  if (!drive.data) return <p className="soft whole">Stepping a drive’s front end…</p>;
  const { answer, rows } = drive.data;
  return (
    <>
      <section className="panel picture narrow">
        <header><h2>Bus</h2><Keys lines={[...rippleKeys]} /></header>
        <RippleCurve front={answer.load} />
      </section>
      <section className="panel picture narrow">
        <header><h2>Torque</h2><Keys lines={[...speedKeys]} /></header>
        <SpeedCurve drive={answer} />
      </section>
      <section className="panel wide-facts">
        <Facts rows={rows} />
      </section>
      <section className="whole"><Verdicts verdicts={answer.verdicts} /></section>
    </>
  );
}
