import {
  type Control,
  inUseLineup,
  type Lineup,
  linkOpen,
  type Network,
  reach,
  withChecks,
} from "../watermap/index.ts";

/** What is pressed in a test: from where the pressure comes in to what is shut. */

/** Everything that would let it out, shut; every valve as it stands. */
export const shutForTest = (network: Network, from: Lineup = inUseLineup(network)): Lineup => {
  const shut = network.controls.flatMap((c) => {
    const { role } = c.spec;
    const lets = ["outlet", "drain", "cap", "plug", "relief", "bowl", "hose"].includes(role);
    const position = lets ? c.spec.positions.find((p) => p.name === "shut")?.name : undefined;
    if (position !== undefined) return [[c.key, position] as const];
    return role === "switch" ? [[c.key, "off"] as const] : [];
  });
  return { ...from, ...Object.fromEntries(shut) };
};

/** Cells that feel the pressure: past what is open, checks their own way only, no vented tank passed through. */
export const pressedCells = (network: Network, lineup: Lineup, source: number): Set<number> => {
  const passable = network.links.map((l) => l.drivenBy === undefined && linkOpen(l, lineup));
  const may = withChecks(network, passable);
  const isTank = (cell: number): boolean => isVented(network, cell);
  const marks = reach(network, [source], (link, from, to) => !isTank(from) && may(link, from, to));
  return new Set([...marks.keys()].filter((c) => marks[c] === 1));
};

/** A tank that stands open to the air: it cannot be pressed. */
export const isVented = ({ cells, openings }: Network, cell: number): boolean =>
  cells[cell]?.form === "vessel" && openings.some((o) => o.cell === cell && o.use === "vent");

const SHUT = "shut";
export const canShut = (control: Control): boolean =>
  control.spec.role === "valve" && control.spec.positions.some((p) => p.name === SHUT);

/** Where pressure can be let in: inlets from outside, what is behind a pump. */
export interface PressureSource {
  readonly id: string;
  readonly cell: number;
  readonly name: string;
  readonly by: "inlet" | "pump";
}

export const pressureSources = (network: Network): PressureSource[] => [
  ...network.openings.flatMap<PressureSource>((o) =>
    o.use === "supply" && network.cells[o.cell]?.side === "fresh"
      ? [{ id: o.part.id, cell: o.cell, name: o.part.name, by: "inlet" }]
      : [],
  ),
  ...network.links.flatMap<PressureSource>((l) => {
    const part = network.controls.find((c) => c.key === l.drivenBy)?.part;
    return part && network.cells[l.b]?.side === "fresh"
      ? [{ id: part.id, cell: l.b, name: part.name, by: "pump" }]
      : [];
  }),
];

/** Parts that are pressed, tanks that stand open to the air not among them. */
export const pressedParts = (network: Network, pressed: ReadonlySet<number>) =>
  network.map.parts.filter((p) =>
    [...pressed].some((c) => network.cells[c]?.ownerId === p.id && !isVented(network, c)),
  );
