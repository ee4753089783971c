import { Button, Select } from 'antd';
import { useEffect, useRef, type ReactNode } from 'react';
import type { Schemas } from '../api/client';
import { Sign } from '../parts/Verdicts';
import { tokens } from '../theme/theme';
import { fixed } from '../parts/number';
import type { Played, usePlay } from './usePlay';

/** What hands, overloads and the supply do to a circuit, and how it went. */
export function RunPanel({
  play,
  faults,
  looks,
  children,
}: {
  play: ReturnType<typeof usePlay>;
  faults: Schemas['LadderFault'][];
  looks: ReactNode;
  children: ReactNode;
}) {
  const { played, act, anew, broken, fault } = play;
  if (!played)
    return (
      <>
        {fault && (
          <p className="problem" role="alert">
            {fault}
          </p>
        )}
        {children}
      </>
    );
  return (
    <section className="run-panel">
      <h2>
        Run it before you build it <span className="soft">hold, let go, and see what is live</span>
      </h2>
      {fault && (
        <p className="problem" role="alert">
          {fault}
        </p>
      )}
      <div className="run-hands">
        <Button
          aria-pressed={!played.supply}
          danger={!played.supply}
          onClick={() => act({ do: played.supply ? 'lose' : 'back' })}
        >
          {played.supply ? 'Volts off' : 'Volts back'}
        </Button>
        {played.hands.map(h => (
          <HandButton key={h.part} hand={h} act={act} />
        ))}
        <Select
          aria-label="Something broken"
          value={broken}
          popupMatchSelectWidth={false}
          showSearch={{ optionFilterProp: 'label' }}
          options={[{ value: '', label: 'nothing is broken' }, ...faults.map(f => ({ value: f.name, label: f.says }))]}
          onChange={anew}
        />
        <Button type="text" onClick={() => anew(broken)}>
          Begin anew
        </Button>
        <span className="gap" />
        {looks}
      </div>
      {played.broken.map(v => (
        <p key={v.rule + v.parts.join()} className={`verdict ${v.severity}`} role="alert">
          <Sign severity={v.severity} size={16} /> <span>{v.says}</span>
        </p>
      ))}
      {children}
      {played.made.map(m => (
        <p key={m.part} className="made-leg">
          <span className="soft">
            Made leg at {m.part}, {m.name}
          </span>{' '}
          <b className="figures">{m.volts} V</b> <span className="soft">by the model</span>
        </p>
      ))}
      <div className="run-story">
        <Timeline played={played} />
        <Log played={played} />
      </div>
    </section>
  );
}

type Act = ReturnType<typeof usePlay>['act'];

function HandButton({ hand, act }: { hand: Schemas['LadderHand']; act: Act }) {
  const { part, at, positions, momentary, kind } = hand;
  if (momentary) {
    const press = () => act({ do: 'move', part, to: 1 });
    const release = () => act({ do: 'move', part, to: 0 });
    return (
      <Button
        aria-pressed={at > 0}
        className={at > 0 ? 'held' : ''}
        onPointerDown={e => {
          e.currentTarget.setPointerCapture(e.pointerId);
          press();
        }}
        onPointerUp={release}
        onPointerCancel={release}
        onKeyDown={e => {
          if ((e.key === 'Enter' || e.key === ' ') && !e.repeat) press();
        }}
        onKeyUp={e => {
          if (e.key === 'Enter' || e.key === ' ') release();
        }}
      >
        {hand.says}
      </Button>
    );
  }
  const move = () =>
    kind === 'overload'
      ? act({ do: at ? 'reset' : 'trip', part })
      : act({ do: 'move', part, to: (at + 1) % (positions + 1) });
  return (
    <Button aria-pressed={at > 0} danger={at > 0 && kind !== 'selector'} onClick={move}>
      {hand.says}
    </Button>
  );
}

const row = 20;
const left = 150;
const wide = 640;

/** How everything went over time that has moved. */
function Timeline({ played }: { played: Played }) {
  const tracks = played.tracks.filter(t => t.levels.some(l => l.is > 0));
  const end = Math.max(played.now_ms, 4000);
  const x = (ms: number) => left + ((wide - left) * ms) / end;
  const step = [1, 2, 5, 10, 20, 60, 120].find(s => end / 1000 / s <= 10) ?? 300;
  const height = row * Math.max(tracks.length, 1) + 24;
  return (
    <svg viewBox={`0 0 ${wide} ${height}`} className="timeline" role="img" aria-label="How it went over time">
      {Array.from({ length: Math.floor(end / 1000 / step) + 1 }, (_, i) => i * step).map(s => (
        <g key={s}>
          <line x1={x(s * 1000)} x2={x(s * 1000)} y1={0} y2={height - 18} stroke={tokens.rule} />
          <text x={x(s * 1000)} y={height - 4} fontSize={12} textAnchor="middle" fill={tokens.soft}>
            {s} s
          </text>
        </g>
      ))}
      {tracks.map((t, i) => (
        <g key={t.part}>
          <text x={0} y={i * row + 15} fontSize={13} fill={tokens.ink}>
            <tspan fontWeight={600}>{t.part}</tspan> {t.name.length > 17 ? `${t.name.slice(0, 16)}…` : t.name}
          </text>
          {t.ramps ? (
            <polyline
              points={[...t.levels, { at_ms: played.now_ms, is: t.levels.at(-1)?.is ?? 0 }]
                .map(l => `${x(l.at_ms)},${i * row + 18 - 14 * l.is}`)
                .join(' ')}
              fill="none"
              stroke={tokens.lineC}
              strokeWidth={2}
            />
          ) : (
            t.levels.map((l, k) =>
              l.is > 0 ? (
                <rect
                  key={l.at_ms}
                  x={x(l.at_ms)}
                  y={i * row + 5}
                  width={Math.max(x(t.levels[k + 1]?.at_ms ?? played.now_ms) - x(l.at_ms), 2)}
                  height={12}
                  fill={tokens.enamel}
                />
              ) : null,
            )
          )}
        </g>
      ))}
      {tracks.length === 0 && (
        <text x={left} y={15} fontSize={13} fill={tokens.soft}>
          It rests. Press something.
        </text>
      )}
      <line x1={x(played.now_ms)} x2={x(played.now_ms)} y1={0} y2={height - 18} stroke={tokens.stop} />
    </svg>
  );
}

/** What happened, in words, the latest in view. */
function Log({ played }: { played: Played }) {
  const list = useRef<HTMLOListElement>(null);
  useEffect(() => {
    if (list.current) list.current.scrollTop = list.current.scrollHeight;
  }, [played.log.length]);
  return (
    <ol className="run-log" ref={list} tabIndex={0} aria-label="What happened" aria-live="polite">
      {played.log.map((l, i) => (
        <li key={i}>
          <span className="figures soft">{fixed(l.at_ms / 1000, 1)} s</span> {l.says}
        </li>
      ))}
    </ol>
  );
}
