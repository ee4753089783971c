import { useEffect, useRef } from 'react';
import type { Drive } from './useDrive';

/** The keypad of a simulated drive: its display, lamps, and keys as they are marked on it. */
export function Keypad({ drive, press }: { drive: Drive; press: (key: string, times?: number) => void }) {
  const { display, keys } = drive;
  const name = (key: string) => keys[key] ?? key;
  const lamp = (title: string, lit: boolean, kind = '') => (
    <span className={`lamp ${lit ? 'lit' : ''} ${kind}`}>
      <i aria-hidden="true" />
      {title}
      <span className="visually-hidden">{lit ? ', lit' : ', dark'}</span>
    </span>
  );
  const dark = display.mode === 'dark';
  return (
    <section className="keypad" aria-label={`Keypad of ${drive.profile}`}>
      <div className="lamps">
        {lamp('turns', drive.state === 'running', 'run')}
        {lamp('fault', drive.state === 'fault', 'trip')}
        {(['keypad', 'terminals', 'bus'] as const).map(place => (
          <span key={place}>{lamp(place, !dark && drive.place === place)}</span>
        ))}
      </div>
      <output className={`display ${display.mode}`} aria-live="off">
        <span className="display-text figures">{dark ? ' ' : display.text}</span>
        <span className="display-unit">{display.unit}</span>
        <span className="display-title">
          {dark ? 'dark: no power' : [display.number, display.title, display.guide].filter(Boolean).join(' · ')}
        </span>
      </output>
      <div className="keys-pad">
        {['menu', 'monitor', 'enter', 'place'].map(key => (
          <button key={key} type="button" className="key" onClick={() => press(key)}>
            {name(key)}
          </button>
        ))}
        <Repeating label={`${name('down')}, down`} show={name('down')} press={times => press('down', times)} />
        <Repeating label={`${name('up')}, up`} show={name('up')} press={times => press('up', times)} />
        <button type="button" className="key" onClick={() => press('reset')}>
          {name('reset')}
        </button>
        <button type="button" className="key" disabled={!drive.guided} onClick={() => press('guide')}>
          {name('guide')}
        </button>
        <button type="button" className="key run" onClick={() => press('run')}>
          {name('run')}
        </button>
        <button type="button" className="key halt" onClick={() => press('stop')}>
          {name('stop')}
        </button>
        <button type="button" className="key works" onClick={() => press('factory')}>
          {name('factory')}
        </button>
      </div>
    </section>
  );
}

/** How a key that is held goes on: when it begins, how often, and by how many, the more the longer. */
const holdMs = 400;
const everyMs = 120;
const steps = [1, 1, 1, 5, 5, 5, 10, 10, 25, 25, 50];

/** A key that goes on while it is held. */
function Repeating({ label, show, press }: { label: string; show: string; press: (times: number) => void }) {
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const held = useRef(0);
  const latest = useRef(press);
  useEffect(() => {
    latest.current = press;
  });
  const release = () => clearTimeout(timer.current);
  useEffect(() => release, []);
  const go = () => {
    latest.current(steps[Math.min(held.current++, steps.length - 1)]!);
    timer.current = setTimeout(go, everyMs);
  };
  return (
    <button
      type="button"
      className="key"
      aria-label={label}
      onPointerDown={() => {
        held.current = 0;
        timer.current = setTimeout(go, holdMs);
      }}
      onPointerUp={release}
      onPointerLeave={release}
      onPointerCancel={release}
      onClick={() => {
        if (held.current === 0) press(1);
        held.current = 0;
      }}
    >
      {show}
    </button>
  );
}
