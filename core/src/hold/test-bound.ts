import {
  cellAt,
  heatersOf,
  type Lineup,
  linkOpen,
  type Network,
  num,
  type Part,
  paramsOf,
  PIPE_SYSTEMS,
  reach,
  roleOf,
  wayTo,
  withChecks,
} from "../watermap/index.ts";
import {
  canShut,
  isVented,
  pressedCells,
  type PressureSource,
  pressureSources,
  shutForTest,
} from "./bound.ts";
import { type TestSection, testSections } from "./find.ts";
import { type Joint, jointsIn } from "./joints.ts";
import { isAir, type TestRequest, type TestTarget, type TestWay } from "./test-plan.ts";

/** What a test takes in: from its source to what is shut, kept off what must not be pressed. */

export interface Bound {
  readonly lineup: Lineup;
  readonly source: number;
  readonly cells: ReadonlySet<number>;
  readonly title: string;
  readonly problem?: string;
}

export const partBy = (network: Network, id: string): Part | undefined =>
  network.map.parts.find((p) => p.id === id);

/** What a part's label allows, Pa; undefined where nobody has read it. */
export const ratedPa = (part: Part): number | undefined => {
  const bar = Number(paramsOf(part)["ratedBar"] ?? 0);
  return bar > 0 ? bar * 1e5 : undefined;
};

/** Tanks that stand open, and for air every vessel that nobody has read the label of. */
const notToBePressed = (network: Network, isByAir: boolean): ReadonlySet<number> => {
  const vented = network.cells.flatMap((_, i) => (isVented(network, i) ? [i] : []));
  const vessels = heatersOf(network).flatMap(({ part, cell }) =>
    network.cells[cell]?.form === "vessel" && ratedPa(part) === undefined ? [cell] : [],
  );
  return new Set([...vented, ...(isByAir ? vessels : [])]);
};

/**
 * The lineup with one control turned, or two, so that nothing is pressed that must not be and most stays under test; as it was where no two
 * are enough.
 */
const keptOff = (
  network: Network,
  lineup: Lineup,
  source: number,
  bad: ReadonlySet<number>,
): Lineup => {
  const reached = (of: Lineup): { readonly bad: boolean; readonly size: number } => {
    const cells = pressedCells(network, of, source);
    return { bad: [...bad].some((c) => cells.has(c)), size: cells.size };
  };
  if (!reached(lineup).bad) return lineup;
  const turns = network.controls.flatMap((c) =>
    c.spec.role === "valve" || c.spec.role === "selector"
      ? c.spec.positions
          .filter((p) => p.name !== (lineup[c.key] ?? c.spec.inUse))
          .map((p) => ({ [c.key]: p.name }))
      : [],
  );
  const best = (tried: readonly Lineup[]): Lineup | undefined =>
    tried
      .map((of) => ({ of, ...reached(of) }))
      .filter((t) => !t.bad)
      .toSorted((a, b) => b.size - a.size)[0]?.of;
  const singles = turns.map((t) => ({ ...lineup, ...t }));
  return (
    best(singles) ??
    best(singles.flatMap((one, i) => turns.slice(i + 1).map((t) => ({ ...one, ...t })))) ??
    lineup
  );
};

const problemWith = (
  network: Network,
  cells: ReadonlySet<number>,
  bad: ReadonlySet<number>,
): string | undefined => {
  const cell = [...cells].find((c) => bad.has(c));
  if (cell === undefined) return undefined;
  const name = network.cells[cell]?.part?.name.toLowerCase() ?? "tank";
  return isVented(network, cell)
    ? `The ${name} stands open on this way, and no two valves shut it off: it would be pressed, or let everything out.`
    : `The ${name} would become an air vessel of {m3:${network.cells[cell]?.capacityM3 ?? 0}}, no two valves keep it out, and nobody has read what pressure its label allows. Read it onto the map, or test with water.`;
};

/** What a section is called: by a part in it, or by its pipe. */
const sectionName = (network: Network, section: TestSection): string => {
  const part = section.owners.flatMap((id) => partBy(network, id) ?? [])[0];
  const run = network.map.runs.find((r) => section.owners.includes(r.id));
  return (
    part?.name ??
    run?.name ??
    PIPE_SYSTEMS.get(run?.pipe ?? "")?.label ??
    "pipe"
  ).toLowerCase();
};

/** Every valve shut but those on the ways from the source to a section: as little as the valves allow. A check within it may want two ways. */
const onlyTo = (network: Network, lineup: Lineup, source: number, section: TestSection): Lineup => {
  const may = withChecks(
    network,
    network.links.map((l) => l.drivenBy === undefined && linkOpen(l, lineup)),
  );
  const onWay = new Set<string>();
  const shut = (): Lineup => ({
    ...lineup,
    ...Object.fromEntries(
      network.controls
        .filter((c) => canShut(c) && !onWay.has(c.key))
        .map((c) => [c.key, "shut"] as const),
    ),
  });
  for (const cell of section.cells) {
    if (pressedCells(network, shut(), source).has(cell)) continue;
    const way = wayTo(network, source, may, (c) => c === cell);
    for (const i of way?.links ?? [])
      for (const gate of network.links[i]?.gates ?? []) onWay.add(gate.key);
  }
  return shut();
};

/** The section that a target names: by itself, or by the joint that lies in it. */
const sectionOf = (
  network: Network,
  cells: ReadonlySet<number>,
  target: TestTarget,
): { readonly section: TestSection; readonly title: string } | undefined => {
  const sections = testSections(network, cells);
  if (target.is === "section") {
    const section = sections.find((s) => s.id === target.section);
    return section && { section, title: `Section with the ${sectionName(network, section)}` };
  }
  const joint =
    target.is === "joint" ? jointsIn(network, cells).find((j) => j.id === target.joint) : undefined;
  const section = joint && sections.find((s) => s.cells.includes(joint.cell));
  return section && { section, title: `Joint, ${joint.label}` };
};

const boundOfPipes = (
  request: TestRequest,
  target: Extract<TestTarget, { source: string }>,
): Bound => {
  const { network } = request;
  const found = pressureSources(network).find((s) => s.id === target.source);
  const shut = shutForTest(network, request.from);
  const none = { lineup: shut, source: 0, cells: new Set<number>(), title: "Pressure side" };
  if (!found) return { ...none, problem: "There is no such place to let pressure in on this map." };
  const bad = notToBePressed(network, isAir(request.by));
  const whole = keptOff(network, shut, found.cell, bad);
  const part =
    target.is === "pressure-side"
      ? undefined
      : sectionOf(network, pressedCells(network, whole, found.cell), target);
  if (target.is !== "pressure-side" && !part)
    return {
      ...none,
      problem:
        target.is === "joint"
          ? "What must not be pressed cannot be shut off from that joint: it is looked at when its whole side is tested."
          : "There is no such section under this source.",
    };
  const lineup = part ? onlyTo(network, whole, found.cell, part.section) : whole;
  const cells = pressedCells(network, lineup, found.cell);
  const problem = problemWith(network, cells, bad);
  return {
    lineup,
    source: found.cell,
    cells,
    title: `${part?.title ?? "Pressure side"}, from the ${found.name.toLowerCase()}`,
    ...(problem === undefined ? {} : { problem }),
  };
};

export const boundOf = (request: TestRequest): Bound => {
  const { network, target } = request;
  if ("source" in target) return boundOfPipes(request, target);
  const part = partBy(network, target.part);
  const lineup = shutForTest(network, request.from);
  return part
    ? {
        lineup,
        source: cellAt(network, part.id),
        cells: new Set([cellAt(network, part.id)]),
        title: target.is === "hatches" ? `Hatches of the ${part.name.toLowerCase()}` : part.name,
      }
    : {
        lineup,
        source: 0,
        cells: new Set(),
        title: "Tank",
        problem: "There is no such tank on this map.",
      };
};

/** What must be plugged on a tank before air goes in: its vent, and every line that is joined to it. */
export const plugsOf = (network: Network, partId: string): string[] => {
  const vents = network.openings.filter((o) => o.part.id === partId && o.use === "vent");
  const lines = network.map.runs.flatMap((r) => {
    const other = r.from.part === partId ? r.to : r.to.part === partId ? r.from : undefined;
    return other ? [`line to the ${partBy(network, other.part)?.name.toLowerCase()}`] : [];
  });
  return [...vents.map(() => "vent"), ...lines];
};

/** How many hatches a tank has. */
export const hatchesOf = (part: Part | undefined): number =>
  part ? Number(paramsOf(part)["hatches"] ?? 0) : 0;

/** By how much water in the filler stands over a tank's lid where it is filled to the filler's brim, m; 0 where the filler lies no higher. */
export const headOnLidM = (network: Network, tank: Part): number => {
  const top = tank.heightM + num(paramsOf(tank), "depthM");
  const fillers = ownLines(network, tank.id).flatMap(({ port, other }) =>
    port === "fill" ? [other] : [],
  );
  return Math.max(0, ...fillers.map((f) => f.heightM - top));
};

/** Tanks that are joined to one low down: the other half of a divided tank, a twin. */
export const linkedTanks = (network: Network, partId: string): Part[] => {
  const seen = new Set([partId]);
  const found: Part[] = [];
  const look = ownLines(network, partId).flatMap((l) => (l.port === "link" ? [l.other] : []));
  for (let part = look.pop(); part; part = look.pop()) {
    if (seen.has(part.id)) continue;
    seen.add(part.id);
    if (roleOf(part).vessel === "fresh") found.push(part);
    else if (!roleOf(part).pump) look.push(...ownLines(network, part.id).map((l) => l.other));
  }
  return found;
};

/** The lines of a part: by which of its ports, and what is at their other end. */
const ownLines = (
  network: Network,
  partId: string,
): { readonly port: string; readonly other: Part }[] =>
  network.map.runs.flatMap((r) => {
    const [own, far] = r.from.part === partId ? [r.from, r.to] : [r.to, r.from];
    const other = own.part === partId ? partBy(network, far.part) : undefined;
    return other ? [{ port: own.port, other }] : [];
  });

/** Something that can be tested, and with what. */
export interface TestChoice {
  readonly key: string;
  readonly label: string;
  readonly target: TestTarget;
  readonly ways: readonly TestWay[];
}

const waysOf = ({ by }: PressureSource): TestWay[] =>
  by === "pump" ? ["pump", "hand-pump", "air"] : ["supply", "hand-pump", "air"];

const sidesOf = (network: Network, source: PressureSource): TestChoice[] => {
  const { id, cell, name } = source;
  const ways = waysOf(source);
  const from = `from the ${name.toLowerCase()}`;
  const sections = testSections(network, pressedCells(network, shutForTest(network), cell));
  return [
    {
      key: `side ${id}`,
      label: `Pressure side, ${from}`,
      target: { is: "pressure-side", source: id },
      ways,
    },
    ...(sections.length > 1 ? sections : []).map((s): TestChoice => ({
      key: `section ${id} ${s.id}`,
      label: `Section with the ${sectionName(network, s)}, ${s.joints} joints, ${from}`,
      target: { is: "section", source: id, section: s.id },
      ways,
    })),
  ];
};

const hatchChoices = (network: Network, p: Part): TestChoice[] => {
  const hatches = hatchesOf(p);
  return hatches === 0
    ? []
    : [
        {
          key: `hatches ${p.id}`,
          label: `${p.name}: ${hatches === 1 ? "its hatch" : `its ${hatches} hatches`}`,
          target: { is: "hatches", part: p.id },
          ways: headOnLidM(network, p) > 0 ? ["brim", "low-air"] : ["low-air"],
        },
      ];
};

const tankChoices = (network: Network, p: Part): TestChoice[] => {
  const { vessel } = roleOf(p);
  const one = (is: "tank" | "waste", label: string, ways: readonly TestWay[]): TestChoice => ({
    key: `${is} ${p.id}`,
    label,
    target: { is, part: p.id },
    ways,
  });
  if (vessel === "fresh")
    return [one("tank", p.name, ["brim", "low-air"]), ...hatchChoices(network, p)];
  return vessel === "waste" ? [one("waste", `${p.name}, gates shut`, ["head"])] : [];
};

/** Everything that can be tested on a map: the pressure side from each source, its sections, the tanks, their hatches. */
export const testChoices = (network: Network): TestChoice[] => [
  ...pressureSources(network).flatMap((s) => sidesOf(network, s)),
  ...network.map.parts.flatMap((p) => tankChoices(network, p)),
];

/** A joint that can be tested by itself, with where it lies. */
export interface JointChoice extends TestChoice {
  readonly joint: string;
  readonly place: string;
  readonly parts: readonly string[];
}

/** Cells that the water of a tank stands on by itself: past anything that can be opened, no pump passed. */
const underTank = (network: Network, cell: number): Set<number> => {
  const marks = reach(
    network,
    [cell],
    (link, from) =>
      network.links[link]?.drivenBy === undefined && (from === cell || !isVented(network, from)),
  );
  return new Set([...marks.keys()].filter((c) => marks[c] === 1));
};

/** Every joint that can be tested by itself, each once: from the first source that presses it, else under the water of its own tank. */
export const jointChoices = (network: Network): JointChoice[] => {
  const found = new Map<string, JointChoice>();
  const take = (
    joints: readonly Joint[],
    key: string,
    ways: readonly TestWay[],
    target: (joint: string) => TestTarget,
  ): void => {
    for (const { id, label, place, parts } of joints)
      if (!found.has(id))
        found.set(id, {
          key: `joint ${key} ${id}`,
          label,
          joint: id,
          place,
          parts,
          target: target(id),
          ways,
        });
  };
  for (const source of pressureSources(network))
    take(
      jointsIn(network, pressedCells(network, shutForTest(network), source.cell)),
      source.id,
      waysOf(source),
      (joint) => ({ is: "joint", source: source.id, joint }),
    );
  for (const part of network.map.parts) {
    const is = { fresh: "tank", waste: "waste" } as const;
    const kind = is[roleOf(part).vessel as keyof typeof is];
    if (!kind) continue;
    take(
      jointsIn(network, underTank(network, cellAt(network, part.id))),
      part.id,
      kind === "tank" ? ["brim"] : ["head"],
      (joint) => ({ is: kind, part: part.id, joint }),
    );
  }
  return [...found.values()];
};
