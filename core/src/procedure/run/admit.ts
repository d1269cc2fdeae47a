import type { Network } from "../../watermap/index.ts";
import type { Ask } from "../step.ts";
import type { RunEvent, RunEventBody } from "./events.ts";
import { looseEnds } from "./loose-ends.ts";
import { rowName, waitsFor } from "./row-order.ts";
import { refuse, type Refused, type RunState } from "./state.ts";

/**
 * Whether an entry makes sense on today's map and figures. Asked once, when it is entered and when the server takes it; never of what is
 * kept already.
 */

const wrongLineup = (
  network: Network,
  lineup: Readonly<Record<string, string>>,
): string | undefined => {
  for (const [key, position] of Object.entries(lineup)) {
    const control = network.controls.find((c) => c.key === key);
    if (!control) return `This map has no control "${key}".`;
    if (!control.spec.positions.some((p) => p.name === position))
      return `${control.part.name} has no position "${position}".`;
  }
  return undefined;
};

// A bucket reads no better than this; more than a vessel holds by more than this share is a slip of the pen.
const MEASURE_SLACK = 1.1;

/** Why a reading cannot be, or nothing. */
const impossible = (
  { network, readings }: RunState,
  ask: Pick<Ask, "kind" | "cell">,
  si: number,
): string | undefined => {
  if (!Number.isFinite(si)) return "That is not a number.";
  switch (ask.kind) {
    case "strength":
      return si < 0 || si > 1 ? "A strength lies between 0 and 100 %." : undefined;
    case "pressure":
      return si < -100_000 || si > 2_000_000 ? "No gauge here reads that." : undefined;
    case "temperature":
      return si < -50 || si > 110 ? "Water is not at that temperature." : undefined;
    case "recovered": {
      if (si < 0) return "A volume cannot be negative.";
      const cell = network.cells[network.cellIndex.get(ask.cell ?? "") ?? -1];
      return cell && si > cell.capacityM3 * MEASURE_SLACK
        ? `It holds only {m3:${cell.capacityM3}}.`
        : undefined;
    }
    case "antifreeze-left": {
      const brought = readings.findLast((r) => r.kind === "antifreeze-in");
      if (si < 0) return "A volume cannot be negative.";
      return brought && si > brought.si ? `Only ${brought.typed} was brought.` : undefined;
    }
    case "chlorine":
      return si < 0 || si > 1000 ? "No strip here reads that." : undefined;
    case "flow":
      return si < 0 || si > 0.01 ? "No tap here gives that." : undefined;
    default:
      return si < 0 ? "A volume cannot be negative." : undefined;
  }
};

const unknownPart = ({ network }: RunState, parts: readonly string[]): Refused | undefined => {
  const astray = parts.find((id) => !network.map.parts.some((p) => p.id === id));
  return astray === undefined
    ? undefined
    : refuse("unknown-part", `This map has no part "${astray}".`);
};

/** Why a step must not be done yet: what it needs was never signed, whatever was answered to it. */
const notYetSafe = ({ todo, done, cannot }: RunState, stepId: string): Refused | undefined => {
  const step = todo.find((s) => s.id === stepId);
  const missing = step?.needs.find((id) => !done.some((d) => d.step.id === id));
  if (!step || missing === undefined) return undefined;
  const name =
    [...todo, ...done.map((d) => d.step)].find((s) => s.id === missing)?.title ??
    cannot.find((c) => c.stepId === missing)?.title;
  return refuse(
    "out-of-order",
    `This is not safe before it is signed: ${name ?? "an earlier step"}. Answer with "can't do this".`,
  );
};

/** Why a row must not be ticked yet: inside its step another comes before it. */
const waits = (
  { network, todo, ticked }: RunState,
  { stepId, row }: Extract<RunEventBody, { type: "row-ticked" }>,
): Refused | undefined => {
  const [step] = todo;
  const first = step?.id === stepId ? waitsFor(network, step, ticked, row) : undefined;
  return first && refuse("out-of-order", `First: ${rowName(network, first.action)}.`);
};

/**
 * Why a body cannot be entered, or nothing. What its order has to do with is the fold's.
 * @param done it was done and entered on a device already: the order of a step's rows is a lock for the hand, not for what it has done
 */
export const admit = (
  state: RunState,
  body: RunEventBody,
  by: Pick<RunEvent["by"], "id">,
  { done = false }: { readonly done?: boolean } = {},
): Refused | undefined => {
  switch (body.type) {
    case "as-found": {
      const wrong = wrongLineup(state.network, body.lineup);
      return wrong ? refuse("unknown-part", wrong) : undefined;
    }
    case "reading": {
      const ask = [...state.done.map((d) => d.step), ...state.todo]
        .find((s) => s.id === body.stepId)
        ?.asks.find((a) => a.key === body.ask);
      const no = ask && impossible(state, ask, body.si);
      return no ? refuse("reading-impossible", no) : undefined;
    }
    case "corrected": {
      const old = state.readings.find((r) => r.event === body.event);
      const no = old && impossible(state, old, body.si);
      return no ? refuse("reading-impossible", no) : undefined;
    }
    case "row-ticked":
      return (
        notYetSafe(state, body.stepId) ?? (body.done && !done ? waits(state, body) : undefined)
      );
    case "step-signed":
      return notYetSafe(state, body.stepId);
    case "step-cannot":
      return unknownPart(state, body.parts);
    case "noticed":
      return body.part === undefined ? undefined : unknownPart(state, [body.part]);
    case "countersigned":
      return state.events.some((e) => e.body.type === "closed" && e.by.id === by.id)
        ? refuse("not-allowed", "Whoever has signed a sheet does not countersign it.")
        : undefined;
    case "as-left": {
      const wrong = wrongLineup(state.network, body.lineup);
      if (wrong) return refuse("unknown-part", wrong);
      const lineup = { ...state.physical.lineup, ...body.lineup };
      const untagged = looseEnds(state.network, state.physical, lineup).filter(
        (e) => e.mustTag && !body.tagged.some((t) => t.id === e.id),
      );
      return untagged.length > 0
        ? refuse("loose-end", `Make it good or tag it: ${untagged.map((e) => e.text).join("; ")}.`)
        : undefined;
    }
    default:
      return undefined;
  }
};
