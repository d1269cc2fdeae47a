export { addLoose, addOnPort, addOnRun, connect, connectToRun, type Edited } from "./add.ts";
export {
  changeLineup,
  changePart,
  changeRun,
  duplicate,
  type PartChange,
  removePart,
  removeRun,
  type RunChange,
  tidied,
} from "./change.ts";
export { type End, openPorts, partOf, portSpecs, runAtPort, runOf, runsAt } from "./ends.ts";
export { freshId, freshName, nextTag, slug } from "./names.ts";
export { undrawnMap } from "./undrawn.ts";
