export {
  type CellId,
  cellId,
  type ControlKey,
  controlKey,
  readAsId,
  type IdOf,
  type OpeningId,
  type PartId,
  pipeCellId,
  type PipeRunId,
} from "./ids.ts";
export {
  controlsOfPart,
  MAP_VERSION,
  MODES,
  type Mode,
  portsOf,
  partSchema,
  paramsOf,
  type Part,
  readWaterMap,
  RUN_SERVICES,
  type PipeRun,
  type WaterMap,
  waterMapSchema,
} from "./document.ts";
export { num } from "./kind.ts";
export { paramSchema } from "./param.ts";
export { endLabel, mate, pitchMm, type Thread, THREADS } from "./mating.ts";
export { PART_KINDS } from "./kinds/index.ts";
export { buildNetwork, cellTold, cellWith, withLinks } from "./build-network.ts";
export {
  type Cell,
  cellAt,
  cellName,
  type Control,
  gateOpen,
  handleOf,
  freshTanks,
  heatersOf,
  inUseLineup,
  kindOfPart,
  type Lineup,
  type Link,
  linkOpen,
  type Network,
  type Opening,
  placeRank,
  positionLabel,
  roleOf,
} from "./network.ts";
export {
  againstChecks,
  cheapest,
  type Cheapest,
  pruneDeadEnds,
  reach,
  reachInOrder,
  type Way,
  wayBy,
  wayTo,
  withChecks,
} from "./graph.ts";
export { weakestOf } from "./weakest.ts";
export { HEATED_HOSE_C, type PipeSystem, PIPE_SYSTEMS, pipeVolumeM3 } from "./pipes.ts";
export {
  type ApartEnd,
  apartOpeningId,
  type LiveOpening,
  liveOpenings,
  passableLinks,
  type Situation,
  pipeEndOpeningId,
} from "./situation.ts";
export {
  type LaidPart,
  type LaidRun,
  layOut,
  type MapLayout,
  type Point,
  type Side,
} from "./layout/index.ts";
export * from "./edit/index.ts";
