import type { Dimension } from "@uppershed/core/quantity";
import type { SimState } from "@uppershed/core/simulation";
import { cellName, kindOfPart, liveOpenings, type Network, roleOf } from "@uppershed/core/watermap";
import { capital } from "../ui/words.ts";
import { openingWords } from "./say-action.ts";

/** What can be done beside turning and waiting, each with the little that must be said of it. */

type Choice = readonly [value: string, label: string];

export type FieldSpec =
  | { readonly name: string; readonly label: string; readonly choose: readonly Choice[] }
  | {
      readonly name: string;
      readonly label: string;
      readonly dimension: Dimension;
      readonly standard: number;
      readonly optional?: boolean;
    }
  | {
      readonly name: string;
      readonly label: string;
      readonly unit: string;
      readonly number: number;
    };

export interface Job {
  readonly id: string;
  readonly label: string;
  readonly about: string;
  readonly fields: readonly FieldSpec[];
  readonly make: (values: Readonly<Record<string, string | number | undefined>>) => object;
}

// Where an air hose goes on, the usual first.
const AIR_WAYS = ["supply", "flush", "pickup", "outlet", "low-point"] as const;

type Choices = Readonly<
  Record<
    | "inlets"
    | "pickups"
    | "ways"
    | "tanks"
    | "vessels"
    | "heaters"
    | "traps"
    | "machines"
    | "pipes"
    | "undone"
    | "cells",
    readonly Choice[]
  >
>;

const choicesOf = (network: Network, state: SimState): Choices => {
  const live = liveOpenings({ network, lineup: state.lineup, apart: state.apart });
  const named = (ids: readonly string[]): Choice[] =>
    [...new Set(ids)].map((id) => [id, openingWords(network, id)]);
  const all = network.openings;
  const undone = live.flatMap((o) => (o.undone ? [{ id: o.id, ...o.undone }] : []));
  const joint = ({ id, run, side }: (typeof undone)[number]): Choice => [
    id,
    `undone joint of ${run}, ${side}'s side`,
  ];
  const parts = (want: (id: string) => boolean): Choice[] =>
    network.map.parts
      .filter((p) => want(p.id))
      .map((p) => [p.id, p.tag ? `${p.tag}, ${p.name}` : p.name]);
  const part = (id: string) => network.map.parts.find((p) => p.id === id);
  const role = (id: string) => {
    const p = part(id);
    return p && roleOf(p);
  };
  const vessel = (id: string) => role(id)?.vessel;
  return {
    inlets: named(all.filter((o) => o.use === "supply" || o.use === "flush").map((o) => o.id)),
    pickups: [
      ...named(all.filter((o) => o.use === "pickup").map((o) => o.id)),
      ...undone.filter((o) => o.side === "part").map(joint),
    ],
    ways: [
      ...named(AIR_WAYS.flatMap((use) => all.filter((o) => o.use === use)).map((o) => o.id)),
      ...undone.map(joint),
    ],
    tanks: parts((id) => vessel(id) === "fresh"),
    vessels: parts((id) => vessel(id) === "fresh" || vessel(id) === "heater"),
    heaters: parts((id) => {
      const p = part(id);
      return p !== undefined && kindOfPart(p).group === "heat";
    }),
    traps: parts((id) => network.cells.some((c) => c.ownerId === id && c.form === "trap")),
    machines: parts((id) => role(id)?.programme === true),
    pipes: network.map.runs.flatMap<Choice>((r) =>
      r.service === "waste"
        ? []
        : (["from", "to"] as const).map((end) => {
            const there = part(r[end].part);
            return [
              runEndValue(r.id, end),
              `${r.service} pipe at ${there?.tag ?? there?.name ?? r[end].part}, port ${r[end].port}`,
            ];
          }),
    ),
    cells: network.cells
      .flatMap<Choice>((cell, i) =>
        cell.capacityM3 > 1e-5 ? [[cell.id, capital(cellName(network, i))]] : [],
      )
      .toSorted((a, b) => a[1].localeCompare(b[1])),
    undone: state.apart.map((e) => [
      runEndValue(e.run, e.end),
      `${e.run}, ${e.end === "from" ? "first" : "far"} end`,
    ]),
  };
};

/** One end of a pipe, as the value of a choice. */
const runEndValue = (run: string, end: "from" | "to"): string => JSON.stringify({ run, end });

/** With where it can be done: nowhere, and it is not offered. */
type NeededJob = Job & { readonly needs: readonly Choice[] };

const at = (label: string, choose: readonly Choice[], name = "at"): FieldSpec => ({
  name,
  label,
  choose,
});

/** Air, jugs and hoses: what drives something through the pipes. */
const flowing = (c: Choices): NeededJob[] => [
  {
    id: "blow",
    label: "Blow with air",
    about:
      "Until nothing more is carried out. Never the compressor's full pressure; eyes guarded, nobody's hand before an open end.",
    needs: c.ways,
    fields: [
      at("Air goes in at", c.ways),
      { name: "regulatorPa", label: "Regulator", dimension: "pressure", standard: 275_790 },
      { name: "receiverM3", label: "Receiver", dimension: "volume", standard: 0.024 },
    ],
    make: (v) => ({ do: "blow", ...v }),
  },
  {
    id: "jug",
    label: "Put a pickup in a jug",
    about: "A way in without a jug hangs in the air.",
    needs: c.pickups,
    fields: [
      at("Which", c.pickups),
      { name: "strength", label: "Strength", dimension: "fraction", standard: 0.5 },
      {
        name: "volumeM3",
        label: "How much is in it (may be left empty)",
        dimension: "volume",
        standard: 0,
        optional: true,
      },
    ],
    make: (v) => ({ do: "jug", ...v }),
  },
  {
    id: "jug-out",
    label: "Take a pickup out of its jug",
    about: "It hangs in the air, open.",
    needs: c.pickups,
    fields: [at("Which", c.pickups)],
    make: (v) => ({ do: "jug", ...v }),
  },
  {
    id: "hose",
    label: "Hose on an inlet",
    about: "Supplies differ: 40 to 60 psi is what a unit wants, a site may give twice that.",
    needs: c.inlets,
    fields: [
      at("Which", c.inlets),
      { name: "pa", label: "Pressure", dimension: "pressure", standard: 276_000 },
    ],
    make: (v) => ({ do: "hose", ...v }),
  },
  {
    id: "hose-off",
    label: "Hose off",
    about: "The inlet stays open.",
    needs: c.inlets,
    fields: [at("Which", c.inlets)],
    make: (v) => ({ do: "hose", ...v, pa: 0 }),
  },
];

/** Heat, and what is put into tanks, traps and pipes. */
const filling = (c: Choices): NeededJob[] => [
  {
    id: "heat",
    label: "Heater on or off",
    about: "0 W is off. Only ever full.",
    needs: c.heaters,
    fields: [
      at("Which", c.heaters, "heater"),
      { name: "watts", label: "Power", unit: "W", number: 1400 },
    ],
    make: (v) => ({ do: "heat", ...v }),
  },
  {
    id: "fill",
    label: "Fill a tank",
    about: "From above.",
    needs: c.tanks,
    fields: [
      at("Which", c.tanks, "tank"),
      { name: "volumeM3", label: "How much", dimension: "volume", standard: 0.02 },
      { name: "strength", label: "Strength", dimension: "fraction", standard: 0 },
    ],
    make: (v) => ({ do: "fill", ...v }),
  },
  {
    id: "pour",
    label: "Pour into a trap or bowl",
    about: "Slowly, so that it pushes out what it displaces.",
    needs: c.traps,
    fields: [
      at("Which", c.traps, "into"),
      { name: "volumeM3", label: "How much", dimension: "volume", standard: 0.0005 },
      { name: "strength", label: "Strength", dimension: "fraction", standard: 0.5 },
    ],
    make: (v) => ({ do: "pour", ...v }),
  },
  {
    id: "dose",
    label: "Dose free chlorine",
    about: "By weight; it mixes with all the vessel holds, and fades by half in a day.",
    needs: c.vessels,
    fields: [
      at("Which", c.vessels, "into"),
      { name: "chlorineMg", label: "Free chlorine", unit: "mg", number: 5000 },
    ],
    make: (v) => ({ do: "dose", ...v }),
  },
  {
    id: "hold",
    label: "Say what a part or pipe holds",
    about: "Whatever it held before: to begin from what is known of this unit.",
    needs: c.cells,
    fields: [
      at("Which", c.cells, "in"),
      { name: "share", label: "How full", dimension: "fraction", standard: 1 },
      { name: "strength", label: "Strength", dimension: "fraction", standard: 0 },
    ],
    make: (v) => ({ do: "hold", ...v }),
  },
];

/** What is sucked out, run, undone and made again. */
const others = (c: Choices): NeededJob[] => [
  {
    id: "suck",
    label: "Suck a vessel out",
    about:
      "Through a dip or a joint; air must be able to follow, and what lies below the dip stays.",
    needs: c.vessels,
    fields: [at("Which", c.vessels, "from")],
    make: (v) => ({ do: "suck", ...v }),
  },
  {
    id: "cycle",
    label: "Run an appliance",
    about: "A fill by each of its valves, then its pump-out.",
    needs: c.machines,
    fields: [at("Which", c.machines, "appliance")],
    make: (v) => ({ do: "cycle", ...v }),
  },
  {
    id: "undo",
    label: "Undo a pipe",
    about: "Both sides stand open.",
    needs: c.pipes,
    fields: [at("Where", c.pipes)],
    make: (v) => ({ do: "undo", ...(JSON.parse(String(v["at"])) as object) }),
  },
  {
    id: "remake",
    label: "Make a pipe again",
    about: "Hand-tight on a seen washer.",
    needs: c.undone,
    fields: [at("Where", c.undone)],
    make: (v) => ({ do: "remake", ...(JSON.parse(String(v["at"])) as object) }),
  },
];

/** Everything that can be done beside turning and waiting on this map as it stands. */
export const jobsFor = (network: Network, state: SimState): Job[] => {
  const choices = choicesOf(network, state);
  return [flowing, filling, others]
    .flatMap((jobs) => jobs(choices))
    .filter((job) => job.needs.length > 0);
};
