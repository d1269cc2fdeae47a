import { DAY_MS } from "@uppershed/core/quantity";
import {
  type FindingBody,
  lookFor,
  type ReadingOf,
  readingKey,
  walkRound,
} from "@uppershed/core/inspection";
import {
  buildNetwork,
  inUseLineup,
  kindOfPart,
  type Part,
  type WaterMap,
} from "@uppershed/core/watermap";
import type {
  findingEntries,
  findings,
  looks,
  readings,
  snapshots,
  springLooks,
  visits,
} from "../schema/index.ts";
import { figure } from "./lives.ts";
import { AUTUMNS, SPRINGS } from "./seasons.ts";
import { demoId } from "./winterizing.ts";
import { TOLD_OTHERWISE } from "./told.ts";

/** Three invented years of a unit: visits, walk-rounds, readings, findings. The same every time for a day, by the unit's name. */

type New<T extends { $inferInsert: object }> = Omit<T["$inferInsert"], "workshopId">;

export interface History {
  readonly visits: New<typeof visits>[];
  readonly looks: New<typeof looks>[];
  readonly readings: New<typeof readings>[];
  readonly findings: New<typeof findings>[];
  readonly entries: New<typeof findingEntries>[];
  readonly snapshots: New<typeof snapshots>[];
  readonly spring: New<typeof springLooks>[];
}

const BAR_PA = 1e5;
// Thickness near the plug, in the middle and at the end, m: the old rod, then the new one twice.
const RODS = [
  [0.0104, 0.0098, 0.0101],
  [0.0184, 0.0179, 0.0183],
  [0.0171, 0.0166, 0.0169],
] as const;
const WATCH_EACH = 13;
const MISSED_EACH = 19;

interface Fault {
  /** Kind of part it is found on. */
  readonly kind: RegExp;
  readonly what: string;
  readonly severity: "unsafe" | "will-fail" | "wears" | "note";
  readonly cause: string;
  readonly advice: string;
  readonly parts: string;
  readonly minutes: number;
  readonly how: string;
  readonly proof: string;
}

const FAULTS: readonly Fault[] = [
  {
    kind: /pump/u,
    what: "Pump starts by itself every few minutes with every tap shut",
    severity: "will-fail",
    cause: "Its own check does not hold",
    advice: "Renew the pump's valve plate, look again after a day",
    parts: "valve plate kit",
    minutes: 45,
    how: "Valve plate renewed",
    proof: "no start in thirty minutes, every tap shut",
  },
  {
    kind: /storage-heater/u,
    what: "Relief valve drips after it was lifted",
    severity: "unsafe",
    cause: "Scale on its seat",
    advice: "Renew the relief valve; it is not to be plugged",
    parts: "relief valve, sealant for drinking water",
    minutes: 40,
    how: "Relief valve renewed",
    proof: "lifted and shut three times, dry paper after ten minutes",
  },
  {
    kind: /shower/u,
    what: "Shower hose sticky and split at the crimp",
    severity: "wears",
    cause: "Age and sun",
    advice: "Renew the hose",
    parts: "shower hose 1.5 m",
    minutes: 10,
    how: "Hose renewed",
    proof: "dry under pressure for ten minutes",
  },
  {
    kind: /tap/u,
    what: "Tap drips after it is shut",
    severity: "wears",
    cause: "Grit in the ceramic disc",
    advice: "Clean the aerator first, then renew the cartridge",
    parts: "tap cartridge",
    minutes: 25,
    how: "Cartridge renewed, aerator cleaned",
    proof: "a dry finger below it after a minute",
  },
  {
    kind: /strainer/u,
    what: "Strainer bowl crazed near its thread",
    severity: "will-fail",
    cause: "Overtightened, and last winter's ice",
    advice: "Renew the bowl before pressure is put on again",
    parts: "strainer bowl with seal",
    minutes: 15,
    how: "Bowl and seal renewed, tightened by hand",
    proof: "dry after an hour on the pump",
  },
  {
    kind: /tank/u,
    what: "Tank's strap loose, tank moves by a finger's breadth",
    severity: "will-fail",
    cause: "Strap stretched",
    advice: "New strap, membrane below",
    parts: "strap, membrane",
    minutes: 50,
    how: "Strap renewed, membrane laid",
    proof: "does not move when it is pushed, full",
  },
  {
    kind: /filter/u,
    what: "No date on the filter's cartridge",
    severity: "note",
    cause: "",
    advice: "Renew it and write the date on its card",
    parts: "cartridge 10 in",
    minutes: 10,
    how: "Cartridge renewed, dated",
    proof: "clear water after five litres",
  },
  {
    kind: /toilet/u,
    what: "Flush valve runs on for a moment",
    severity: "wears",
    cause: "Seal hard",
    advice: "Renew the seal with the next service",
    parts: "flush seal",
    minutes: 30,
    how: "Seal renewed",
    proof: "shuts at once, ten times",
  },
];

const SAID = [
  "Used it nearly every weekend.",
  "It stood most of the summer.",
  "The tap at the sink spits now and then.",
  "All fine, I think.",
  "Smelled a little in August.",
  "My cousin borrowed it, no idea what he did.",
] as const;

const pick = <T>(of: readonly T[], name: string): T => of[figure(name, of.length)] as T;

/** Which faults a unit could have, one for each of its parts, in an order of its own. */
const faultsOf = (map: WaterMap): { fault: Fault; part: Part }[] =>
  FAULTS.flatMap((fault) => {
    const parts = map.parts.filter((p) => fault.kind.test(p.kind) && !kindOfPart(p).role.joint);
    return parts.length > 0 ? [{ fault, part: pick(parts, `${map.id} ${fault.what}`) }] : [];
  }).toSorted(
    (a, b) => figure(`${map.id} ${a.fault.what}`, 1000) - figure(`${map.id} ${b.fault.what}`, 1000),
  );

const looksOf = (
  map: WaterMap,
  unitId: string,
  visitId: string,
  year: number,
  personId: string,
  at: Date,
): New<typeof looks>[] => {
  let minute = 0;
  return walkRound(map)
    .flatMap((stop) => stop.points.filter((p) => !p.unknown))
    .map((point, i) => {
      const name = `${map.id} ${point.key} ${year}`;
      const rod = point.pointId === "anode-thickness-at-three-places";
      const gas = point.pointId === "precharge-with-the-water-pressure-at-zero";
      const seed = figure(name, 1000);
      const mark = rod
        ? year === 0
          ? "bad"
          : "good"
        : seed % WATCH_EACH === 0
          ? "watch"
          : seed % MISSED_EACH === 0
            ? "not-reached"
            : "good";
      minute += 1 + (i % 2);
      return {
        id: demoId(`look ${name}`),
        unitId,
        personId,
        visitId,
        key: point.key,
        pointId: point.pointId,
        partId: point.partId ?? null,
        point: point.point,
        mark,
        note:
          mark === "watch"
            ? "look again in spring"
            : mark === "not-reached"
              ? "stowed over"
              : rod && year === 0
                ? "renewed in spring"
                : "",
        readings: rod ? [...(RODS[year] ?? [])] : gas ? [(1.9 - 0.15 * year) * BAR_PA] : [],
        at: new Date(at.getTime() + minute * 60_000),
      };
    });
};

const keyed = (of: ReadingOf) => ({ ...of, key: readingKey(of) });

const readingsOfLooks = (taken: readonly New<typeof looks>[]): New<typeof readings>[] =>
  taken.flatMap((l) => {
    const { reading } = lookFor(l.pointId ?? "");
    return l.readings.map((value, i) => ({
      id: demoId(`reading ${i} of ${l.id}`),
      unitId: l.unitId,
      personId: l.personId,
      visitId: l.visitId ?? null,
      ...keyed({
        partId: l.partId ?? null,
        spot: l.pointId ?? "",
        kind: reading?.is ?? "fraction",
      }),
      label: reading ? `${l.point}, ${reading.label.toLowerCase()}` : l.point,
      dimension: reading?.is ?? "fraction",
      value,
      at: l.at,
    }));
  });

interface Past {
  readonly map: WaterMap;
  readonly unitId: string;
  readonly people: {
    readonly lead: string;
    readonly technician: string;
    readonly names: Readonly<Record<string, string>>;
  };
  readonly made: History;
}

const addVisit = (
  { map, unitId, made }: Past,
  key: string,
  at: Date,
  minutes: number,
  asked: string,
  jobs: string[],
): string => {
  const id = demoId(`visit ${map.id} ${key}`);
  made.visits.push({
    id,
    unitId,
    startsAt: at,
    minutes,
    bay: pick(["bay 1", "bay 2", "yard", "pontoon"], `${map.id} ${key} bay`),
    asked,
    ownerSaid: pick(SAID, `${map.id} ${key}`),
    state: "gone",
    jobs,
    arrivedAt: at,
    goneAt: new Date(at.getTime() + (minutes + 20) * 60_000),
  });
  return id;
};

interface Taken {
  readonly of: ReadingOf;
  readonly label: string;
  readonly dimension: string;
  readonly value: number;
  readonly typed: string;
  readonly method: string;
}

const addReading = (
  { map, unitId, people, made }: Past,
  visitId: string,
  at: Date,
  { of, ...taken }: Taken,
): void => {
  made.readings.push({
    id: demoId(`reading ${map.id} ${readingKey(of)} ${at.toISOString()}`),
    unitId,
    visitId,
    personId: people.technician,
    ...keyed(of),
    ...taken,
    at,
  });
};

const supply = (kind: "still" | "flowing", bar: number): Taken => ({
  of: { partId: null, spot: "supply", kind },
  label: `Supply pressure, ${kind}`,
  dimension: "pressure",
  value: bar * BAR_PA,
  typed: `${bar.toFixed(1)} bar`,
  method: "gauge",
});

/** A start-up in spring: supply, the pump's volts, and a look at other systems. */
const addSpring = (past: Past, year: number, at: Date): void => {
  const { map, unitId, people, made } = past;
  const id = addVisit(past, `spring ${year}`, at, 120, "Spring start-up", ["spring", "walk-round"]);
  const still = 2.8 + figure(`${map.id} supply ${year}`, 18) / 10;
  const share = 0.64 + figure(`${map.id} flow ${year}`, 20) / 100;
  addReading(past, id, at, supply("still", still));
  addReading(past, id, at, supply("flowing", still * share));
  const volts = 12 + figure(`${map.id} volts ${year}`, 9) / 10;
  addReading(past, id, at, {
    of: { partId: map.parts.find((p) => p.id === "pump")?.id ?? null, spot: "", kind: "volts" },
    label: "Pump: volts at its plug, running",
    dimension: "volts",
    value: volts,
    typed: `${volts.toFixed(1)} V`,
    method: "meter",
  });
  for (const item of ["battery", "lights", "stove"])
    made.spring.push({
      id: demoId(`spring ${map.id} ${item} ${year}`),
      unitId,
      visitId: id,
      personId: people.technician,
      item,
      mark: figure(`${map.id} ${item} ${year}`, 9) === 0 ? "fail" : "pass",
      at,
    });
};

type Found = ReturnType<typeof faultsOf>[number];

/** A fault with what was said of it since: the older ones are mended, the last one stands open. */
const addFinding = (
  { map, unitId, people, made }: Past,
  visitId: string,
  year: number,
  mapRevision: number,
  at: Date,
  { fault, part }: Found,
): void => {
  const findingId = demoId(`finding ${map.id} ${fault.what}`);
  // One owner does not want what is unsafe mended; everybody else does.
  const declined = fault.severity === "unsafe" && map.id === "burdock";
  const open =
    declined ||
    (fault.severity !== "unsafe" && (year === 2 || figure(`${findingId} open`, 5) === 0));
  const say = (
    position: number,
    body: FindingBody,
    when: Date,
    personId = people.technician,
  ): void => {
    made.entries.push({
      id: demoId(`entry ${findingId} ${position}`),
      findingId,
      personId,
      byName: people.names[personId] ?? "",
      position,
      body,
      at: when,
    });
  };
  const later = (d: number): Date => new Date(at.getTime() + d * DAY_MS);
  const [what, cause, advice] = TOLD_OTHERWISE[`${map.id} ${fault.kind.source}`] ?? [
    fault.what,
    fault.cause,
    fault.advice,
  ];
  const facts = {
    what,
    severity: fault.severity,
    partId: part.id,
    place: part.place ?? "",
    cause,
    advice,
    partsNeeded: fault.parts,
    minutes: fault.minutes,
  };
  say(1, { type: "found", ...facts }, at);
  const answer = declined
    ? "no"
    : open
      ? pick(["later", "do-it"] as const, `${findingId} answer`)
      : "do-it";
  say(2, { type: "answered", answer, who: "the owner, by phone" }, later(0.2), people.lead);
  if (!open) say(3, { type: "mended", how: fault.how, proof: fault.proof, undone: [] }, later(4));
  made.findings.push({
    id: findingId,
    unitId,
    visitId,
    mapRevision,
    ...facts,
    state: open ? "open" : "mended",
    answer,
    at,
  });
};

/** A walk-round before the winter: looks with their readings, antifreeze used, and how it was found. */
const addAutumn = (past: Past, year: number, at: Date): string => {
  const { map, unitId, people, made } = past;
  const id = addVisit(past, `autumn ${year}`, at, 150, "Walk-round before the winter", [
    "walk-round",
  ]);
  const taken = looksOf(map, unitId, id, year, year === 1 ? people.lead : people.technician, at);
  made.looks.push(...taken);
  made.readings.push(...readingsOfLooks(taken));
  const litres = 6 + figure(`${map.id} take`, 60) / 10 + year * 0.2;
  addReading(past, id, at, {
    of: { partId: null, spot: "antifreeze", kind: "used" },
    label: "Antifreeze used",
    dimension: "volume",
    value: litres / 1000,
    typed: `${litres.toFixed(1)} L`,
    method: "brought less left",
  });
  made.snapshots.push({
    id: demoId(`found ${map.id} ${year}`),
    unitId,
    visitId: id,
    personId: people.technician,
    kind: "as-found",
    mapRevision: 1,
    lineup: inUseLineup(buildNetwork(map)),
    note: "As in use.",
    at,
  });
  return id;
};

/** @param mapRevision the unit's newest, on which findings of the last year were made */
export const demoHistory = (
  map: WaterMap,
  unitId: string,
  people: Past["people"],
  mapRevision: number,
  now: Date,
): History => {
  const made: History = {
    visits: [],
    looks: [],
    readings: [],
    findings: [],
    entries: [],
    snapshots: [],
    spring: [],
  };
  const past: Past = { map, unitId, people, made };
  const shift = figure(`${map.id} shift`, 12) - 6;
  const ago = (days: number, hour = 9): Date => {
    const at = new Date(now.getTime() - (days + shift) * DAY_MS);
    at.setUTCHours(hour, 0, 0, 0);
    return at;
  };
  SPRINGS.forEach((days, year) => addSpring(past, year, ago(days)));
  const faults = faultsOf(map);
  AUTUMNS.forEach((days, year) => {
    const at = ago(days, 10);
    const visitId = addAutumn(past, year, at);
    // One or two faults a year.
    for (const found of faults.slice(year * 2, year * 2 + 2))
      addFinding(past, visitId, year, year === 2 ? mapRevision : 1, at, found);
  });
  return made;
};
