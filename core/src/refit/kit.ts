import { compareMaps } from "../survey/index.ts";
import {
  endLabel,
  mate,
  type Part,
  PART_KINDS,
  type PipeRun,
  PIPE_SYSTEMS,
  portsOf,
  roleOf,
  runsAt,
  THREADS,
  type WaterMap,
} from "../watermap/index.ts";
import { type CutPiece, type CutPlan, cutPlan, type CutStock, type Solve } from "./cuts.ts";

/** What a proposal takes: worked out from the difference between two maps, counted from the ends that each part really has. */

export interface KitPolicy {
  /** On every piece, as a share and besides, m: what is cut off square, and what a bend takes. */
  readonly slackShare: number;
  readonly slackM: number;
  /** Between two clips, m. */
  readonly clipM: number;
  /** Of a new roll or length by pipe system, m. */
  readonly rollM: Readonly<Record<string, number>>;
  /** Rest pieces in the stores by pipe system and colour, m. */
  readonly restsM: Readonly<Record<string, readonly number[]>>;
}

/** A twentieth and five centimetres on each piece; a clip every 0.8 m (32 in for plastic tube: IPC table 308.5, from memory); rolls as they are sold (common practice, no source). */
export const KIT_POLICY: KitPolicy = {
  slackShare: 0.05,
  slackM: 0.05,
  clipM: 0.8,
  rollM: {},
  restsM: {},
};

const ROLL_M = {
  "copper-size tube": 30,
  "metric tube": 25,
  copper: 3,
  hose: 10,
  waste: 3,
  sanitation: 3,
} as const;
// What a saw or a cutter takes, m (common practice, no source).
const CUT_M = { copper: 0.001, waste: 0.002 } as const;

/** How the ends of a pipe are joined, and with what in the hand. */
const JOINTS = {
  "copper-size tube": {
    piece: "ring",
    tools: ["tube cutter", "ring tool of that size", "go/no-go gauge for its rings"],
  },
  "metric tube": { piece: "insert", tools: ["tube cutter", "pen for the depth of insertion"] },
  copper: { piece: "olive or solder joint", tools: ["tube cutter", "deburrer", "two spanners"] },
  hose: {
    piece: "hose clip",
    tools: ["hose knife", "screwdriver for clips", "hot water for the hose"],
  },
  waste: { piece: "seal or cement joint", tools: ["fine saw", "file and abrasive for the edges"] },
  sanitation: { piece: "pair of hose clips", tools: ["hose knife", "screwdriver for clips"] },
} as const;

export interface KitLine {
  /** By which a price is looked up: "kind:tee", "pipe:pex-1/2 red", "ring:pex-1/2". */
  readonly key: string;
  readonly label: string;
  readonly count: number;
  readonly unit: "piece" | "roll";
  /** Why so many, in words. */
  readonly why: string;
}

interface PipeCut {
  readonly key: string;
  readonly label: string;
  readonly colour: string;
  readonly lengthM: number;
  readonly plan: CutPlan;
}

export interface RefitKit {
  readonly pipes: readonly PipeCut[];
  readonly lines: readonly KitLine[];
  readonly tools: readonly string[];
  /** What comes out: parts and pipes, to be kept, scrapped or put in stock. */
  readonly out: readonly { readonly id: string; readonly label: string }[];
  /** Ends that do not go together as drawn. */
  readonly clashes: readonly string[];
}

// As pipe is sold: by what it carries.
const COLOURS: Readonly<Partial<Record<PipeRun["service"], string>>> = { hot: "red", cold: "blue" };

const colourOf = ({ pipe, service }: PipeRun): string => {
  const family = PIPE_SYSTEMS.get(pipe)?.family;
  return family === "copper-size tube" || family === "metric tube"
    ? (COLOURS[service] ?? "white")
    : "";
};

const lengthFor = (run: PipeRun, policy: KitPolicy): number =>
  Math.ceil((run.lengthM * (1 + policy.slackShare) + policy.slackM) * 100) / 100;

/** Runs that are new pipe: not there before, of another system, or longer than the old one reaches. */
const newRuns = (before: WaterMap, after: WaterMap): PipeRun[] => {
  const was = new Map(before.runs.map((r) => [r.id, r]));
  return after.runs.filter((r) => {
    const old = was.get(r.id);
    return !old || old.pipe !== r.pipe || r.lengthM > old.lengthM + 1e-9;
  });
};

const plural = (n: number, one: string): string => `${n} ${one}${n === 1 ? "" : "s"}`;

/** How many ends a joint piece is needed on: every end of new pipe, and every new part's end on pipe that stays. */
const endsByPipe = (
  before: WaterMap,
  after: WaterMap,
  runs: readonly PipeRun[],
): ReadonlyMap<string, number> => {
  const known = new Set(before.parts.map((p) => p.id));
  const ends = new Map<string, number>();
  const add = (pipe: string, n: number): void => void ends.set(pipe, (ends.get(pipe) ?? 0) + n);
  const fresh = new Set(runs.map((r) => r.id));
  for (const run of after.runs) {
    const both = [run.from, run.to];
    add(run.pipe, fresh.has(run.id) ? 2 : both.filter((e) => !known.has(e.part)).length);
  }
  return ends;
};

const name = (map: WaterMap, id: string): string => map.parts.find((p) => p.id === id)?.name ?? id;

/** What each end asks for, where what the part takes is written down. */
const endsOf = (after: WaterMap, runs: readonly PipeRun[]) => {
  const adapters: string[] = [];
  const clashes: string[] = [];
  const sealants = new Map<string, number>();
  for (const run of runs)
    for (const end of [run.from, run.to]) {
      const takes = after.parts.find((p) => p.id === end.part)?.ends?.[end.port];
      if (takes === undefined) continue;
      const thread = THREADS.get(takes);
      if (thread) {
        const how = thread.washer ? "washer" : "thread tape or paste";
        sealants.set(how, (sealants.get(how) ?? 0) + 1);
        adapters.push(`${endLabel(takes)} to ${endLabel(run.pipe)}`);
        continue;
      }
      const { answer, why } = mate(takes, run.pipe);
      if (answer === "adapter") adapters.push(`${endLabel(takes)} to ${endLabel(run.pipe)}`);
      else if (answer !== "fits") clashes.push(`${name(after, end.part)}: ${why}`);
    }
  return { adapters, clashes, sealants };
};

/** Where two pipe systems meet at one plain joint that is new or gets new pipe: an adapter, where the joint is none itself. */
const meetings = (after: WaterMap, runs: readonly PipeRun[]): string[] => {
  const fresh = new Set(runs.map((r) => r.id));
  return after.parts.flatMap((part) => {
    if (!roleOf(part).joint || roleOf(part).adapts) return [];
    const at = runsAt(after, part.id);
    if (!at.some((r) => fresh.has(r.id))) return [];
    const pipes = [...new Set(at.map((r) => r.pipe))];
    return pipes
      .slice(1)
      .flatMap((p) =>
        mate(pipes[0] ?? p, p).answer === "fits"
          ? []
          : [`${endLabel(pipes[0] ?? p)} to ${endLabel(p)}`],
      );
  });
};

const counted = (names: readonly string[]): [string, number][] => {
  const of = new Map<string, number>();
  for (const n of names) of.set(n, (of.get(n) ?? 0) + 1);
  return [...of].toSorted(([a], [b]) => (a < b ? -1 : 1));
};

/** Parts that are bought: new ones, and those that become another kind. */
const newParts = (before: WaterMap, after: WaterMap): Part[] => {
  const was = new Map(before.parts.map((p) => [p.id, p.kind]));
  return after.parts.filter((p) => was.get(p.id) !== p.kind && p.kind !== "unknown-part");
};

const pipesOf = (
  runs: readonly PipeRun[],
  after: WaterMap,
  policy: KitPolicy,
  solve: Solve | undefined,
): PipeCut[] => {
  const keys = counted(runs.map((r) => [r.pipe, colourOf(r)].filter(Boolean).join(" ")));
  return keys.map(([key]) => {
    const of = runs.filter((r) => [r.pipe, colourOf(r)].filter(Boolean).join(" ") === key);
    const [first] = of;
    const system = PIPE_SYSTEMS.get(first?.pipe ?? "");
    const family = system?.family ?? "hose";
    const pieces = of.map((r): CutPiece => ({
      id: r.id,
      name: r.name ?? `${name(after, r.from.part)} to ${name(after, r.to.part)}`,
      lengthM: lengthFor(r, policy),
    }));
    const stock: CutStock = {
      lengthM: policy.rollM[first?.pipe ?? ""] ?? ROLL_M[family],
      rests: policy.restsM[key] ?? [],
      cutM: CUT_M[family as keyof typeof CUT_M] ?? 0,
    };
    const colour = first ? colourOf(first) : "";
    return {
      key: `pipe:${key}`,
      label: [system?.label ?? first?.pipe, colour].filter(Boolean).join(", "),
      colour,
      lengthM: pieces.reduce((sum, p) => sum + p.lengthM, 0),
      plan: cutPlan(pieces, stock, solve),
    };
  });
};

/** The kit of a proposal. */
export const refitKit = (
  before: WaterMap,
  after: WaterMap,
  policy: KitPolicy = KIT_POLICY,
  solve?: Solve,
): RefitKit => {
  const runs = newRuns(before, after);
  const parts = newParts(before, after);
  const ends = endsByPipe(before, after, runs);
  const { adapters, clashes, sealants } = endsOf(after, runs);
  const lines: KitLine[] = [];
  const line = (
    key: string,
    label: string,
    count: number,
    why: string,
    unit: KitLine["unit"] = "piece",
  ): void => {
    if (count > 0) lines.push({ key, label, count, unit, why });
  };
  const pipes = pipesOf(runs, after, policy, solve);
  for (const p of pipes)
    line(
      p.key,
      p.label,
      p.plan.bought,
      `${plural(
        p.plan.laid.reduce((n, l) => n + l.pieces.length, 0),
        "piece",
      )}, with slack`,
      "roll",
    );
  for (const [kind, count] of counted(parts.map((p) => p.kind)))
    line(
      `kind:${kind}`,
      PART_KINDS.get(kind)?.label ?? kind,
      count,
      parts
        .filter((p) => p.kind === kind)
        .map((p) => p.name)
        .join(", "),
    );
  for (const [pipe, count] of [...ends].toSorted(([a], [b]) => (a < b ? -1 : 1))) {
    const system = PIPE_SYSTEMS.get(pipe);
    if (!system) continue;
    const { piece } = JOINTS[system.family];
    line(`joint:${pipe}`, `${piece}, ${system.label}`, count, plural(count, "end"));
  }
  for (const [label, count] of counted([...adapters, ...meetings(after, runs)]))
    line(`adapter:${label}`, `Adapter, ${label}`, count, "two systems meet");
  for (const [how, count] of sealants)
    line(
      `seal:${how}`,
      how === "washer" ? "Washers" : "Tape or paste",
      count,
      plural(count, "thread"),
    );
  for (const [pipe, of] of counted(runs.map((r) => r.pipe))) {
    const clips = runs
      .filter((r) => r.pipe === pipe)
      .reduce((n, r) => n + Math.ceil(r.lengthM / policy.clipM), 0);
    line(
      `clip:${pipe}`,
      `Clips, ${PIPE_SYSTEMS.get(pipe)?.label ?? pipe}`,
      clips,
      `one to every {m:${policy.clipM}}, ${plural(of, "pipe")}`,
    );
  }
  const walls = runs.filter((r) => {
    const [a, b] = [r.from, r.to].map((e) => after.parts.find((p) => p.id === e.part)?.place);
    return a !== undefined && b !== undefined && a !== b;
  }).length;
  line("sleeve", "Sleeves or edge guards", walls, "pipes that go from one place to another");
  const open = openEnds(before, after);
  line("plug", "Plugs to stop for the day", open.length, open.slice(0, 6).join(", "));
  const families = new Set(
    [...ends].flatMap(([pipe, n]) => (n > 0 ? (PIPE_SYSTEMS.get(pipe)?.family ?? []) : [])),
  );
  return {
    pipes,
    lines,
    tools: [...new Set([...families].flatMap((f) => [...JOINTS[f].tools]))],
    out: compareMaps(before, after).flatMap((d) =>
      d.change === "removed" || (d.what === "run" && d.details.some((t) => t.startsWith("pipe ")))
        ? [{ id: d.id, label: d.name }]
        : [],
    ),
    clashes: [...new Set(clashes)],
  };
};

/** Ports of what stays that lose their pipe while the work is on: each is capped when it stops for the day. */
export const openEnds = (before: WaterMap, after: WaterMap): string[] => {
  const fresh = new Set(newRuns(before, after).map((r) => r.id));
  const stays = new Set(after.parts.map((p) => p.id));
  const now = new Map(
    after.runs.flatMap((r) => [r.from, r.to].map((e) => [`${e.part}.${e.port}`, r.id])),
  );
  return before.runs.flatMap((run) =>
    [run.from, run.to].flatMap((e) => {
      const then = now.get(`${e.part}.${e.port}`);
      const isSame = then === run.id && !fresh.has(run.id);
      return stays.has(e.part) && !isSame ? [`${name(before, e.part)}, ${e.port}`] : [];
    }),
  );
};

/** Joint pieces of a hand-made list of fittings: each has one at every one of its ends. */
export const jointsOf = (fittings: Readonly<Record<string, number>>): number =>
  Object.entries(fittings).reduce((sum, [kind, count]) => {
    const ports = PART_KINDS.has(kind)
      ? portsOf({ id: "x", kind, name: kind, heightM: 0, params: {} }).length
      : 0;
    return sum + ports * count;
  }, 0);

export interface Priced {
  readonly lines: readonly (KitLine & {
    readonly each: number | null;
    readonly sum: number | null;
  })[];
  readonly sum: number;
  /** Of which nobody has written a price down. */
  readonly missing: readonly string[];
}

/** A kit at the workshop's own prices. */
export const priced = (
  lines: readonly KitLine[],
  prices: Readonly<Record<string, number>>,
): Priced => {
  const each = lines.map((l) => {
    const price = Object.hasOwn(prices, l.key) ? (prices[l.key] ?? null) : null;
    return { ...l, each: price, sum: price === null ? null : price * l.count };
  });
  return {
    lines: each,
    sum: each.reduce((total, l) => total + (l.sum ?? 0), 0),
    missing: each.flatMap((l) => (l.sum === null ? [l.label] : [])),
  };
};
