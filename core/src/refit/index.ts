export { adopt, type Adopted, type Piece, piecesOf } from "./pieces.ts";
export { type Audit, auditMap, auditMethod, type AuditSettings, buriedParts } from "./audit.ts";
export { type BesideLine, besideOf, methodFor, type Saving, savingOf } from "./beside.ts";
export { expansions, growthOf, takesShare } from "./expansion.ts";
export { type Habits, habitsSchema, type Limit, limitSchema, slackMoment } from "./loads.ts";
export { type CutPiece, type CutPlan, cutPlan, firstFit, type Solve } from "./cuts.ts";
export { type LoadedSolver, solverOf } from "./solver.ts";
export {
  jointsOf,
  KIT_POLICY,
  type KitLine,
  type KitPolicy,
  openEnds,
  type PipeCut,
  priced,
  type Priced,
  type RefitKit,
  refitKit,
} from "./kit.ts";
export { type FitAnswer, fitOf, type Measured } from "./fit.ts";
export { rebase, type Rebased, withIdentities } from "./rebase.ts";
export {
  addToRefit,
  heldOpen,
  type Progress,
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
export { type Isolation, isolationOf } from "./isolation.ts";
export { cardParts, jobCard, type JobCard } from "./job-card.ts";
export {
  commissioning,
  type CommissionPart,
  type CommissionRow,
  flowSaid,
} from "./commissioning.ts";
export { pipeFamilies, REPIPE_IN, repiped } from "./repipe.ts";
