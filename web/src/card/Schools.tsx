import { Segmented } from 'antd';
import { memo, useState } from 'react';
import type { Schemas, Size, SizeState } from '../api/client';
import { number, whole } from '../parts/number';
import { Figure } from '../parts/Workings';

/** What each school of practice would take, beside the model. */
export const Schools = memo(function Schools({
  run,
  start,
  left,
  share,
  microfarad,
}: {
  run: Schemas['CapacitorCandidate'][];
  start: Schemas['CapacitorStartCandidate'][];
  left: Size['usable'];
  share: number;
  microfarad: number;
}) {
  const [what, setWhat] = useState<'run' | 'start' | 'left'>('run');
  return (
    <section className="panel schools">
      <header>
        <h2>The schools</h2>
        <Segmented
          size="small"
          value={what}
          onChange={setWhat}
          aria-label="Schools of"
          options={[
            { value: 'run', label: 'Run' },
            { value: 'start', label: 'Start' },
            { value: 'left', label: 'What is left' },
          ]}
        />
        <span className="soft">
          {what === 'run'
            ? 'hottest winding, %'
            : what === 'start'
              ? `beside ${number(microfarad)} µF run`
              : '% of plate output'}
        </span>
      </header>
      {what === 'run' && <RunSchools list={run} share={share} />}
      {what === 'start' && <StartSchools list={start} />}
      {what === 'left' && (
        <table>
          <tbody>
            {left.map(u => (
              <tr key={u.title} className={u.model ? 'model' : ''}>
                <th scope="row">{u.title}</th>
                <td className="figures">{u.words}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
});

const microfarads = (value: number) => Number(value.toPrecision(3)).toString();
const heat = (s: SizeState) =>
  s.motor === 'running' ? whole(s.hottest_percent) : s.motor === 'stalled' ? 'stalls' : 'crawls';
const hot = (s: SizeState) => `figures${s.motor !== 'running' || s.over ? ' over' : ''}`;

function RunSchools({ list, share }: { list: Schemas['CapacitorCandidate'][]; share: number }) {
  return (
    <table>
      <thead>
        <tr>
          <th scope="col">School</th>
          <th scope="col">µF</th>
          <th scope="col">idle</th>
          <th scope="col">{whole(100 * share)} %</th>
          <th scope="col">full</th>
        </tr>
      </thead>
      <tbody>
        {list.map(({ school, idle, load, full }) => (
          <tr key={school.name} className={school.name === 'model' ? 'model' : ''}>
            <th scope="row">{school.title}</th>
            <td className="figures">
              {school.microfarad > 0 ? (
                <Figure figure={school.working.figure}>
                  <span className="value">{microfarads(school.microfarad)}</span>
                </Figure>
              ) : (
                '–'
              )}
            </td>
            {school.applies ? (
              <>
                <td className={hot(idle)}>{heat(idle)}</td>
                <td className={hot(load)}>{heat(load)}</td>
                <td className={hot(full)}>{heat(full)}</td>
              </>
            ) : (
              <td colSpan={3} className="not">
                not here: {school.why}
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function StartSchools({ list }: { list: Schemas['CapacitorStartCandidate'][] }) {
  return (
    <table>
      <thead>
        <tr>
          <th scope="col">School</th>
          <th scope="col">µF</th>
          <th scope="col">torque %</th>
          <th scope="col">× load</th>
          <th scope="col">supply A</th>
        </tr>
      </thead>
      <tbody>
        {list.map(({ school, torque_share, over_breakaway, starts, supply_amps }) => (
          <tr key={school.name} className={school.name === 'model-start' ? 'model' : ''}>
            <th scope="row">{school.title}</th>
            <td className="figures">
              <Figure figure={school.working.figure}>
                <span className="value">{whole(school.microfarad)}</span>
              </Figure>
            </td>
            {school.applies ? (
              <>
                <td className="figures">{whole(100 * torque_share)}</td>
                <td className={`figures${starts ? '' : ' over'}`}>{over_breakaway.toFixed(1)}</td>
                <td className="figures">{whole(supply_amps)}</td>
              </>
            ) : (
              <td colSpan={3} className="not">
                not here: {school.why}
              </td>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
