import { InputNumber, Slider } from 'antd';
import { useDeferredValue } from 'react';
import { number } from '../parts/number';

/** A slider with its figure beside it: it moves with the hand, and what is let go of is kept. */
export function SlideRow({ name, label, value, most, step, unit, slide, keep }: {
  name: string;
  label: string;
  value: number;
  most: number;
  step: number;
  unit: string;
  slide: (value: number) => void;
  keep: (value: number) => void;
}) {
  const written = useDeferredValue(value); // the pictures come before the figure beside the slider
  return (
    <div className="slide">
      <span id={`slide-${name}`} className="slide-label">{label}</span>
      <Slider min={0} max={most} step={step} value={value} tooltip={{ open: false }} ariaLabelledByForHandle={`slide-${name}`}
        ariaValueTextFormatterForHandle={(v) => `${v} ${unit}`} onChange={slide} onChangeComplete={keep} />
      <InputNumber aria-label={`${label} in ${unit}`} value={Number(number(written))} min={0} max={most} controls={false} suffix={unit}
        parser={(text) => Number((text ?? '').replace(',', '.').replace(/[^\d.]/g, ''))} onChange={(v) => v !== null && Number.isFinite(v) && keep(v)} />
    </div>
  );
}
