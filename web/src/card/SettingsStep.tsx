import { Button, Input, Select } from 'antd';
import { words, type Schemas } from '../api/client';
import { useSettings } from '../api/hooks';
import { SpindleCurve } from '../parts/SpindleCurve';
import { number, whole } from '../parts/number';
import { Numeral } from '../parts/Numeral';
import { Sign } from '../parts/Verdicts';
import { Waiting } from '../parts/Waiting';
import { BusPanel } from './BusPanel';
import type { Draft, Set } from './parts';
import { useReadBack } from './useReadBack';
import './settings.css';

/**
 * What a drive for the motor is to be set to, under our own plain names, with the parameters of the drive at hand
 * beside them.
 */
export function SettingsStep({
  motor,
  draft,
  sound,
  stamp,
  set,
}: {
  motor: string;
  draft: Draft;
  sound: boolean;
  stamp: number;
  set: Set;
}) {
  const profile = draft.way.profile;
  const settings = useSettings(motor, stamp, sound);
  const back = useReadBack(motor, settings.data?.shop ?? '');
  if (!sound)
    return (
      <section className="panel empty-step">
        <h2>No settings from this plate yet</h2>
        <p>The sentences on the plate and the verdicts below it say what is missing or does not agree.</p>
      </section>
    );
  if (settings.isError)
    return (
      <p className="problem" role="alert">
        {words(settings.error)}
      </p>
    );
  if (!settings.data) return <p className="soft">Making the list…</p>;
  const { title, entries, profiles, spindle, materials, found, machine, shows, carriers, reach } = settings.data;
  return (
    <div className="settings-all">
      {settings.data.on_bus && (
        <BusPanel
          motor={motor}
          draft={draft}
          canRun={settings.data.can_run}
          hertz={settings.data.hold_hertz}
          set={set}
        />
      )}
      <section className="panel settings-step">
        <header>
          <h2>{title}</h2>
          <label className="idler">
            Drive at hand{' '}
            <Select
              aria-label="Drive at hand"
              value={profile}
              onChange={name => set('way.profile', { way: { ...draft.way, profile: name } })}
              popupMatchSelectWidth={false}
              options={[
                { value: '', label: 'none in particular' },
                ...profiles.map(name => ({ value: name, label: name })),
              ]}
            />
          </label>
          <label className="idler">
            Least hertz of the machine’s maker{' '}
            <Numeral
              keep={`${motor}.least_hertz`}
              label="Least hertz"
              value={draft.matters.least_hertz || null}
              from={0}
              to={100}
              placeholder="not known"
              change={v => set('matters.least_hertz', { matters: { ...draft.matters, least_hertz: v ?? 0 } })}
            />
          </label>
          <a className="alone" href={`/api/motors/${motor}/settings.csv`}>
            As CSV, with boxes for what it was and is
          </a>
          <a className="alone" href={`/api/motors/${motor}/settings.json`}>
            As JSON, to write it into the drive
          </a>
        </header>
        <p className="caution-line">
          Isolate and wait for the bus before any terminal is touched; prove it dead. Set these before the motor turns,
          and read them back.
        </p>
        {reach && (
          <p className="soft">At its keypad: {reach}. What is set first is for the motor’s first turn, uncoupled.</p>
        )}
        <div className="settings-table">
          <table className="facts">
            <thead>
              <tr>
                <th scope="col">Setting</th>
                <th scope="col">Set to</th>
                {profile && (
                  <>
                    <th scope="col">Parameter</th>
                    <th scope="col">Write</th>
                  </>
                )}
                <th scope="col">Was</th>
                <th scope="col">Read back</th>
                <th scope="col">Why</th>
              </tr>
            </thead>
            <tbody>
              {entries.map(e => (
                <tr key={e.name}>
                  <th scope="row">{e.title}</th>
                  <td className="figures" data-label="Set to">
                    {e.value}
                    {e.first && e.first !== e.value && <span className="soft small found-at">first {e.first}</span>}
                  </td>
                  {profile && (
                    <>
                      <td className="figures" data-label="Parameter">
                        {e.parameter || <span className="soft">not there</span>}
                        {e.menu && <span className="soft small found-at">{e.menu}</span>}
                      </td>
                      <td className="figures" data-label="Write">
                        {e.writes}
                      </td>
                    </>
                  )}
                  <ReadBack title={e.title} found={found[e.name]} typed={back.of(e.name)} type={back.type(e)} />
                  <td className="why">
                    {e.why}
                    {e.wrong && <span className="soft small found-at">mostly found at: {e.wrong}</span>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <Waiting count={back.waiting} refused={back.refused} mend={back.mend} />
        <p className="links read-back">
          <label>
            Set and read by{' '}
            <Input
              aria-label="Set and read by"
              maxLength={40}
              value={back.hand}
              onChange={e => back.setHand(e.target.value)}
            />
          </label>
          <Button type="primary" disabled={back.missing !== ''} onClick={() => back.write(machine)}>
            Write it down
          </Button>
          <span className="soft">{back.missing}</span>
        </p>
      </section>
      <div className="tells-and-carriers">
        <DisplayTells shows={shows} />
        <CarrierCost carriers={carriers} />
      </div>
      <SpindleSpeeds spindle={spindle} materials={materials} draft={draft} set={set} />
    </div>
  );
}

/** What the drive's display is to tell at each step of its first run, once it is set as the list has it. */
function DisplayTells({ shows }: { shows: Schemas['DriveShows'][] }) {
  return (
    <section className="panel">
      <header>
        <h2>What its display tells</h2>
        <span className="soft">once it is set so; amps far off are a setting, a joint or a plate that is wrong</span>
      </header>
      <div className="settings-table shows-table" tabIndex={0} role="region" aria-label="What its display tells">
        <table className="facts">
          <thead>
            <tr>
              <th scope="col">Step</th>
              <th scope="col">Hz</th>
              <th scope="col">A</th>
              <th scope="col">V</th>
              <th scope="col">rpm, at the shaft</th>
              <th scope="col">Bus, V</th>
            </tr>
          </thead>
          <tbody>
            {shows.map(s => (
              <tr key={s.step}>
                <th scope="row">{s.step}</th>
                <td className="figures">{number(Number(s.hertz.toFixed(1)))}</td>
                <td className="figures">{number(Number(s.amps.toFixed(1)))}</td>
                <td className="figures">{whole(s.volts)}</td>
                <td className="figures">{whole(s.rpm)}</td>
                <td className="figures">{whole(s.bus_volts)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** What each carrier costs: quiet against heat, in the motor and in the drive. */
function CarrierCost({ carriers }: { carriers: Schemas['DriveCarried'][] }) {
  return (
    <section className="panel">
      <header>
        <h2>Carrier: quiet against heat</h2>
      </header>
      <div className="settings-table" tabIndex={0} role="region" aria-label="What a carrier costs">
        <table className="facts">
          <thead>
            <tr>
              <th scope="col">kHz</th>
              <th scope="col">Ripple in the motor, A</th>
              <th scope="col">Its heat, of the losses</th>
              <th scope="col">The drive still gives</th>
            </tr>
          </thead>
          <tbody>
            {carriers.map(c => (
              <tr key={c.khz}>
                <th scope="row" className="figures">
                  {number(c.khz)}
                </th>
                <td className="figures">{number(Number(c.ripple_amps.toPrecision(2)))}</td>
                <td className="figures">{number(Number(c.motor_heat_percent.toPrecision(2)))} %</td>
                <td className="figures">{whole(100 * c.drive_share)} %</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="soft small">
        Pulse by pulse at four fifths of its speed. Bars and windings with four times their ohms at the carrier, and a
        usual drive’s heat sink in 40 °C: assumed.
      </p>
    </section>
  );
}

/** A setting as it was found and as it was read back: what is written down, and where it is typed. */
function ReadBack({
  title,
  found,
  typed,
  type,
}: {
  title: string;
  found?: Schemas['Found'];
  typed: { was: string; read: string };
  type: (patch: Partial<{ was: string; read: string }>) => void;
}) {
  return (
    <>
      {(['was', 'read'] as const).map(which => (
        <td key={which} className="read-back-cell" data-label={which === 'was' ? 'Was' : 'Read back'}>
          <Input
            aria-label={`${title}, ${which === 'was' ? 'was' : 'read back'}`}
            maxLength={40}
            placeholder={found?.[which] || '–'}
            value={typed[which]}
            onChange={e => type({ [which]: e.target.value })}
          />
          {which === 'read' && found?.read && (
            <span className={found.off ? 'problem' : 'soft small'}>
              {found.off ? (
                <>
                  <Sign severity="caution" size={14} /> other than is meant
                </>
              ) : (
                `✓ ${found.hand}, ${new Date(found.at).toLocaleDateString()}`
              )}
            </span>
          )}
        </td>
      ))}
    </>
  );
}

/** The spindle's steps over the frequencies, with the torque there, and the step for a tool. */
function SpindleSpeeds({
  spindle,
  materials,
  draft,
  set,
}: {
  spindle: Schemas['StudySpindle'];
  materials: Schemas['DriveMaterial'][];
  draft: Draft;
  set: Set;
}) {
  const { matters } = draft;
  const change = (patch: Partial<Draft['matters']>) =>
    set(`matters.${Object.keys(patch).join()}`, { matters: { ...matters, ...patch } });
  const hertz = spindle.rows[0]?.points.map(p => p.hertz) ?? [];
  const cut = spindle.cut;
  const got = cut && whole(cut.got_rpm);
  return (
    <section className="panel spindle">
      <header>
        <h2>Spindle speeds</h2>
        <span className="soft">rpm, and N·m for good, at each step and frequency</span>
      </header>
      <div className="spindle-fields">
        <label>
          Steps, spindle over motor{' '}
          <Input
            aria-label="Steps of the spindle"
            value={matters.steps}
            maxLength={160}
            placeholder="0.5, 80/160, 1:2"
            aria-invalid={!!spindle.problems.steps}
            onChange={e => change({ steps: e.target.value })}
          />
        </label>
        <label>
          Tool, mm or in{' '}
          <Input
            aria-label="Diameter of the tool"
            value={matters.tool}
            maxLength={40}
            placeholder="12 mm"
            aria-invalid={!!spindle.problems.tool}
            onChange={e => change({ tool: e.target.value })}
          />
        </label>
        <label>
          in{' '}
          <Select
            aria-label="Material"
            value={matters.material}
            onChange={material => change({ material })}
            popupMatchSelectWidth={false}
            options={[
              { value: '', label: 'material' },
              ...materials.map(m => ({ value: m.name, label: `${m.title}, ${m.speed}` })),
            ]}
          />
        </label>
      </div>
      {Object.values(spindle.problems).map(says => (
        <p key={says} className="problem" role="alert">
          {says}
        </p>
      ))}
      {cut && (
        <p className={cut.reached ? 'cut' : 'cut problem'}>
          {cut.reached ? (
            <>
              Step <b>{cut.gear}</b> at <b className="figures">{number(cut.hertz)} Hz</b>: {got} rpm with{' '}
              {number(Number(cut.torque_nm.toPrecision(3)))} N·m; {whole(cut.rpm)} rpm are wanted.
            </>
          ) : (
            <>
              No step comes to {whole(cut.rpm)} rpm; the nearest is {cut.gear} at {number(cut.hertz)} Hz with {got}.
            </>
          )}
        </p>
      )}
      {spindle.rows.length > 0 && (
        <div className="spindle-both">
          <div className="picture">
            <SpindleCurve spindle={spindle} />
          </div>
          <div className="settings-table" tabIndex={0} role="region" aria-label="Speeds and torque">
            <table className="facts">
              <thead>
                <tr>
                  <th scope="col">Step</th>
                  {hertz.map(h => (
                    <th key={h} scope="col">
                      {number(Number(h.toPrecision(3)))} Hz
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {spindle.rows.map((r, i) => (
                  <tr key={i}>
                    <th scope="row">{r.title}</th>
                    {r.points.map(p => (
                      <td key={p.hertz} className="figures">
                        {whole(p.rpm)}
                        <span className="soft"> · {number(Number(p.torque_nm.toPrecision(2)))}</span>
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </div>
      )}
    </section>
  );
}
