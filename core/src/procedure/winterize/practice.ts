import { type Method, usesAir, usesProduct } from "../method.ts";
import type { Step } from "../step.ts";

/**
 * Steps that stand on the sheet as good practice: left out one at a time, the engine comes to the same, because something else does the same
 * work or because nothing aboard would freeze for it. A test leaves out every other step and row in turn and sees that something changes.
 */

const TOGETHER =
  "one of these rows alone changes nothing that is worked out; all of them let the air in, and keep the jug";

const PRACTICES: readonly {
  readonly is: (step: Step, method: Method) => boolean;
  readonly why: string;
}[] = [
  {
    is: ({ id, actions }) =>
      id.startsWith("drain:") &&
      actions.some((a) => a.type === "confirm" && a.fact.startsWith("emptied")),
    why: "a waste tank that is not full has room for ice; emptied, it has room for what is flushed out, and does not smell",
  },
  {
    is: ({ id }, method) =>
      (id === "drain:lines" || id === "drain:turn-through") && usesAir(method),
    why: "air takes out what this would; drained first, less water is pushed through the taps",
  },
  { is: ({ id }) => id === "drain:lines" || id === "drain:shut", why: TOGETHER },
  {
    is: ({ id }) => id === "drain:turn-through",
    why: "what is drained there thins no antifreeze; the handle goes back because the next step counts on it",
  },
  {
    is: ({ stage, actions }, method) =>
      stage === "air" && actions.some((a) => a.type === "blow") && usesProduct(method),
    why: "antifreeze comes here in any case; blown out first, it is thinned least",
  },
  {
    is: ({ stage, id }, method) => stage === "air" && id.endsWith(":on") && usesProduct(method),
    why: "without it nothing is blown; antifreeze comes here in any case, thinned more",
  },
  {
    is: ({ stage, actions }) => stage === "air" && actions.some((a) => a.type === "blow"),
    why: "an opening that another one's air has swept already is opened all the same: what was not opened proves nothing",
  },
  {
    is: ({ id }, method) => method !== "dry" && id.startsWith("drain:") && id.endsWith(":bowl"),
    why: "a cartridge that stays in keeps water and thins what comes after, which the engine does not see",
  },
  {
    is: ({ id, asks }, method) =>
      usesAir(method) && id.startsWith("drain:") && asks.some((a) => a.kind === "recovered"),
    why: "a vessel is emptied by its own hole and what comes is caught, whatever else would empty it",
  },
  {
    is: ({ stage }) => stage === "bypass",
    why: "more than one handle can have the same effect; all of them are set so that none is forgotten in spring",
  },
];

/** A step with the reason why it is good practice, where it is. */
export const asPractice = (step: Step, method: Method): Step => {
  const found = PRACTICES.find((p) => p.is(step, method));
  return found ? { ...step, practice: found.why } : step;
};
