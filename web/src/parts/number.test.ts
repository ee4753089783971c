// @vitest-environment happy-dom
import { afterEach, expect, test } from 'vitest';
import { setReading } from '../theme/reading';
import { fixed, number, rounded, whole } from './number';

afterEach(() => setReading({ mark: '' }));

test.each([
  [0, '0'],
  [0.071264, '0.0713'],
  [4.996, '5'],
  [12.345, '12.3'],
  [123.456, '123.5'],
  [1234.56, '1235'],
  [-7.777, '-7.78'],
  [NaN, '–'],
  [Infinity, '–'],
])('%f is printed as %s', (value, text) => {
  expect(number(value)).toBe(text);
});

test('decimals that are asked for stand, and nothing has no sign', () => {
  expect(fixed(2, 2)).toBe('2.00');
  expect(fixed(-0.04, 1)).toBe('0.0');
  expect(fixed(-0.06, 1)).toBe('-0.1');
  expect(fixed(-0.3, 0)).toBe('0');
  expect(whole(2.5)).toBe('3');
});

test('a comma is put where the person wants one, and never where figures are reckoned with', () => {
  setReading({ mark: 'comma' });
  expect(number(0.5)).toBe('0,5');
  expect(fixed(1234.5, 1)).toBe('1234,5');
  expect(number(1500)).toBe('1500');
  expect(rounded(12.345)).toBe(12.3);
  expect(document.cookie).toContain('mark=comma');
});
