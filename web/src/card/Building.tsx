import { Button, Checkbox, Input } from 'antd';
import { useContext, useState } from 'react';
import { Link } from 'react-router';
import { words, type Schemas } from '../api/client';
import { takeParts, useChange } from '../api/hooks';
import { DrawingView } from '../parts/DrawingView';
import { useKept } from '../parts/kept';
import { useOwn } from '../rulebook/useOwn';
import { SectionTable } from '../sheet/SectionTable';
import { fixed } from '../parts/number';
import { CardShop } from './shop';

type Work = Schemas['InstallWork'];
type Tick = (key: string, on: boolean) => void;

const notYet = 'Go through “Is this mine to do?” below first: nothing is marked as done before.';

/** Every wire from terminal to terminal, to be ticked at the box with one hand. */
export function WiresTab({
  motor,
  work,
  built,
  tick,
  may,
}: {
  motor: string;
  work: Work;
  built: string[];
  tick: Tick;
  may: boolean;
}) {
  const [part, setPart] = useState('');
  const wanted = part.trim().toLowerCase();
  const shown = work.wires.filter(
    w =>
      !wanted ||
      [w.number, w.from_at, w.to_at, w.from_is, w.to_is, w.colour ?? ''].some(t => t.toLowerCase().includes(wanted)),
  );
  return (
    <div className="wire-list">
      <div className="wire-tools">
        <Input
          aria-label="Wires of a part"
          placeholder="Of a part: K1, motor, 12 …"
          value={part}
          allowClear
          onChange={e => setPart(e.target.value)}
        />
        <span className="soft">
          {shown.length} of {work.wires.length} wires
        </span>
        <a className="alone" href={`/api/motors/${motor}/wires.csv`}>
          CSV
        </a>
      </div>
      {!may && <p className="soft">{notYet}</p>}
      <ul className="landings">
        {shown.map(w => (
          <li key={w.key} className={w.class}>
            <b className="number figures">{w.number}</b>
            <span className="ends">
              <span>
                <b className="figures">{w.from_at}</b> <span className="soft">{w.from_is}</span>
              </span>
              <span>
                <b className="figures">{w.to_at}</b> <span className="soft">{w.to_is}</span>
              </span>
            </span>
            <span className="how">
              {w.size} {w.colour} · {w.length}
              {w.assumed && <em className="assumed"> assumed</em>}
              <br />
              <span className="soft">
                {w.ferrule && w.ferrule !== 'none' && <>ferrule {w.ferrule} · </>}
                {w.torque}
              </span>
            </span>
            <Checkbox
              disabled={!may}
              checked={built.includes(`land ${w.key}`)}
              aria-label={`Wire ${w.number} landed`}
              onChange={e => tick(`land ${w.key}`, e.target.checked)}
            >
              landed
            </Checkbox>
            <Checkbox
              disabled={!may || !built.includes(`land ${w.key}`)}
              checked={built.includes(`pull ${w.key}`)}
              aria-label={`Wire ${w.number} pulled at`}
              onChange={e => tick(`pull ${w.key}`, e.target.checked)}
            >
              pulled
            </Checkbox>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What a meter must say before the first power, group by group. */
export function ChecksTab({ work, built, tick, may }: { work: Work; built: string[]; tick: Tick; may: boolean }) {
  const groups = [...new Set(work.checks.map(c => c.group))];
  return (
    <div className="checks">
      {!may && <p className="soft">{notYet}</p>}
      {groups.map(g => (
        <section key={g}>
          <h3>{g}</h3>
          <ul>
            {work.checks
              .filter(c => c.group === g)
              .map(c => (
                <li key={c.key}>
                  <Checkbox
                    disabled={!may}
                    checked={built.includes(`pass ${c.key}`)}
                    onChange={e => tick(`pass ${c.key}`, e.target.checked)}
                  >
                    {c.from && (
                      <b className="figures">
                        {c.from} – {c.to}
                      </b>
                    )}
                    {c.while && <span className="while"> {c.while}</span>} {c.says}
                    {c.not && <span className="soft"> Otherwise: {c.not}</span>}
                  </Checkbox>
                </li>
              ))}
          </ul>
        </section>
      ))}
      <Steps title="The first power, stage by stage" steps={work.powering} />
      <Steps title="To other input volts" steps={work.other_volts} />
    </div>
  );
}

/** Steps in their order, with what is seen at each. */
function Steps({ title, steps }: { title: string; steps: Schemas['InstallStep'][] }) {
  if (steps.length === 0) return null;
  return (
    <section>
      <h3>{title}</h3>
      <ol className="building-steps">
        {steps.map(s => (
          <li key={s.do}>
            {s.do} {s.see && <b>{s.see}.</b>} {s.not && <span className="soft">Otherwise: {s.not}</span>}
          </li>
        ))}
      </ol>
    </section>
  );
}

/** Everything to the last gland, ferrule and spare fuse; what of it is on hand, and what is to be bought. */
export function PartsTab({ motor, machine, work }: { motor: string; machine: string; work: Work }) {
  const shop = useContext(CardShop);
  const change = useChange((what: Schemas['Taking']) => takeParts(motor, what));
  const reserved = shop?.own.stores?.some(i => i.for === machine) ?? false;
  const take = (what: Schemas['Taking']['do']) => change.mutate({ do: what });
  return (
    <div>
      <div className="scrolls" role="region" aria-label="Parts" tabIndex={0}>
        <table className="facts parts-list">
          <thead>
            <tr>
              <th scope="col">How many</th>
              <th scope="col">What</th>
              <th scope="col">For</th>
              <th scope="col">On hand</th>
              <th scope="col">To buy</th>
              <th scope="col">Price of one</th>
              <th scope="col">In all</th>
            </tr>
          </thead>
          <tbody>
            {work.parts.map(p => (
              <tr key={p.what + p.unit}>
                <td className="figures">{p.says}</td>
                <th scope="row">{p.what}</th>
                <td className="soft">{p.for}</td>
                <td className="figures">{p.has}</td>
                <td className="figures">{p.buy}</td>
                <td>{p.to_buy > 0 && shop && <Price motor={motor} shop={shop} part={p} />}</td>
                <td className="figures">{p.cost > 0 && fixed(p.cost, 2)}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <th scope="row" colSpan={7}>
                {work.sum.says}
              </th>
            </tr>
          </tfoot>
        </table>
      </div>
      {change.error && (
        <p className="problem" role="alert">
          {words(change.error)}
        </p>
      )}
      <p className="links">
        <a className="alone" href={`/api/motors/${motor}/parts.csv`}>
          Parts as CSV
        </a>
        <Link to="/stores">Stores</Link>
        {work.parts.some(p => p.on_hand > 0) && !reserved && (
          <Button loading={change.isPending} onClick={() => take('reserve')}>
            Reserve what is on hand
          </Button>
        )}
        {reserved && (
          <>
            <Button loading={change.isPending} onClick={() => take('release')}>
              Give it back
            </Button>
            <Button loading={change.isPending} onClick={() => take('use')}>
              Built in: used up
            </Button>
          </>
        )}
      </p>
    </div>
  );
}

/** What one part costs, or a length of it: the shop's own price, or what its prices of ways come to until then. */
function Price({ motor, shop, part }: { motor: string; shop: Schemas['ShopHead']; part: Schemas['InstallItem'] }) {
  const { keep, fault } = useOwn(shop);
  const [typed, type, settle] = useKept<string | null>(`${motor}.price.${part.what}`, null);
  const each = typed === null ? NaN : Number(typed.trim().replace(',', '.'));
  const bad = typed !== null && typed.trim() !== '' && !(each >= 0 && each <= 1e7);
  const save = async () => {
    if (typed === null || bad) return;
    const others = (shop.own.costs ?? []).filter(c => c.what !== part.what);
    const costs = typed.trim() === '' ? others : [...others, { what: part.what, each }];
    if (await keep({ costs })) {
      type(null);
      settle();
    }
  };
  const said = part.own || part.each > 0 ? fixed(part.each, 2) : '';
  return (
    <>
      <Input
        className={part.own ? 'price' : 'price assumed'}
        size="small"
        inputMode="decimal"
        aria-label={`Price of ${part.what}`}
        aria-invalid={bad}
        placeholder={part.per ? `a ${part.per}` : 'each'}
        value={typed ?? said}
        onChange={e => type(e.target.value)}
        onBlur={() => void save()}
        onPressEnter={() => void save()}
      />
      {bad && (
        <span className="problem" role="alert">
          A price is a number.
        </span>
      )}
      {fault && (
        <span className="problem" role="alert">
          {fault.message}
        </span>
      )}
    </>
  );
}

/** The box to scale, how large and how warm it is, and a hook-up for a test bench. */
export function BoxTab({ motor, made }: { motor: string; made: Schemas['Wiring'] }) {
  const { enclosure, temporary } = made.work;
  return (
    <div className="box-tab">
      <div>
        <DrawingView drawing={made.cabinet} />
        <p className="links">
          <a href={`/api/motors/${motor}/cabinet.svg`}>Box as SVG, a unit a millimetre</a>
        </p>
      </div>
      <div>
        <SectionTable section={{ title: 'Box', rows: enclosure.rows }} />
        <SectionTable section={{ title: 'A hook-up for a test bench', rows: temporary }} />
      </div>
    </div>
  );
}

/** Labels as they are printed, and where each goes. */
export function LabelsTab({ motor, work }: { motor: string; work: Work }) {
  return (
    <div>
      <p className="links">
        <a className="alone" href={`/api/motors/${motor}/labels.pdf`}>
          Print them
        </a>
        <span className="soft">with a pair of markers for every wire</span>
      </p>
      <ul className="labels">
        {work.labels.map((l, i) => (
          <li key={i} className={l.kind}>
            <b>{l.title}</b>
            <span>{l.text}</span>
            <span className="soft small">{l.where}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
