import { readHoldCsv } from "@uppershed/core/formats";
import {
  type Held,
  holdPolicy,
  instrumentsSchema,
  judgeHold,
  MOST_STEP_PA,
} from "@uppershed/core/hold";
import { parseQuantity, type UnitSystem } from "@uppershed/core/quantity";
import type { Answer } from "./flows.ts";

/** The verdict of a hold from a logger's file, for the command line; SI throughout. */

export interface HoldOptions {
  readonly volume?: string | undefined;
  readonly medium?: string | undefined;
  readonly step?: string | undefined;
  readonly smallest?: string | undefined;
  readonly wall?: string | undefined;
}

const no = (problem: string): { ok: false; problem: string } => ({ ok: false, problem });

const DAY_S = 86_400;
// A hundredth of the volume is still air after bleeding; plastic gives so much of its volume per Pa (half-inch tube, thick-walled).
const TRAPPED_SHARE = 0.01;
const GIVES_PER_PA = { plastic: 1.1e-8, metal: 1e-10 } as const;

const heldBy = (options: HoldOptions, units: UnitSystem): Answer<Held> => {
  if (options.volume === undefined) return no('how much is shut in? "--volume 60gal"');
  const volume = parseQuantity(options.volume, "volume", units);
  if (!volume.ok) return no(`--volume: ${volume.problem}`);
  const volumeM3 = volume.quantity.si;
  if (!(volumeM3 >= 1e-5 && volumeM3 <= 20)) return no("--volume: 0.01 L to 20 m3");
  if (options.medium === "air") return { ok: true, value: { medium: "air", volumeM3 } };
  if (options.medium !== "water") return no("--medium is air or water");
  const wall = options.wall ?? "plastic";
  if (wall !== "plastic" && wall !== "metal") return no("--wall is plastic or metal");
  return {
    ok: true,
    value: {
      medium: "water",
      volumeM3,
      wall,
      wallM3PerPa: volumeM3 * GIVES_PER_PA[wall],
      trappedM3: { low: 0, high: volumeM3 * TRAPPED_SHARE },
      cushions: [],
    },
  };
};

/** The smallest difference between two readings that differ: what the logger shows in, where nobody has said it. */
const stepIn = (pressures: readonly number[]): number => {
  const sorted = [...new Set(pressures)].toSorted((a, b) => a - b);
  const gaps = sorted.slice(1).map((p, i) => p - (sorted[i] as number));
  return Math.min(MOST_STEP_PA, Math.max(0.1, Math.min(MOST_STEP_PA, ...gaps)));
};

export const holdAnswer = (
  text: string,
  options: HoldOptions,
  units: UnitSystem,
): Answer<object> => {
  const held = heldBy(options, units);
  if (!held.ok) return held;
  const read = readHoldCsv(text);
  if (!read.ok)
    return no(
      read.problems
        .map((p) => `${p.line === undefined ? "" : `line ${p.line}: `}${p.where} ${p.problem}`)
        .join("; "),
    );
  const step =
    options.step === undefined ? undefined : parseQuantity(options.step, "pressure", units);
  if (step && !step.ok) return no(`--step: ${step.problem}`);
  const stepPa = step ? step.quantity.si : stepIn(read.readings.map((r) => r.pressurePa));
  if (!(stepPa >= 0.1 && stepPa <= MOST_STEP_PA)) return no("--step: 0.1 Pa to 10 bar");
  const day =
    options.smallest === undefined ? undefined : parseQuantity(options.smallest, "volume", units);
  if (day && !day.ok) return no(`--smallest, a day: ${day.problem}`);
  const policy = holdPolicy(held.value.medium);
  const verdict = judgeHold(
    held.value,
    instrumentsSchema.parse({ gauge: { stepPa } }),
    read.readings,
    day ? { ...policy, smallestM3S: day.quantity.si / DAY_S } : policy,
  );
  return {
    ok: true,
    value: {
      ...verdict,
      stated: held.value.medium === "air" ? "free air at 101325 Pa, m3/s" : "water, m3/s",
      held: held.value,
      gaugeStepPa: stepPa,
      gaugeStep: step ? "as given" : "from the readings",
      ...(read.passedBy.length > 0 ? { passedBy: read.passedBy } : {}),
    },
  };
};
