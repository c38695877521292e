/** Beginning a session from any page: what speaks against it is said once, and done when asked again. */
import { Trouble, type SessionOut } from '../api/client';
import { words } from './loaded.svelte';

type Open = (anyway: boolean) => Promise<SessionOut>;

export class Beginning {
  /** What spoke against it; a second touch begins all the same. */
  against = $state<string | null>(null);
  trouble = $state<string | null>(null);
  #open: Open | null = null;

  constructor(readonly go: (session: SessionOut) => Promise<unknown>) {}

  /** Asks for the session; nothing is begun when something speaks against it. */
  async begin(open: Open): Promise<void> {
    this.#open = open;
    await this.#ask(false);
  }

  async anyway(): Promise<void> {
    await this.#ask(true);
  }

  leave(): void {
    [this.against, this.trouble, this.#open] = [null, null, null];
  }

  async #ask(anyway: boolean): Promise<void> {
    if (!this.#open) return;
    [this.against, this.trouble] = [null, null];
    try {
      await this.go(await this.#open(anyway));
    } catch (error) {
      if (error instanceof Trouble && error.kind === 'CareError') this.against = error.message;
      else this.trouble = words(error);
    }
  }
}
