import type { FrostVerdict, OwnerVerdict } from "../contents/index.ts";
import type { Doubt } from "./doubt.ts";
import type { Method } from "./method.ts";
import type { Physical } from "./physical.ts";
import type { Step } from "./step.ts";
import type { AntifreezeFigure } from "./winterize/antifreeze.ts";

/** What water a plan takes and what it leaves at the outlets. */
export interface WaterFigures {
  /** Filled in all, m3. */
  readonly filledM3: number;
  /** Bleach in all, m3, and free chlorine in it, mg. */
  readonly bleachM3: number;
  readonly chlorineMg: number;
  /** Tankfuls to rinse with. */
  readonly refills: number;
  /** The working, a line each. */
  readonly lines: readonly { readonly label: string; readonly how: string }[];
  /** Said first: what must be known before this is begun. */
  readonly warnings: readonly string[];
}

interface Unprotected {
  readonly id: string;
  readonly name: string;
  readonly holdsToC: number;
  readonly why: string;
}

export interface Plan {
  readonly method: Method;
  readonly steps: readonly Step[];
  readonly antifreeze: AntifreezeFigure;
  /** Strength each outlet should read, by volume. */
  readonly targetStrength: number;
  readonly holdsToC: number | null;
  readonly weakest: OwnerVerdict | null;
  /** Parts that will not hold the winter low. */
  readonly unprotected: readonly Unprotected[];
  /** Whether everything holds the winter low with the margin wanted. */
  readonly meetsMargin: boolean;
  /** What cannot be told, because it rests on a part that is not known yet. */
  readonly cannotTell: readonly Doubt[];
  readonly verdict: FrostVerdict;
  readonly minutes: number;
  readonly carry: readonly string[];
  readonly entry: string;
  /** The unit as it will stand. */
  readonly after: Physical;
  /** Of a spring or a sanitizing. */
  readonly water?: WaterFigures;
}
