import { Button, Segmented } from 'antd';
import { lazy, Suspense, useCallback, useDeferredValue, useMemo, useState } from 'react';
import { ask, client, type Schemas, type Size } from '../api/client';
import { Band } from '../parts/Band';
import { Cans } from '../parts/Cans';
import { Keys } from '../parts/Chart';
import { HeatCurve, RunUpCurve, runUpKeys, SessionCurve, sessionKeys, TorqueCurve } from '../parts/Curves';
import { Triangle } from '../parts/Triangle';
import { WindingBars } from '../parts/WindingBars';
import { number, whole } from '../parts/number';
import type { Draft } from './draft';
import { BoxLook } from './BoxLook';
import { Facts } from './Facts';
import { Schools } from './Schools';
import { dutyFields, inertiaFields, ShaftForm } from './ShaftForm';
import type { Attempt } from './size';
import { isBox, type RouteName } from './way';
import { WhatIf } from './WhatIf';

const Scope = lazy(() => import('../parts/Scope'));

type Look = 'running' | 'starting' | 'session' | 'scope' | 'box';
const looks: { value: Look; label: string }[] = [
  { value: 'running', label: 'Running' },
  { value: 'starting', label: 'Starting' },
  { value: 'session', label: 'Heat' },
  { value: 'scope', label: 'Scope' },
];
const boxLooks: typeof looks = [{ value: 'box', label: 'The box' }, ...looks];
const curves: { value: 'torque' | 'heat'; label: string }[] = [
  { value: 'torque', label: 'Torque' },
  { value: 'heat', label: 'Hottest winding' },
];

/**
 * Run and start capacitors, a static converter or a phase-shifting box: the answer, its pictures, the what-if and the
 * schools.
 */
export function CapacitorLook({
  motor,
  route,
  own,
  size,
  reading,
  problems,
  draft,
  set,
  stamp,
  attempt,
  supply,
  off,
  choose,
}: {
  motor: string;
  route: RouteName;
  own: boolean;
  size: Size | null;
  reading: Schemas['StudyReading'];
  problems: Record<string, string>;
  draft: Draft;
  set: (field: string, patch: Partial<Draft>) => void;
  stamp: number;
  attempt: Attempt;
  supply: number;
  off: Schemas['CapacitorAfter'] | undefined;
  choose: React.ReactNode;
}) {
  const [look, setLook] = useState<Look>(isBox(route) ? 'box' : 'running');
  const [curve, setCurve] = useState<'torque' | 'heat'>('torque');
  // The schools stand for what is kept, not for what is being tried.
  const schoolShare = size?.answer.schools[0]?.load.load_share ?? 0;
  const schoolRun = draft.run_microfarad ?? size?.answer.model_run_microfarad ?? 0;
  const calm = useDeferredValue(size); // the pictures come first, the figures and parts right after
  const bank = useMemo(
    () =>
      calm && {
        run: calm.answer.run_parts.parts,
        start: calm.answer.live.start_microfarad > 0 ? calm.answer.start_parts : [],
        bleeds: [...calm.answer.run_bleeds, ...calm.answer.start_bleeds],
      },
    [calm],
  );
  // What the scope shows follows the hand once it rests.
  const tried = calm && {
    run: calm.answer.live.run_microfarad,
    start: calm.answer.live.start_microfarad,
    share: calm.answer.live.load_share,
  };
  const key = JSON.stringify([motor, stamp, tried, route]);
  const scope = useCallback(
    (from: number, to: number, buckets: number) =>
      ask(
        client.GET('/motors/{id}/scope', {
          params: {
            path: { id: motor },
            query: { ...(JSON.parse(key) as [string, number, typeof tried])[2], route, from, to, buckets },
          },
        }),
      ),
    [motor, key, route],
  );
  const views = useMemo(
    () => (
      <Segmented
        className="looks"
        value={look}
        onChange={setLook}
        options={isBox(route) ? boxLooks : looks}
        aria-label="What is shown"
      />
    ),
    [look, route],
  );
  const choice = useMemo(
    () => <Segmented size="small" value={curve} onChange={setCurve} options={curves} aria-label="Curve" />,
    [curve],
  );
  if (!size || !calm)
    return (
      <>
        {choose}
        <p className="soft whole">Solving…</p>
      </>
    );
  const { answer } = size;
  const { live } = answer;
  const typed = draft.run_microfarad !== null || draft.start_microfarad !== null;
  const states = [
    { title: 'idle', state: live.idle },
    { title: `load, ${whole(100 * live.load_share)} %`, state: live.load },
    { title: 'full plate output', state: live.full },
  ];
  return (
    <>
      <Band rows={calm.headline} open />
      <div className="looks-row">
        {choose}
        {views}
      </div>
      {look === 'starting' && (
        <>
          <section className="panel picture aside">
            <header>
              <h2>Coming up</h2>
              <Keys lines={[...runUpKeys]} />
            </header>
            <RunUpCurve live={live} synchronous={answer.synchronous_rpm} />
          </section>
          <section className="panel rest">
            <header>
              <h2>Start</h2>
              {off && <span className="soft">{offWords(off.off)}</span>}
            </header>
            <Facts rows={calm.start} />
            <h3>
              What it brings up <span className="soft">left empty, by the kind of machine</span>
            </h3>
            <ShaftForm fields={inertiaFields} shaft={draft.shaft} problems={problems} set={set} />
          </section>
        </>
      )}
      {look === 'session' && (
        <>
          <section className="panel picture aside">
            <header>
              <h2>Session</h2>
              <Keys lines={[...sessionKeys]} />
            </header>
            <SessionCurve session={live.session} />
          </section>
          <section className="panel rest">
            <header>
              <h2>Heat</h2>
              <span className="soft">
                insulation class {live.session.thermal.class}
                {live.session.thermal.class_assumed ? ', assumed' : ''}
              </span>
            </header>
            <Facts rows={calm.heat} />
            <h3>
              How it works <span className="soft">minutes, or with h</span>
            </h3>
            <ShaftForm fields={dutyFields} shaft={draft.shaft} problems={problems} set={set} />
          </section>
        </>
      )}
      {look === 'scope' && (
        <section className="panel whole">
          <Suspense fallback={<p className="soft">Opening the scope…</p>}>
            <Scope ask={scope} stamp={key} />
          </Suspense>
        </section>
      )}
      {look === 'box' && <BoxLook size={calm} />}
      {look === 'running' && (
        <>
          <section className="panel picture">
            <header>
              <h2>Leg volts</h2>
              <span className="soft">
                {live.load.motor === 'running'
                  ? `at ${whole(100 * live.load_share)} % load, ${number(live.load.unbalance_percent)} % apart`
                  : live.load.motor === 'stalled'
                    ? 'it stalls at this load'
                    : 'it crawls at this load'}
              </span>
            </header>
            <Triangle state={live.load} supply={supply} />
          </section>
          <section className="panel picture">
            <header>
              <h2>Windings</h2>
              <span className="soft">% of plate amps</span>
            </header>
            <WindingBars states={states} delta={reading.delta} />
          </section>
          <section className="panel picture">
            <header>
              {choice}
              <span className="soft">{curve === 'torque' ? '% of rated' : '% of plate'}</span>
            </header>
            {curve === 'torque' ? (
              <TorqueCurve live={live} synchronous={answer.synchronous_rpm} />
            ) : (
              <HeatCurve live={live} />
            )}
          </section>
        </>
      )}
      {own && (
        <section className="panel whatif">
          <header>
            <h2>What if</h2>
            {typed ? (
              <Button
                size="small"
                onClick={() => {
                  attempt(() => ({}));
                  set('choice', { run_microfarad: null, start_microfarad: null });
                }}
              >
                Back to the model’s choice
              </Button>
            ) : (
              <span className="soft">drag, and the pictures follow</span>
            )}
          </header>
          <WhatIf answer={answer} draft={draft} set={set} stamp={stamp} attempt={attempt} run={route !== 'static'} />
          {bank && <Cans {...bank} />}
        </section>
      )}
      {!isBox(route) && (
        <Schools
          run={answer.schools}
          start={answer.start_schools}
          left={size.usable}
          share={schoolShare}
          microfarad={schoolRun}
        />
      )}
    </>
  );
}

/** What the terminals do after switch-off, in a sentence. */
function offWords(off: Schemas['WaveformOff']): string {
  if (off.looked_s === 0) return 'It does not run idle, so nothing spins on after switch-off.';
  const peak = `up to ${whole(off.peak_volts)} V peak`;
  return off.live_s == null
    ? `Switched off, its terminals are still live after ${whole(off.looked_s)} s, ${peak}.`
    : `Switched off, its terminals are live for ${number(off.live_s)} s, ${peak}.`;
}
