import { Slider, Switch, Tooltip } from 'antd';
import { Fragment, memo, useEffect, useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { useLines } from '../frame/shop';
import { onward } from '../parts/follow';
import { fixed, whole } from '../parts/number';
import { flipped, turned, type Floor, type Page, type Picture, type Site } from './useFloor';

type Broken = Schemas['FloorBroken'];
type Head = Schemas['FloorHead'];

/** What a hand does to things on the floor. */
export type Acts = Pick<Floor, 'flip' | 'foresee' | 'turn' | 'throwOver'> & { select: (id: string) => void };

/** What a box is drawn from: the parts of the picture and of the tree that are its own, and no more. */
export interface Drawn {
  id: string;
  kind: string;
  selected: boolean;
  main?: Picture['main'];
  circuit?: Picture['circuits'][number];
  converter?: Picture['converters'][number];
  bus: boolean;
  machine?: Picture['machines'][number];
  load?: Picture['loads'][number];
  /** Its own of the tree. */
  own?: NonNullable<Site['circuits']>[number];
  name: string;
  /** The side at which its change-over stands. */
  side: string;
  heads: Head[];
  /** Its motors' shares as they are turned, and what is wrong with each. */
  shares: (number | undefined)[];
  wrong: string[];
  acts: Acts;
}

/** What each box is drawn from. */
export function drawn(page: Page, picture: Picture, floor: Floor, acts: Acts, selected: string): Drawn[] {
  const { state } = floor;
  return page.layout.boxes.map(({ id, kind }) => {
    const machine = picture.machines.find(m => m.id === id);
    const motors = machine?.motors.map(m => m.id) ?? [];
    const own = page.site.circuits?.find(c => c.id === id);
    const converter = page.site.converters?.find(c => c.id === id);
    return {
      id,
      kind,
      selected: selected === id,
      main: kind === 'service' ? picture.main : undefined,
      circuit: picture.circuits.find(c => c.id === id),
      converter: picture.converters.find(c => c.id === id),
      bus: converter?.kind === 'bus',
      machine,
      load: picture.loads.find(l => l.id === id),
      own,
      name: own?.name ?? converter?.name ?? '',
      side: state.thrown?.[id] === 'b' ? 'b' : 'a',
      heads: page.motors.filter(h => motors.includes(h.id)),
      shares: motors.map(m => state.shares?.[m]),
      wrong: motors.map(m => worstAt(picture.broken, [m])),
      acts,
    };
  });
}

/** Whether a box is drawn from the same as before. */
function same(a: Drawn, b: Drawn): boolean {
  return (Object.keys(a) as (keyof Drawn)[]).every(key => {
    const [x, y] = [a[key], b[key]];
    return (
      Object.is(x, y) ||
      (Array.isArray(x) && Array.isArray(y) && x.length === y.length && x.every((v, i) => v === y[i]))
    );
  });
}

/** A figure that opens its working, where it has one. */
export function Figure({ text, working }: { text: string; working: string }) {
  return working ? <Hinted text={text} working={working} /> : <span className="figures">{text}</span>;
}

/**
 * A figure that opens its working by a pointer, a finger or the keyboard. Its hint is made only once it is come to: a
 * floor has dozens of them, and each switch changes most.
 */
function Hinted({ text, working }: { text: string; working: string }) {
  const [open, setOpen] = useState<boolean>();
  const leaving = useRef<ReturnType<typeof setTimeout>>(undefined);
  const show = (now: boolean, ms = 0) => {
    clearTimeout(leaving.current);
    if (ms) leaving.current = setTimeout(() => setOpen(now), ms);
    else setOpen(now);
  };
  useEffect(() => () => clearTimeout(leaving.current), []);
  return (
    <button
      type="button"
      className="figure figures"
      aria-label={`${text}: ${working}`}
      onPointerEnter={() => show(true)}
      onPointerLeave={() => show(false, 100)} // time to come onto the hint itself
      onFocus={() => show(true)}
      onBlur={() => show(false)}
      onClick={() => show(true)}
      onKeyDown={e => e.key === 'Escape' && show(false)}
    >
      {open === undefined ? (
        text
      ) : (
        <Tooltip title={working} open={open} trigger="click" onOpenChange={now => now || show(false)}>
          <span>{text}</span>
        </Tooltip>
      )}
    </button>
  );
}

/** A bar of how much of a limit is taken. */
export function Bar({ share }: { share: number }) {
  return (
    <span className={share > 1.001 ? 'bar over' : 'bar'} aria-hidden="true">
      <span style={{ width: `${Math.min(100, Math.max(0, 100 * share))}%` }} />
    </span>
  );
}

/** What is broken at a place and what belongs to it, the gravest severity of it. */
export const worstAt = (broken: Broken[], ids: string[]): string =>
  (['stop', 'caution'] as const).find(s => broken.some(b => b.severity === s && ids.includes(b.where))) ?? '';

/** The head of a box: its name, by which it is chosen. */
function Head({ d, name, children }: { d: Drawn; name: string; children?: ReactNode }) {
  return (
    <div className="box-head">
      <button
        type="button"
        className="box-name"
        aria-pressed={d.selected}
        onClick={() => d.acts.select(d.id)}
        data-box={d.id}
      >
        {name}
      </button>
      {children}
    </div>
  );
}

/** A switch of a thing, and of what is switched with it; apart from the figures beside it, which every flip changes. */
const Flip = memo(function Flip(props: {
  id: string;
  within?: string;
  name: string;
  on: boolean;
  dead?: boolean;
  small?: boolean;
  acts: Acts;
}) {
  const all = [props.id, ...(props.within?.split(' ') ?? [])];
  const near = () => !props.dead && props.acts.foresee(flipped(all, !props.on));
  return (
    <span className="flip" onPointerEnter={near} onPointerDown={near} onFocus={near}>
      <Switch
        size={props.small ? 'small' : undefined}
        checked={props.on}
        aria-label={`${props.name}, on`}
        disabled={props.dead}
        onChange={on => props.acts.flip(all, on)}
      />
    </span>
  );
});

const percent = (share?: number) => `${whole(100 * (share ?? 0))} percent`;
const none = { open: false };
const range = { min: 0, max: 1.2, step: 0.05 };

/** A motor's load, turned where it stands: what is under the hand is its own until the picture of it is there. */
const Load = memo(function Load(props: { motor: string; name: string; share: number; known: boolean; acts: Acts }) {
  const { motor, share, acts } = props;
  const [held, setHeld] = useState<number | null>(null);
  useEffect(() => setHeld(null), [share]);
  const now = held ?? share;
  const next = (from: number, by: number) => onward(from, by, range.min, range.max);
  const near = () => {
    for (const to of [next(now, -range.step), next(now, range.step)]) if (to !== null) acts.foresee(turned(motor, to));
  };
  return (
    <span className="turned">
      <Slider
        {...range}
        value={now}
        disabled={!props.known}
        ariaLabelForHandle={props.name}
        ariaValueTextFormatterForHandle={percent}
        tooltip={none}
        onChange={to => {
          setHeld(to);
          acts.turn(motor, to, next(to, to - now));
        }}
        onFocus={near}
      />
      <span className="turned-to" style={{ left: `${(100 * now) / range.max}%` }} aria-hidden="true">
        load {whole(100 * now)} %
      </span>
    </span>
  );
});

function ServiceBox({ d }: { d: Drawn }) {
  const { main } = d;
  if (!main) return null;
  return (
    <>
      <Head d={d} name="Service" />
      <span className="big figures">{amps(main.amps)}</span>
      <span className="of">of {whole(main.limit_amps)} A</span>
      <Bar share={main.limit_amps ? main.amps / main.limit_amps : 0} />
      <span className="of figures">{whole(main.volts)} V</span>
      <span className="of">{fixed(main.money_an_hour, 2)} an hour</span>
    </>
  );
}

function CircuitBox({ d }: { d: Drawn }) {
  const { own, circuit: now } = d;
  if (!own || !now) return null;
  const side = d.side.toUpperCase();
  return (
    <>
      <Head d={d} name={d.name}>
        {own.change_over && (
          <Tooltip title={`Change-over at ${side}: throw it`}>
            <button
              type="button"
              className="throw"
              aria-label={`A B: change-over of ${d.name}, at ${side}; throw it`}
              onClick={() => d.acts.throwOver(d.id, d.side === 'a' ? 'b' : 'a')}
            >
              <b className={d.side === 'a' ? 'at' : ''}>A</b> <b className={d.side === 'b' ? 'at' : ''}>B</b>
            </button>
          </Tooltip>
        )}
      </Head>
      <span className="line">
        <Figure text={amps(now.amps)} working={now.working} />
        <span className="of">of {whole(now.limit_amps)} A</span>
      </span>
      <Bar share={now.amps / now.limit_amps} />
      <span className="of figures">
        {whole(now.volts)} V{own.size ? ` · ${own.size}` : ''}
      </span>
    </>
  );
}

function ConverterBox({ d }: { d: Drawn }) {
  const { converter: now } = d;
  const lines = useLines();
  if (!now) return null;
  if (d.bus) return <BusBox d={d} />;
  return (
    <>
      <Head d={d} name={d.name}>
        <Flip id={d.id} name={d.name} on={now.on} acts={d.acts} />
      </Head>
      <span className="line">
        <Figure text={now.on ? `${whole(now.idler_percent)} %` : 'stands'} working={now.on ? now.working : ''} />
        <span className="of">
          {now.on ? `idler · ${whole(now.rpm)} rpm` : 'its lines are dead, its capacitors may not be'}
        </span>
      </span>
      <Bar share={now.idler_percent / 100} />
      {now.on && (
        <>
          <span className="of figures pairs">
            {(['ab', 'bc', 'ca'] as const).map(pair => (
              <Fragment key={pair}>
                <span className="pair">
                  {lines[pair]} {whole(now.volts[pair])}
                </span>{' '}
              </Fragment>
            ))}
          </span>
          <span className="of figures">
            {amps(now.amps)} in · {whole(now.watts)} W
          </span>
        </>
      )}
    </>
  );
}

function BusBox({ d }: { d: Drawn }) {
  const { converter: now } = d;
  const bus = now?.bus;
  return (
    <>
      <Head d={d} name={d.name}>
        <Flip id={d.id} name={d.name} on={now?.on === true} acts={d.acts} />
      </Head>
      <span className="line">
        <Figure text={bus ? `${whole(bus.volts)} V dc` : 'off'} working={bus && now ? now.working : ''} />
        <span className="of">{bus ? `ripple ${whole(bus.ripple_volts)} V` : 'its cans may hold a charge'}</span>
      </span>
      {bus && now && (
        <>
          <span className="of figures">{amps(bus.dc_amps)} dc out</span>
          <span className="of figures">
            {amps(now.amps)} in · {whole(now.watts)} W
          </span>
        </>
      )}
    </>
  );
}

const steps = [
  ['plate', 'plate read'],
  ['leads', 'leads known'],
  ['route', 'way taken'],
  ['wire', 'wired'],
] as const;

function MachineBox({ d }: { d: Drawn }) {
  const { machine: now, acts } = d;
  if (!now) return null;
  const first = d.heads.find(h => h.id === now.motors[0]?.id);
  const many = now.motors.length > 1;
  const together = now.motors.filter(m => !m.apart);
  return (
    <>
      <Head d={d} name={now.name}>
        {now.motors.every(m => m.known) || (
          <Link className="unread" to={`/machines/${d.id}/plate`}>
            plate?
          </Link>
        )}
        <Flip
          id={d.id}
          within={together.map(m => m.id).join(' ')}
          name={now.name}
          on={now.on}
          dead={together.every(m => !m.known)}
          acts={acts}
        />
      </Head>
      {now.motors.map((m, i) => {
        const name = many ? m.name || d.heads.find(h => h.id === m.id)?.title || '' : '';
        return (
          <span key={m.id} className="motor">
            {many && <span className="motor-name">{name}</span>}
            {m.apart && <Flip id={m.id} name={`${now.name}, ${name}`} on={m.on} dead={!m.known} acts={acts} small />}
            <Load
              motor={m.id}
              name={`Load of ${now.name}${name && `, ${name}`}`}
              share={d.shares[i] ?? m.load_share}
              known={m.known}
              acts={acts}
            />
            {m.on && m.live ? (
              <span className={d.wrong[i]}>
                <Figure
                  text={m.hottest_winding_percent > 0 ? `${whole(m.hottest_winding_percent)} %` : amps(m.amps)}
                  working={m.working}
                />
              </span>
            ) : (
              <span className="of">{m.on ? 'dead' : many ? 'off' : (first?.title ?? '')}</span>
            )}
          </span>
        );
      })}
      <span className="pips" aria-label={`How far it has come: ${first?.stage ?? ''}`} role="img">
        {steps.map(([step, title]) => (
          <i key={step} className={first?.progress[step] ? 'done' : ''} title={title} />
        ))}
      </span>
    </>
  );
}

function LoadBox({ d }: { d: Drawn }) {
  const { load: now } = d;
  if (!now) return null;
  return (
    <Head d={d} name={now.name}>
      <span className="of figures">{now.on ? (now.live ? amps(now.amps) : 'dead') : 'off'}</span>
      <Flip id={d.id} name={now.name} on={now.on} acts={d.acts} />
    </Head>
  );
}

/** What a box holds, by its kind; drawn anew only where it is drawn from something else. */
export const Inside = memo(
  function Inside({ d }: { d: Drawn }) {
    switch (d.kind) {
      case 'service':
        return <ServiceBox d={d} />;
      case 'circuit':
        return <CircuitBox d={d} />;
      case 'converter':
        return <ConverterBox d={d} />;
      case 'machine':
        return <MachineBox d={d} />;
    }
    return <LoadBox d={d} />;
  },
  (a, b) => same(a.d, b.d),
);

/** Amps, with a decimal where they are few. */
export const amps = (v: number) => `${v < 100 ? fixed(v, 1) : whole(v)} A`;
