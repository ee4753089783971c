import { Button, Checkbox, Input, Select } from 'antd';
import type { Schemas } from '../api/client';
import { useKept } from '../parts/kept';
import { Numeral } from '../parts/Numeral';
import { useOwn } from './useOwn';
import { newId } from '../parts/id';

type Kind = Schemas['LoadKind'];

const curves = [
  { value: 0, label: 'the same' },
  { value: 1, label: 'rises with speed' },
  { value: 2, label: 'with its square' },
];

const percent = (share: number) => Math.round(1000 * share) / 10;

/** The kinds of load: the shop's own, changed here, and the usual ones, which can be copied. */
export function Loads({ shop, usual }: { shop: Schemas['ShopHead']; usual: Kind[] }) {
  const kept = shop.own.loads ?? [];
  const [own, setOwn, settle] = useKept<Kind[]>(`loads.${shop.id}`, kept);
  const { keep, fault } = useOwn(shop);
  const changed = JSON.stringify(own) !== JSON.stringify(kept);
  const change = (i: number, part: Partial<Kind>) => setOwn(own.map((k, n) => (n === i ? { ...k, ...part } : k)));
  const copy = (k: Kind) => setOwn([...own, { ...k, name: `own-${newId().slice(0, 8)}`, title: `${k.title}, own` }]);
  const says = (i: number) => fault?.fields.filter(f => f.location.startsWith(`body.own.loads[${i}]`)) ?? [];
  return (
    <section className="panel loads">
      <header>
        <h2>Kinds of load</h2>
        <span className="soft">
          usual figures, shop practice; readings replace them, and a copy can be made your own
        </span>
        {(changed || own.length > 0) && (
          <Button
            type="primary"
            disabled={!changed}
            onClick={() => void keep({ loads: own }).then(good => good && settle())}
          >
            Keep these kinds
          </Button>
        )}
        {changed && <span className="soft">not kept yet</span>}
      </header>
      <div className="scrolls">
        <table className="facts">
          <thead>
            <tr>
              <th scope="col">Kind</th>
              <th scope="col">breakaway, % of rated torque</th>
              <th scope="col">load, % of output</th>
              <th scope="col">torque over speed</th>
              <th scope="col">inertia, × rotor</th>
              <th scope="col">or stops in, s</th>
              <th scope="col">idles between cuts</th>
              <th scope="col">
                <span className="visually-hidden">Copy or take out</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {own.map((k, i) => {
              const at = `loads.${shop.id}.${k.name}`;
              const figure = (name: string, label: string, value: number, to: number, set: (v: number) => void) => (
                <Numeral
                  keep={`${at}.${name}`}
                  label={`${label} of ${k.title}`}
                  value={value}
                  from={0}
                  to={to}
                  change={v => set(v ?? 0)}
                />
              );
              return (
                <tr key={k.name} className="own">
                  <th scope="row">
                    <Input
                      aria-label="Name of the kind"
                      value={k.title}
                      maxLength={60}
                      status={says(i).length > 0 ? 'error' : ''}
                      onChange={e => change(i, { title: e.target.value })}
                    />
                    {says(i).map(f => (
                      <span key={f.location} className="problem" role="alert">
                        {f.message}
                      </span>
                    ))}
                  </th>
                  <td>
                    {figure('breakaway', 'Breakaway', percent(k.breakaway_share), 300, v =>
                      change(i, { breakaway_share: v / 100 }),
                    )}
                  </td>
                  <td>
                    <Numeral
                      keep={`${at}.run`}
                      label={`Load of ${k.title}`}
                      value={percent(k.run_share)}
                      from={5}
                      to={100}
                      change={v => v !== null && change(i, { run_share: v / 100 })}
                    />
                  </td>
                  <td>
                    <Select
                      aria-label={`Torque over speed of ${k.title}`}
                      value={k.exponent}
                      options={curves}
                      onChange={exponent => change(i, { exponent })}
                    />
                  </td>
                  <td>
                    {figure('inertia', 'Inertia', k.inertia_times ?? 0, 200, v => change(i, { inertia_times: v }))}
                  </td>
                  <td>
                    {figure('stop', 'Seconds to a stop', k.stop_seconds ?? 0, 3600, v =>
                      change(i, { stop_seconds: v }),
                    )}
                  </td>
                  <td>
                    <Checkbox
                      aria-label={`${k.title} idles between cuts`}
                      checked={k.idles}
                      onChange={e => change(i, { idles: e.target.checked })}
                    />
                  </td>
                  <td>
                    <Button danger onClick={() => setOwn(own.filter((_, n) => n !== i))}>
                      Take it out
                    </Button>
                  </td>
                </tr>
              );
            })}
            {usual.map(l => (
              <tr key={l.name}>
                <th scope="row">{l.title}</th>
                <td className="figures">{Math.round(100 * l.breakaway_share)}</td>
                <td className="figures">{Math.round(100 * l.run_share)}</td>
                <td>{curves[l.exponent]?.label}</td>
                <td className="figures">{l.inertia_times}</td>
                <td />
                <td>{l.idles ? 'yes' : ''}</td>
                <td>
                  <Button size="small" aria-label={`Copy ${l.title}`} onClick={() => copy(l)}>
                    Copy
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {fault && fault.fields.length === 0 && (
        <p className="problem" role="alert">
          {fault.message}
        </p>
      )}
    </section>
  );
}
