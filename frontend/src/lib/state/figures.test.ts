import { afterEach, describe, expect, it, vi } from 'vitest';
import { api } from '../api/client';
import { FigureBrowser } from './figures.svelte';

afterEach(() => vi.restoreAllMocks());

describe('the figures page', () => {
  it('keeps saying that a file was refused when the first figure comes later', async () => {
    let shown: (view: never) => void = () => undefined;
    vi.spyOn(api, 'material').mockResolvedValue({ families: [] } as never);
    vi.spyOn(api, 'ownFigures').mockResolvedValue([]);
    vi.spyOn(api, 'viewFigure').mockReturnValue(new Promise<never>((resolve) => (shown = resolve)));
    vi.spyOn(api, 'importFigure').mockRejectedValue(new Error('not MIDI'));
    const browser = new FigureBrowser('one');
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
