import { memo, useEffect, useState } from 'react';
import { Button } from 'antd';
import type { Schemas } from '../api/client';
import { useTogether } from '../api/hooks';
import { useLines } from '../frame/shop';
import { Chart, Keys, scale } from '../parts/Chart';
import { fixed, whole } from '../parts/number';
import { Sign } from '../parts/Verdicts';
import { legs } from '../theme/theme';
import { amps } from './Boxes';
import type { Page, Picture, Start, State } from './useFloor';

/** What is past its limit, each with what to do. */
export function BrokenList({ broken, select }: { broken: Schemas['FloorBroken'][]; select?: (id: string) => void }) {
  return (
    <ul className="verdicts">
      {broken.map(b => (
        <li key={b.rule + b.where} className={`verdict ${b.severity}`} data-rule={b.rule}>
          <Sign severity={b.severity} />
          <span>
            {select ? (
              <button type="button" className="to-place" onClick={() => select(b.where)}>
                {b.title}.
              </button>
            ) : (
              <b>{b.title}.</b>
            )}{' '}
            {b.says} {b.severity === 'stop' && <span className="do">{b.do}</span>}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** A start as its volts go: what is left of each pair while it comes up. */
export const StartPanel = memo(function StartPanel({
  start,
  name,
  service,
  close,
}: {
  start: Start;
  name: string;
  service: number;
  close: () => void;
}) {
  const end = start.points.at(-1)?.t_s ?? 1;
  const names = useLines();
  const line = (pair: 'ab' | 'bc' | 'ca', leg: keyof typeof legs) => ({
    title: names[pair],
    stroke: legs[leg].colour,
    dash: legs[leg].dash,
    width: 2,
    points: start.points.map(p => [p.t_s, p.volts[pair]] as [number, number]),
  });
  const highest = Math.max(1.05 * service, ...start.points.flatMap(p => [p.volts.ab, p.volts.bc, p.volts.ca]));
  const lines = [line('ab', 'a'), line('bc', 'b'), line('ca', 'c')];
  const says =
    start.seconds !== undefined && start.seconds !== null
      ? `up in ${fixed(start.seconds, 1)} s, lowest ${whole(start.lowest_volts)} V, ${amps(start.peak_amps)} at most`
      : 'it does not come up';
  return (
    <section className="panel start-panel" aria-live="polite">
      <header>
        <h2>Starting: {name}</h2>
        <Button size="small" type="text" onClick={close} aria-label="Close the start">
          ×
        </Button>
      </header>
      <p>{says}</p>
      {start.points.length > 2 && (
        <>
          <Keys lines={lines} />
          <Chart
            name="start"
            label={`Starting ${name}: ${says}`}
            below="seconds"
            keys={false}
            lines={lines}
            x={{ ...scale(end), most: end }}
            y={scale(highest, undefined, 'V')}
          />
        </>
      )}
      <BrokenList broken={start.broken} />
    </section>
  );
});

/** A value once it rests: a slider under a hand asks for nothing that takes a while. */
function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setRested(value), restMs);
    return () => clearTimeout(timer);
  }, [value]);
  return rested;
}
const restMs = 600;

/** What may run together, and what never. */
export const TogetherPanel = memo(function TogetherPanel({
  page,
  shares: turned,
}: {
  page: Page;
  shares: State['shares'];
}) {
  const shares = useRested(turned);
  const asked = useTogether(page.shop.id, page.shop.version, shares ?? {});
  const t = asked.data;
  if (!t || t.among.length < 2) return null;
  const names = namesOf(page, page.picture);
  const list = (ids: string[]) => ids.map(id => names.get(id) ?? id).join(' · ');
  return (
    <section className="together">
      <div>
        <h2>May run together</h2>
        <ul>
          {t.largest.slice(0, 6).map(x => (
            <li key={x?.join()}>{list(x ?? [])}</li>
          ))}
        </ul>
      </div>
      <div>
        <h2>Never</h2>
        <ul className="never">
          {t.forbidden.length === 0 && <li>All of it may run at once.</li>}
          {t.forbidden.slice(0, 8).map(x => (
            <li key={x.machines.join()}>
              <Sign severity="stop" size={14} />
              <span>
                <b>{list(x.machines)}.</b> {x.says}
              </span>
            </li>
          ))}
        </ul>
      </div>
      <p className="soft small">
        {t.exact
          ? 'Every set was solved, each machine at its load.'
          : `Every set of up to ${t.tried_up_to} was solved; larger ones where these leave them open.`}
      </p>
    </section>
  );
});

/** What everything on a floor is called. */
export function namesOf(page: Page, picture: Picture | undefined): Map<string, string> {
  const names = new Map<string, string>([
    ['main', 'Service'],
    ['service', 'Service'],
  ]);
  const take = (list: { id: string; name: string }[]) => list.forEach(x => names.set(x.id, x.name));
  for (const m of picture?.machines ?? [])
    for (const o of m.motors) names.set(o.id, o.name ? `${m.name}, ${o.name}` : m.name);
  take(picture?.machines ?? []);
  take(picture?.loads ?? []);
  take(page.site.circuits ?? []);
  take(page.site.converters ?? []);
  return names;
}
