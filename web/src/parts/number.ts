/** Prints a figure with three or four significant figures, grouping nothing. */
export function number(value: number): string {
  if (!Number.isFinite(value)) return '–';
  if (value === 0) return '0';
  const size = Math.abs(value);
  if (size >= 1000) return Math.round(value).toString();
  return Number(value.toPrecision(size >= 100 ? 4 : 3)).toString();
}

/** Rounds for display without decimals. */
export const whole = (value: number): string => Math.round(value).toString();
