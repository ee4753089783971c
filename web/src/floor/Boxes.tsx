import { Slider, Switch, Tooltip } from 'antd';
import { memo, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { whole } from '../parts/number';
import type { Floor, Page, Picture, Site } from './useFloor';

type Broken = Schemas['FloorBroken'];

/** What a box is drawn from. */
export interface Drawn {
  id: string;
  floor: Floor;
  page: Page;
  picture: Picture;
  site: Site;
  selected: boolean;
  select: (id: string) => void;
}

/** A figure that opens its working, by a pointer or by the keyboard. */
export function Figure({ text, working }: { text: string; working: string }) {
  if (!working) return <span className="figures">{text}</span>;
  return (
    <Tooltip title={working} trigger={['hover', 'focus', 'click']}>
      <button type="button" className="figure figures" aria-label={`${text}: ${working}`}>
        {text}
      </button>
    </Tooltip>
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
        onClick={() => d.select(d.id)}
        data-box={d.id}
      >
        {name}
      </button>
      {children}
    </div>
  );
}

function ServiceBox({ d }: { d: Drawn }) {
  const { main } = d.picture;
  return (
    <>
      <Head d={d} name="Service" />
      <span className="big figures">{amps(main.amps)}</span>
      <span className="of">of {whole(main.limit_amps)} A</span>
      <Bar share={main.limit_amps ? main.amps / main.limit_amps : 0} />
      <span className="of figures">{whole(main.volts)} V</span>
    </>
  );
}

function CircuitBox({ d }: { d: Drawn }) {
  const own = d.site.circuits?.find(c => c.id === d.id);
  const now = d.picture.circuits.find(c => c.id === d.id);
  if (!own || !now) return null;
  const side = d.floor.state.thrown?.[d.id] === 'b' ? 'b' : 'a';
  return (
    <>
      <Head d={d} name={own.name}>
        {own.change_over && (
          <Tooltip title={`Change-over at ${side.toUpperCase()}: throw it`}>
            <button
              type="button"
              className="throw"
              aria-label={`A B: change-over of ${own.name}, at ${side.toUpperCase()}; throw it`}
              onClick={() => d.floor.throwOver(d.id, side === 'a' ? 'b' : 'a')}
            >
              <b className={side === 'a' ? 'at' : ''}>A</b> <b className={side === 'b' ? 'at' : ''}>B</b>
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
  const now = d.picture.converters.find(c => c.id === d.id);
  const own = d.site.converters?.find(c => c.id === d.id);
  if (!now || !own) return null;
  return (
    <>
      <Head d={d} name={own.name}>
        <Switch checked={now.on} aria-label={`${own.name}, on`} onChange={on => d.floor.flip([d.id], on)} />
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
            ab {whole(now.volts.ab)} bc {whole(now.volts.bc)} ca {whole(now.volts.ca)}
          </span>
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
  ['wire', 'ready to wire'],
] as const;

function MachineBox({ d }: { d: Drawn }) {
  const now = d.picture.machines.find(m => m.id === d.id);
  if (!now) return null;
  const heads = d.page.motors;
  const first = heads.find(h => h.id === now.motors[0]?.id);
  const many = now.motors.length > 1;
  return (
    <>
      <Head d={d} name={now.name}>
        {now.motors.every(m => m.known) || (
          <Link className="unread" to={`/machines/${d.id}/plate`}>
            plate?
          </Link>
        )}
        <Switch
          checked={now.on}
          aria-label={`${now.name}, on`}
          disabled={now.motors.every(m => !m.known)}
          onChange={on => d.floor.flip([d.id, ...now.motors.map(m => m.id)], on)}
        />
      </Head>
      {now.motors.map(m => {
        const head = heads.find(h => h.id === m.id);
        const name = many ? m.name || head?.title || '' : '';
        return (
          <span key={m.id} className="motor">
            {many && <span className="motor-name">{name}</span>}
            <Slider
              min={0}
              max={1.2}
              step={0.05}
              value={d.floor.state.shares?.[m.id] ?? m.load_share}
              disabled={!m.known}
              aria-label={`Load of ${now.name}${name && `, ${name}`}`}
              ariaLabelForHandle={`Load of ${now.name}${name && `, ${name}`}`}
              ariaValueTextFormatterForHandle={v => `${whole(100 * (v ?? 0))} percent`}
              tooltip={{ formatter: v => `load ${whole(100 * (v ?? 0))} %` }}
              onChange={share => d.floor.turn(m.id, share)}
            />
            {m.on && m.live ? (
              <span className={worstAt(d.picture.broken, [m.id])}>
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
  const now = d.picture.loads.find(l => l.id === d.id);
  if (!now) return null;
  return (
    <Head d={d} name={now.name}>
      <span className="of figures">{now.on ? (now.live ? amps(now.amps) : 'dead') : 'off'}</span>
      <Switch checked={now.on} aria-label={`${now.name}, on`} onChange={on => d.floor.flip([d.id], on)} />
    </Head>
  );
}

/** A box of the drawing, by its kind. */
export const Inside = memo(function Inside({ kind, d }: { kind: string; d: Drawn }) {
  switch (kind) {
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
});

/** Amps, with a decimal where they are few. */
export const amps = (v: number) => `${v < 100 ? v.toFixed(1) : whole(v)} A`;
