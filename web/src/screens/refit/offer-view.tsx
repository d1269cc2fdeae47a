import type { RunSetup } from "@uppershed/core/procedure";
import { besideOf, habitsSchema, methodFor, savingOf } from "@uppershed/core/refit";
import { ANSWERS_TOLD } from "@uppershed/core/inspection";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { uuid } from "../../device/uuid.ts";
import { useFindingEntry } from "../../findings/use-finding-entry.ts";
import { jugPriceOf } from "../../planning/house.ts";
import { useVisitHere } from "../../planning/use-visit-here.ts";
import { useAudit } from "../../refitting/use-audit.ts";
import { useRefitEntry } from "../../refitting/use-refit.ts";
import { useFindingsNow } from "../../sending/on-device.ts";
import { useKitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { dayOf } from "../../ui/words.ts";
import type { OfRefit } from "./of-refit.ts";

const MOST_LINES = 12;

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
    const saving = savingOf(before.audit, after.audit, methodFor(after.audit, setup.method), {
      jug: jugPriceOf(kit?.kit ?? [], setup),
      hour,
      cost,
    });
    const lines = besideOf(before.audit, after.audit)
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

/** The proposal put to the owner: as a finding on the report, answered by the same signed link. */
export const OfferView = (of: OfRefit & { setup: RunSetup | undefined }) => {
  const { here, unitId, refitId, mayWork } = of;
  const { text } = useUnits();
  const told = useTold(of);
  const enter = useRefitEntry(unitId, refitId);
  const visit = useVisitHere(unitId, null);
  const findings = useFindingsNow(unitId) ?? [];
  const say = useFindingEntry({
    unitId,
    visitId: visit?.id ?? null,
    mapRevision: here.revision,
  });
  const [problem, setProblem] = useState<string>();
  const { offers } = here.onFile.refit;
  const offer = async (): Promise<void> => {
    if (!told) return;
    const findingId = uuid();
    const wrong = say(
      {
        type: "found",
        what: `Refit offered: ${here.onFile.name}`,
        severity: "wears",
        partId: null,
        place: "",
        cause: "",
        advice: told
          .map((l) => text(l))
          .join(" ")
          .slice(0, 1900),
      },
      undefined,
      findingId,
    );
    setProblem(wrong ?? (await enter({ type: "offered", findingId, lines: told })));
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
        <Button
          look="act"
          big
          className="mt-3"
          disabled={!told || told.length === 0}
          onClick={() => void offer()}
        >
          Offer it on the owner&apos;s report
        </Button>
      )}
      <p className="mt-2 text-[14px] text-muted">
        It stands among the findings of the report; the owner answers by the same link.
        {!visit && " No visit is on today: it goes on the report of the next one."}
      </p>
      {problem && (
        <p role="alert" className="mt-2 text-rust">
          {problem}
        </p>
      )}
      {offers.length > 0 && (
        <>
          <h2 className="mt-4 text-[16px] font-bold">Offered</h2>
          <ul>
            {offers.map((o) => {
              const answer = findings.find((f) => f.id === o.findingId)?.answer;
              return (
                <li key={o.findingId} className="border-t border-line py-2 text-[15px]">
                  {dayOf(o.at)}, {o.by}:{" "}
                  <b>
                    {answer
                      ? `${ANSWERS_TOLD[answer.answer]} (${answer.who}, ${dayOf(answer.at)})`
                      : "not answered yet"}
                  </b>
                </li>
              );
            })}
          </ul>
          <Link className="text-green underline" to={`/units/${unitId}`}>
            The unit&apos;s findings
          </Link>
        </>
      )}
    </div>
  );
};
