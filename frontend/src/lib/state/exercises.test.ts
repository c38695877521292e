import { afterEach, describe, expect, it, vi } from 'vitest';
import { api } from '../api/client';
import { ExerciseBrowser } from './exercises.svelte';

afterEach(() => vi.restoreAllMocks());

describe('the exercises page', () => {
  it('keeps saying that a file was refused when the first exercise comes later', async () => {
    let shown: (view: never) => void = () => undefined;
    vi.spyOn(api, 'material').mockResolvedValue({ exercise_types: [] } as never);
    vi.spyOn(api, 'ownExercises').mockResolvedValue([]);
    vi.spyOn(api, 'viewExercise').mockReturnValue(new Promise<never>((resolve) => (shown = resolve)));
    vi.spyOn(api, 'importExercise').mockRejectedValue(new Error('not MIDI'));
    const browser = new ExerciseBrowser('one');
    const loading = browser.load();
    await browser.read(new File([], 'bad.mid'));
    expect(browser.trouble).toBe('not MIDI');
    shown({ titles: [] } as never);
    await loading;
    expect(browser.trouble).toBe('not MIDI');
    await browser.turnTo(0);
    expect(browser.trouble).toBeNull();
  });
});
