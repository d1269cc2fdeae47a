import { RULE_STANDARDS, type RuleValue } from "@uppershed/core/rules";
import { useRulesQuery } from "../store/api.ts";

/** What the house says on one point; as it was shipped until that is known. */
export const useRule = (key: string): RuleValue => {
  const { data } = useRulesQuery();
  return data?.now.values[key] ?? RULE_STANDARDS[key] ?? "";
};
