import {
  foreignShare,
  liquidIn,
  liquidVolume,
  type Mixture,
  strengthOf,
  volumeOf,
  warmthOf,
} from "../contents/index.ts";
import { isDriven } from "../flows/index.ts";
import { reachOf } from "../survey/index.ts";
import {
  liveOpenings,
  type Control,
  controlsOfPart,
  controlKey,
  kindOfPart,
  type Network,
  type Opening,
  type Part,
  positionLabel,
} from "../watermap/index.ts";
import type { SimSettings, SimState } from "./state.ts";
import type { Tally } from "./tally.ts";

/** What is worth a word about something that was done: read from what moved, not from a list of special cases. */

type NoticeCode =
  | "pump-draws-air"
  | "antifreeze-in-heater"
  | "antifreeze-in-tank"
  | "runs-out"
  | "tank-spills"
  | "heater-on-empty"
  | "waters-join"
  | "hot-from-cold"
  | "nothing-comes"
  | "lukewarm"
  | "much-air"
  | "cannot-solve";

export interface Notice {
  readonly code: NoticeCode;
  /** Figures are written {m3:…} and {c:…}. */
  readonly message: string;
  readonly parts: readonly string[];
  readonly m3?: number;
}

const NOTABLE_M3 = 2e-5;
const NOTABLE_GLYCOL_M3 = 2e-5;
// A mouthful of air at a pump; less is what an empty hose end holds.
const NOTABLE_AIR_M3 = 5e-5;
const NOTABLE_FOREIGN = 0.001;
// A tap is hot from a body's warmth on; a heater's water is warm well above that (our own).
const HOT_K = 15;
const LUKEWARM_SHARE = 0.8;

const said = (m3: number): string => `{m3:${Number(m3.toPrecision(3))}}`;
const warm = (c: number): string => `{c:${Math.round(c)}}`;
const nameOf = (part: Part): string => part.tag ?? part.name;

const openingOf = (network: Network, id: string): Opening | undefined =>
  network.openings.find((o) => o.id === id);
const openingName = (network: Network, id: string): string => {
  const o = openingOf(network, id);
  if (!o) return "the undone joint";
  const several =
    network.openings.filter((x) => x.part.id === o.part.id && x.use === o.use).length > 1;
  return several ? `${nameOf(o.part)}, ${o.label}` : nameOf(o.part);
};

const vesselsOf = (network: Network, role: "heater" | "fresh"): { cell: number; part: Part }[] =>
  network.cells.flatMap((c, cell) =>
    c.part && c.form === "vessel" && kindOfPart(c.part).role.vessel === role
      ? [{ cell, part: c.part }]
      : [],
  );

/** By how much a cell holds more of something than before. */
const gain = (
  before: SimState,
  after: SimState,
  cell: number,
  of: (m: Mixture) => number,
): number => of(liquidIn(after.contents[cell])) - of(liquidIn(before.contents[cell]));

const pumps = (network: Network, tally: Tally): Notice[] =>
  [...tally.pumps].flatMap(([cell, { airM3, liquidM3, by }]) => {
    const part = network.cells[cell]?.part;
    if (!part || airM3 < NOTABLE_AIR_M3) return [];
    const from = [...by].map((id) => openingOf(network, id)?.part).filter((p) => p !== undefined);
    const why =
      from.length > 0
        ? from
            .map((p) =>
              kindOfPart(p).role.vessel === "fresh"
                ? `${nameOf(p)} is empty down to its outlet`
                : `${nameOf(p)} stands open with nothing in a jug`,
            )
            .join("; ")
        : "its line is not full";
    const only = liquidM3 < 0.1 * airM3;
    return [
      {
        code: "pump-draws-air" as const,
        message: `${nameOf(part)} draws air${only ? " and gives nothing" : ", with water between"}: ${why}.`,
        parts: [part.id, ...from.map((p) => p.id)],
        m3: airM3,
      },
    ];
  });

const vessels = (network: Network, before: SimState, after: SimState): Notice[] => [
  ...vesselsOf(network, "heater").flatMap(({ cell, part }) => {
    const glycol = gain(before, after, cell, (m) => m.glycolM3);
    if (glycol < NOTABLE_GLYCOL_M3) return [];
    const now = liquidIn(after.contents[cell]);
    return [
      {
        code: "antifreeze-in-heater" as const,
        message: `Antifreeze goes into ${nameOf(part)}: ${said(glycol)} of glycol so far, it holds ${said(network.cells[cell]?.capacityM3 ?? 0)}.`,
        parts: [part.id],
        m3: strengthOf(now) > 0 ? glycol : 0,
      },
    ];
  }),
  ...vesselsOf(network, "fresh").flatMap(({ cell, part }) => {
    const glycol = gain(before, after, cell, (m) => m.glycolM3);
    return glycol < NOTABLE_GLYCOL_M3
      ? []
      : [
          {
            code: "antifreeze-in-tank" as const,
            message: `Antifreeze runs into ${nameOf(part)}: ${said(glycol)} of glycol so far.`,
            parts: [part.id],
            m3: glycol,
          },
        ];
  }),
];

const spills = (network: Network, tally: Tally): Notice[] => [
  ...[...tally.spilt].flatMap(([cell, m3]) => {
    const part = network.cells[cell]?.part;
    return m3 < NOTABLE_M3 || !part
      ? []
      : [
          {
            code: "tank-spills" as const,
            message: `${nameOf(part)} is full and runs over: ${said(m3)} so far.`,
            parts: [part.id],
            m3,
          },
        ];
  }),
  ...[...tally.out].flatMap(([id, liquid]) => {
    const o = openingOf(network, id);
    const m3 = volumeOf(liquid);
    if (
      !o ||
      m3 < NOTABLE_M3 ||
      o.use === "outlet" ||
      o.use === "vent" ||
      o.use === "overboard" ||
      o.use === "dump"
    )
      return [];
    return [
      {
        code: "runs-out" as const,
        message: `Water runs out at ${openingName(network, id)}: ${said(m3)} so far.`,
        parts: [o.part.id],
        m3,
      },
    ];
  }),
];

const joins = (network: Network, before: SimState, after: SimState): Notice[] => {
  const met = network.cells.flatMap((c, i) => {
    const was = foreignShare(liquidIn(before.contents[i]));
    const now = liquidIn(after.contents[i]);
    const raw = c.run?.service === "raw" || c.form === "trap" || c.form === "waste-pipe";
    return !raw &&
      was < NOTABLE_FOREIGN &&
      foreignShare(now) > NOTABLE_FOREIGN &&
      (now.foreignM3 ?? 0) > NOTABLE_M3 / 10
      ? [c.ownerId]
      : [];
  });
  if (met.length === 0) return [];
  const parts = [...new Set(met)].filter((id) => network.map.parts.some((p) => p.id === id));
  const first = network.map.parts.find((p) => p.id === parts[0]);
  return [
    {
      code: "waters-join",
      message: `Two waters join: raw water gets into the drinking side${first ? ` at ${nameOf(first)}` : ""}. Nothing of it may be drunk until it has been flushed and sanitized.`,
      parts,
    },
  ];
};

/** Whether what stands before an opening is on the cold side. */
const isColdSide = (network: Network, o: Opening): boolean => {
  const services = new Set(
    network.map.runs
      .filter((r) =>
        [r.from, r.to].some(
          (e) =>
            e.part === o.part.id &&
            (o.name === e.port ||
              !network.openings.some((x) => x.part.id === o.part.id && x.name === e.port)),
        ),
      )
      .map((r) => r.service),
  );
  return services.has("cold") && !services.has("hot");
};

const temperatures = (
  network: Network,
  before: SimState,
  after: SimState,
  tally: Tally,
  settings: SimSettings,
): Notice[] => {
  const hottest = Math.max(
    0,
    ...vesselsOf(network, "heater").map(({ cell }) =>
      Math.max(warmthOf(liquidIn(before.contents[cell])), warmthOf(liquidIn(after.contents[cell]))),
    ),
  );
  if (hottest < HOT_K) return [];
  const around = settings.flow.temperatureC;
  return [...tally.out].flatMap<Notice>(([id, liquid]) => {
    const o = openingOf(network, id);
    if (!o || volumeOf(liquid) < NOTABLE_M3) return [];
    const k = warmthOf(liquid);
    if (isColdSide(network, o) && k > HOT_K)
      return [
        {
          code: "hot-from-cold",
          message: `Hot water comes out of the cold line at ${openingName(network, id)}: ${warm(around + k)}. Nothing holds it back at the heater's cold inlet.`,
          parts: [o.part.id],
          m3: volumeOf(liquid),
        },
      ];
    return [];
  });
};

/** Where hot water stays under what the heater holds, and where it goes past it. */
const lukewarm = (
  network: Network,
  before: SimState,
  after: SimState,
  tally: Tally,
  settings: SimSettings,
): Notice[] => {
  const around = settings.flow.temperatureC;
  const heaters = vesselsOf(network, "heater").filter(
    ({ cell }) => warmthOf(liquidIn(before.contents[cell])) > HOT_K && tally.flowed.has(cell),
  );
  const [heater] = heaters;
  if (!heater) return [];
  const holds = warmthOf(liquidIn(after.contents[heater.cell]));
  return network.openings.flatMap((o) => {
    if (!tally.out.has(o.id) || o.use !== "outlet" || isColdSide(network, o)) return [];
    // What comes now, not what lay in the pipe before.
    const now = warmthOf(liquidIn(after.contents[o.cell]));
    if (now < 2 || now > LUKEWARM_SHARE * holds) return [];
    const cold = (key: string): boolean => controlKey(o.part.id, "cold") === key;
    if (
      controlsOfPart(o.part).some(
        (c) =>
          cold(controlKey(o.part.id, c.name)) &&
          after.lineup[controlKey(o.part.id, c.name)] === "open",
      )
    )
      return [];
    return [
      {
        code: "lukewarm" as const,
        message: `${openingName(network, o.id)} gives ${warm(around + now)} while ${nameOf(heater.part)} holds ${warm(around + holds)}: cold water comes to it past the heater.`,
        parts: [o.part.id, heater.part.id],
      },
    ];
  });
};

const missing = (network: Network, after: SimState, tally: Tally, seconds: number): Notice[] => {
  const situation = { network, lineup: after.lineup, apart: after.apart };
  if (seconds === 0 || !isDriven(situation, liveOpenings(situation), { hosesPa: after.hosesPa }))
    return [];
  const outlets = new Set(network.openings.filter((o) => o.use === "outlet").map((o) => o.id));
  return nothingAt(
    network,
    after,
    reachOf(network, after.lineup).filter(
      (r) => outlets.has(r.opening) && r.source === undefined && !tally.out.has(r.opening),
    ),
  );
};

/** Outlets that nothing comes to, with what stands in the way; those with one reason are told together. */
export const nothingAt = (
  network: Network,
  state: SimState,
  ways: ReturnType<typeof reachOf>,
): Notice[] => {
  const byReason = new Map<string, { names: string[]; parts: Set<string>; needs: string }>();
  for (const way of ways) {
    const needs = way.blockedBy.map(({ key, needs: position }) => {
      const control = network.controls.find((c) => c.key === key) as Control;
      return `${nameOf(control.part)} ${positionLabel(control, position)} (now ${positionLabel(control, state.lineup[key] ?? control.spec.inUse)})`;
    });
    const reason = needs.join("; ");
    const sofar = byReason.get(reason) ?? { names: [], parts: new Set<string>(), needs: reason };
    sofar.names.push(openingName(network, way.opening));
    sofar.parts.add(way.part);
    for (const { key } of way.blockedBy) {
      const part = network.controls.find((c) => c.key === key)?.part;
      if (part) sofar.parts.add(part.id);
    }
    byReason.set(reason, sofar);
  }
  return [...byReason.values()].map(({ names, parts, needs }) => ({
    code: "nothing-comes" as const,
    message: `Nothing comes at ${[...new Set(names)].join(", ")}${needs ? `: it needs ${needs}` : ": no open way leads there"}.`,
    parts: [...parts],
  }));
};

/** Everything worth a word about an action that has been done. */
export const noticesOf = (
  network: Network,
  before: SimState,
  after: SimState,
  tally: Tally,
  settings: SimSettings,
): Notice[] => {
  const dry = [...tally.dryHeated].map<Notice>((id) => {
    const part = network.map.parts.find((p) => p.id === id) as Part;
    const cell = vesselsOf(network, "heater").find((v) => v.part.id === id)?.cell ?? -1;
    return {
      code: "heater-on-empty",
      message: `${nameOf(part)} is on with ${said(liquidVolume(after.contents[cell]))} of ${said(network.cells[cell]?.capacityM3 ?? 0)} in it: its element burns out in seconds to minutes.`,
      parts: [id],
    };
  });
  return [
    ...tally.problems.map<Notice>((message) => ({ code: "cannot-solve", message, parts: [] })),
    ...(tally.airHigh === undefined
      ? []
      : [{ code: "much-air" as const, message: tally.airHigh, parts: [] }]),
    ...dry,
    ...joins(network, before, after),
    ...temperatures(network, before, after, tally, settings),
    ...pumps(network, tally),
    ...vessels(network, before, after),
    ...spills(network, tally),
    ...lukewarm(network, before, after, tally, settings),
    ...missing(network, after, tally, after.clockS - before.clockS),
  ];
};
