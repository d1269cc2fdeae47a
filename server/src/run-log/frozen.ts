import type { KeptPlan, RunEvent, RunSetup, Said } from "@uppershed/core/procedure";
import { keptPlanSchema, saidSchema } from "@uppershed/core/procedure";
import { idFrom } from "../ids.ts";

/**
 * The planners of releases that kept no plans: what a run of theirs planned and what their engine said, made once more by the very
 * code that made it then, so that it can be kept. Never used for anything new.
 */

interface FrozenCell {
  readonly id: string;
  readonly part?: { readonly id: string; readonly kind: string };
}
interface FrozenControl {
  readonly key: string;
  readonly part: { readonly name: string; readonly tag?: string };
  readonly spec: { readonly name: string; readonly label: string; readonly role: string };
}
interface FrozenNetwork {
  readonly cells: readonly FrozenCell[];
  readonly controls: readonly FrozenControl[];
}
interface FrozenPhysical {
  readonly lineup: Readonly<Record<string, string>>;
  readonly apart: Said["apart"];
  readonly contents: readonly Said["contents"][string][];
  readonly facts: readonly string[];
  readonly drawnM3: number;
  readonly gone: Said["gone"];
  readonly came: Said["came"];
  readonly measured: ReadonlyMap<number, number>;
}
interface FrozenState {
  readonly network: FrozenNetwork;
  readonly phase: string;
  readonly physical: FrozenPhysical;
  readonly plan: Record<string, unknown>;
  readonly todo: readonly {
    readonly actions: readonly { readonly cell?: string }[];
    readonly asks: readonly { readonly cell?: string }[];
  }[];
  readonly asFound?: { readonly lineup: Readonly<Record<string, string>> };
}
interface FrozenSummary {
  readonly holdsToC: number | null;
  readonly stepsDone: number;
  readonly waterInLinesM3: number;
  readonly antifreezeUsedM3: number;
}
export interface Frozen {
  readonly readWaterMap: (document: unknown) => { ok: true; map: unknown } | { ok: false };
  readonly buildNetwork: (map: unknown) => FrozenNetwork;
  readonly startRun: (network: FrozenNetwork, setup: RunSetup) => FrozenState;
  readonly applyEvent: (
    state: FrozenState,
    event: unknown,
  ) => { ok: true; state: FrozenState } | { ok: false; problem: string; code: string };
  readonly summarize: (state: FrozenState) => FrozenSummary;
  readonly verdictNow: (state: FrozenState) => {
    holdsToC: number | null;
    weakest: { id: string } | null;
    owners: Said["owners"];
  };
  readonly doubtsNow: (state: FrozenState) => Said["doubts"];
  readonly waterInLines: (network: FrozenNetwork, physical: FrozenPhysical) => Said["lines"];
  readonly looseEnds: (
    network: FrozenNetwork,
    physical: FrozenPhysical,
    lineup: object,
  ) => NonNullable<Said["ends"]>;
  readonly inUseLineup: (network: FrozenNetwork) => Readonly<Record<string, string>>;
  readonly positionLabel: (control: FrozenControl, position: string) => string;
  readonly PART_KINDS: ReadonlyMap<
    string,
    { anatomy: (params: object) => { cells: readonly { name: string }[] } }
  >;
  readonly paramsOf: (part: object) => object;
}

/** Newest first: which of them made a run is told by the run itself. */
const NUMBERS = ["2", "1"] as const;
const loaded = new Map<string, Promise<Frozen>>();
export const frozenPlanner = (number: string): Promise<Frozen> => {
  const there =
    loaded.get(number) ??
    (import(
      new URL(`../../drizzle/frozen/planner-${number}.mjs`, import.meta.url).href
    ) as Promise<Frozen>);
  loaded.set(number, there);
  return there;
};

/** An event of those days, with who made it. */
export type OldEvent = Omit<RunEvent, "said">;

/** What must be kept with an old event, and the plan that was made after it. */
export interface Thawed {
  readonly event: OldEvent;
  readonly said?: Said;
  readonly planned?: RunEvent;
  /** Why the planner of then had no use for it. */
  readonly refused?: { readonly code: string; readonly problem: string };
}

/** Cells were named by their part alone where it had but one. */
const namer = (frozen: Frozen, network: FrozenNetwork): ((id: string) => string) => {
  const names = new Map(
    network.cells.flatMap(({ id, part }) => {
      if (part?.id !== id) return [];
      const [only] = frozen.PART_KINDS.get(part.kind)?.anatomy(frozen.paramsOf(part)).cells ?? [];
      return only ? [[id, `${id}:${only.name}`] as const] : [];
    }),
  );
  return (id) => names.get(id) ?? id;
};

const CHANGES_THE_UNIT: ReadonlySet<string> = new Set([
  "as-found",
  "step-signed",
  "corrected",
  "as-left",
]);

const turnsOf = (
  frozen: Frozen,
  network: FrozenNetwork,
  lineup: Readonly<Record<string, string>>,
): NonNullable<Said["turns"]> => {
  const use = frozen.inUseLineup(network);
  return network.controls
    .filter((c) => c.spec.role !== "check" && (lineup[c.key] ?? "") !== (use[c.key] ?? ""))
    .map((c) => ({
      control: c.key,
      tag: c.part.tag ?? "",
      name: c.spec.name === "main" ? c.part.name : `${c.part.name}, ${c.spec.label.toLowerCase()}`,
      now: frozen.positionLabel(c, lineup[c.key] ?? ""),
      inUse: frozen.positionLabel(c, use[c.key] ?? ""),
    }));
};

const json = (value: unknown): string => JSON.stringify(value);

interface Kept {
  readonly contents: Readonly<Record<string, Said["contents"][string]>>;
  readonly lineup: Readonly<Record<string, string>>;
  readonly facts: readonly string[];
  readonly owners: ReadonlyMap<string, Said["owners"][number]>;
}

/** What the engine of then said of the unit, and what of it is new. */
const wordsOf = (
  frozen: Frozen,
  version: string,
  state: FrozenState,
  before: Kept | undefined,
): { said: Said; kept: Kept } => {
  const { network, physical } = state;
  const name = namer(frozen, network);
  const verdict = frozen.verdictNow(state);
  const id = (cell: number): string => name(network.cells[cell]?.id ?? "");
  const contents = Object.fromEntries(
    physical.contents.map(({ plugs, source }, i) => [id(i), { plugs, source }]),
  );
  const owners = new Map(verdict.owners.map((o) => [o.id, { ...o, rank: o.rank ?? 0 }]));
  const said = saidSchema.parse({
    engine: version,
    contents: Object.fromEntries(
      Object.entries(contents).filter(
        ([cell, held]) => !before || json(before.contents[cell]) !== json(held),
      ),
    ),
    lineup: Object.fromEntries(
      Object.entries(physical.lineup).filter(([key, at]) => before?.lineup[key] !== at),
    ),
    apart: physical.apart,
    facts: physical.facts.filter((fact) => !before?.facts.includes(fact)),
    measured: Object.fromEntries(
      [...physical.measured].map(([cell, strength]) => [id(cell), strength]),
    ),
    drawnM3: physical.drawnM3,
    gone: { waterM3: physical.gone.waterM3, glycolM3: physical.gone.glycolM3 },
    came: { waterM3: physical.came.waterM3, glycolM3: physical.came.glycolM3 },
    holdsToC: verdict.holdsToC,
    weakest: verdict.weakest?.id ?? null,
    owners: [...owners.values()].filter((o) => json(before?.owners.get(o.id)) !== json(o)),
    doubts: frozen.doubtsNow(state),
    lines: frozen.waterInLines(network, physical),
  });
  return { said, kept: { contents, lineup: physical.lineup, facts: physical.facts, owners } };
};

/** The plan that was made, with the steps that were still to do, in the form in which plans are kept. */
const planOf = (frozen: Frozen, state: FrozenState): KeptPlan => {
  const name = namer(frozen, state.network);
  const named = <T extends { readonly cell?: string }>(x: T): T =>
    x.cell === undefined ? x : { ...x, cell: name(x.cell) };
  const { verdict: _verdict, after: _after, steps: _steps, ...rest } = state.plan;
  return keptPlanSchema.parse({
    cannotTell: [],
    ...rest,
    steps: state.todo.map((step) => ({
      ...step,
      actions: step.actions.map(named),
      asks: step.asks.map(named),
    })),
  });
};

/** Does a run once more with a planner of then, and keeps what it planned and said. */
export const thaw = (
  frozen: Frozen,
  version: string,
  document: unknown,
  setup: RunSetup,
  events: readonly OldEvent[],
): Thawed[] => {
  const read = frozen.readWaterMap(document);
  if (!read.ok) throw new Error("the map of an old run cannot be read by the planner of then");
  let state = frozen.startRun(frozen.buildNetwork(read.map), setup);
  let kept: Kept | undefined;
  return events.map((event) => {
    const applied = frozen.applyEvent(state, event);
    if (!applied.ok) return { event, refused: { code: applied.code, problem: applied.problem } };
    const before = state;
    state = applied.state;
    if (before === state) return { event };
    const { type } = event.body;
    const again = type !== "as-found" && state.plan !== before.plan;
    // After a step whose reading was too weak the state is what the next plan began from.
    const told =
      CHANGES_THE_UNIT.has(type) && (type !== "corrected" || state.physical !== before.physical);
    const words = told
      ? wordsOf(frozen, version, state, type === "as-found" ? undefined : kept)
      : undefined;
    if (words) kept = words.kept;
    const lineup =
      type === "as-found"
        ? state.asFound?.lineup
        : type === "as-left"
          ? state.physical.lineup
          : undefined;
    const said = words && {
      ...words.said,
      ...(type === "step-signed" && again ? { planAgain: true as const } : {}),
      ...(lineup ? { turns: turnsOf(frozen, state.network, lineup) } : {}),
      ...(type === "as-left"
        ? {
            ends: frozen
              .looseEnds(state.network, state.physical, state.physical.lineup)
              .map(({ id, text, mustTag }) => ({ id, text, mustTag })),
          }
        : {}),
    };
    const planned: RunEvent | undefined =
      type === "as-found" || again
        ? {
            id: idFrom(`plan after ${event.id}`),
            seq: event.seq,
            at: event.at,
            by: event.by,
            body: {
              type: "planned",
              because: event.id,
              planner: version,
              plan: planOf(frozen, state),
            },
          }
        : undefined;
    return { event, ...(said ? { said } : {}), ...(planned ? { planned } : {}) };
  });
};

/** What of a run its making version kept: by these figures the version is known again. */
export type MadeBy = Pick<
  FrozenSummary,
  "holdsToC" | "stepsDone" | "waterInLinesM3" | "antifreezeUsedM3"
>;

/** How far two summaries are apart, all figures taken together. */
const apart = (a: MadeBy, b: MadeBy): number =>
  Math.abs((a.holdsToC ?? 99) - (b.holdsToC ?? 99)) +
  Math.abs(a.stepsDone - b.stepsDone) +
  1000 * Math.abs(a.waterInLinesM3 - b.waterInLinesM3) +
  1000 * Math.abs(a.antifreezeUsedM3 - b.antifreezeUsedM3);

/** Which planner made a run: the one with which most of its entries have effect and its summary comes out nearest to what was kept. */
export const madeByPlanner = async (
  document: unknown,
  setup: RunSetup,
  events: readonly OldEvent[],
  summary: MadeBy,
): Promise<string> => {
  const tried = await Promise.all(
    NUMBERS.map(async (number) => {
      const frozen = await frozenPlanner(number);
      const read = frozen.readWaterMap(document);
      if (!read.ok)
        return { number, astray: Number.POSITIVE_INFINITY, apart: Number.POSITIVE_INFINITY };
      let state = frozen.startRun(frozen.buildNetwork(read.map), setup);
      let astray = 0;
      for (const event of events) {
        const applied = frozen.applyEvent(state, event);
        if (applied.ok) state = applied.state;
        else astray++;
      }
      return { number, astray, apart: apart(frozen.summarize(state), summary) };
    }),
  );
  const [best] = tried.toSorted((a, b) => a.astray - b.astray || a.apart - b.apart);
  return best?.number ?? NUMBERS[0];
};

/** Of the planners of then, the one by which a device made these entries. */
export const thawByBest = async (
  document: unknown,
  setup: RunSetup,
  events: readonly OldEvent[],
): Promise<Thawed[]> => {
  const tried = await Promise.all(
    NUMBERS.map(async (number) => {
      const frozen = await frozenPlanner(number);
      return frozen.readWaterMap(document).ok
        ? thaw(frozen, number, document, setup, events)
        : undefined;
    }),
  );
  const refused = (of: readonly Thawed[]): number => of.filter((t) => t.refused).length;
  const [best] = tried.filter((t) => t !== undefined).toSorted((a, b) => refused(a) - refused(b));
  if (!best) throw new Error("the map of an old run cannot be read by any planner of then");
  return best;
};
