import { describe, expect, it } from 'vitest';
import { Loaded } from './loaded.svelte';

const later = <T>() => {
  let done: (value: T) => void = () => undefined;
  let fail: (error: Error) => void = () => undefined;
  const promise = new Promise<T>((resolve, reject) => ([done, fail] = [resolve, reject]));
  return { promise, done, fail };
};

describe('what is fetched', () => {
  it('is the answer to the latest question, whichever comes last', async () => {
    const [first, second] = [later<string>(), later<string>()];
    const loaded = new Loaded<string>();
    const asked = [loaded.load(() => first.promise), loaded.load(() => second.promise)];
    second.done('new');
    first.done('old');
    expect(await Promise.all(asked)).toEqual([null, 'new']);
    expect(loaded.value).toBe('new');
  });

  it('keeps what was there when asking fails, and forgets the failure with the next answer', async () => {
    const loaded = new Loaded<number>();
    await loaded.load(() => Promise.resolve(1));
    await loaded.load(() => Promise.reject(new Error('away')));
    expect([loaded.value, loaded.trouble]).toEqual([1, 'away']);
    await loaded.load(() => Promise.resolve(2));
    expect([loaded.value, loaded.trouble]).toEqual([2, null]);
  });

  it('drops what nobody wants any more', async () => {
    const answer = later<number>();
    const loaded = new Loaded<number>();
    const asked = loaded.load(() => answer.promise);
    loaded.drop();
    answer.done(1);
    expect(await asked).toBeNull();
    expect(loaded.value).toBeNull();
    const failing = later<number>();
    const again = loaded.load(() => failing.promise);
    loaded.drop();
    failing.fail(new Error('late'));
    await again;
    expect(loaded.trouble).toBeNull();
  });
});
