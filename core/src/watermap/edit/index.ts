export {
  addLoose,
  addOnPort,
  addOnPipeRun,
  connect,
  connectToPipeRun,
  type Edited,
} from "./add.ts";
export {
  changePart,
  changePipeRun,
  duplicate,
  type PartChange,
  removePart,
  removePipeRun,
  type PipeRunChange,
  tidied,
} from "./change.ts";
export { type End, openPorts, partOf, runAtPort, pipeRunOf, runsAt } from "./ends.ts";
export { freshId, nextTag, slug } from "./names.ts";
export { undrawnMap } from "./undrawn.ts";
