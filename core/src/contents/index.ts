export { betweenOpenEnds } from "./between.ts";
export {
  type CellContents,
  type Contents,
  holding,
  liquidIn,
  liquidVolume,
  startingContents,
  totalAboard,
} from "./contents.ts";
export { drain, type DrainResult, emptyingTimeS } from "./drain.ts";
export { type Drive, type Flow } from "./flow-ways.ts";
export { findFlow, type FlowResult } from "./flow.ts";
export {
  type FrostBasis,
  type FrostVerdict,
  frostVerdict,
  type Measured,
  type OwnerVerdict,
  unprotectedAt,
  type Verdict,
} from "./frost.ts";
export {
  bodiesOf,
  type Body,
  bodyOf,
  chlorineOf,
  foreignShare,
  type Mixture,
  NOTHING,
  plus,
  product,
  strengthOf,
  sum,
  take,
  volumeOf,
  warmthOf,
  water,
} from "./mixture.ts";
export { push, type PushResult, settleOverflow } from "./push.ts";
export type { Wanted } from "./push-order.ts";
export { fall, pour, runDown, type Spill, wasteTankBelow } from "./waste.ts";
export { leave, moveOn, NO_PACKET, type Packet, volumeIn } from "./move.ts";
export { Pace } from "./pace.ts";
export { type Station, stationsOf } from "./stations.ts";
export { COMMON_NIGHT, nightWatch } from "./night.ts";
export { levelTanks, type Linked, linkedTanks, overHumps } from "./tanks.ts";
export type { CushionRest } from "./cushions.ts";
export { pouredInto, remade, situationOf, type Standing, turned, undone } from "./standing.ts";
