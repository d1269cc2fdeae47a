import {
  type FrostBasis,
  frostVerdict,
  type Measured,
  unprotectedAt,
  type Verdict,
} from "../contents/index.ts";
import type { Network } from "../watermap/index.ts";
import {
  carriedMeasured,
  type MapReading,
  type Reading,
  readingsOf,
  unknownParts,
} from "./doubt-readings.ts";
import { replaysFrom } from "./doubt-replays.ts";
import type { Physical } from "./physical.ts";
import type { Action } from "./step.ts";

/** A verdict that cannot be given, what stands in its way, and the cheapest way to find out. */
export interface Doubt {
  /** Part or run whose verdict cannot be told. */
  readonly id: string;
  readonly name: string;
  /** The part that is not known. */
  readonly because: string;
  readonly becauseName: string;
  readonly ask: string;
}

const LOOK = "Look and say what it is.";

/** What holds the winter low on the map as drawn, and would not if the map were so. */
const falls = (then: Verdict, now: Verdict, winterLowC: number): string[] => {
  const open = new Set(unprotectedAt(now, winterLowC).map((o) => o.id));
  const asDrawn = new Map(now.owners.map((o) => [o.id, o.holdsToC ?? Number.NEGATIVE_INFINITY]));
  return unprotectedAt(then, winterLowC - IN_HAND_K)
    .filter(
      (o) =>
        asDrawn.has(o.id) &&
        !open.has(o.id) &&
        (o.holdsToC ?? 0) > (asDrawn.get(o.id) ?? 0) + NOTICEABLE_K,
    )
    .map((o) => o.id);
};

// What would hold by so little on another reading of the map is not called holding (our own).
const IN_HAND_K = 2.5;
const NOTICEABLE_K = 0.5;

/**
 * What cannot be told of a verdict, because it rests on parts that are not known. Every unknown part stands for itself;
 * beyond that the same actions are done on each way in which the map may really be, and whatever holds the winter low on the map as drawn but not there is in doubt.
 * @param verdict on the map as drawn, after the actions
 */
export const doubtsOf = (
  network: Network,
  start: Physical,
  actions: readonly Action[],
  verdict: Verdict,
  settings: {
    readonly basis: FrostBasis;
    readonly productStrength: number;
    readonly measured: Measured;
    readonly winterLowC: number;
  },
): Doubt[] => {
  const unknowns = unknownParts(network);
  const own = unknowns.map<Doubt>((p) => ({
    id: p.id,
    name: p.name,
    because: p.id,
    becauseName: p.name,
    ask: p.unknown?.ask ?? LOOK,
  }));
  const told = new Set(own.map((d) => d.id));
  // A valve that is never turned and stands where this reading has it stuck: that is the map as drawn.
  const isAsDrawn = ({ stuck }: Reading): boolean =>
    stuck !== undefined &&
    Object.entries(stuck).every(
      ([key, position]) =>
        start.lineup[key] === position &&
        !actions.some(
          (a) => a.type === "set-valve" && a.control === key && a.position !== position,
        ),
    );
  const readings = readingsOf(network).filter((reading) => !reading.readings.some(isAsDrawn));
  const replayed = replaysFrom(network, start, actions, settings.productStrength);
  const fallsIn = (reading: MapReading): string[] => {
    const then = replayed(reading.network, reading.stuck);
    const measured = carriedMeasured(network, settings.measured, reading.network);
    return falls(
      frostVerdict(reading.network, then.contents, settings.basis, measured),
      verdict,
      settings.winterLowC,
    );
  };
  const open = new Set(unprotectedAt(verdict, settings.winterLowC).map((o) => o.id));
  const isAllTold = (): boolean =>
    verdict.owners.every((o) => o.holdsToC === null || open.has(o.id) || told.has(o.id));
  const behind = readings.flatMap<Doubt>((reading) => {
    const [first] = reading.readings;
    if (!first || isAllTold()) return [];
    return fallsIn(reading).flatMap((id) => {
      if (told.has(id)) return [];
      told.add(id);
      return [
        {
          id,
          name: verdict.owners.find((o) => o.id === id)?.name ?? id,
          because: first.unknown.id,
          becauseName: reading.readings.map((r) => r.unknown.name).join(" and "),
          ask: reading.readings.map((r) => r.unknown.unknown?.ask ?? LOOK).join(" "),
        },
      ];
    });
  });
  return [...own, ...behind];
};
