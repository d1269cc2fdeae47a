import type { Unit, Workshop } from "@uppershed/contract";
import { ruleInWords } from "@uppershed/core/rules";
import { useRule } from "../planning/use-rule.ts";
import { useRulesQuery } from "../store/api.ts";
import { useUnits } from "../ui/units.ts";

/** By which of the house's rules a unit's verdict is judged today. */
export const JudgedBy = ({ unit, workshop }: { unit: Unit; workshop: Workshop }) => {
  const { q, system } = useUnits();
  const { data: rules } = useRulesQuery();
  const basis = useRule("frost.basis");
  const place = unit.place ?? { name: workshop.name, winterLowC: workshop.winterLowC };
  return (
    <p className="mt-2 border-t border-line pt-2 text-[13px] text-muted">
      House rules{rules && rules.now.revision > 0 ? `, revision ${rules.now.revision}` : ""}:{" "}
      {ruleInWords("frost.basis", basis, system).toLowerCase()}. Winter low of {place.name}:{" "}
      {q(place.winterLowC, "temperature")}.
    </p>
  );
};
