/** Who is playing, in which light, with which source: what a window remembers. */
import { api, type Catalogue, type Player } from '../api/client';
import type { SourceKind } from '../audio/engine';

const KEYS = { player: 'orexis.player', mode: 'orexis.mode', source: 'orexis.source', device: 'orexis.device' };

class Household {
  players = $state<Player[]>([]);
  playerId = $state<string | null>(localStorage.getItem(KEYS.player));
  mode = $state<'light' | 'dark'>(localStorage.getItem(KEYS.mode) === 'light' ? 'light' : 'dark');
  source = $state<SourceKind>(localStorage.getItem(KEYS.source) === 'simulated' ? 'simulated' : 'microphone');
  deviceId = $state<string | null>(localStorage.getItem(KEYS.device));
  catalogue = $state<Catalogue | null>(null);
  ready = $state(false);

  get player(): Player | null {
    return this.players.find((player) => player.id === this.playerId) ?? this.players[0] ?? null;
  }

  async load(): Promise<void> {
    [this.catalogue, this.players] = await Promise.all([api.catalogue(), api.players()]);
    this.ready = true;
  }

  choose(id: string): void {
    this.playerId = id;
    localStorage.setItem(KEYS.player, id);
  }

  setMode(mode: 'light' | 'dark'): void {
    this.mode = mode;
    localStorage.setItem(KEYS.mode, mode);
  }

  setSource(source: SourceKind): void {
    this.source = source;
    localStorage.setItem(KEYS.source, source);
  }

  setDevice(id: string | null): void {
    this.deviceId = id;
    if (id) localStorage.setItem(KEYS.device, id);
    else localStorage.removeItem(KEYS.device);
  }

  hornName(id: string): string {
    return this.catalogue?.horns.find((horn) => horn.id === id)?.name ?? id;
  }
}

export const household = new Household();
