import { type FrostBasis, liquidIn, volumeOf } from "../../contents/index.ts";
import {
  type Control,
  gateOpen,
  handleOf,
  type Network,
  passableLinks,
  placeRank,
  positionLabel,
  reach,
} from "../../watermap/index.ts";
import { HOUSE_LIMITS, type HouseLimits } from "../house-settings.ts";
import type { Method } from "../method.ts";
import { act, type Effect } from "../act.ts";
import { type Physical } from "../physical.ts";
import type { Action, Step } from "../step.ts";

/** A thing that a technician could not do, and why. */
export interface Cannot {
  readonly stepId: string;
  /** Parts that stay as they are. */
  readonly parts: readonly string[];
  readonly reason: string;
}

interface Product {
  readonly name: string;
  /** Glycol by volume, 0 to 0.60. */
  readonly strength: number;
  readonly jugM3: number;
}

/** What the planner is asked. Same request, same plan. */
export interface WinterizeRequest {
  /** What takes the water's place; antifreeze where nobody said otherwise. */
  readonly method?: Method;
  readonly network: Network;
  readonly start: Physical;
  /** The place's winter low, °C. */
  readonly winterLowC: number;
  /** How far below the winter low everything should hold, K. */
  readonly marginC: number;
  readonly basis: FrostBasis;
  readonly product: Product;
  readonly cannot: readonly Cannot[];
  /** Ids of steps that are left undone as they are, with everything that needs them. */
  readonly undone?: readonly string[];
  /** Product for each trap, m3, at least. */
  readonly trapDoseM3: number;
  /** What else the house decides; as it was shipped where nobody said otherwise. */
  readonly house?: HouseLimits;
  /** Run the nearest outlet first: shows what the order costs. */
  readonly nearestFirst?: boolean;
  /** Fill the heaters on purpose although a bypass would keep product out: shows what the bypass saves. */
  readonly heaterInLine?: boolean;
}

/** The plan in the making: the unit as it will stand, and the steps so far. */
export interface Context {
  readonly request: WinterizeRequest;
  readonly network: Network;
  physical: Physical;
  readonly steps: Step[];
  readonly blocked: ReadonlySet<string>;
  /** Cells that product has passed so far, by index. */
  readonly swept: Set<number>;
  /** Steps that are not to be done: left undone themselves, or needing one that is. With the parts that stay as they are for it. */
  readonly closed: Map<string, readonly string[]>;
  /** Heaters that have been emptied by suction and are to stay so: no product goes into them. */
  readonly keptOut: Set<string>;
  /** With so much product drawn, m3, the plan is no good: another is there that draws less. */
  readonly goodBelowM3: number;
}

export const newContext = (request: WinterizeRequest): Context => ({
  request,
  network: request.network,
  physical: request.start,
  steps: [],
  blocked: new Set(request.cannot.flatMap((c) => c.parts)),
  swept: new Set(),
  closed: new Map(),
  keptOut: new Set(),
  goodBelowM3: Number.POSITIVE_INFINITY,
});

/** Whether a control's part opens to the outside within some cells. */
export const opensWithin = (
  { network }: Context,
  { part }: Control,
  cells: ReadonlySet<number>,
): boolean => network.openings.some((o) => o.part.id === part.id && cells.has(o.cell));

/** Whether nobody wants this plan any more, and the rest of it need not be laid out. */
export const isNoGood = ({ physical, goodBelowM3 }: Context): boolean =>
  physical.drawnM3 >= goodBelowM3;

export const houseOf = (context: Context): HouseLimits => context.request.house ?? HOUSE_LIMITS;

export const has = (context: Context, fact: string): boolean =>
  context.physical.facts.includes(fact);

/** The row that turns a control from one position to another. */
export const setValve = (control: Control, from: string, position: string): Action => ({
  type: "set-valve",
  control: control.key,
  position,
  from,
  label:
    control.spec.name === "main"
      ? control.part.name
      : `${control.part.name}, ${control.spec.label.toLowerCase()}`,
  tag: control.part.tag ?? "",
  handle: handleOf(control, position),
});

/** The action that turns a control, or nothing if it already stands so. */
export const turn = (
  context: Context,
  control: Control | undefined,
  position: string,
): Action[] => {
  if (!control) return [];
  const from = context.physical.lineup[control.key] ?? control.spec.inUse;
  return from === position ? [] : [setValve(control, from, position)];
};

/** The row that puts back what a row has turned. */
export const turnedBack = (context: Context, action: Action): Action[] => {
  const control = action.type === "set-valve" ? controlByKey(context, action.control) : undefined;
  return control && action.type === "set-valve"
    ? [setValve(control, action.position, action.from)]
    : [];
};

export const confirm = (fact: string, label: string): Action => ({ type: "confirm", fact, label });

export const controlsOf = (context: Context, role: Control["spec"]["role"]): Control[] =>
  context.network.controls.filter((c) => c.spec.role === role && !context.blocked.has(c.part.id));

/** Caps of the inlets by which a supply or a tank's rinse comes in; a post that presses is none of them. */
export const inletCaps = (context: Context): Control[] =>
  controlsOf(context, "cap").filter((c) =>
    context.network.openings.some(
      (o) => o.part.id === c.part.id && (o.use === "supply" || o.use === "flush") && !o.pressed,
    ),
  );

/** Pumps of the drinking side; what lifts sea or lake water draws no antifreeze and is not run dry. */
export const freshPumps = (context: Context): Control[] =>
  controlsOf(context, "switch").filter((c) => {
    const link = context.network.links.find((l) => l.drivenBy === c.key);
    return link !== undefined && context.network.cells[link.b]?.side === "fresh";
  });

/** Whether something stands between the sea and a control: raw water is let in by nothing that is open. */
export const seaIsShut = (context: Context): boolean =>
  !context.network.openings.some((o) => o.use === "raw" && isLetIn(context, o));

const isLetIn = ({ network, physical }: Context, sea: Network["openings"][number]): boolean => {
  if (!gateOpen(sea.gate, physical.lineup)) return false;
  const passable = passableLinks({ network, lineup: physical.lineup, apart: physical.apart });
  return reach(network, [sea.cell], (link) => passable[link] === true).some(
    (mark, cell) => mark === 1 && network.cells[cell]?.ownerId !== sea.part.id,
  );
};

export const controlByKey = (context: Context, key: string): Control | undefined =>
  context.network.controls.find((c) => c.key === key);

export interface Rehearsal {
  readonly physical: Physical;
  readonly effects: readonly Effect[];
}

// What has just been tried is usually done next: the same actions on the same unit come to the same.
const rehearsed = new WeakMap<
  readonly Action[],
  { readonly from: Physical; readonly network: Network; readonly came: Rehearsal }
>();

/** Does actions on the unit in the making, without writing a step; used to see what they would bring. */
export const rehearse = (context: Context, actions: readonly Action[]): Rehearsal => {
  const known = rehearsed.get(actions);
  if (known?.from === context.physical && known.network === context.network) return known.came;
  const came = tryOut(context, actions);
  rehearsed.set(actions, { from: context.physical, network: context.network, came });
  return came;
};

const tryOut = (context: Context, actions: readonly Action[]): Rehearsal => {
  let physical = context.physical;
  const effects: Effect[] = [];
  for (const action of actions) {
    const effect = act(context.network, physical, action, context.request.product.strength);
    effects.push(effect);
    physical = effect.physical;
  }
  return { physical, effects };
};

/** Whether a step was answered with "can't do this" and is not planned again. */
export const isLeftUndone = (context: Context, stepId: string): boolean =>
  context.request.undone?.includes(stepId) ?? false;

const sentence = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

type Draft = Omit<Step, "asks" | "needs" | "cautions" | "parts" | "antifreezeM3" | "where"> &
  Partial<Pick<Step, "asks" | "needs" | "cautions" | "parts" | "where">>;

/** What was expected is written on what is pumped: whoever runs it can see no more than that and what comes out. */
const withVolume = (action: Action, effect: Effect | undefined): Action =>
  (action.type === "pump" && action.wants) || action.type === "supply"
    ? { ...action, aboutM3: Number((effect?.push?.movedM3 ?? 0).toPrecision(6)) }
    : withDrawn(action, effect);
const withDrawn = (action: Action, effect: Effect | undefined): Action =>
  (action.type === "pump" || action.type === "push-by-hand") && effect?.push
    ? { ...action, aboutM3: Number(effect.push.drawnM3.toPrecision(6)) }
    : action;

/** A vessel through which product only ran to its plug hole has not been filled. */
const isFilled = (network: Network, physical: Physical, cell: number): boolean => {
  const { form, capacityM3 = 0 } = network.cells[cell] ?? {};
  return form !== "vessel" || volumeOf(liquidIn(physical.contents[cell])) > 0.5 * capacityM3;
};

/** Writes a step and does it, unless it is left undone or needs one that is. Its parts and place come from the controls it turns unless they are given. */
export const addStep = (context: Context, draft: Draft): void => {
  if (
    isLeftUndone(context, draft.id) ||
    draft.needs?.some((id) => isLeftUndone(context, id) || context.closed.has(id))
  ) {
    context.closed.set(draft.id, draft.parts ?? []);
    return;
  }
  const { physical, effects } = rehearse(context, draft.actions);
  for (const effect of effects)
    if (effect.push && effect.push.drawnM3 > 0)
      for (const cell of effect.push.swept)
        if (isFilled(context.network, physical, cell)) context.swept.add(cell);
  const parts = draft.parts ?? [
    ...new Set(
      draft.actions.flatMap((a) =>
        a.type === "set-valve" ? (controlByKey(context, a.control)?.part.id ?? []) : [],
      ),
    ),
  ];
  const places = [
    ...new Set(
      parts
        .map((id) => context.network.map.parts.find((p) => p.id === id)?.place ?? "")
        .filter(Boolean),
    ),
  ];
  const access = [
    ...new Set(
      parts
        .map((id) => context.network.map.parts.find((p) => p.id === id)?.access ?? "")
        .filter(Boolean),
    ),
  ];
  const where =
    draft.where ?? [places.join("; "), ...access].filter(Boolean).map(sentence).join(". ");
  context.steps.push({
    ...draft,
    actions: draft.actions.map((a, i) => withVolume(a, effects[i])),
    asks: draft.asks ?? [],
    cautions: draft.cautions ?? [],
    needs: (draft.needs ?? []).filter((id) => context.steps.some((s) => s.id === id)),
    parts,
    where: sentence(where),
    antifreezeM3: physical.drawnM3 - context.physical.drawnM3,
  });
  context.physical = physical;
};

/** Order of a walk round the unit: by the map's places, then by name. */
export const byPlace = (
  context: Context,
  a: { place?: string | undefined; id: string },
  b: { place?: string | undefined; id: string },
): number =>
  placeRank(context.network.map, a.place) - placeRank(context.network.map, b.place) ||
  (a.id < b.id ? -1 : 1);

export const sortedByPlace = (context: Context, controls: readonly Control[]): Control[] =>
  [...controls].sort((a, b) => byPlace(context, a.part, b.part) || (a.key < b.key ? -1 : 1));

// Common practice, no source: a tap on a 12 V pump gives about 7 L a minute.
export const TAP_M3_PER_S = 0.00012;

// A vessel that holds up to this many times what always stays in it has been emptied (our own).
export const NEARLY_EMPTY = 1.3;

/** Liquid held in a cell, m3. */
export const heldIn = (context: Context, cell: number): number =>
  volumeOf(liquidIn(context.physical.contents[cell]));

/** A volume for a text that is shown in the reader's units later. */
export const v = (m3: number): string => `{m3:${Number(m3.toPrecision(4))}}`;
/** A temperature for such a text. */
export const t = (celsius: number): string => `{c:${Number(celsius.toFixed(1))}}`;
export const pct = (share: number): string => `${Math.round(share * 100)} %`;

export const labelOf = (control: Control, position: string): string =>
  positionLabel(control, position);
