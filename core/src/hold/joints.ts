import { type Network, PIPE_SYSTEMS, placeRank } from "../watermap/index.ts";

/** The joints of what is pressed, one by one, each with how likely it is to leak against the others. */

export interface Joint {
  readonly id: string;
  /** "Cold line at the galley tap" */
  readonly label: string;
  readonly place: string;
  /** How hard to come to, as the map says it; empty where it says nothing. */
  readonly access: string;
  readonly cell: number;
  readonly parts: readonly string[];
  /** Against a tube joint of today: hose on a barb leaks oftener, old grey tube too (our own, no source). */
  readonly likely: number;
}

const LIKELY = { hose: 2, oldTube: 3, seat: 1.5, tube: 1 } as const;

const likelyOf = (pipe: string): number => {
  if (pipe.startsWith("pb-")) return LIKELY.oldTube;
  return PIPE_SYSTEMS.get(pipe)?.family === "hose" ? LIKELY.hose : LIKELY.tube;
};

const SEATS: Readonly<Record<string, string>> = {
  outlet: "its seat",
  drain: "its seat",
  "low-point": "its cap or lever",
  plug: "its thread",
  relief: "its seat",
  bowl: "its bowl and seal",
  supply: "its cap or check",
  flush: "its cap or check",
};

/** Every joint within a set of cells, in the order of the walk round the unit: both ends of each pipe, and the seat of each opening. None is left out. */
export const jointsIn = (network: Network, cells: ReadonlySet<number>): Joint[] => {
  const { parts } = network.map;
  const partOf = (id: string) => parts.find((p) => p.id === id);
  const ends = network.map.runs.flatMap((run) => {
    const cell = network.cells.findIndex((c) => c.ownerId === run.id);
    if (cell < 0 || !cells.has(cell)) return [];
    return ([run.from, run.to] as const).map((end, i): Joint => {
      const part = partOf(end.part);
      const other = partOf(i === 0 ? run.to.part : run.from.part);
      const line =
        run.name ??
        `${PIPE_SYSTEMS.get(run.pipe)?.label ?? "pipe"} to the ${other?.name.toLowerCase() ?? ""}`;
      return {
        id: `${run.id}:${i === 0 ? "from" : "to"}`,
        label: `${part?.name ?? end.part}: ${line}`,
        place: part?.place ?? "",
        access: part?.access ?? "",
        cell,
        parts: [end.part],
        likely: likelyOf(run.pipe),
      };
    });
  });
  const seats = network.openings.flatMap((o): Joint[] => {
    const seat = SEATS[o.use];
    return seat !== undefined && cells.has(o.cell)
      ? [
          {
            id: `${o.id}:seat`,
            label: `${o.part.name}, ${o.label}: ${seat}`,
            place: o.part.place ?? "",
            access: o.part.access ?? "",
            cell: o.cell,
            parts: [o.part.id],
            likely: LIKELY.seat,
          },
        ]
      : [];
  });
  const rank = (j: Joint): number => placeRank(network.map, j.place);
  return [...ends, ...seats].toSorted(
    (a, b) => rank(a) - rank(b) || b.likely - a.likely || (a.id < b.id ? -1 : 1),
  );
};
