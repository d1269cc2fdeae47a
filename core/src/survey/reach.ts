import {
  cheapest,
  type Cheapest,
  kindOfPart,
  type Lineup,
  type Link,
  linkOpen,
  type Network,
  type Opening,
  type Way,
  wayBy,
} from "../watermap/index.ts";

/** The way from source to opening in a lineup, with what is to be pushed along it. */
export interface Reach {
  readonly opening: string;
  readonly part: string;
  /** Control whose side of a mixing outlet this way comes in by, e.g. "shower:hot"; absent where the opening has its own. */
  readonly side?: string;
  /** What the source is called, or nothing where no way is open. */
  readonly source: string | undefined;
  readonly cells: readonly number[];
  /** Parts and runs on the way. */
  readonly owners: readonly string[];
  readonly volumeM3: number;
  readonly lengthM: number;
  /** Without a way: the controls that stand in it, in the order in which water would meet them. */
  readonly blockedBy: readonly { readonly key: string; readonly needs: string }[];
}

// One control to turn weighs more than any length of pipe.
const TURN_COST = 1e12;
// A hose to be connected outside weighs more than a switch or a valve to be turned.
const CONNECT_COST = 3 * TURN_COST;

const sourcesOf = (
  network: Network,
  lineup: Lineup,
): { cell: number; name: string; live: boolean }[] => [
  ...network.cells.flatMap((c, i) =>
    c.part && kindOfPart(c.part).role.vessel === "fresh" && c.form === "vessel"
      ? [{ cell: i, name: c.part.name, live: true }]
      : [],
  ),
  ...network.openings.flatMap((o) =>
    o.use === "supply" || o.use === "raw" || o.use === "pickup" || o.use === "flush"
      ? [
          {
            cell: o.cell,
            name: o.part.name,
            live: !o.gate || o.gate.in.includes(lineup[o.gate.key] ?? ""),
          },
        ]
      : [],
  ),
];

/**
 * Cheapest way from any source to every cell: open links cost their resistance, shut ones a turn for each control.
 * Checks hold; a pump passes only while its switch is on; without a pump or a pressed supply nothing rises.
 */
const spread = (
  network: Network,
  lineup: Lineup,
  starts: ReturnType<typeof sourcesOf>,
): Cheapest => {
  // Nor does it come back out of an open head, from the cold side into the hot.
  const heads = new Set(network.openings.filter((o) => o.use === "outlet").map((o) => o.cell));
  const first = starts.map((s) => [s.cell, s.live ? 0 : CONNECT_COST] as const);
  return cheapest(network, first, (sofar, i, from, to, isStart) => {
    const link = network.links[i];
    if (!link || (link.oneWay && link.a !== from) || link.gates.some((g) => g.in.length === 0))
      return undefined;
    // Water does not run through a tank on its way to a tap.
    const part = network.cells[from]?.part;
    const vessel = part && kindOfPart(part).role.vessel;
    if (!isStart && (heads.has(from) || vessel === "fresh" || vessel === "waste")) return undefined;
    const turns = inTheWay(link, lineup).length;
    return sofar + turns * TURN_COST + 1 + (network.cells[to]?.resistance ?? 0) / 1e6;
  });
};

/** Controls that shut a link off as they stand, and how they would have to. */
const inTheWay = (link: Link, lineup: Lineup): { key: string; needs: string }[] => [
  ...link.gates.flatMap((g) =>
    g.in.includes(lineup[g.key] ?? "") ? [] : [{ key: g.key, needs: g.in[0] ?? "" }],
  ),
  ...(link.drivenBy && lineup[link.drivenBy] !== "on" ? [{ key: link.drivenBy, needs: "on" }] : []),
];

/** What stands in a way, in the order in which water meets it; each once, and a hose to be connected where it begins last. */
const blockers = (
  network: Network,
  lineup: Lineup,
  way: Way,
  firstCost: number,
): Reach["blockedBy"] => {
  const found = new Map<string, string>();
  for (const i of way.links)
    for (const { key, needs } of inTheWay(network.links[i] as Link, lineup)) found.set(key, needs);
  const source = network.openings.find(
    (o) => o.cell === way.cells[0] && o.gate && ["supply", "pickup", "flush"].includes(o.use),
  );
  if (source?.gate && firstCost !== 0) found.set(source.gate.key, source.gate.in[0] ?? "open");
  return [...found].map(([key, needs]) => ({ key, needs }));
};

const isFreshTank = (network: Network, cell: number): boolean => {
  const part = network.cells[cell]?.part;
  return part !== undefined && kindOfPart(part).role.vessel === "fresh";
};

/** Cells just before an opening behind the part's own handles, as a shower's hot and cold before its head: where a handle stands open. */
const openSides = (
  network: Network,
  lineup: Lineup,
  opening: Opening,
): { from: number; side: string }[] =>
  (network.linksOf[opening.cell] ?? []).flatMap((i) => {
    const link = network.links[i];
    const gate = link?.gates[0];
    if (!link || !gate || !linkOpen(link, lineup)) return [];
    const from = link.a === opening.cell ? link.b : link.a;
    return network.cells[from]?.part?.id === opening.part.id ? [{ from, side: gate.key }] : [];
  });

/**
 * The way to each opening that is asked about; those standing open in the lineup where none is named.
 * An outlet that mixes behind one opening has a way for each side that stands open.
 */
export const reachOf = (network: Network, lineup: Lineup, wanted?: readonly string[]): Reach[] => {
  const starts = sourcesOf(network, lineup);
  const best = spread(network, lineup, starts);
  const names = new Map(starts.map((s) => [s.cell, s.name]));
  const wayTo = (o: Opening, before?: { from: number; side: string }): Reach => {
    const last = before?.from ?? o.cell;
    const back = wayBy(network, best, last);
    const way: Way = { cells: back.cells.toReversed(), links: back.links.toReversed() };
    const cost = best.cost[last] as number;
    const reached = cost < TURN_COST;
    const cells = reached ? [...way.cells, ...(before ? [o.cell] : [])] : [];
    // The tank itself is not on the way: what is pushed begins at its outlet.
    const along = cells.filter((c) => !isFreshTank(network, c));
    return {
      opening: o.id,
      part: o.part.id,
      ...(before ? { side: before.side } : {}),
      source: reached ? names.get(way.cells[0] ?? -1) : undefined,
      cells,
      owners: [...new Set(cells.map((c) => network.cells[c]?.ownerId ?? ""))],
      volumeM3: along.reduce((sum, c) => sum + (network.cells[c]?.capacityM3 ?? 0), 0),
      lengthM: along.reduce((sum, c) => sum + (network.cells[c]?.run?.lengthM ?? 0), 0),
      blockedBy:
        reached || !Number.isFinite(cost)
          ? []
          : blockers(network, lineup, way, best.cost[way.cells[0] ?? -1] as number),
    };
  };
  return network.openings.flatMap((o) => {
    if (wanted) return wanted.includes(o.id) ? [wayTo(o)] : [];
    if (o.use !== "outlet" && o.use !== "low-point") return [];
    if (o.gate) return o.gate.in.includes(lineup[o.gate.key] ?? "") ? [wayTo(o)] : [];
    return openSides(network, lineup, o).map((before) => wayTo(o, before));
  });
};
