export { adopt, type Piece, piecesOf } from "./pieces.ts";
export { type Audit, auditMap, type AuditSettings, buriedParts } from "./audit.ts";
export { type BesideLine, besideOf, methodFor, savingOf } from "./beside.ts";
export { expansions, growthOf, takesShare } from "./expansion.ts";
export { type Habits, habitsSchema, limitSchema, slackMoment } from "./loads.ts";
export { type CutPiece, cutPlan, firstFit, type Solve } from "./cuts.ts";
export { solverOf } from "./solver.ts";
export { jointsOf, KIT_POLICY, openEnds, priced, type RefitKit, refitKit } from "./kit.ts";
export { fitOf, type Measured } from "./fit.ts";
export { rebase, withIdentities } from "./rebase.ts";
export {
  addToRefit,
  heldOpen,
  type Offer,
  progressOf,
  type Refit,
  type RefitBody,
  refitBodySchema,
  type RefitEntry,
  refitNow,
  TAKEN_OUT,
  WORK_STATES,
  type WorkState,
  workStateOf,
} from "./record.ts";
export { bothMaps } from "./together.ts";
export { isolationOf } from "./isolation.ts";
export { cardParts, jobCard } from "./job-card.ts";
export { commissioning, type CommissionRow, flowSaid } from "./commissioning.ts";
export { pipeFamilies, REPIPE_IN, repiped } from "./repipe.ts";
export { withBypass } from "./bypass.ts";
export { inOneGo } from "./one-go.ts";
