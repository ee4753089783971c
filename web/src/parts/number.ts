import { decimalMark } from '../theme/reading';

/** A figure that is printed already, with the reader's decimal mark. */
export const marked = (text: string) => text.replace('.', decimalMark());

/** A figure rounded to three or four significant figures. */
export function rounded(value: number): number {
  const size = Math.abs(value);
  if (size === 0 || !Number.isFinite(value)) return value;
  return size >= 1000 ? Math.round(value) : Number(value.toPrecision(size >= 100 ? 4 : 3));
}

/** Prints a figure with three or four significant figures, grouping nothing. */
export const number = (value: number): string => (Number.isFinite(value) ? marked(rounded(value).toString()) : '–');

/** Prints a figure with so many decimals, and nothing without a sign. */
export const fixed = (value: number, decimals: number): string =>
  marked(value.toFixed(decimals).replace(/^-(0\.?0*)$/, '$1'));

/** Rounds for display without decimals. */
export const whole = (value: number): string => Math.round(value).toString();
