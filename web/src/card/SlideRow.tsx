import { Slider, type SliderSingleProps } from 'antd';
import { memo, useCallback } from 'react';
import { useLocation } from 'react-router';
import { useCalm } from '../parts/calm';
import { rounded } from '../parts/number';
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
  const written = useCalm(value); // the pictures come before the figure beside the slider
  const type = useCallback((v: number | null) => v !== null && keep(v), [keep]);
  return (
    <div className="slide">
      <span id={`slide-${name}`} className="slide-label">
        {label}
      </span>
      <Rail
        min={least}
        max={most}
        step={step}
        value={value}
        ariaLabelledByForHandle={`slide-${name}`}
        unit={unit}
        onChange={slide}
        onChangeComplete={keep}
      />
      <Figure
        keep={`slide.${pathname}${search}.${name}`}
        label={`${label} in ${unit}`}
        value={rounded(written)}
        from={least}
        to={most}
        unit={unit}
        change={type}
      />
    </div>
  );
}

const noTooltip = { open: false };

/** The slider itself and the figure beside it, each drawn anew only for itself. */
const Rail = memo(function Rail({ unit, ...rest }: SliderSingleProps & { unit: string }) {
  const say = useCallback((v?: number) => `${v} ${unit}`, [unit]);
  return <Slider tooltip={noTooltip} ariaValueTextFormatterForHandle={say} {...rest} />;
});
const Figure = memo(Numeral);
