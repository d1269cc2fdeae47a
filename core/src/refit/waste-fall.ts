import { cheapest, type Network, reach } from "../watermap/index.ts";

/** How each waste pipe falls towards where it ends. */

// A quarter of an inch to the foot (IPC 704.1 for pipe up to 2-1/2 in, from memory).
const LEAST_FALL = 0.25 / 12;

export interface Fall {
  readonly run: string;
  readonly name: string;
  /** Fall towards its tank or discharge over its length; negative where it climbs; none where nothing tells which way it runs. */
  readonly fall: number | null;
  readonly ok: boolean;
}

const isWaste = (network: Network, cell: number): boolean => network.cells[cell]?.side === "waste";
const isTank = (network: Network, cell: number): boolean => network.cells[cell]?.form === "vessel";

/** How many pieces lie between each cell and the nearest of some ends, through waste lines and no tank. */
const farFrom = (network: Network, ends: readonly number[]): Float64Array =>
  cheapest(
    network,
    ends.map((cell) => [cell, 0]),
    (sofar, _link, from, to, isStart) =>
      isWaste(network, to) && (isStart || !isTank(network, from)) ? sofar + 1 : undefined,
  ).cost;

/** Lines that carry nothing but air: joined to a vent, and to no fixture. */
const airLines = (network: Network): ReadonlySet<number> => {
  const air = new Set<number>();
  const fed = new Set(network.openings.flatMap((o) => o.fallsTo ?? []));
  for (const vent of network.openings) {
    if (vent.use !== "vent" || !isWaste(network, vent.cell) || isTank(network, vent.cell)) continue;
    const marks = reach(
      network,
      [vent.cell],
      (_l, from, to) => isWaste(network, to) && !isTank(network, from),
    );
    const piece = [...marks.keys()].filter((c) => marks[c] === 1 && !isTank(network, c));
    if (!piece.some((c) => fed.has(c) || network.cells[c]?.form === "trap"))
      for (const c of piece) air.add(c);
  }
  return air;
};

/** Waste pipes of the map with their fall, the flattest first; vents, and what is sucked out at the deck, do not fall. */
export const fallsOf = (network: Network): Fall[] => {
  const tanks = network.cells.flatMap((_, i) =>
    isWaste(network, i) && isTank(network, i) ? [i] : [],
  );
  const outs = network.openings.filter(
    (o) =>
      isWaste(network, o.cell) &&
      !isTank(network, o.cell) &&
      (o.use === "overboard" || o.use === "dump"),
  );
  const [toTank, toOut] = [
    farFrom(network, tanks),
    farFrom(
      network,
      outs.map((o) => o.cell),
    ),
  ];
  const air = airLines(network);
  const name = (id: string): string => network.map.parts.find((p) => p.id === id)?.name ?? id;
  // Above the tank that it empties: sucked, not drained.
  const lowest = Math.min(...tanks.map((t) => network.cells[t]?.topM ?? 0));
  const sucked = new Set(outs.filter((o) => o.heightM > lowest).map((o) => o.cell));
  return network.cells
    .flatMap((cell, i): Fall[] => {
      const { run, endsM } = cell;
      if (!run || run.service !== "waste" || !endsM || air.has(i)) return [];
      const ends = (network.linksOf[i] ?? []).map((l) => {
        const link = network.links[l];
        return link?.a === i ? link.b : (link?.a ?? -1);
      });
      const [from, to] = ends as [number, number];
      // Out of a tank it runs to its gate and discharge, else to the nearest tank, or overboard.
      const tank = ends.some((c) => isTank(network, c));
      const out = tank && ends.some((c) => !isTank(network, c) && Number.isFinite(toOut[c]));
      const far = out
        ? toOut
        : Number.isFinite(toTank[i]) && !viaOut(toTank, toOut, i)
          ? toTank
          : toOut;
      const at = (c: number): number =>
        out && isTank(network, c) ? Number.POSITIVE_INFINITY : (far[c] ?? Number.POSITIVE_INFINITY);
      const [a, b] = [at(from), at(to)];
      if (out && [...sucked].some((c) => Number.isFinite(farFrom(network, [c])[i]))) return [];
      const down = a > b ? endsM[0] - endsM[1] : endsM[1] - endsM[0];
      const fall =
        a !== b && (Number.isFinite(a) || Number.isFinite(b)) ? down / run.lengthM : null;
      return [
        {
          run: run.id,
          name: run.name ?? `${name(run.from.part)} to ${name(run.to.part)}`,
          fall,
          ok: fall !== null && fall >= LEAST_FALL - 1e-9,
        },
      ];
    })
    .toSorted((x, y) => (x.fall ?? -9) - (y.fall ?? -9));
};

/** Between a tank and its discharge, water runs on to the discharge: such a piece is no feeder of that tank. */
const viaOut = (toTank: Float64Array, toOut: Float64Array, cell: number): boolean =>
  Number.isFinite(toOut[cell]) && (toOut[cell] ?? 0) <= (toTank[cell] ?? 0);

/** Fixtures whose water runs to a tank past no trap: what stands there smells back. Overboard nothing stands. */
export const withoutTrap = (network: Network): string[] => {
  const tanks = network.cells.flatMap((_, i) =>
    isWaste(network, i) && isTank(network, i) ? [i] : [],
  );
  // The way to a tank that leads past traps only: cut at every trap, a fixture with one reaches none.
  const bare = reach(
    network,
    tanks,
    (_l, from, to) =>
      isWaste(network, to) &&
      network.cells[to]?.form !== "trap" &&
      (tanks.includes(from) || !isTank(network, from)),
  );
  return [
    ...new Set(
      network.openings.flatMap((o) => {
        const into = o.fallsTo;
        // A toilet's own seal is its trap.
        return into !== undefined &&
          bare[into] === 1 &&
          network.cells[into]?.form !== "trap" &&
          network.cells[into]?.ownerId !== o.part.id
          ? [o.part.name]
          : [];
      }),
    ),
  ];
};
