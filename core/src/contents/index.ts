export { betweenOpenEnds } from "./between.ts";
export {
  type CellContents,
  type Contents,
  liquidIn,
  liquidVolume,
  type Source,
  startingContents,
  totalAboard,
} from "./contents.ts";
export { drain, type DrainResult, emptyingTimeS } from "./drain.ts";
export { type Drive, findFlow, type Flow, type FlowResult } from "./flow.ts";
export {
  type CellState,
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
export { push, type Push, type PushResult, settleOverflow } from "./push.ts";
export { fall, pour, runDown, type Spill } from "./waste.ts";
export {
  type Carriers,
  leave,
  moveOn,
  NO_PACKET,
  Pace,
  type Packet,
  type Passage,
  type Station,
  stationsOf,
  stepOf,
  volumeIn,
} from "./move.ts";
export { COMMON_NIGHT, type Night, nightWatch, type NightWatch } from "./night.ts";
export { levelTanks, type Linked, linkedTanks, overHumps } from "./tanks.ts";
export type { AtRest, CushionRest } from "./cushions.ts";
export { pouredInto, remade, situationOf, type Standing, turned, undone } from "./standing.ts";
