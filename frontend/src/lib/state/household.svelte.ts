/** Who is playing, in which light, with which source: what a window remembers. */
import { api, type Catalogue, type Player } from '../api/client';
import type { SourceKind } from '../audio/engine';
import { PLAIN_CLICK, type ClickSettings } from '../audio/tones';
import { followLanguage } from './language';

const KEYS = {
  click: 'orexis.click',
  tools: 'orexis.tools',
  player: 'orexis.player',
  letters: 'orexis.letters',
  mode: 'orexis.mode',
  source: 'orexis.source',
  device: 'orexis.device',
};

/** What this window kept; nothing when it cannot be read. */
function kept(key: string): Record<string, never> {
  try {
    return JSON.parse(localStorage.getItem(key) ?? '{}') as Record<string, never>;
  } catch {
    return {};
  }
}

/** As it was chosen in this window, or as the system has it. */
function firstMode(): 'light' | 'dark' {
  const chosen = localStorage.getItem(KEYS.mode);
  if (chosen === 'light' || chosen === 'dark') return chosen;
  return globalThis.matchMedia?.('(prefers-color-scheme: light)').matches ? 'light' : 'dark';
}

class Household {
  players = $state<Player[]>([]);
  playerId = $state<string | null>(localStorage.getItem(KEYS.player));
  mode = $state<'light' | 'dark'>(firstMode());
  /** Whether keys of a single letter do something at the stand. */
  letters = $state(localStorage.getItem(KEYS.letters) !== 'off');
  /** Players who have a PIN, and whether this window has given it. */
  private pins = $state<Record<string, boolean>>({});
  private visitorId = $state<string | null>(null);
  /** Whether it was asked in this window who plays. */
  asked = $state(false);
  source = $state<SourceKind>(localStorage.getItem(KEYS.source) === 'simulated' ? 'simulated' : 'microphone');
  deviceId = $state<string | null>(localStorage.getItem(KEYS.device));
  /** How many times faster than life the simulated player goes. */
  speed = $state(1);
  click = $state<ClickSettings>({ ...PLAIN_CLICK, ...kept(KEYS.click) });
  /** What stands ready at the stand: hear the first note before each take, the mirror. */
  tools = $state<{ hearIt: boolean; mirror: boolean }>({ hearIt: false, mirror: false, ...kept(KEYS.tools) });
  catalogue = $state<Catalogue | null>(null);
  ready = $state(false);

  get player(): Player | null {
    return this.players.find((player) => player.id === this.playerId) ?? this.players[0] ?? null;
  }

  /** Those who play here; guests came with a file. */
  get own(): Player[] {
    return this.players.filter((player) => !player.guest);
  }

  /** The teacher who looks at this player's practice in this window; nobody while players look at their own. */
  get visitor(): Player | null {
    const visitor = this.own.find((player) => player.id === this.visitorId && player.settings.teaches);
    return visitor && visitor.id !== this.player?.id ? visitor : null;
  }

  /** Whose words are written in this window: a guest's page is looked at by somebody of the house. */
  get writer(): string {
    return (this.visitor ?? (this.player?.guest ? this.own[0] : this.player))?.name ?? '';
  }

  /** Whether a player's PIN is wanted before anything of theirs is shown. */
  get locked(): boolean {
    return this.pins[this.player?.id ?? ''] === false;
  }

  hasPin(id: string): boolean {
    return id in this.pins;
  }

  get teachers(): Player[] {
    return this.own.filter((player) => player.settings.teaches);
  }

  /** A teacher looks at somebody's practice, until they go back. */
  visit(id: string): void {
    this.visitorId = this.player?.id ?? null;
    this.turnTo(id);
  }

  endVisit(): void {
    const visitor = this.visitor;
    this.visitorId = null;
    if (visitor) this.turnTo(visitor.id);
  }

  get guests(): Player[] {
    return this.players.filter((player) => player.guest);
  }

  async load(): Promise<void> {
    const [catalogue, players, pins] = await Promise.all([api.catalogue(), api.players(), api.pins()]);
    [this.catalogue, this.players] = [catalogue, players];
    this.pins = Object.fromEntries(pins.map((one) => [one.player_id, one.open]));
    // Where there is one only, this window is theirs; whoever comes later is chosen by name.
    const only = this.own.length === 1 ? this.own[0] : null;
    if (only && !this.guests.some((guest) => guest.id === this.playerId)) this.choose(only.id);
    followLanguage(this.player?.settings.language);
    this.ready = true;
  }

  /** Whether this window does not know yet which of several plays. */
  get unknown(): boolean {
    return !this.asked && this.own.length > 1 && !this.players.some((player) => player.id === this.playerId);
  }

  setLetters(on: boolean): void {
    this.letters = on;
    localStorage.setItem(KEYS.letters, on ? 'on' : 'off');
  }

  /** Somebody else plays: who had given a PIN here is locked again. */
  choose(id: string): void {
    if (id !== this.playerId && Object.values(this.pins).includes(true)) {
      this.pins = Object.fromEntries(Object.keys(this.pins).map((one) => [one, false]));
      void api.closePlayers().catch(() => {});
    }
    this.turnTo(id);
  }

  private turnTo(id: string): void {
    this.playerId = id;
    localStorage.setItem(KEYS.player, id);
    followLanguage(this.player?.settings.language);
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

  setClick(change: Partial<ClickSettings>): void {
    this.click = { ...this.click, ...change };
    localStorage.setItem(KEYS.click, JSON.stringify(this.click));
  }

  setTools(change: Partial<{ hearIt: boolean; mirror: boolean }>): void {
    this.tools = { ...this.tools, ...change };
    localStorage.setItem(KEYS.tools, JSON.stringify(this.tools));
  }

  instrumentName(id: string): string {
    return this.catalogue?.instruments.find((instrument) => instrument.id === id)?.name ?? id;
  }
}

export const household = new Household();
