import { Radio, Segmented } from 'antd';
import { useEffect, useState } from 'react';
import { words } from '../api/client';
import { Band } from '../parts/Band';
import { Keys } from '../parts/Chart';
import { RippleCurve, rippleKeys, SpeedCurve, speedKeys } from '../parts/Curves';
import type { Draft } from './draft';
import { Facts } from './Facts';
import { ShaftPanel } from './ShaftForm';
import { SlideRow } from './SlideRow';
import { Driven } from './WhatIf';
import { useDrive, type RouteName } from './way';

type Look = 'running' | 'controls' | 'shaft';
const looks: { value: Look; label: string }[] = [
  { value: 'running', label: 'Bus and torque' },
  { value: 'controls', label: 'Controls' },
  { value: 'shaft', label: 'Shaft and duty' },
];

/**
 * The motor on a drive fed from one phase: its bus, its torque across speed, what one phase leaves of it, and its
 * controls.
 */
export function DriveLook({
  motor,
  route,
  draft,
  stamp,
  set,
  problems,
  choose,
}: {
  motor: string;
  route: RouteName;
  draft: Draft;
  stamp: number;
  set: (field: string, patch: Partial<Draft>) => void;
  problems: Record<string, string>;
  choose: React.ReactNode;
}) {
  const drive = useDrive(motor, stamp, route, true);
  const [look, setLook] = useState<Look>('running');
  const [share, setShare] = useState<number>();
  useEffect(() => setShare(undefined), [stamp]);
  const tried = useDrive(motor, stamp, route, share !== undefined, share);
  if (drive.isError)
    return (
      <>
        {choose}
        <p className="problem whole" role="alert">
          {words(drive.error)}
        </p>
      </>
    );
  if (!drive.data)
    return (
      <>
        {choose}
        <p className="soft whole">Stepping a drive’s front end…</p>
      </>
    );
  const { controls, several, change_over } = drive.data;
  const { answer, headline, rows } = (share !== undefined && tried.data) || drive.data;
  return (
    <>
      <Band rows={headline} open={false} />
      <div className="looks-row">
        {choose}
        <Segmented className="looks" value={look} onChange={setLook} options={looks} aria-label="What is shown" />
      </div>
      {look === 'running' && (
        <>
          <section className="panel picture narrow">
            <header>
              <h2>Bus</h2>
              <Keys lines={[...rippleKeys]} />
            </header>
            <RippleCurve front={answer.load} />
          </section>
          <section className="panel picture narrow">
            <header>
              <h2>Torque</h2>
              <Keys lines={[...speedKeys]} />
            </header>
            <SpeedCurve drive={answer} />
          </section>
          <section className="panel whatif slim">
            <header>
              <h2>What if</h2>
              <span className="soft">drag, and the bus follows</span>
            </header>
            <div className="sliders">
              <SlideRow
                name="share"
                label="Load"
                value={Math.round(100 * (share ?? answer.load_share))}
                most={100}
                step={1}
                unit="%"
                slide={v => setShare(v / 100)}
                keep={v => {
                  setShare(v / 100);
                  set('load_share', { load_share: v / 100 });
                }}
              />
            </div>
            <Driven load={draft.load} set={set} />
            {several.motors.length > 1 && (
              <div className="several">
                <p>
                  {several.motors.length} motors:{' '}
                  {several.motors
                    .map(m => `${m.name || 'motor'} ${m.amps > 0 ? `${m.amps.toPrecision(2)} A` : 'amps not known'}`)
                    .join(', ')}
                </p>
                <Radio.Group
                  value={draft.way.one_each}
                  onChange={e => set('way.one_each', { way: { ...draft.way, one_each: e.target.value as boolean } })}
                  options={[
                    { value: false, label: 'One drive for all' },
                    { value: true, label: 'A drive for each' },
                  ]}
                />
              </div>
            )}
          </section>
          <section className="panel wide-facts">
            <Facts rows={rows} />
          </section>
        </>
      )}
      {look === 'shaft' && <ShaftPanel draft={draft} problems={problems} set={set} />}
      {look === 'controls' && (
        <>
          <section className="panel whole">
            <header>
              <h2>Controls on the drive</h2>
              <span className="soft">what there is was noted on the Route step</span>
            </header>
            <table className="facts controls">
              <thead>
                <tr>
                  <th scope="col">The machine has</th>
                  <th scope="col">Goes to</th>
                  <th scope="col">How</th>
                </tr>
              </thead>
              <tbody>
                {controls.map(c => (
                  <tr key={c.has}>
                    <th scope="row">{c.has}</th>
                    <td>
                      <b>{c.input || '–'}</b>
                    </td>
                    <td>{c.becomes}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          {change_over.length > 0 && (
            <section className="panel whole">
              <header>
                <h2>Changed over from the lower volts</h2>
              </header>
              <ol className="change-over">
                {change_over.map(line => (
                  <li key={line}>{line}</li>
                ))}
              </ol>
            </section>
          )}
        </>
      )}
    </>
  );
}
