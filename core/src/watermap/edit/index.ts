export {
  addLoose,
  addOnPort,
  addOnPipeRun,
  connect,
  connectToPipeRun,
  type Edited,
} from "./add.ts";
export {
  changeLineup,
  changePart,
  changePipeRun,
  duplicate,
  type PartChange,
  removePart,
  removePipeRun,
  type PipeRunChange,
  tidied,
} from "./change.ts";
export { type End, openPorts, partOf, portSpecs, runAtPort, pipeRunOf, runsAt } from "./ends.ts";
export { freshId, freshName, nextTag, slug } from "./names.ts";
export { undrawnMap } from "./undrawn.ts";
