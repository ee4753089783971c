import { Checkbox, InputNumber, Select, Slider } from 'antd';
import { memo, useCallback, useMemo, type Dispatch, type SetStateAction } from 'react';
import type { Schemas } from '../api/client';
import { useChoices } from '../api/hooks';
import { number } from '../parts/number';
import type { Draft } from './draft';
import type { Trial } from './size';

type Field = 'run_microfarad' | 'start_microfarad' | 'load_share';
type Set = (field: string, patch: Partial<Draft>) => void;
type SetTrial = Dispatch<SetStateAction<Trial>>;
const trialOf: Record<Field, keyof Trial> = { run_microfarad: 'run', start_microfarad: 'start', load_share: 'share' };

/** Sliders for the capacitors and the load; what is let go of is kept. */
export function WhatIf({ answer, draft, set, trial, setTrial }: { answer: Schemas['CapacitorAnswer']; draft: Draft; set: Set; trial: Trial; setTrial: SetTrial }) {
  const { live } = answer;
  const run = trial.run ?? draft.run_microfarad ?? live.run_microfarad;
  const start = trial.start ?? draft.start_microfarad ?? live.start_microfarad;
  const share = trial.share ?? draft.load_share ?? live.load_share;
  return (
    <div className="sliders">
      <Slide field="run_microfarad" label="Run" value={run} most={Math.max(answer.most_microfarad, draft.run_microfarad ?? 0)} step={1} unit="µF" scale={1} set={set} setTrial={setTrial} />
      <Slide field="start_microfarad" label="Start" value={start} most={Math.max(answer.most_start_microfarad, draft.start_microfarad ?? 0)} step={5} unit="µF" scale={1} set={set} setTrial={setTrial} />
      <Slide field="load_share" label="Load" value={share} most={100} step={1} unit="%" scale={100} set={set} setTrial={setTrial} />
      <Driven load={draft.load} reversed={draft.reversed} set={set} setTrial={setTrial} />
    </div>
  );
}

const Slide = memo(function Slide({ field, label, value, most, step, unit, scale, set, setTrial }: {
  field: Field;
  label: string;
  value: number;
  most: number;
  step: number;
  unit: string;
  scale: number;
  set: Set;
  setTrial: SetTrial;
}) {
  const attempt = useCallback((v: number) => setTrial((t) => ({ ...t, [trialOf[field]]: v / scale })), [field, scale, setTrial]);
  const keep = (v: number) => {
    attempt(v);
    set(field, { [field]: v / scale });
  };
  return (
    <div className="slide">
      <span id={`slide-${field}`} className="slide-label">{label}</span>
      <Slider min={0} max={most} step={step} value={value * scale} tooltip={{ open: false }} ariaLabelledByForHandle={`slide-${field}`}
        ariaValueTextFormatterForHandle={(v) => `${v} ${unit}`} onChange={attempt} onChangeComplete={keep} />
      <InputNumber aria-label={`${label} in ${unit}`} value={Number(number(value * scale))} min={0} max={most} controls={false} suffix={unit}
        parser={(text) => Number((text ?? '').replace(',', '.').replace(/[^\d.]/g, ''))} onChange={(v) => v !== null && Number.isFinite(v) && keep(v)} />
    </div>
  );
});

const Driven = memo(function Driven({ load, reversed, set, setTrial }: { load: string; reversed: boolean; set: Set; setTrial: SetTrial }) {
  const kinds = useChoices().data?.loads;
  const options = useMemo(() => kinds?.map((k) => ({ value: k.name, label: k.title })), [kinds]);
  return (
    <div className="slide-foot">
      <Select aria-label="What it drives" value={load} options={options} onChange={(name) => { setTrial({}); set('load', { load: name, load_share: null }); }} />
      <Checkbox checked={reversed} onChange={(e) => set('reversed', { reversed: e.target.checked })}>Other way</Checkbox>
    </div>
  );
});
