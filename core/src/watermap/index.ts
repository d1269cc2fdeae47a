export {
  type CellId,
  cellId,
  type ControlKey,
  controlKey,
  readAsId,
  type IdOf,
  type OpeningId,
  openingId,
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
  type MapProblem,
  type MapResult,
  paramsOf,
  type Part,
  readWaterMap,
  RUN_SERVICES,
  type PipeRun,
  type WaterMap,
  waterMapSchema,
} from "./document.ts";
export { num } from "./kind.ts";
export type {
  ControlRole,
  KindGroup,
  OpeningUse,
  WearItem,
  ParamSpec,
  PartKind,
  PartRole,
} from "./kind.ts";
export { endLabel, mate, type Mating, pitchMm, type Thread, THREADS } from "./mating.ts";
export { migrate } from "./migrate.ts";
export { PART_KINDS } from "./kinds/index.ts";
export {
  buildNetwork,
  type Cell,
  cellAt,
  type CellGate,
  cellName,
  cellTold,
  type Control,
  gateOpen,
  handleOf,
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
  type WaterSide,
} from "./network.ts";
export {
  againstChecks,
  cheapest,
  type Cheapest,
  eachNeighbour,
  type MayGo,
  pruneDeadEnds,
  reach,
  reachInOrder,
  type Way,
  wayBy,
  wayTo,
  withChecks,
} from "./graph.ts";
export { type Weakest, weakestOf } from "./weakest.ts";
export {
  HEATED_HOSE_C,
  PIPE_SYSTEMS,
  type PipeFamily,
  type PipeSystem,
  pipeVolumeM3,
} from "./pipes.ts";
export {
  type ApartEnd,
  apartOpeningId,
  type LiveOpening,
  liveOpenings,
  passableLinks,
  type Situation,
} from "./situation.ts";
export {
  type Box,
  type Label,
  type LaidPart,
  type LaidRun,
  layOut,
  type MapLayout,
  type Point,
  type Side,
} from "./layout/index.ts";
export * from "./edit/index.ts";
