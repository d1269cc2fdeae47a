import {
  type Control,
  inUseLineup,
  type Lineup,
  type Network,
  positionLabel,
  roleOf,
} from "../watermap/index.ts";
import { observe, type Seen } from "./observe.ts";
import { type Cause, type Explained, KNOWN, type Symptom, type TellingTest } from "./symptoms.ts";
import { type Hypothesis, hypothesesOf, type World, worldOf } from "./worlds.ts";

/**
 * What may be behind a complaint on this very unit: every single thing that may stand otherwise is tried on its map, and those by which the
 * complaint would be seen are told, the likeliest first, with the one look or turn that parts them best.
 */

export interface Complaint {
  readonly network: Network;
  readonly symptom: Symptom;
  /** How everything is written down to stand. */
  readonly lineup: Lineup;
  readonly apart?: World["apart"];
  /** The outlet that it is about, by its control. */
  readonly outlet?: string | undefined;
  /** Controls, and ends "run:end", that were turned or undone at the last work. */
  readonly turned?: ReadonlySet<string>;
}

/** What is seen of the unit as it is used. */
interface Usual {
  readonly open: Seen | undefined;
  readonly shut: Seen | undefined;
  /** Another outlet on the same side, for telling what is weak there from what is weak everywhere. */
  readonly other?: { readonly control: Control; readonly seen: Seen } | undefined;
}

const FLOWS_M3_PER_S = 2e-7;
// A tap that gives less than half of what it should is weak (E11; common practice, no source).
const WEAK_SHARE = 0.5;
const MUCH_AIR = 0.1;
// Below this share through the heater the water is felt as lukewarm (our own).
const HOT_SHARE = 0.85;
const MOST_CAUSES = 12;

/** The outlet that it is about: the one that is named, else the one that gives most. */
const outletOf = (
  { network, outlet, symptom }: Complaint,
  usual: World,
): { control: Control | undefined; seen: Seen | undefined } => {
  const outlets = network.controls.filter(
    (c) =>
      c.spec.role === "outlet" &&
      network.openings.some(
        (o) => o.gate?.key === c.key && network.cells[o.cell]?.side === "fresh",
      ),
  );
  const named = outlets.find((c) => c.key === outlet);
  const isHot = (c: Control): boolean => c.spec.name === "hot";
  const asked = named
    ? [named]
    : outlets.filter(
        (c) =>
          (symptom !== "lukewarm" || isHot(c)) &&
          roleOf(c.part).programme !== true &&
          roleOf(c.part).flushes !== true,
      );
  const all = asked.map((control) => ({ control, seen: observe(usual, control) }));
  return (
    all.toSorted((a, b) => (b.seen?.outM3PerS ?? 0) - (a.seen?.outM3PerS ?? 0))[0] ?? {
      control: undefined,
      seen: undefined,
    }
  );
};

/** Whether a complaint would be made of what is seen, where `base` is how it should be. */
const isSeen = (
  symptom: Symptom,
  world: World,
  outlet: Control | undefined,
  base: Usual,
): boolean => {
  const open = (): Seen | undefined => observe(world, outlet);
  switch (symptom) {
    case "nothing-comes": {
      const seen = open();
      return (
        seen !== undefined &&
        (seen.outM3PerS < 0.05 * (base.open?.outM3PerS ?? 0) || seen.airShare > 0.8)
      );
    }
    case "spits": {
      const seen = open();
      return seen !== undefined && seen.airShare > MUCH_AIR && seen.outM3PerS > FLOWS_M3_PER_S;
    }
    case "lukewarm": {
      const seen = open();
      return (
        seen !== undefined &&
        seen.outM3PerS > FLOWS_M3_PER_S &&
        seen.heatedShare < HOT_SHARE * Math.max(base.open?.heatedShare ?? 1, 0.01)
      );
    }
    case "weak-here":
    case "weak-everywhere": {
      const seen = open();
      if (!seen || seen.outM3PerS >= WEAK_SHARE * (base.open?.outM3PerS ?? 0)) return false;
      const there = base.other && observe(world, base.other.control);
      const isOtherWeak =
        there !== undefined && there.outM3PerS < WEAK_SHARE * (base.other?.seen.outM3PerS ?? 0);
      return symptom === "weak-here" ? !isOtherWeak : isOtherWeak || base.other === undefined;
    }
    case "does-not-stop":
    case "starts-alone": {
      const seen = observe(world, undefined);
      if (seen !== undefined && seen.pumpM3PerS > FLOWS_M3_PER_S) return true;
      // A pump that can draw nothing but air builds no pressure, and runs on.
      const drawn = symptom === "does-not-stop" ? open() : undefined;
      return (
        drawn !== undefined &&
        (drawn.airShare > 0.5 || drawn.outM3PerS < 0.05 * (base.open?.outM3PerS ?? 0))
      );
    }
    case "pours": {
      const seen = observe(world, undefined);
      return seen !== undefined && seen.elsewhere.size > 0;
    }
    default:
      return false;
  }
};

const causeOf = (h: Hypothesis, turned: ReadonlySet<string>, weeps: boolean): Cause => ({
  id: h.id,
  what: weeps ? h.what.replace(/ stands .*$/u, " weeps or stands a little open") : h.what,
  parts: h.parts,
  from: "worked out",
  ...(h.control && turned.has(h.control.key) ? { because: "turned at the last work on it" } : {}),
});

export const explain = (complaint: Complaint): Explained => {
  const { network, symptom, lineup, apart = [], turned = new Set<string>() } = complaint;
  const known = KNOWN[symptom];
  if (known)
    return {
      causes: known.map((k) => ({ ...k, parts: [], from: "common practice" as const })),
    };
  const base = worldOf(network, lineup, apart);
  const use = worldOf(network, inUseLineup(network));
  const { control: outlet, seen } = outletOf(complaint, use);
  const usual: Usual = {
    open: seen,
    shut: observe(use, undefined),
    other: symptom.startsWith("weak") ? anotherOutlet(network, use, outlet) : undefined,
  };
  if (isSeen(symptom, base, outlet, usual)) return writtenSo(complaint, base, use, outlet, usual);
  const opens = !SHUT.has(symptom);
  const all = hypothesesOf(base, turned);
  const fits = all
    .filter(
      (h) => !(opens && h.control?.key === outlet?.key) && isSeen(symptom, h.world, outlet, usual),
    )
    .toSorted((a, b) => b.weight - a.weight || (a.id < b.id ? -1 : 1));
  // A pump's own check lets pressure go by the way it came, which no flow that stands shows.
  const alone =
    symptom === "starts-alone"
      ? all.filter((h) => h.id.startsWith("check:") && !fits.includes(h))
      : [];
  const own: Cause[] =
    symptom === "weak-here" && outlet
      ? [
          {
            id: "screen",
            what: `The screen or aerator of ${outlet.part.name} is clogged`,
            parts: [outlet.part.id],
            from: "common practice",
            because: "the first where one outlet alone is weak",
          },
        ]
      : [];
  const candidates = [...fits.slice(0, MOST_CAUSES - alone.length), ...alone];
  const test = tellingTest(symptom, candidates, outlet, usual, base);
  return {
    causes: [...own, ...candidates.map((h) => causeOf(h, turned, symptom === "starts-alone"))],
    ...(test ? { test } : {}),
  };
};

const anotherOutlet = (network: Network, use: World, outlet: Control | undefined): Usual["other"] =>
  network.controls
    .filter(
      (c) =>
        c.spec.role === "outlet" &&
        c.spec.name === outlet?.spec.name &&
        c.part.id !== outlet.part.id &&
        roleOf(c.part).programme !== true,
    )
    .flatMap((control) => {
      const seen = observe(use, control);
      return seen && seen.outM3PerS > FLOWS_M3_PER_S ? [{ control, seen }] : [];
    })[0];

/** Complaints of a unit with every tap shut. */
const SHUT: ReadonlySet<Symptom> = new Set(["does-not-stop", "starts-alone", "pours"]);

/** By how things are written down to stand it must be so: what would end it by being turned back. */
const writtenSo = (
  { network, symptom, lineup }: Complaint,
  base: World,
  use: World,
  outlet: Control | undefined,
  usual: Usual,
): Explained => {
  const back = (c: Control): string => use.lineup[c.key] ?? c.spec.inUse;
  const otherwise = network.controls.filter((c) => (lineup[c.key] ?? c.spec.inUse) !== back(c));
  const curing = otherwise.filter(
    (c) =>
      !isSeen(symptom, { ...base, lineup: { ...base.lineup, [c.key]: back(c) } }, outlet, usual),
  );
  const named = curing.length > 0 ? curing : otherwise;
  const says = (c: Control): string =>
    `${c.part.tag ? `${c.part.tag} ` : ""}${c.spec.name === "main" ? c.part.name : `${c.part.name}, ${c.spec.label.toLowerCase()}`} stands ${positionLabel(c, lineup[c.key] ?? c.spec.inUse)}`;
  return {
    causes: named.map((c) => ({
      id: `${c.key}=${lineup[c.key] ?? c.spec.inUse}`,
      what: says(c),
      parts: [c.part.id],
      from: "worked out" as const,
      because: "written down so",
    })),
    asWritten: "As everything is written down to stand, it must be so: nothing need be broken.",
  };
};

const half = (causes: readonly Hypothesis[], yes: ReadonlySet<string>): number => {
  const of = (is: boolean): number =>
    causes.reduce((sum, h) => (yes.has(h.id) === is ? sum + h.weight : sum), 0);
  return Math.min(of(true), of(false));
};

/** The turn of one valve, or the look at one handle, after which most is left out whatever comes of it. */
const tellingTest = (
  symptom: Symptom,
  causes: readonly Hypothesis[],
  outlet: Control | undefined,
  usual: Usual,
  base: World,
): TellingTest | undefined => {
  if (causes.length < 2) return undefined;
  const looks = causes.flatMap((h) =>
    h.control && h.control.spec.role !== "check"
      ? [
          {
            ask: `Look: ${h.what}?`,
            parts: h.parts,
            yes: new Set([h.id]),
          },
        ]
      : [],
  );
  const valves = base.network.controls.filter(
    (c) =>
      c.spec.role === "valve" &&
      base.network.cells.some((cell) => cell.ownerId === c.part.id && cell.side === "fresh") &&
      (base.lineup[c.key] ?? c.spec.inUse) === "open",
  );
  const turns = valves.map((valve) => ({
    ask: `Shut ${valve.part.tag ? `${valve.part.tag} ` : ""}${valve.part.name}: is it still so?`,
    parts: [valve.part.id],
    yes: new Set(
      causes
        .filter((h) =>
          isSeen(
            symptom,
            { ...h.world, lineup: { ...h.world.lineup, [valve.key]: "shut" } },
            outlet,
            usual,
          ),
        )
        .map((h) => h.id),
    ),
  }));
  const all = [...turns, ...looks].map((t) => ({
    ...t,
    parts: t.parts,
    score: half(causes, t.yes),
  }));
  const best = all.toSorted((a, b) => b.score - a.score)[0];
  if (!best || best.score <= 0) return undefined;
  return {
    ask: best.ask,
    parts: best.parts,
    yes: causes.filter((h) => best.yes.has(h.id)).map((h) => h.what),
    no: causes.filter((h) => !best.yes.has(h.id)).map((h) => h.what),
  };
};
