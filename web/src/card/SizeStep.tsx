import { memo } from 'react';
import type { Page, Schemas, Verdict } from '../api/client';
import type { Draft, Set } from './parts';
import { PlateStep } from './PlateStep';
import { WayPage } from './WayPage';
import { WaySelect } from './WaySelect';

/** The sizes of the way taken, or of one that is looked at beside it. */
export const SizeStep = memo(function SizeStep({
  motor,
  seen,
  look,
  whole,
  fault,
  tell,
  reading,
  problems,
  blank,
  draft,
  set,
  stamp,
  off,
}: {
  motor: string;
  seen: string;
  look: (way: string) => void;
  whole: Page | undefined;
  /** Why there is no answer. */ fault: string;
  /** Is told what is said of what is tried. */ tell: (of: Page, verdicts: Verdict[]) => void;
  reading: Schemas['StudyReading'];
  problems: Record<string, string>;
  blank: boolean;
  draft: Draft;
  set: Set;
  stamp: number;
  off: string;
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
  return (
    <div className="size-step">
      {fault && (
        <p className="problem at-full" role="alert">
          {fault}
        </p>
      )}
      {whole ? (
        <WayPage key={seen} {...{ motor, stamp, whole, tell, off, draft, set, problems, choose }} />
      ) : (
        <>
          {choose}
          {!fault && <p className="soft at-full">Working it out…</p>}
        </>
      )}
    </div>
  );
});
