/** Tables as CSV, quoted where it is needed. */
import { csvFormatRows } from 'd3-dsv';

type Cell = string | number | boolean | null | undefined;

/** What a spreadsheet would take for a formula is written as text. */
function cell(value: Cell): string {
  if (value == null) return '';
  const text = String(value);
  return typeof value === 'string' && /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
}

export function csv(head: readonly string[], rows: readonly (readonly Cell[])[]): string {
  return csvFormatRows([head, ...rows].map((row) => row.map(cell))) + '\n';
}
