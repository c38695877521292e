// @vitest-environment jsdom
import { afterEach, describe, expect, it } from 'vitest';
import { keyOf } from './keys';

function pressed(key: string, html = '<p></p>', more: KeyboardEventInit = {}, letters = true): string | null {
  document.body.innerHTML = html;
  const target = document.body.querySelector('[data-at]') ?? document.body.firstElementChild!;
  let found: string | null = null;
  const listen = (event: KeyboardEvent) => (found = keyOf(event, letters));
  document.body.addEventListener('keydown', listen);
  target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, ...more }));
  document.body.removeEventListener('keydown', listen);
  return found;
}

describe('keys at the stand', () => {
  afterEach(() => (document.body.innerHTML = ''));

  it('are the stand’s where nothing has the focus', () => {
    expect(pressed('ArrowRight')).toBe('ArrowRight');
    expect(pressed(' ')).toBe(' ');
    expect(pressed('R')).toBe('r');
  });
  it('leave space and enter to the control that has the focus', () => {
    for (const html of ['<button>x</button>', '<a href="/">x</a>', '<span role="switch" tabindex="0"></span>']) {
      expect(pressed(' ', html)).toBeNull();
      expect(pressed('Enter', html)).toBeNull();
      expect(pressed('PageDown', html)).toBe('PageDown');
    }
  });
  it('leave arrows to toolbars and groups of radios, and never start a take there', () => {
    for (const role of ['toolbar', 'radiogroup', 'slider']) {
      expect(pressed('ArrowRight', `<div role="${role}"><i data-at tabindex="0"></i></div>`)).toBeNull();
    }
    expect(pressed('ArrowRight', '<input type="radio">')).toBeNull();
    expect(pressed('ArrowRight', '<button>x</button>')).toBe('ArrowRight');
  });
  it('go on working after a choice or a switch was clicked', () => {
    for (const type of ['radio', 'checkbox']) {
      expect(pressed('PageDown', `<input type="${type}">`)).toBe('PageDown');
      expect(pressed(' ', `<input type="${type}">`)).toBeNull();
    }
  });
  it('are none while something is written, held down, or meant for the browser', () => {
    expect(pressed('r', '<input>')).toBeNull();
    expect(pressed('ArrowRight', '<p></p>', { repeat: true })).toBeNull();
    expect(pressed('r', '<p></p>', { ctrlKey: true })).toBeNull();
  });
  it('are no single letters where those are switched off', () => {
    expect(pressed('n', '<p></p>', {}, false)).toBeNull();
    expect(pressed(' ', '<p></p>', {}, false)).toBe(' ');
    expect(pressed('PageDown', '<p></p>', {}, false)).toBe('PageDown');
  });
});
