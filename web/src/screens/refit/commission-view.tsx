import { commissioning, type CommissionRow, flowSaid } from "@uppershed/core/refit";
import { parseQuantity } from "@uppershed/core/quantity";
import { buildNetwork } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { useFindingEntry } from "../../findings/use-finding-entry.ts";
import { useVisitHere } from "../../planning/use-visit-here.ts";
import { useRefitEntry } from "../../refitting/use-refit.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useUnits } from "../../ui/units.ts";
import { dayOf } from "../../ui/words.ts";
import type { OfRefit } from "./of-refit.ts";

type Proved = OfRefit["here"]["onFile"]["refit"]["proved"][string];

/** A flow that was read beside what the engine reckons; one far off is worth a finding. */
const Flow = ({
  of,
  row,
  seen,
  onSay,
}: {
  of: OfRefit;
  row: CommissionRow;
  seen: Proved | undefined;
  onSay: (ok: boolean, flowM3S: number) => void;
}) => {
  const { q, system } = useUnits();
  const visit = useVisitHere(of.unitId, null);
  const say = useFindingEntry({
    unitId: of.unitId,
    visitId: visit?.id ?? null,
    mapRevision: of.here.revision,
  });
  const [typed, setTyped] = useState("");
  const [problem, setProblem] = useState<string>();
  const forecast = row.forecastM3S ?? 0;
  const said = seen?.flowM3S === undefined ? undefined : flowSaid(seen.flowM3S, forecast);
  const [isFinding, setFinding] = useState(false);
  const keep = (): void => {
    const read = parseQuantity(typed, "flow", system);
    setProblem(read.ok ? undefined : read.problem);
    if (!read.ok) return;
    onSay(flowSaid(read.quantity.si, forecast) === undefined, read.quantity.si);
    setTyped("");
  };
  return (
    <div className="min-w-0 flex-1">
      <p>
        {row.text}:{" "}
        <span className="text-muted">{q(forecast, "flow")} by the map (worked out)</span>
        {seen?.flowM3S !== undefined && (
          <>
            , <b>{q(seen.flowM3S, "flow")} read</b> (measured)
          </>
        )}
      </p>
      {said !== undefined && (
        <p className="text-[14px] text-rust">
          {said}{" "}
          {of.mayWork && !isFinding && (
            <button
              type="button"
              className="min-h-9 font-semibold underline"
              onClick={() => {
                setProblem(
                  say({
                    type: "found",
                    what: `Flow at ${row.text.toLowerCase()} far from what the map says`,
                    severity: "wears",
                    partId: null,
                    place: "",
                    cause: said,
                  }),
                );
                setFinding(true);
              }}
            >
              Write it down as a finding
            </button>
          )}
        </p>
      )}
      {of.mayWork && (
        <span className="mt-1 flex flex-wrap items-end gap-2">
          <Field
            label={`Read at ${row.text}`}
            value={typed}
            inputMode="decimal"
            onChange={(e) => setTyped(e.target.value)}
            problem={problem}
          />
          <Button disabled={typed.trim() === ""} onClick={keep}>
            Keep
          </Button>
        </span>
      )}
    </div>
  );
};

/** The sheet by which what was changed is put into use, row by row, under a name and a day. */
export const CommissionView = (of: OfRefit) => {
  const { here, mayWork } = of;
  const enter = useRefitEntry(of.unitId, of.refitId);
  const [problem, setProblem] = useState<string>();
  const sheet = useMemo(() => commissioning(buildNetwork(here.proposed)), [here.proposed]);
  const { proved } = here.onFile.refit;
  const rows = sheet.flatMap((p) => p.rows);
  const done = rows.filter((r) => proved[r.key]?.ok).length;
  const say = (row: CommissionRow, ok: boolean, flowM3S?: number): void =>
    void enter({
      type: "proved",
      row: row.key,
      ok,
      ...(flowM3S === undefined ? {} : { flowM3S, forecastM3S: row.forecastM3S }),
    }).then(setProblem);
  return (
    <div className="max-w-[860px]">
      <p role="status" className="my-2 text-[15px]">
        {done} of {rows.length} proved. First pressure is low, with somebody inside and a hand on
        the valve.
      </p>
      {problem && (
        <p role="alert" className="text-rust">
          {problem}
        </p>
      )}
      {sheet.map((p) => (
        <section key={p.title} aria-label={p.title} className="mt-3">
          <h2 className="border-b-2 border-green text-[16px] font-bold">{p.title}</h2>
          <ul>
            {p.rows.map((r) => {
              const seen = proved[r.key];
              return (
                <li
                  key={r.key}
                  className="flex flex-wrap items-center gap-3 border-b border-line py-1.5 text-[15px]"
                >
                  {r.forecastM3S === undefined ? (
                    <span className="min-w-0 flex-1">{r.text}</span>
                  ) : (
                    <Flow of={of} row={r} seen={seen} onSay={(ok, flow) => say(r, ok, flow)} />
                  )}
                  {seen && (
                    <span
                      className={`text-[13px] ${seen.ok ? "text-green" : "font-semibold text-rust"}`}
                    >
                      {seen.ok ? "✓" : "✗"} {seen.by}, {dayOf(seen.at)}
                    </span>
                  )}
                  {mayWork && r.forecastM3S === undefined && (
                    <span role="group" aria-label={r.text} className="flex gap-1">
                      <Button onClick={() => say(r, true)}>So it is</Button>
                      <Button onClick={() => say(r, false)}>Not so</Button>
                    </span>
                  )}
                </li>
              );
            })}
          </ul>
        </section>
      ))}
    </div>
  );
};
