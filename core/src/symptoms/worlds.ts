import { type Contents, startingContents } from "../contents/index.ts";
import {
  type ApartEnd,
  type Control,
  kindOfPart,
  type Lineup,
  type Link,
  type Network,
  positionLabel,
  roleOf,
} from "../watermap/index.ts";

/** The unit as it would be if one thing were otherwise. */
export interface World {
  readonly network: Network;
  readonly lineup: Lineup;
  readonly apart: readonly ApartEnd[];
  readonly contents: Contents;
}

export interface Hypothesis {
  readonly id: string;
  readonly what: string;
  readonly parts: readonly string[];
  readonly world: World;
  /** The control that it is about, where it is one. */
  readonly control?: Control;
  /** How likely it is before anything is looked at; our own, by the orders of the trade. */
  readonly weight: number;
}

const nameOf = (control: Control): string =>
  `${control.part.tag ? `${control.part.tag} ` : ""}${control.spec.name === "main" ? control.part.name : `${control.part.name}, ${control.spec.label.toLowerCase()}`}`;

// What stands otherwise is likelier than what is broken (common practice, no source; the figures are our own).
const WEIGHT: Readonly<Partial<Record<Control["spec"]["role"], number>>> = {
  selector: 5,
  drain: 4,
  plug: 4,
  valve: 4,
  outlet: 3,
  cap: 3,
  bowl: 3,
  hose: 3,
  relief: 2,
  check: 1,
};
const TURNED_LAST = 3;
const EMPTY_TANK = 4.5;
const OFF = 2;
const CLOGGED = 2;
const CHECK_FAILS = 1;

const withLinks = (network: Network, change: (link: Link, i: number) => Link): Network => ({
  ...network,
  links: network.links.map(change),
});

/** Every single thing that may stand or be otherwise than it is written down. @param turned controls that were turned at the last work on it */
export const hypothesesOf = (base: World, turned: ReadonlySet<string>): Hypothesis[] => {
  const { network, lineup } = base;
  const controls = network.controls.flatMap((control) => {
    const weight = WEIGHT[control.spec.role];
    if (weight === undefined || roleOf(control.part).ashore === true) return [];
    const now = lineup[control.key] ?? control.spec.inUse;
    return control.spec.positions
      .filter((p) => p.name !== now)
      .map<Hypothesis>((p) => ({
        id: `${control.key}=${p.name}`,
        what:
          control.spec.role === "check"
            ? `${nameOf(control)} does not hold`
            : `${nameOf(control)} stands ${positionLabel(control, p.name)}`,
        parts: [control.part.id],
        control,
        world: { ...base, lineup: { ...lineup, [control.key]: p.name } },
        weight: weight * (turned.has(control.key) ? TURNED_LAST : 1),
      }));
  });
  return [
    ...controls,
    ...emptyTanks(base),
    ...linesOff(base, turned),
    ...clogged(base),
    ...checks(base),
  ];
};

const emptyTanks = (base: World): Hypothesis[] => {
  const tanks = base.network.cells.flatMap((c, i) =>
    c.form === "vessel" && c.kind?.role.vessel === "fresh" ? [i] : [],
  );
  if (tanks.length === 0) return [];
  return [
    {
      id: "tank-empty",
      what: tanks.length === 1 ? "The tank is empty" : "The tanks are empty",
      parts: tanks.flatMap((t) => base.network.cells[t]?.part?.id ?? []),
      world: {
        ...base,
        contents: base.contents.map((c, i) =>
          tanks.includes(i) ? { plugs: [], source: "assumed" as const } : c,
        ),
      },
      weight: EMPTY_TANK,
    },
  ];
};

/** Lines that are undone for winter: at machines, at pumps, at heaters. */
const linesOff = (base: World, turned: ReadonlySet<string>): Hypothesis[] =>
  base.network.map.runs.flatMap((run) =>
    (["from", "to"] as const).flatMap<Hypothesis>((end) => {
      const part = base.network.map.parts.find((p) => p.id === run[end].part);
      const role = part && roleOf(part);
      if (!part || !role || !(role.programme || role.pump || role.vessel === "heater")) return [];
      if (run.service === "waste") return [];
      return [
        {
          id: `off:${run.id}:${end}`,
          what: `The line to the ${(base.network.map.parts.find((p) => p.id === run[end === "from" ? "to" : "from"].part)?.name ?? "next part").toLowerCase()} is off at the ${part.name.toLowerCase()}`,
          parts: [part.id],
          world: { ...base, apart: [...base.apart, { run: run.id, end, jug: false }] },
          weight: OFF * (turned.has(`${run.id}:${end}`) ? TURNED_LAST : 1),
        },
      ];
    }),
  );

const clogged = (base: World): Hypothesis[] =>
  base.network.map.parts
    .filter((p) => roleOf(p).guard === "strainer" || kindOfPart(p).group === "conditioning")
    .map((part) => ({
      id: `clogged:${part.id}`,
      what: `${part.name} is clogged`,
      parts: [part.id],
      world: {
        ...base,
        network: withLinks(base.network, (l) =>
          [l.a, l.b].some((c) => base.network.cells[c]?.ownerId === part.id)
            ? { ...l, gates: [...l.gates, { key: "clogged", in: ["never"] }] }
            : l,
        ),
      },
      weight: CLOGGED,
    }));

/** Checks that let back: those that nobody can press in, in pumps and at heaters. */
const checks = (base: World): Hypothesis[] => {
  const { network } = base;
  const seen = new Set<string>();
  return network.links.flatMap((l, i) => {
    const part = network.cells[l.a]?.part ?? network.cells[l.b]?.part;
    const own =
      part && network.controls.some((c) => c.part.id === part.id && c.spec.role === "check");
    if (!l.oneWay || !part || own || l.regulatesPa !== undefined || seen.has(part.id)) return [];
    seen.add(part.id);
    return [
      {
        id: `check:${part.id}`,
        what: l.drivenBy
          ? `The check in the ${part.name.toLowerCase()} lets water back`
          : `${part.name} lets water back`,
        parts: [part.id],
        world: {
          ...base,
          network: withLinks(network, (other, j) =>
            j === i ? { ...other, oneWay: false } : other,
          ),
        },
        weight: CHECK_FAILS,
      },
    ];
  });
};

/** The unit in use with these valves: full of water, its tanks not empty. */
export const worldOf = (
  network: Network,
  lineup: Lineup,
  apart: readonly ApartEnd[] = [],
): World => ({
  network,
  lineup,
  apart,
  contents: startingContents(network).map((held, i) => {
    const cell = network.cells[i];
    return cell?.form === "vessel" && cell.kind?.role.vessel === "fresh"
      ? { plugs: [{ waterM3: cell.capacityM3 * 0.6, glycolM3: 0 }], source: "assumed" as const }
      : held;
  }),
});
