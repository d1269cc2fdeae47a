export { isChoice, type NumberPoint, RULE_SECTIONS, type RulePoint } from "./point.ts";
export {
  pointOf,
  RULE_POINTS,
  RULE_STANDARDS,
  ruleInWords,
  type RuleValue,
  type RuleValues,
  ruleValuesSchema,
} from "./rules.ts";
