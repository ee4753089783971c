import { Slider } from 'antd';
import { useDeferredValue } from 'react';
import { useLocation } from 'react-router';
import { number } from '../parts/number';
import { Numeral } from '../parts/Numeral';

/** A slider with its figure beside it: it moves with the hand, and what is let go of is kept. */
export function SlideRow({
  name,
  label,
  value,
  least,
  most,
  step,
  unit,
  slide,
  keep,
}: {
  name: string;
  label: string;
  value: number;
  least: number;
  most: number;
  step: number;
  unit: string;
  slide: (value: number) => void;
  keep: (value: number) => void;
}) {
  const { pathname, search } = useLocation();
  const written = useDeferredValue(value); // the pictures come before the figure beside the slider
  return (
    <div className="slide">
      <span id={`slide-${name}`} className="slide-label">
        {label}
      </span>
      <Slider
        min={least}
        max={most}
        step={step}
        value={value}
        tooltip={{ open: false }}
        ariaLabelledByForHandle={`slide-${name}`}
        ariaValueTextFormatterForHandle={v => `${v} ${unit}`}
        onChange={slide}
        onChangeComplete={keep}
      />
      <Numeral
        keep={`slide.${pathname}${search}.${name}`}
        label={`${label} in ${unit}`}
        value={Number(number(written))}
        from={least}
        to={most}
        unit={unit}
        change={v => v !== null && keep(v)}
      />
    </div>
  );
}
