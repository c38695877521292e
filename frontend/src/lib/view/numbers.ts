/** Numbers into words. */

/** “9 low”, “on it”, “4 high”. */
export function centsInWords(cents: number | null | undefined): string {
  if (cents === null || cents === undefined) return '–';
  const whole = Math.round(Math.abs(cents));
  if (whole === 0) return 'on it';
  return `${whole} ${cents < 0 ? 'low' : 'high'}`;
}

export function signed(value: number): string {
  return `${value > 0 ? '+' : value < 0 ? '−' : ''}${Math.abs(value).toFixed(1)}`;
}

export function seconds(total: number): string {
  const whole = Math.round(total);
  return whole < 60 ? `${whole} s` : `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`;
}
