import { Checkbox, Select } from 'antd';
import { memo, useCallback, useEffect, useMemo, useState } from 'react';
import type { Schemas } from '../api/client';
import { useChoices } from '../api/hooks';
import type { Draft } from './draft';
import type { Attempt, Trial } from './size';
import { SlideRow } from './SlideRow';

type Field = 'run_microfarad' | 'start_microfarad' | 'load_share';
type Set = (field: string, patch: Partial<Draft>) => void;
const trialOf: Record<Field, keyof Trial> = { run_microfarad: 'run', start_microfarad: 'start', load_share: 'share' };

/** Sliders for the capacitors and the load; what is let go of is kept. */
export function WhatIf({
  answer,
  draft,
  set,
  stamp,
  attempt,
  run: withRun,
}: {
  answer: Schemas['CapacitorAnswer'];
  draft: Draft;
  set: Set;
  stamp: number;
  attempt: Attempt;
  run: boolean;
}) {
  const { live } = answer;
  const run = draft.run_microfarad ?? live.run_microfarad;
  const start = draft.start_microfarad ?? live.start_microfarad;
  const share = draft.load_share ?? live.load_share;
  const common = { stamp, set, attempt };
  return (
    <div className="sliders">
      {withRun && (
        <Slide
          field="run_microfarad"
          label="Run"
          value={run}
          most={Math.max(answer.most_microfarad, draft.run_microfarad ?? 0)}
          step={1}
          unit="µF"
          scale={1}
          {...common}
        />
      )}
      <Slide
        field="start_microfarad"
        label="Start"
        value={start}
        most={Math.max(answer.most_start_microfarad, draft.start_microfarad ?? 0)}
        step={5}
        unit="µF"
        scale={1}
        {...common}
      />
      <Slide field="load_share" label="Load" value={share} most={100} step={1} unit="%" scale={100} {...common} />
      <Driven load={draft.load} reversed={draft.reversed} set={set} attempt={attempt} />
    </div>
  );
}

/**
 * One slider. What is being tried is its own until it is saved, so that nothing
 * else is drawn before the answer to it is there.
 */
const Slide = memo(function Slide({
  field,
  label,
  value,
  most,
  step,
  unit,
  scale,
  stamp,
  set,
  attempt,
}: {
  field: Field;
  label: string;
  value: number;
  most: number;
  step: number;
  unit: string;
  scale: number;
  stamp: number;
  set: Set;
  attempt: Attempt;
}) {
  const [tried, setTried] = useState<number | null>(null);
  useEffect(() => setTried(null), [stamp]);
  const slide = useCallback(
    (v: number) => {
      attempt(t => ({ ...t, [trialOf[field]]: v / scale }));
      setTried(v / scale);
    },
    [field, scale, attempt],
  );
  const keep = (v: number) => {
    slide(v);
    set(field, { [field]: v / scale });
  };
  return (
    <SlideRow
      name={field}
      label={label}
      value={(tried ?? value) * scale}
      most={most}
      step={step}
      unit={unit}
      slide={slide}
      keep={keep}
    />
  );
});

/** What the motor drives, and which way round. */
export const Driven = memo(function Driven({
  load,
  reversed,
  set,
  attempt,
}: {
  load: string;
  /** Left out where leads are exchanged instead. */ reversed?: boolean;
  set: Set;
  attempt?: Attempt;
}) {
  const kinds = useChoices().data?.loads;
  const options = useMemo(() => kinds?.map(k => ({ value: k.name, label: k.title })), [kinds]);
  return (
    <div className="slide-foot">
      <Select
        aria-label="What it drives"
        value={load}
        options={options}
        onChange={name => {
          attempt?.(() => ({}));
          set('load', { load: name, load_share: null });
        }}
      />
      {reversed !== undefined && (
        <Checkbox checked={reversed} onChange={e => set('reversed', { reversed: e.target.checked })}>
          Other way
        </Checkbox>
      )}
    </div>
  );
});
