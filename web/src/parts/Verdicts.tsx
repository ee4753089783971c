import { memo } from 'react';
import type { Verdict } from '../api/client';

/** The sign of a severity: octagon, triangle or circle. */
export function Sign({ severity, size = 18 }: { severity: string; size?: number }) {
  const shape =
    severity === 'stop' ? (
      <path d="M6 1h8l5 5v8l-5 5H6l-5-5V6z" fill="var(--stop)" />
    ) : severity === 'caution' ? (
      <path d="M10 1.5 19 18H1z" fill="var(--caution)" />
    ) : (
      <circle cx="10" cy="10" r="8.5" fill="var(--note)" />
    );
  return (
    <svg width={size} height={size} viewBox="0 0 20 20" role="img" aria-label={severity}>
      {shape}
    </svg>
  );
}

/** Counts by severity, such as "1 stop · 2 cautions". */
export function tally(verdicts: Verdict[]): string {
  const words: string[] = [];
  for (const [severity, plural] of [
    ['stop', 'stops'],
    ['caution', 'cautions'],
    ['note', 'notes'],
  ] as const) {
    const n = verdicts.filter(v => v.severity === severity).length;
    if (n > 0) words.push(`${n} ${n === 1 ? severity : plural}`);
  }
  return words.join(' · ') || 'nothing to say';
}

/** Verdicts in order; those that hold whatever the figures are lie folded behind the others where that is wanted. */
export const Verdicts = memo(function Verdicts({ verdicts, fold }: { verdicts: Verdict[]; fold?: boolean }) {
  const own = fold ? verdicts.filter(v => !v.standing) : verdicts;
  const standing = fold ? verdicts.filter(v => v.standing) : [];
  return (
    <>
      <List verdicts={own} />
      {standing.length > 0 && (
        <details className="standing" open={own.length === 0}>
          <summary>What always holds here · {tally(standing)}</summary>
          <List verdicts={standing} />
        </details>
      )}
    </>
  );
});

function List({ verdicts }: { verdicts: Verdict[] }) {
  return (
    <ul className="verdicts">
      {verdicts.map(v => (
        <li key={v.rule + v.says} className={`verdict ${v.severity}`} data-rule={v.rule}>
          <Sign severity={v.severity} />
          <span>
            <b>{v.title}.</b> {v.says !== v.title && v.says} {v.do && <span className="do">{v.do}</span>}
            {v.cleared && <span className="cleared"> ✓ Cleared: {v.cleared}.</span>}
          </span>
        </li>
      ))}
    </ul>
  );
}
