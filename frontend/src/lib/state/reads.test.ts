// @vitest-environment jsdom
import { mount, tick, unmount } from 'svelte';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import TwoReaders from '../fixtures/TwoReaders.svelte';
import { forgetReads } from './reads.svelte';

const server = vi.hoisted(() => ({
  goals: [] as (number | Error)[],
  asked: [] as string[],
  commanded: () => undefined as void,
}));
vi.mock('../api/client', () => ({
  api: {
    goals: (id: string) => {
      server.asked.push(id);
      const next = server.goals.shift() ?? new Error('It is away.');
      return next instanceof Error ? Promise.reject(next) : Promise.resolve(Array.from({ length: next }));
    },
  },
  onCommand: (listener: () => void) => (server.commanded = listener),
}));

let page: ReturnType<typeof mount> | null = null;
const now = () => document.body.textContent?.trim() ?? '';

async function settled(): Promise<string> {
  await new Promise((done) => setTimeout(done, 20));
  await tick();
  return now();
}
function open(playerId: string | null) {
  page = mount(TwoReaders, { target: document.body, props: { playerId } });
}
async function close() {
  if (page) await unmount(page);
  page = null;
}

beforeEach(() => {
  [server.goals, server.asked] = [[], []];
  forgetReads();
});
afterEach(close);

describe('what pages read', () => {
  it('is asked once for all who want the same, and not while nobody is chosen', async () => {
    open(null);
    expect(await settled()).toBe('nothing nothing');
    expect(server.asked).toEqual([]);
    await close();
    server.goals = [2];
    open('p');
    expect(await settled()).toBe('2 2');
    expect(server.asked).toEqual(['p']);
  });

  it('is asked again after a command', async () => {
    server.goals = [1, 3];
    open('p');
    expect(await settled()).toBe('1 1');
    server.commanded();
    expect(await settled()).toBe('3 3');
  });

  it('is shown from memory when a page is opened again, then as it is now', async () => {
    server.goals = [1, 2];
    open('p');
    await settled();
    await close();
    open('p');
    expect(now()).toBe('1 1');
    expect(await settled()).toBe('2 2');
  });

  it('says why asking failed', async () => {
    open('p');
    expect(await settled()).toBe('It is away. It is away.');
  });
});
