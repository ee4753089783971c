import type { Schemas, Size } from '../api/client';
import { CapacitorLook } from './CapacitorLook';
import type { Draft } from './draft';
import { DriveLook } from './DriveLook';
import { MotorLook } from './MotorLook';
import { PlateStep } from './PlateStep';
import { RotaryLook } from './RotaryLook';
import type { Attempt } from './size';
import { kindOf, taken, type RouteName } from './way';
import { WaySelect } from './WaySelect';

/** The sizes of the route taken, or of one that is looked at beside it. */
export function SizeStep({
  motor,
  seen,
  look,
  size,
  reading,
  problems,
  blank,
  draft,
  set,
  stamp,
  attempt,
  supply,
  off,
}: {
  motor: string;
  seen: RouteName;
  look: (route: RouteName) => void;
  size: Size | null;
  reading: Schemas['StudyReading'];
  problems: Record<string, string>;
  blank: boolean;
  draft: Draft;
  set: (field: string, patch: Partial<Draft>) => void;
  stamp: number;
  attempt: Attempt;
  supply: number;
  off: Schemas['CapacitorAfter'] | undefined;
}) {
  if (!reading.sound)
    return (
      <>
        <section className="panel empty-step">
          <h2>{blank ? 'Type the plate' : 'No answer from this plate yet'}</h2>
          <p>
            {blank
              ? 'Output, volts and rpm are enough for a first answer. Type them as they stand: 3 hp, 230/460, ' +
                '1745. Everything else sharpens it.'
              : 'The sentences on the plate and the verdicts below it say what is missing or does not agree.'}
          </p>
          {reading.verdicts
            .filter(v => v.severity === 'stop')
            .map(v => (
              <p key={v.rule} className="problem">
                {v.says} {v.do}
              </p>
            ))}
          {reading.verdicts
            .filter(v => v.rule === 'plate.likely-misreading')
            .map(v => (
              <p key={v.rule}>
                <b>{v.title}.</b> {v.says} {v.do}
              </p>
            ))}
        </section>
        {!blank && (
          <PlateStep motor={motor} stamp={stamp} draft={draft} reading={reading} problems={problems} set={set} />
        )}
      </>
    );
  const choose = <WaySelect draft={draft} seen={seen} look={look} set={set} />;
  const common = { motor, draft, set, stamp, choose };
  const own = seen === taken(draft.way);
  return (
    <div className="size-step">
      {kindOf(seen) === 'capacitors' && (
        <CapacitorLook
          key={seen}
          {...common}
          route={seen}
          own={own}
          size={size}
          reading={reading}
          problems={problems}
          attempt={attempt}
          supply={supply}
          off={off}
        />
      )}
      {kindOf(seen) === 'rotary' && <RotaryLook {...common} supply={supply} problems={problems} />}
      {kindOf(seen) === 'drive' && <DriveLook {...common} route={seen} problems={problems} />}
      {kindOf(seen) === 'motor' && <MotorLook {...common} />}
    </div>
  );
}
