import { Button, Segmented, Select } from 'antd';
import { useEffect, useState } from 'react';
import { words, type Schemas } from '../api/client';
import { Band } from '../parts/Band';
import { Triangle } from '../parts/Triangle';
import { whole } from '../parts/number';
import { Accepted } from './Accepted';
import type { Draft } from './draft';
import { Facts } from './Facts';
import { ShaftPanel } from './ShaftForm';
import { SlideRow } from './SlideRow';
import { Driven } from './WhatIf';
import { useRotary, useRotaryTrial, type RotaryTrial } from './way';

type Look = 'legs' | 'starts' | 'accept' | 'shaft';
const looks: { value: Look; label: string }[] = [
  { value: 'legs', label: 'Legs and windings' },
  { value: 'starts', label: 'Bringing it up' },
  { value: 'accept', label: 'Accepted by state' },
  { value: 'shaft', label: 'Shaft and duty' },
];

/** The motor behind a rotary converter: the idler, its capacitors, and the legs in each state of work. */
export function RotaryLook({
  motor,
  draft,
  stamp,
  set,
  supply,
  problems,
  choose,
}: {
  motor: string;
  draft: Draft;
  stamp: number;
  set: (field: string, patch: Partial<Draft>) => void;
  supply: number;
  problems: Record<string, string>;
  choose: React.ReactNode;
}) {
  const rotary = useRotary(motor, stamp, true);
  const [look, setLook] = useState<Look>('legs');
  const [trial, setTrial] = useState<RotaryTrial | null>(null);
  useEffect(() => setTrial(null), [stamp]);
  const tried = useRotaryTrial(motor, stamp, trial);
  if (rotary.isError)
    return (
      <>
        {choose}
        <p className="problem whole" role="alert">
          {words(rotary.error)}
        </p>
      </>
    );
  if (!rotary.data)
    return (
      <>
        {choose}
        <p className="soft whole">Sizing an idler…</p>
      </>
    );
  const { answer, headline, rows, ratings } = rotary.data;
  const live = (trial && tried.data) || answer;
  const loaded = live.states[2]!;
  const { way } = draft;
  const share = draft.load_share ?? answer.load_share;
  const now = trial ?? {
    idler: answer.idler_watts,
    ac: answer.balance_ac_microfarad,
    bc: answer.balance_bc_microfarad,
    share,
  };
  const change = (patch: Partial<Draft['way']>) =>
    set(`way.${Object.keys(patch).join()}`, { way: { ...way, ...patch } });
  const attempt = (patch: Partial<RotaryTrial>) => setTrial({ ...now, ...patch });
  const most = Math.max(
    60,
    Math.ceil((2.5 * answer.tuned_ac_microfarad) / 10) * 10,
    way.balance_ac_microfarad ?? 0,
    way.balance_bc_microfarad ?? 0,
  );
  const own = way.idler_watts !== null || way.balance_ac_microfarad !== null || way.balance_bc_microfarad !== null;
  return (
    <>
      <Band rows={headline} open={false} />
      <div className="looks-row">
        {choose}
        <Segmented className="looks" value={look} onChange={setLook} options={looks} aria-label="What is shown" />
      </div>
      {look === 'legs' && (
        <>
          <section className="panel picture">
            <header>
              <h2>Leg volts</h2>
              <span className="soft">
                {loaded.title}, {loaded.unbalance_percent.toFixed(1)} % apart
              </span>
            </header>
            <Triangle state={loaded} supply={supply} />
          </section>
          <section className="panel states">
            <header>
              <h2>Expect</h2>
              <span className="soft">windings in % of plate amps</span>
            </header>
            <States list={live.states} />
          </section>
        </>
      )}
      {look === 'starts' && (
        <section className="panel whole">
          <header>
            <h2>Bringing the idler up</h2>
          </header>
          <dl className="box-facts">
            {answer.starts.map(s => (
              <div key={s.name}>
                <dt>
                  {s.title} <b className="figures">{s.seconds === null ? '–' : `${s.seconds.toFixed(2)} s`}</b>
                  {s.advised && <em className="advised">advised</em>}
                </dt>
                <dd>
                  {s.says}
                  {s.amps > 0 && `; up to ${whole(s.amps)} A from the supply`}
                </dd>
              </div>
            ))}
          </dl>
        </section>
      )}
      {look === 'accept' && (
        <section className="panel whole">
          <Accepted list={live.accept} />
        </section>
      )}
      {look === 'shaft' && <ShaftPanel draft={draft} problems={problems} set={set} />}
      <section className="panel whatif">
        <header>
          <h2>What if</h2>
          {own ? (
            <Button
              size="small"
              onClick={() => change({ idler_watts: null, balance_ac_microfarad: null, balance_bc_microfarad: null })}
            >
              Back to the model’s choice
            </Button>
          ) : (
            <span className="soft">drag, and the legs follow</span>
          )}
        </header>
        <div className="sliders">
          <SlideRow
            name="ac"
            label="a–c"
            value={now.ac}
            most={most}
            step={1}
            unit="µF"
            slide={ac => attempt({ ac })}
            keep={v => {
              attempt({ ac: v });
              change({ balance_ac_microfarad: v });
            }}
          />
          <SlideRow
            name="bc"
            label="b–c"
            value={now.bc}
            most={most}
            step={1}
            unit="µF"
            slide={bc => attempt({ bc })}
            keep={v => {
              attempt({ bc: v });
              change({ balance_bc_microfarad: v });
            }}
          />
          <SlideRow
            name="share"
            label="Load"
            value={Math.round(100 * now.share)}
            most={100}
            step={1}
            unit="%"
            slide={v => attempt({ share: v / 100 })}
            keep={v => {
              attempt({ share: v / 100 });
              set('load_share', { load_share: v / 100 });
            }}
          />
          <div className="slide-foot">
            <label className="idler">
              Idler{' '}
              <Select
                aria-label="Idler"
                value={way.idler_watts ?? -1}
                onChange={w => change({ idler_watts: w < 0 ? null : w })}
                popupMatchSelectWidth={false}
                options={[
                  { value: -1, label: 'the model’s choice' },
                  ...ratings.map(r => ({ value: r.watts, label: r.title })),
                ]}
              />
            </label>
          </div>
          <Driven load={draft.load} set={set} />
        </div>
      </section>
      <section className="panel rotary-facts">
        <Facts rows={rows} />
      </section>
    </>
  );
}

/** Volts and windings in each state of work. */
function States({ list }: { list: Schemas['RotaryState'][] }) {
  return (
    <table className="facts">
      <thead>
        <tr>
          <th scope="col">State</th>
          <th scope="col">ab</th>
          <th scope="col">bc</th>
          <th scope="col">ca</th>
          <th scope="col">machine</th>
          <th scope="col">idler</th>
          <th scope="col">supply</th>
        </tr>
      </thead>
      <tbody>
        {list.map(s => (
          <tr key={s.title}>
            <th scope="row">{s.title}</th>
            {[s.volts.ab, s.volts.bc, s.volts.ca].map((v, i) => (
              <td key={i} className="figures">
                {whole(v)}
              </td>
            ))}
            <td className={s.machine_over ? 'figures bad' : 'figures'}>
              {s.hottest_percent > 0 ? `${whole(s.hottest_percent)} %` : '–'}
            </td>
            <td className={s.idler_over ? 'figures bad' : 'figures'}>{whole(s.idler_percent)} %</td>
            <td className="figures">{s.supply_amps.toFixed(1)} A</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
