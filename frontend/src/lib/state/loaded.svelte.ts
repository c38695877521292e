/** Values that are fetched. The latest question counts: an answer that comes late, or after nobody wants it, is dropped. */
export function words(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}

export class Loaded<T> {
  value = $state.raw<T | null>(null);
  trouble = $state<string | null>(null);
  #asked = 0;

  /** Asks; the value when its answer was the one that counts, else null. A failure keeps the value that was there. */
  async load(fetch: () => Promise<T>): Promise<T | null> {
    const mine = ++this.#asked;
    try {
      const found = await fetch();
      if (mine !== this.#asked) return null;
      this.value = found;
      this.trouble = null;
      return found;
    } catch (error) {
      if (mine === this.#asked) this.trouble = words(error);
      return null;
    }
  }

  /** Nothing is wanted any more: answers under way are dropped, and so is the value. */
  drop(): void {
    this.#asked++;
    this.value = null;
    this.trouble = null;
  }
}
