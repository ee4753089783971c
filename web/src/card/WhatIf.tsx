import { Checkbox, InputNumber, Select, Slider } from 'antd';
import type { Schemas } from '../api/client';
import { useChoices } from '../api/hooks';
import { number } from '../parts/number';
import type { Draft } from './draft';
import type { Trial } from './size';

type Field = 'run_microfarad' | 'start_microfarad' | 'load_share';
const trialOf: Record<Field, keyof Trial> = { run_microfarad: 'run', start_microfarad: 'start', load_share: 'share' };

/** Sliders for the capacitors and the load; what is let go of is kept. */
export function WhatIf({ answer, draft, set, trial, setTrial }: {
  answer: Schemas['CapacitorAnswer'];
  draft: Draft;
  set: (field: string, patch: Partial<Draft>) => void;
  trial: Trial;
  setTrial: (trial: Trial) => void;
}) {
  const choices = useChoices();
  const { live } = answer;
  const tried = (field: Field) => trial[trialOf[field]];
  const commit = (field: Field, value: number | null) => {
    if (value !== null) setTrial({ ...trial, [trialOf[field]]: value });
    set(field, { [field]: value });
  };
  const row = (field: Field, label: string, shown: number, most: number, step: number, unit: string, scale: number) => (
    <div className="slide" key={field}>
      <span id={`slide-${field}`} className="slide-label">{label}</span>
      <Slider min={0} max={most} step={step} value={(tried(field) ?? shown) * scale} tooltip={{ open: false }} ariaLabelledByForHandle={`slide-${field}`}
        ariaValueTextFormatterForHandle={(v) => `${v} ${unit}`}
        onChange={(v: number) => setTrial({ ...trial, [trialOf[field]]: v / scale })} onChangeComplete={(v: number) => commit(field, v / scale)} />
      <InputNumber aria-label={`${label} in ${unit}`} value={Number(number((tried(field) ?? shown) * scale))} min={0} max={most} controls={false} suffix={unit}
        parser={(text) => Number((text ?? '').replace(',', '.').replace(/[^\d.]/g, ''))} onChange={(v) => v !== null && Number.isFinite(v) && commit(field, v / scale)} />
    </div>
  );
  return (
    <div className="sliders">
      {row('run_microfarad', 'Run', draft.run_microfarad ?? live.run_microfarad, Math.max(answer.most_microfarad, draft.run_microfarad ?? 0), 1, 'µF', 1)}
      {row('start_microfarad', 'Start', draft.start_microfarad ?? live.start_microfarad, Math.max(answer.most_start_microfarad, draft.start_microfarad ?? 0), 5, 'µF', 1)}
      {row('load_share', 'Load', draft.load_share ?? live.load_share, 100, 1, '%', 100)}
      <div className="slide-foot">
        <Select aria-label="What it drives" value={draft.load} options={choices.data?.loads.map((k) => ({ value: k.name, label: k.title }))}
          onChange={(load) => { setTrial({}); set('load', { load, load_share: null }); }} />
        <Checkbox checked={draft.reversed} onChange={(e) => set('reversed', { reversed: e.target.checked })}>Other way</Checkbox>
      </div>
    </div>
  );
}
