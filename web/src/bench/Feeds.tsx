import { Select, Slider } from 'antd';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, client, words, type Schemas } from '../api/client';
import { useShop } from '../api/hooks';
import { keys } from '../api/keys';
import { tokens } from '../theme/theme';
import { Chart, Keys, scale } from '../parts/Chart';
import { number, whole } from '../parts/number';
import { Sign } from '../parts/Verdicts';

type Fed = Schemas['DriveFed'];

/** The loads that are offered, as shares of plate output. */
const marks = { 0.25: '25 %', 0.5: '50 %', 0.75: '75 %', 1: 'plate', 1.25: '125 %' };

/** One drive on three lines, on two, and on a dc bus, at the same load. */
export function Feeds({ shop }: { shop: string }) {
  const machines = useShop(shop).data?.machines ?? [];
  const motors = machines.flatMap(m =>
    m.motors.filter(o => o.stage !== 'blank plate').map(o => ({ value: o.id, label: m.name })),
  );
  const [picked, pick] = useState('');
  const [share, setShare] = useState(1);
  const motor = picked || (motors[0]?.value ?? '');
  const feeds = useQuery({
    queryKey: keys.feeds(motor, share),
    enabled: motor !== '',
    placeholderData: (old?: Fed[] | null) => old,
    queryFn: () => ask(client.GET('/motors/{id}/feeds', { params: { path: { id: motor }, query: { share } } })),
  });
  const list = feeds.data ?? [];
  const most = Math.max(1, ...list.map(f => f.result?.input_peak_amps ?? 0));
  return (
    <>
      <section className="panel feeds-head">
        <label>
          Motor <Select aria-label="Motor of the feeds" value={motor} options={motors} onChange={pick} />
        </label>
        <div className="feeds-share">
          Load{' '}
          <Slider
            ariaLabelForHandle="Load of the feeds"
            min={0.25}
            max={1.25}
            step={0.05}
            marks={marks}
            defaultValue={share}
            onChangeComplete={setShare}
          />
        </div>
        <span className="soft">a usual drive built for three lines, twice as large as the motor</span>
      </section>
      {feeds.isError && (
        <p className="problem" role="alert">
          {words(feeds.error)}
        </p>
      )}
      {feeds.data?.length === 0 && (
        <p className="soft">On this supply a drive doubles its volts: none is built for three lines of it.</p>
      )}
      <div className="feeds">
        {list.map(f => (
          <One key={f.title} fed={f} most={most} />
        ))}
      </div>
    </>
  );
}

/** One way of feeding it: what a meter tells, and a cycle of it. */
function One({ fed, most }: { fed: Fed; most: number }) {
  const r = fed.result;
  const lines = [
    { title: 'Bus, V', stroke: tokens.ink, right: true },
    { title: 'Line, A', stroke: tokens.lineA },
  ];
  const wave = r?.series;
  const cycle = 1000 * (wave?.t_s?.at(-1) ?? 0);
  const points = (of: number[] | undefined) =>
    (wave?.t_s ?? []).filter((_, i) => i % 6 === 0).map((t, i) => [1000 * t, of?.[6 * i] ?? 0] as [number, number]);
  return (
    <section className="panel" aria-label={fed.title}>
      <header>
        <h2>{fed.title}</h2>
        <Keys lines={lines} />
      </header>
      {r && wave && (
        <>
          <Chart
            name="feed"
            label={`A cycle of the bus and of the line’s amps, ${fed.title}`}
            keys={false}
            below="ms of a cycle; amps without their sign"
            x={{ most: cycle, step: cycle / 4, show: v => number(Math.round(v)) }}
            y={scale(most)}
            right={scale(400)}
            lines={[
              { ...lines[0]!, points: points(wave.bus_volts) },
              { ...lines[1]!, points: points(wave.input_amps.map(Math.abs)) },
            ]}
          />
          <dl className="short-facts">
            {(
              [
                ['Line', `${number(Number(r.input_rms_amps.toFixed(1)))} A`],
                ['Its peak', `${whole(r.input_peak_amps)} A`],
                ['Bus', `${whole(r.bus_mean_volts)} V`],
                ['Ripple', `${number(Number(r.ripple_pp_volts.toPrecision(2)))} V`],
                ['Capacitors', `${number(Number(r.capacitor_rms_amps.toFixed(1)))} A`],
                ['Power factor', number(Number(r.true_power_factor.toFixed(2)))],
              ] as const
            ).map(([title, value]) => (
              <div key={title}>
                <dt>{title}</dt>
                <dd className="figures">{value}</dd>
              </div>
            ))}
          </dl>
        </>
      )}
      {fed.trips && (
        <p className="problem">
          <Sign severity="stop" size={16} /> {fed.says}
        </p>
      )}
    </section>
  );
}
