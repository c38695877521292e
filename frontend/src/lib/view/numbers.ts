/** Numbers into words. */
import { tag } from '../../locales/locale.js';

/** A number with so many decimals, as the language of the page writes it; `least` of them where they are noughts. */
export function decimals(value: number, digits: number, least = digits): string {
  const rounded = Number(value.toFixed(digits)) + 0; // what rounds to nothing has no sign
  return rounded.toLocaleString(tag, {
    minimumFractionDigits: least,
    maximumFractionDigits: digits,
    useGrouping: false,
  });
}

/** A share as a percentage without decimals, as the language of the page writes it; nothing for none. */
export function percent(share: number | null | undefined): string {
  return share == null ? '' : share.toLocaleString(tag, { style: 'percent', maximumFractionDigits: 0 });
}

/** “9 flat”, “in tune”, “4 sharp”: for tables, whose heads name the unit. */
export function centsShort(cents: number | null | undefined): string {
  if (cents === null || cents === undefined) return '–';
  const whole = Math.round(Math.abs(cents));
  if (whole === 0) return 'in tune';
  return cents < 0 ? `${whole} flat` : `${whole} sharp`;
}

/** “9 cents flat”, “in tune”, “4 cents sharp”. */
export function centsInWords(cents: number | null | undefined): string {
  const whole = Math.round(Math.abs(cents ?? 0));
  if (cents === null || cents === undefined || whole === 0) return centsShort(cents);
  return cents < 0 ? `${whole} cents flat` : `${whole} cents sharp`;
}

/** Milliseconds as seconds: “0.1 s”, and “0.04 s” where one decimal would say nothing. */
export function msAsSeconds(ms: number): string {
  const seconds = Math.abs(ms) / 1000;
  return `${decimals(seconds, seconds < 0.095 ? 2 : 1)} s`;
}

export function signed(value: number): string {
  return `${value > 0 ? '+' : value < 0 ? '−' : ''}${decimals(Math.abs(value), 1)}`;
}

export function seconds(total: number): string {
  const whole = Math.round(total);
  return whole < 60 ? `${whole} s` : `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`;
}

/** “1 take”, “3 takes”: the form that the language has for so many. `# take` stands for one, `# takes` for more. */
export function counted(count: number, forms: string[], formOf = (many: number) => (many === 1 ? 0 : 1)): string {
  return (forms[formOf(count)] ?? forms[0] ?? '#').replace('#', String(count));
}

/** Minutes of easy playing, one decimal where it is little. */
export function loadMinutes(load: number): string {
  const minutes = load / 60;
  return decimals(minutes, minutes < 10 ? 1 : 0, 0);
}
