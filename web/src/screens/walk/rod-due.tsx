import { type InspectionPoint, NEW_ROD_M, rodVerdict } from "@uppershed/core/inspection";
import { showFigure } from "@uppershed/core/reckon";
import { useRule } from "../../planning/use-rule.ts";
import { useLooksAtQuery, usePartsQuery } from "../../store/api.ts";
import { useUnits } from "../../ui/units.ts";
import { dayOf } from "../../ui/words.ts";

/** When a sacrificial rod is due, from every thickness ever taken of it. */
export const RodDue = ({ unitId, point }: { unitId: string; point: InspectionPoint }) => {
  const { system } = useUnits();
  const renewAt = Number(useRule("anode.limit"));
  const { data: taken } = useLooksAtQuery({ unitId, key: point.key });
  const { data: register } = usePartsQuery({ unit: unitId });
  if (!taken || !register) return null;
  const fittedOn = register.parts.find((p) => p.partId === point.partId && p.item === "anode")?.life
    .fittedOn;
  const verdict = rodVerdict(
    { newM: NEW_ROD_M, ...(fittedOn ? { fittedOn } : {}) },
    taken.map((l) => ({ on: l.at, thicknessM: l.readings })),
    renewAt,
  );
  if (!verdict.ok)
    return <p className="mt-1 text-[14px] text-muted">When it is due: {verdict.problem}</p>;
  return (
    <details className="mt-1 text-[14px]">
      <summary>
        {verdict.due ? (
          <b className="text-rust">
            Renew it now: {Math.round(renewAt * 100)} % of its metal or less is left
          </b>
        ) : (
          <b>Renew it by {dayOf(verdict.renewBy)}</b>
        )}{" "}
        (worked out)
      </summary>
      <ul className="pl-4">
        {verdict.working.map((line) => (
          <li key={line}>{line}</li>
        ))}
        <li>{showFigure({ value: NEW_ROD_M, is: "length" }, system)} when new (assumed)</li>
      </ul>
    </details>
  );
};
