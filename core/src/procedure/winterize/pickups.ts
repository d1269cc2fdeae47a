import { totalAboard, volumeOf } from "../../contents/index.ts";
import { type Control, type Opening, passableLinks, reach } from "../../watermap/index.ts";
import { usesProduct } from "../method.ts";
import type { Action } from "../step.ts";
import {
  addStep,
  type Context,
  controlByKey,
  controlsOf,
  rehearse,
  seaIsShut,
  sortedByPlace,
  turn,
  turnedBack,
  v,
} from "./context.ts";

/** A pickup's own line, by methods that draw nothing through it: nobody passes it, and it keeps what it had. It is let out by its hose. */

const WORTH_M3 = 5e-6;
const MOST_TURNS = 3;

/** Cells that are joined to the pickup's mouth on this side of the pump; vessels are not asked. */
const joined = (context: Context, opening: Opening, turns: readonly Action[]): number[] => {
  const { physical } = rehearse(context, turns);
  const passable = passableLinks({ network: context.network, ...physical });
  const met = reach(
    context.network,
    [opening.cell],
    (link) => passable[link] === true && context.network.links[link]?.drivenBy === undefined,
  );
  return context.network.cells.flatMap((cell, i) =>
    met[i] === 1 && cell.form !== "vessel" ? [i] : [],
  );
};

/** The turn of one more valve that joins most to it; nothing where none does. */
const nextTurn = (context: Context, opening: Opening, turns: readonly Action[]): Action[] => {
  const isFresh = (c: Control): boolean =>
    context.network.cells.every((cell) => cell.ownerId !== c.part.id || cell.side === "fresh");
  const now = joined(context, opening, turns).length;
  return sortedByPlace(context, [
    ...controlsOf(context, "valve"),
    ...controlsOf(context, "selector"),
  ])
    .filter(isFresh)
    .filter((c) => !turns.some((t) => t.type === "set-valve" && t.control === c.key))
    .flatMap((c) => c.spec.positions.map((p) => turn(context, c, p.name)))
    .filter((t) => t.length > 0)
    .map((t) => ({ t, gains: joined(context, opening, [...turns, ...t]).length - now }))
    .reduce((best, one) => (one.gains > best.gains ? one : best), { t: [] as Action[], gains: 0 })
    .t;
};

interface Letting {
  readonly actions: readonly Action[];
  readonly outM3: number;
}

/** What is let out by the hose with these turned, the strainers that are joined to it opened for air, and everything put back. */
const letting = (context: Context, opening: Opening, turns: readonly Action[]): Letting => {
  const cells = joined(context, opening, turns);
  const bowls = controlsOf(context, "bowl").filter((c) =>
    cells.some((cell) => context.network.cells[cell]?.ownerId === c.part.id),
  );
  const open = [...turns, ...bowls.flatMap((c) => turn(context, c, "open"))];
  const actions: Action[] = [...open, { type: "drain" }, ...back(context, open)];
  const after = rehearse(context, actions).physical;
  return { actions, outM3: aboard(context.physical.contents) - aboard(after.contents) };
};

/** The hose out, then one valve after another until something runs. */
const lettingOut = (context: Context, opening: Opening, hose: Control): Letting | undefined => {
  let turns = turn(context, hose, opening.gate?.in[0] ?? "");
  for (let n = 0; n <= MOST_TURNS; n++) {
    const tried = letting(context, opening, turns);
    if (tried.outM3 >= WORTH_M3) return tried;
    const next = nextTurn(context, opening, turns);
    if (next.length === 0) return undefined;
    turns = [...turns, ...next];
  }
  return undefined;
};

const back = (context: Context, turns: readonly Action[]): Action[] =>
  turns.toReversed().flatMap((a) => turnedBack(context, a));

const aboard = (contents: Context["physical"]["contents"]): number =>
  volumeOf(totalAboard(contents));

/** Lets every pickup's line out. A strainer's bowl on the way comes off for it: it lets the air in. */
export const planPickups = (context: Context): void => {
  if (usesProduct(context.request.method ?? "antifreeze") || !seaIsShut(context)) return;
  for (const opening of context.network.openings) {
    const hose = opening.gate && controlByKey(context, opening.gate.key);
    const isFresh = context.network.cells[opening.cell]?.side === "fresh";
    if (opening.use !== "pickup" || !isFresh || !hose || context.blocked.has(opening.part.id))
      continue;
    const found = lettingOut(context, opening, hose);
    if (!found) continue;
    const { actions, outM3 } = found;
    addStep(context, {
      id: `drain:${opening.part.id}:line`,
      stage: "drain",
      title: `Let out the line of the ${opening.part.name.toLowerCase()}`,
      actions,
      why: "Nothing is drawn through it this time: what it had stays in it, shut off at both ends, and freezes.",
      expect: `About ${v(outM3)} at the hose, held low; then everything back as it was.`,
      cautions: [
        "Pressure off first: a bowl under pressure leaves its thread like a cork. Mop up what runs.",
      ],
      needs: ["secure:pump-and-supply"],
      minutes: 3,
    });
  }
};
