// @vitest-environment jsdom
import { flushSync, mount, unmount } from 'svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import ThreePoints from '../fixtures/ThreePoints.svelte';

let page: ReturnType<typeof mount>;
const picture = () => document.querySelector<HTMLElement>('[role=img]')!;
const below = () => document.querySelector('[aria-live]')!.textContent?.trim();
const press = (key: string) => {
  picture().dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  flushSync();
};

vi.stubGlobal(
  'ResizeObserver',
  class {
    observe = () => undefined;
    unobserve = () => undefined;
    disconnect = () => undefined;
  },
);

beforeEach(() => (page = mount(ThreePoints, { target: document.body })));
afterEach(() => unmount(page));

describe('a chart', () => {
  it('is gone through by keys, stops at its ends, and says what is chosen', () => {
    expect([picture().getAttribute('aria-label'), below()]).toEqual(['Three numbers', 'one dayone day']);
    press('ArrowRight');
    expect([picture().getAttribute('aria-label'), below()]).toEqual(['Three numbers. it is 4', 'it is 4']);
    press('End');
    press('ArrowRight');
    expect(below()).toBe('it is 9');
    press('ArrowLeft');
    expect(below()).toBe('it is 7');
    press('Home');
    expect([below(), document.querySelector('svg')?.textContent]).toEqual(['it is 4', '0']);
  });

  it('follows the pointer to the nearest point and lets go', () => {
    picture().dispatchEvent(new MouseEvent('pointermove', { clientX: 24, bubbles: true }));
    flushSync();
    expect(below()).toBe('it is 7');
    picture().dispatchEvent(new MouseEvent('pointerleave'));
    flushSync();
    expect(below()).toBe('one dayone day');
  });

  it('is a table, too', () => {
    const details = document.querySelector('details')!;
    details.open = true;
    details.dispatchEvent(new Event('toggle'));
    flushSync();
    expect([...details.querySelectorAll('tr')].map((row) => row.textContent?.replace(/\s+/g, ' ').trim())).toEqual([
      'NumberTwice',
      '48',
      '714',
      '918',
    ]);
  });
});
