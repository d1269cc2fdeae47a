export {
  controlKey,
  type MapProblem,
  type MapResult,
  paramsOf,
  type Part,
  readWaterMap,
  type Run,
  splitControl,
  type WaterMap,
  waterMapSchema,
} from "./document.ts";
export type { ControlRole, OpeningUse, PartKind, PartRole } from "./kind.ts";
export { PART_KINDS } from "./kinds/index.ts";
export {
  buildNetwork,
  type Cell,
  cellName,
  type Control,
  gateOpen,
  handleOf,
  inUseLineup,
  kindOfPart,
  type Lineup,
  type Link,
  type Network,
  type Opening,
  positionLabel,
  roleOf,
} from "./network.ts";
export { PIPE_SYSTEMS, type PipeSystem, pipeVolumeM3 } from "./pipes.ts";
export { type ApartEnd, apartOpeningId, type LiveOpening, liveOpenings, passableLinks, type Situation } from "./situation.ts";
export { type Box, type Label, type LaidPart, type LaidRun, layOut, type MapLayout, type Point, type Side } from "./layout/index.ts";
