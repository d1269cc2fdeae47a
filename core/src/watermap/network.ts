import { PART_KINDS } from "./kinds/index.ts";
import { paramsOf, type Part, type PipeRun, type WaterMap } from "./document.ts";
import type { CellId, ControlKey, OpeningId, PartId, PipeRunId } from "./ids.ts";
import type { CellSpec, DriveSpec, OpeningUse, PartKind } from "./kind.ts";

/**
 * The map taken apart into what physics needs: cells that hold liquid, links between them, openings to the air.
 * Made once per map; a lineup then says which links and openings are open.
 */

export interface Cell {
  /** A run's own id, or "part id:cell", however many cells the part has. */
  readonly id: CellId;
  readonly ownerId: PartId | PipeRunId;
  /** What the kind calls it: "vessel", "cold"; of a run "pipe". */
  readonly name: string;
  readonly part?: Part | undefined;
  /** What the part is: its role, its group. */
  readonly kind?: PartKind | undefined;
  readonly run?: PipeRun | undefined;
  /** Which water it carries. */
  readonly side: WaterSide;
  readonly form: CellSpec["form"] | "pipe" | "waste-pipe";
  readonly capacityM3: number;
  readonly bottomM: number;
  readonly topM: number;
  readonly drainRemainder: number;
  readonly sweepRemainder: number;
  readonly tippedRemainder?: number | undefined;
  /** Volume lying in a dip below both ends, m3. */
  readonly sagM3: number;
  /** For a run: height of its from and to ends. */
  readonly endsM?: readonly [number, number] | undefined;
  readonly allowedRemainder?: number | undefined;
  readonly frostBasis: "burst" | "no-ice";
  readonly label?: string | undefined;
  readonly inUseFraction: number;
  /** While it fills, what comes in mixes with no more than this of what it holds, m3; all of it where it is not said. */
  readonly mixesOverM3?: number | undefined;
  /** Of a part, but like a pipe: from its links to its opening nothing mixes. */
  readonly lengthwise?: true | undefined;
  /** Resistance to flow, any consistent unit: length over bore to the fourth power. */
  readonly resistance: number;
  /** Pressed air behind a bladder, Pa above the surroundings with no water in it. */
  readonly prechargePa?: number | undefined;
}

/** Fresh and everything that carries drinking water; raw: sea, lake or a tank's rinse; waste: what has been used. */
export type WaterSide = "fresh" | "raw" | "waste";

export interface Link {
  readonly a: number;
  readonly b: number;
  readonly heightM: number;
  readonly gates: readonly CellGate[];
  /** Passes only from a to b. */
  readonly oneWay: boolean;
  readonly crackPa: number;
  /** Control key of the switch that drives liquid from a to b, and what its pump gives. */
  readonly drivenBy?: ControlKey | undefined;
  readonly drives?: DriveSpec | undefined;
  /** Lets no more than this through from a to b, Pa. */
  readonly regulatesPa?: number | undefined;
}

/** A gate bound to its part: lineup key and the positions that open it. */
export interface CellGate {
  readonly key: ControlKey;
  readonly in: readonly string[];
}

export interface Opening {
  readonly id: OpeningId;
  readonly name: string;
  readonly part: Part;
  readonly cell: number;
  readonly heightM: number;
  readonly use: OpeningUse;
  readonly gate?: CellGate | undefined;
  readonly pressed?: boolean | undefined;
  readonly airOnly?: boolean | undefined;
  /** Cell into which it falls; undefined means the ground, a bucket or a sink without a mapped waste. */
  readonly fallsTo?: number | undefined;
  readonly label: string;
}

export interface Control {
  readonly key: ControlKey;
  readonly part: Part;
  readonly spec: PartKind["controls"][number];
}

export interface Network {
  readonly map: WaterMap;
  readonly cells: readonly Cell[];
  readonly links: readonly Link[];
  readonly openings: readonly Opening[];
  readonly controls: readonly Control[];
  readonly cellIndex: ReadonlyMap<CellId, number>;
  /** Links of each cell, by cell index. */
  readonly linksOf: readonly (readonly number[])[];
}

export type Lineup = Readonly<Record<string, string>>;

/** Every control's position for use on the tank, with the map's own exceptions. */
export const inUseLineup = (network: Network): Lineup => ({
  ...Object.fromEntries(network.controls.map((control) => [control.key, control.spec.inUse])),
  ...network.map.lineup,
});

/** Where a place comes on the walk round a unit; what has none comes last. */
export const placeRank = (
  { places }: Pick<WaterMap, "places">,
  place: string | undefined,
): number => {
  const at = places.indexOf(place ?? "");
  return at < 0 ? places.length : at;
};

export const gateOpen = (gate: CellGate | undefined, lineup: Lineup): boolean =>
  !gate || gate.in.includes(lineup[gate.key] ?? "");
export const linkOpen = (link: Link, lineup: Lineup): boolean =>
  link.gates.every((gate) => gateOpen(gate, lineup));

/** What a position is called on this part: a selector's positions carry the names of what they join. */
export const positionLabel = (control: Control, position: string): string => {
  if (control.spec.role === "selector") {
    const named = paramsOf(control.part)[position];
    if (typeof named === "string") return named;
  }
  return control.spec.positions.find((p) => p.name === position)?.label ?? position;
};

/** How the handle lies in a position, or empty. */
export const handleOf = (control: Control, position: string): string => {
  const found = control.spec.positions.find((p) => p.name === position)?.handle ?? "";
  return control.spec.role === "selector" && found
    ? `handle to ${positionLabel(control, position)}`
    : found;
};

/** A name for a cell that a technician understands: "Galley tap, hot cartridge", "hot main", "pipe from Pump to Tee 1". */
export const cellName = (network: Network, index: number): string => {
  const cell = network.cells[index];
  if (!cell) return "unknown";
  if (cell.part) return cell.label ? `${cell.part.name}, ${cell.label}` : cell.part.name;
  const run = cell.run;
  if (!run) return cell.id;
  if (run.name) return run.name;
  const partName = (partId: string): string =>
    network.map.parts.find((p) => p.id === partId)?.name ?? partId;
  return `pipe from ${partName(run.from.part)} to ${partName(run.to.part)}`;
};

/** The kind of a part. Throws where the map was never read: no kind of that name. */
export const kindOfPart = (part: Part): PartKind => {
  const kind = PART_KINDS.get(part.kind);
  if (!kind) throw new Error(`Unknown kind ${part.kind}: read the map with readWaterMap first.`);
  return kind;
};

/** The index of a cell by its id; of a part's id, its largest cell; −1 where there is none. */
export const cellAt = (network: Network, id: string): number => {
  const exact = network.cellIndex.get(id);
  if (exact !== undefined) return exact;
  let found = -1;
  network.cells.forEach((cell, i) => {
    if (cell.ownerId === id && cell.capacityM3 > (network.cells[found]?.capacityM3 ?? -1))
      found = i;
  });
  return found;
};

/** What hangs on a network alone and is asked for again and again, found once. */
const onceForNetwork = <T>(
  find: (network: Network) => readonly T[],
): ((network: Network) => readonly T[]) => {
  const known = new WeakMap<Network, readonly T[]>();
  return (network) => {
    const found = known.get(network) ?? find(network);
    known.set(network, found);
    return found;
  };
};

const isTank =
  (holds: "fresh" | "waste") =>
  ({ form, kind }: Cell): boolean =>
    form === "vessel" && kind?.role.vessel === holds;

/** Tanks of drinking water, by cell index. */
export const freshTanks = onceForNetwork<number>(({ cells }) =>
  cells.flatMap((c, i) => (isTank("fresh")(c) ? [i] : [])),
);

/** Tanks that waste runs into, by cell index. */
export const wasteTanks = onceForNetwork<number>(({ cells }) =>
  cells.flatMap((c, i) => (isTank("waste")(c) ? [i] : [])),
);

/** Everything that heats water, in a vessel or as it passes: its part, and the cell that holds most of it. */
export const heatersOf = onceForNetwork<{ readonly part: Part; readonly cell: number }>((network) =>
  network.map.parts.flatMap((part) =>
    kindOfPart(part).role.energies ? [{ part, cell: cellAt(network, part.id) }] : [],
  ),
);

/** What a part is to a planner: a heater, a pump, a joint. */
export const roleOf = (part: Part): PartKind["role"] => kindOfPart(part).role;
