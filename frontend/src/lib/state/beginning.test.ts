import { describe, expect, it } from 'vitest';
import { Trouble, type SessionOut } from '../api/client';
import { Beginning } from './beginning.svelte';

const session = { id: 's' } as SessionOut;

describe('beginning', () => {
  it('says what speaks against it and begins when asked again', async () => {
    const begun: boolean[] = [];
    const gone: string[] = [];
    const beginning = new Beginning(async ({ id }) => void gone.push(id));
    await beginning.begin(async (anyway) => {
      begun.push(anyway);
      if (!anyway) throw new Trouble('Your lips are tired today.', 409, 'CareError');
      return session;
    });
    expect([beginning.against, beginning.trouble, gone]).toEqual(['Your lips are tired today.', null, []]);
    await beginning.anyway();
    expect([beginning.against, gone, begun]).toEqual([null, ['s'], [false, true]]);
  });

  it('is no question of care when something else is wrong', async () => {
    const beginning = new Beginning(() => Promise.resolve());
    await beginning.begin(() => Promise.reject(new Trouble('away', 0)));
    expect([beginning.against, beginning.trouble]).toEqual([null, 'away']);
    beginning.leave();
    expect(beginning.trouble).toBeNull();
  });
});
