import { type Network, reach, roleOf } from "../watermap/index.ts";

/** Holes through the hull, each with what stands behind it: valve, strainer, pump, and whether it can freeze shut or burst. */

export interface ThroughHull {
  readonly part: string;
  readonly name: string;
  readonly takesIn: boolean;
  /** Valves behind it, by name; none is a hole that nothing shuts. */
  readonly valves: readonly string[];
  readonly strainer: boolean;
  readonly pumps: readonly string[];
  /** Water of its line that frost can reach, m3. */
  readonly volumeM3: number;
}

/** What lies on the line of an opening as far as its pump, a tank or the drinking side. */
const lineOf = (network: Network, cell: number): Set<number> => {
  const side = network.cells[cell]?.side;
  const marks = reach(network, [cell], (l, from, to) => {
    const link = network.links[l];
    return (
      link !== undefined &&
      link.drivenBy === undefined &&
      network.cells[from]?.form !== "vessel" &&
      network.cells[to]?.side === side
    );
  });
  return new Set([...marks.keys()].filter((c) => marks[c] === 1));
};

export const throughHulls = (network: Network): ThroughHull[] =>
  network.openings.flatMap((o) => {
    if (o.use !== "raw" && o.use !== "overboard") return [];
    const cells = lineOf(network, o.cell);
    const owners = new Set([...cells].map((c) => network.cells[c]?.ownerId));
    // The pump beyond stands at the end of the line: its link is not passed.
    const pumps = network.links.flatMap((l) => {
      const part = network.controls.find((c) => c.key === l.drivenBy)?.part;
      return part && (cells.has(l.a) || cells.has(l.b)) ? [part.name] : [];
    });
    const parts = network.map.parts.filter((p) => owners.has(p.id));
    const shuts = network.controls.filter(
      (c) =>
        owners.has(c.part.id) &&
        ["valve", "cap", "selector"].includes(c.spec.role) &&
        c.spec.positions.some((p) => p.name === "shut"),
    );
    return [
      {
        part: o.part.id,
        name: o.part.name,
        takesIn: o.use === "raw",
        valves: [...new Set(shuts.map((c) => c.part.name))],
        strainer: parts.some((p) => roleOf(p).guard === "strainer"),
        pumps: [...new Set(pumps)],
        volumeM3: [...cells].reduce((sum, c) => sum + (network.cells[c]?.capacityM3 ?? 0), 0),
      },
    ];
  });
