import { kindOfPart, type Part } from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import { confirm, type Context, has } from "./context.ts";

/** Machines that take water only when their programme calls for it (common practice, no source). */

const isMachine = (part: Part): boolean => kindOfPart(part).role.programme === true;

/** One that pumps out a sump of its own; without it there is only a small line to a valve. */
const hasSump = ({ network }: Context, part: Part): boolean =>
  network.cells.some((c) => c.ownerId === part.id && c.form === "trap");

/** What is set before its valves can be opened, once on a visit and medium. */
export const beforeMachine = (context: Context, part: Part, medium: string): Action[] => {
  const fact = `programme:${medium}:${part.id}`;
  if (!isMachine(part) || has(context, fact)) return [];
  return [
    confirm(
      fact,
      hasSump(context, part)
        ? `${part.name}: own stops open, set to a short warm cycle, which opens hot and cold`
        : `${part.name}: own stop open, its line undone at the back and held in a cup, or its test cycle started`,
    ),
  ];
};

/** What is owed to it afterwards. */
export const afterMachine = (context: Context, part: Part, medium: string): Action[] => {
  const fact = `programme-over:${medium}:${part.id}`;
  if (!isMachine(part) || has(context, fact)) return [];
  return [
    confirm(
      fact,
      hasSump(context, part)
        ? `${part.name}: pumped out, switched off, own stops shut`
        : `${part.name}: its line is back on, tight, own stop shut`,
    ),
  ];
};

export const machineCautions = (part: Part): string[] =>
  isMachine(part)
    ? [
        "It takes water only at its own time in the programme, which may be minutes on: wait for the valve to be heard.",
      ]
    : [];
