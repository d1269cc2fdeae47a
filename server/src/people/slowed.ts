/**
 * Slows whoever guesses at one name, from wherever: after a few wrong passwords in a row each further try at that name waits, twice as long
 * as the one before up to a bound. The right person only waits as long; nobody is locked out.
 */
const FREE_TRIES = 5;
const FIRST_WAIT_MS = 500;
const LONGEST_WAIT_MS = 8_000;
const FORGOTTEN_AFTER_MS = 15 * 60_000;
const MOST_NAMES = 10_000;

export class Slowed {
  readonly #wrong = new Map<string, { count: number; at: number }>();

  /** How long the next try at a name waits, ms. */
  waitMs(name: string, now: number): number {
    const wrong = this.#wrong.get(name);
    if (!wrong || now - wrong.at > FORGOTTEN_AFTER_MS || wrong.count < FREE_TRIES) return 0;
    return Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (wrong.count - FREE_TRIES));
  }

  failed(name: string, now: number): void {
    const wrong = this.#wrong.get(name);
    const count = wrong && now - wrong.at <= FORGOTTEN_AFTER_MS ? wrong.count + 1 : 1;
    this.#wrong.delete(name);
    this.#wrong.set(name, { count, at: now });
    const oldest = this.#wrong.size > MOST_NAMES ? this.#wrong.keys().next().value : undefined;
    if (oldest !== undefined) this.#wrong.delete(oldest);
  }

  succeeded(name: string): void {
    this.#wrong.delete(name);
  }
}
