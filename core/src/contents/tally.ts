import type { LiveOpening } from "../watermap/situation.ts";
import { type Mixture, NOTHING, plus, product, water as waterOf } from "./mixture.ts";
import type { Carriers } from "./move.ts";

const LITRES_PER_M3 = 1000;

/** What came in and went out while something is pushed, and what is seen at the opening that is watched. */
export class Tally implements Carriers {
  drawnM3 = 0;
  came = NOTHING;
  readonly left = new Map<string, { at: LiveOpening; liquid: Mixture }>();
  /** What has left at the watched opening since it was last looked at. */
  seen = NOTHING;
  seenAirM3 = 0;
  readonly #watch: string;
  readonly #strength: number;

  readonly #chlorineMgL: number;

  constructor(watch: string, strength: number, chlorineMgL = 0) {
    this.#watch = watch;
    this.#strength = strength;
    this.#chlorineMgL = chlorineMgL;
  }

  look(): void {
    [this.seen, this.seenAirM3] = [NOTHING, 0];
  }

  readonly comes: Carriers["comes"] = (volumeM3, _, opening) => {
    if (opening?.use === "raw") {
      const liquid = { ...waterOf(volumeM3), foreignM3: volumeM3 };
      this.came = plus(this.came, liquid);
      return { liquid, airM3: 0 };
    }
    if (opening && opening.use !== "pickup") return { liquid: NOTHING, airM3: volumeM3 };
    this.drawnM3 += volumeM3;
    const plain = product(volumeM3, this.#strength);
    const liquid =
      this.#chlorineMgL > 0
        ? { ...plain, chlorineMg: volumeM3 * LITRES_PER_M3 * this.#chlorineMgL }
        : plain;
    this.came = plus(this.came, liquid);
    return { liquid, airM3: 0 };
  };

  readonly leaves = (
    { liquid, airM3 }: { readonly liquid: Mixture; readonly airM3: number },
    at: LiveOpening,
  ): void => {
    this.left.set(at.id, { at, liquid: plus(this.left.get(at.id)?.liquid ?? NOTHING, liquid) });
    if (at.id !== this.#watch) return;
    this.seen = plus(this.seen, liquid);
    this.seenAirM3 += airM3;
  };
}
