/** Which of the stand's keys an event means; null where the control that has the focus wants it for itself. */

const TYPING =
  'input:not([type="radio"], [type="checkbox"]), select, textarea, dialog, [role="dialog"], [role="alertdialog"], [contenteditable]';
const PRESSED =
  'button, a, summary, label, input, [role="radio"], [role="switch"], [role="tab"], [role="option"], [role="button"]';
const MOVED_IN =
  '[type="radio"], [role="toolbar"], [role="radiogroup"], [role="tablist"], [role="listbox"], [role="slider"], [role="menu"]';
const MOVES = ['ArrowRight', 'ArrowLeft', 'ArrowUp', 'ArrowDown', 'Home', 'End'];

export function keyOf(event: KeyboardEvent, letters: boolean): string | null {
  const { key, target } = event;
  if (event.repeat || event.ctrlKey || event.metaKey || event.altKey) return null;
  const at = target instanceof Element ? target : null;
  if (at?.closest(TYPING)) return null;
  if ((key === ' ' || key === 'Enter') && at?.closest(PRESSED)) return null;
  if (MOVES.includes(key) && at?.closest(MOVED_IN)) return null;
  const letter = key.length === 1 && key !== ' ';
  if (letter && !letters) return null;
  return letter ? key.toLowerCase() : key;
}
