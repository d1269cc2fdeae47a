export {
  canBePlannedWith,
  curesIn,
  KIT_KINDS,
  KIT_WORDS,
  type KitFacts,
  type KitFactsGiven,
  kitFactsSchema,
  type KitKind,
  kitWarnings,
  lackingFor,
} from "./kit.ts";
