import { expect, test } from 'vitest';
import { scale } from './Chart';
import { scaleOf } from './PageChart';

test('a scale has about four steps of a plain size and reaches what it is for', () => {
  for (let k = 0; k < 2000; k += 1) {
    const most = 10 ** (Math.random() * 12 - 6);
    const { most: top, step } = scale(most);
    const steps = Math.round(top / step);
    expect(top).toBeGreaterThanOrEqual(most * (1 - 1e-9));
    expect(top / step).toBeCloseTo(steps, 6);
    expect(steps).toBeGreaterThanOrEqual(2);
    expect(steps).toBeLessThanOrEqual(5);
    const digit = step / 10 ** Math.floor(Math.log10(step) + 1e-9);
    expect([1, 2, 2.5, 5, 10].some(d => Math.abs(digit - d) < 1e-6)).toBe(true);
  }
});

test('a limit is within the scale', () => expect(scale(40, 155).most).toBeGreaterThanOrEqual(155));

test('nothing has a scale all the same', () => {
  const { most, step } = scale(0);
  expect(most).toBeGreaterThan(0);
  expect(most / step).toBeCloseTo(1);
});

test.each([
  ['steps of its own', { most: 1800, step: 450 }, false, 1800, 450],
  ['steps that suit it', { most: 323, step: 0 }, false, 400, 100],
  ['up to its end and no further', { most: 16.7, step: 0 }, true, 16.7, 5],
])('an axis has %s', (_, axis, upTo, most, step) => {
  const got = scaleOf({ title: '', limit: 0, limit_title: '', ...axis }, upTo);
  expect(got).toMatchObject({ most, step, limit: undefined });
});
