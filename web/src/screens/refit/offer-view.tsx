import type { RunSetup } from "@uppershed/core/procedure";
import { besideOf, habitsSchema, methodFor, savingOf } from "@uppershed/core/refit";
import { ANSWERS_TOLD } from "@uppershed/core/inspection";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { jugPriceOf } from "../../planning/house.ts";
import { EVER } from "../../planning/use-visit-here.ts";
import { useAudit } from "../../refitting/use-audit.ts";
import { useRefitEntry } from "../../refitting/use-refit.ts";
import { useKitQuery, useVisitsQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { dayOf } from "../../ui/words.ts";
import type { OfRefit } from "./of-refit.ts";

const MOST_LINES = 12;
const OURS: ReadonlySet<string> = new Set([
  "steps",
  "jugs",
  "valves, drains and hatches whose access is not written down",
]);

/** What the owner is told: what gets better or worse, what it costs, what it saves; quantities as marks for their units. */
const useTold = ({ here, setup }: OfRefit & { setup: RunSetup | undefined }) => {
  const { habits, limits, cost, hour } = here.onFile.refit;
  const { data: kit } = useKitQuery();
  const settings = useMemo(
    () => ({ habits: habits ?? habitsSchema.parse({}), limits: limits ?? [] }),
    [habits, limits],
  );
  const before = useAudit("before", here.today, setup, settings);
  const after = useAudit("after", here.proposed, setup, settings);
  return useMemo(() => {
    if (!before.audit || !after.audit || !setup) return undefined;
    if (before.done < before.of || after.done < after.of) return undefined;
    const method = methodFor(after.audit, setup.method);
    const saving = savingOf(before.audit, after.audit, method, {
      jug: jugPriceOf(kit?.kit ?? [], setup),
      hour,
      cost,
    });
    const others = new Set(
      after.audit.methods.flatMap((m) => (m.method === method ? [] : [m.label])),
    );
    const lines = besideOf(before.audit, after.audit)
      // An owner is told of the one way in which their unit is winterized, and of nothing that only the shed counts.
      .filter((l) => !others.has(l.about) && !OURS.has(l.label))
      .filter((l) => l.change === "better" || l.change === "worse")
      .slice(0, MOST_LINES)
      .map((l) => `${l.about}, ${l.label}: ${l.before} today, ${l.after} then (${l.change}).`);
    return [
      ...lines,
      ...(saving && Math.abs(saving.antifreezeM3) > 1e-5
        ? [
            `Each autumn ${saving.antifreezeM3 > 0 ? "less" : "more"} antifreeze by {m3:${Number(Math.abs(saving.antifreezeM3).toPrecision(2))}}, ${saving.minutes >= 0 ? "less" : "more"} work by ${Math.abs(Math.round(saving.minutes))} min.`,
          ]
        : []),
      ...(cost === undefined ? [] : [`It costs ${cost.toFixed(2)}.`]),
      ...(saving?.paysBackYears ? [`Back after ${saving.paysBackYears.toFixed(1)} years.`] : []),
    ];
  }, [before, after, setup, kit, hour, cost]);
};

/** The proposal put to the owner, with both maps as they are now: read and answered by the link to a visit's report. */
export const OfferView = (of: OfRefit & { setup: RunSetup | undefined }) => {
  const { here, unitId, refitId, mayWork } = of;
  const { text } = useUnits();
  const told = useTold(of);
  const enter = useRefitEntry(unitId, refitId);
  const { data: visits = [] } = useVisitsQuery({ ...EVER, unit: unitId });
  const [visitId, setVisit] = useState<string>();
  const visit = visits.find((v) => v.id === visitId) ?? visits.at(-1);
  const [problem, setProblem] = useState<string>();
  const { offers, cost } = here.onFile.refit;
  const offer = async (): Promise<void> => {
    if (!told || !visit) return;
    setProblem(
      await enter({
        type: "offered",
        visitId: visit.id,
        lines: told,
        ...(cost === undefined ? {} : { cost }),
        today: here.today,
        proposed: here.proposed,
      }),
    );
  };
  return (
    <div className="max-w-[760px]">
      <h2 className="mt-2 text-[16px] font-bold">What the owner is told</h2>
      {told === undefined ? (
        <p role="status" className="text-muted">
          Both maps are being judged…
        </p>
      ) : told.length === 0 ? (
        <p className="text-muted">Nothing gets better or worse yet that could be told.</p>
      ) : (
        <ul className="ml-5 list-disc text-[15px]">
          {told.map((l) => (
            <li key={l}>{text(l)}</li>
          ))}
        </ul>
      )}
      {mayWork && (
        <div className="mt-3 flex flex-wrap items-end gap-3">
          {visits.length > 0 && (
            <label className="text-[15px]">
              <span className="font-semibold">With the report of the visit</span>
              <select
                className="field mt-1 w-full"
                value={visit?.id ?? ""}
                onChange={(e) => setVisit(e.target.value)}
              >
                {visits.toReversed().map((v) => (
                  <option key={v.id} value={v.id}>
                    {dayOf(v.startsAt)}, {v.asked}
                  </option>
                ))}
              </select>
            </label>
          )}
          <Button
            look="act"
            big
            disabled={!told || told.length === 0 || !visit}
            onClick={() => void offer()}
          >
            Offer it
          </Button>
        </div>
      )}
      <p className="mt-2 text-[14px] text-muted">
        {visit ? (
          <>
            It stands on the page that the owner&apos;s link to{" "}
            <Link className="text-green underline" to={`/visits/${visit.id}/report`}>
              that visit&apos;s report
            </Link>{" "}
            opens, with both maps as one drawing, and is answered there.
          </>
        ) : (
          "No visit of this unit has been booked: there is no report yet that it could go with."
        )}
      </p>
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
      {offers.length > 0 && (
        <>
          <h2 className="mt-4 text-[16px] font-bold">Offered</h2>
          <ul aria-label="Offers">
            {offers.map((o) => (
              <li key={o.id} className="border-t border-line py-2 text-[15px]">
                {dayOf(o.at)}, {o.by}:{" "}
                <b>
                  {o.answer
                    ? `${ANSWERS_TOLD[o.answer.answer]} (${o.answer.who}, ${dayOf(o.answer.at)})`
                    : "not answered yet"}
                </b>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
};
