import {
  cellAt,
  heatersOf,
  type Lineup,
  linkOpen,
  type Network,
  type Part,
  paramsOf,
  PIPE_SYSTEMS,
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
  const section =
    target.is === "section"
      ? testSections(network, pressedCells(network, whole, found.cell)).find(
          (s) => s.id === target.section,
        )
      : undefined;
  if (target.is === "section" && !section)
    return { ...none, problem: "There is no such section under this source." };
  const lineup = section ? onlyTo(network, whole, found.cell, section) : whole;
  const cells = pressedCells(network, lineup, found.cell);
  const problem = problemWith(network, cells, bad);
  return {
    lineup,
    source: found.cell,
    cells,
    title: section
      ? `Section with the ${sectionName(network, section)}, from the ${found.name.toLowerCase()}`
      : `Pressure side, from the ${found.name.toLowerCase()}`,
    ...(problem === undefined ? {} : { problem }),
  };
};

export const boundOf = (request: TestRequest): Bound => {
  const { network, target } = request;
  if (target.is === "pressure-side" || target.is === "section")
    return boundOfPipes(request, target);
  const part = partBy(network, target.part);
  const lineup = shutForTest(network, request.from);
  return part
    ? {
        lineup,
        source: cellAt(network, part.id),
        cells: new Set([cellAt(network, part.id)]),
        title: part.name,
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

/** Something that can be tested, and with what. */
export interface TestChoice {
  readonly key: string;
  readonly label: string;
  readonly target: TestTarget;
  readonly ways: readonly TestWay[];
}

const sidesOf = (network: Network, { id, cell, name, by }: PressureSource): TestChoice[] => {
  const ways: TestWay[] =
    by === "pump" ? ["pump", "hand-pump", "air"] : ["supply", "hand-pump", "air"];
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

/** Everything that can be tested on a map: the pressure side from each source, its sections, the tanks. */
export const testChoices = (network: Network): TestChoice[] => [
  ...pressureSources(network).flatMap((s) => sidesOf(network, s)),
  ...network.map.parts.flatMap((p): TestChoice[] => {
    const { vessel } = roleOf(p);
    if (vessel === "fresh")
      return [
        {
          key: `tank ${p.id}`,
          label: p.name,
          target: { is: "tank", part: p.id },
          ways: ["brim", "low-air"],
        },
      ];
    return vessel === "waste"
      ? [
          {
            key: `waste ${p.id}`,
            label: `${p.name}, gates shut`,
            target: { is: "waste", part: p.id },
            ways: ["head"],
          },
        ]
      : [];
  }),
];
