import type { RefitLine, TestLine, Unit, UnitRun } from "@uppershed/contract";
import { openHoldPoints } from "@uppershed/core/hold";
import { JOBS, jobWork } from "@uppershed/core/procedure";
import { lazy, Suspense, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { usePending } from "../../device/outbox.ts";
import { uuid } from "../../device/uuid.ts";
import { useSendLater } from "../../sending/use-sender.ts";
import { useNotesQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useMay } from "../../ui/use-may.ts";
import { useUnits } from "../../ui/units.ts";
import { dayOf, nowIso } from "../../ui/words.ts";
import { OUTCOMES } from "../../holding/words.ts";

const NotesSheet = lazy(async () => ({ default: (await import("./notes-sheet.tsx")).NotesSheet }));

/** The unit's present state in one sentence. */
const Sentence = ({ unit, stand }: { unit: Unit; stand: readonly string[] }) => {
  const { holds } = useUnits();
  const { state } = unit;
  const when = state.at ? dayOf(state.at) : "";
  if (state.kind === "as-left" && (state.job === "spring" || state.job === "sanitize"))
    return (
      <>
        {state.job === "spring" ? "De-winterized" : "Sanitized"} {when}, full of water: holds to{" "}
        <b className="text-rust">{holds(state.holdsToC)}</b>
        {state.since.length === 0 ? "; nothing written down since." : "; "}
        {state.since.length > 0 && <b className="text-rust">{state.since.join("; ")}.</b>}
      </>
    );
  if (state.kind === "as-left")
    return (
      <>
        {state.cannotTell.length > 0 ? "Worked on" : "Winterized"} {when} by antifreeze, holds to{" "}
        <b>{holds(state.holdsToC)}</b>
        {stand.length > 0 && `, ${stand.join("; ")}`}
        {state.weakestPart && `; weakest part: ${state.weakestPart}`}
        {state.since.length === 0 ? "; nothing written down since." : "; "}
        {state.since.length > 0 && <b className="text-rust">{state.since.join("; ")}.</b>}
        {state.cannotTell.length > 0 && (
          <span className="text-rust"> Cannot tell for {state.cannotTell.join(", ")}.</span>
        )}
      </>
    );
  if (state.kind === "in-work")
    return (
      <>
        In work since {when}; now holds to <b className="text-rust">{holds(state.holdsToC)}</b>
        {state.weakestPart && `, set by ${state.weakestPart}`}.
      </>
    );
  return (
    <>
      In use{when && ` since ${when}`}, full of water (assumed): holds to{" "}
      <b className="text-rust">{holds(0)}</b>.
    </>
  );
};

/** Whose it is and where it lies. */
const Whose = ({ unit }: { unit: Unit }) => (
  <p className="text-[14px] text-muted">
    <Link to={`/customers/${unit.customerId}`} className="underline-offset-4 hover:underline">
      {unit.owner}
    </Link>
    {[
      unit.phone && `, ${unit.phone}`,
      unit.plate && ` · ${unit.plate}`,
      unit.hull && ` · ${unit.hull}`,
      unit.berth && ` · lies at ${unit.berth}`,
    ]}{" "}
    · map revision {unit.mapRevision} ·{" "}
    <Link to={`/units/${unit.id}/edit`} className="text-green underline">
      change
    </Link>
  </p>
);

/** Says that the unit was filled again; where nobody can be reached, this device says it later. */
const FilledAgain = ({ unit }: { unit: Unit }) => {
  const sendLater = useSendLater();
  const waits = usePending().some(
    (e) => e.kind === "in-use" && e.unitId === unit.id && e.refused === undefined,
  );
  const fillAgain = (): void => {
    const id = uuid();
    const at = nowIso();
    void sendLater({
      id,
      unitId: unit.id,
      kind: "in-use",
      url: `/units/${unit.id}/in-use`,
      body: { id, at },
      what: `${unit.name}: filled again, in use`,
      at,
    });
  };
  return (
    <Button onClick={fillAgain} disabled={waits}>
      {waits ? "Filled again: kept here, not sent yet" : "Filled again, in use"}
    </Button>
  );
};

const BIG_LINK = "inline-flex min-h-[54px] items-center rounded px-5 text-[17px] font-semibold";
const PLAIN_LINK = `${BIG_LINK} border-[1.5px] border-green bg-raised text-green`;

/** The one thing that is done next. */
const Next = ({ unit, runs }: { unit: Unit; runs: readonly UnitRun[] }) => {
  const [params] = useSearchParams();
  const visitId = params.get("visit");
  const open = runs.find((r) => r.closedAt === null);
  if (open)
    return (
      <Link to={`/runs/${open.id}`} className={`${BIG_LINK} bg-rust text-on-rust`}>
        Go on with the {jobWork(open.summary.job)}
      </Link>
    );
  const on = visitId ? `?visit=${visitId}` : "";
  // What was winterized is opened up next; what was opened up is sanitized.
  const { kind, job = "winterize" } = unit.state;
  const first =
    kind !== "as-left"
      ? "winterize"
      : job === "winterize"
        ? "spring"
        : job === "spring"
          ? "sanitize"
          : "winterize";
  return (
    <>
      {JOBS.toSorted((a, b) => Number(a.job === first) - Number(b.job === first)).map((j) => (
        <Link
          key={j.job}
          to={`/units/${unit.id}/plan${j.job === "winterize" ? "" : `/${j.job}`}${on}`}
          className={
            j.job === first
              ? `${BIG_LINK} bg-green text-on-green`
              : "inline-flex min-h-11 items-center text-[15px] underline"
          }
        >
          {j.job === first ? `Plan a ${j.work}` : j.label}
        </Link>
      ))}
    </>
  );
};

/** "Tested tight 12 May, opened since" */
const testedInWords = (tests: readonly TestLine[]): string => {
  const last = tests.find((t) => t.endedAt !== null);
  if (!last) return "Pressure tests";
  const { word } = OUTCOMES[last.outcome];
  return `Pressure tests: ${word} ${dayOf(last.endedAt ?? last.at)}${last.openedSince ? ", opened since" : ""}`;
};

/** Over the map: how the unit stands in one sentence, whose it is, and what can be done with it. */
export const UnitHead = ({
  unit,
  runs,
  tests,
  refits,
  stand,
}: {
  unit: Unit;
  runs: readonly UnitRun[];
  /** Newest first. */
  tests: readonly TestLine[];
  refits: readonly RefitLine[];
  /** What is to be said of its heaters as they stand. */
  stand: readonly string[];
}) => {
  const heldOpen = [
    ...new Set([...openHoldPoints(tests), ...refits.flatMap((r) => r.heldOpen.map((h) => h.what))]),
  ];
  const { data: notes } = useNotesQuery(unit.id);
  const [reading, setReading] = useState(false);
  const mayWork = useMay("work");
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-line px-5 py-3 lg:col-span-2">
      <div className="min-w-0 flex-1 basis-full sm:basis-80">
        <h1 className="sr-only">{unit.name}</h1>
        <p className="text-[17px]">
          <Sentence unit={unit} stand={stand} />
        </p>
        <Whose unit={unit} />
        {runs.filter((r) => r.closedAt !== null).length > 0 && (
          <Link
            to={`/units/${unit.id}/years`}
            className="mr-4 inline-flex min-h-8 items-center text-[14px] underline"
          >
            Year on year
          </Link>
        )}
        {unit.state.kind === "in-use" && (
          <Link
            to={`/units/${unit.id}/stay`}
            className="mr-4 inline-flex min-h-8 items-center text-[14px] underline"
          >
            Stays in use in frost: what lies bare
          </Link>
        )}
        <Link
          to={`/units/${unit.id}/handover`}
          className="mr-4 inline-flex min-h-8 items-center text-[14px] underline"
        >
          How its water is used
        </Link>
        <Link
          to={`/units/${unit.id}/trouble`}
          className="mr-4 inline-flex min-h-8 items-center text-[14px] underline"
        >
          Something is wrong
        </Link>
        <Link
          to={`/units/${unit.id}/tests`}
          className="mr-4 inline-flex min-h-8 items-center text-[14px] underline"
        >
          {testedInWords(tests)}
        </Link>
        <Link
          to={`/units/${unit.id}/refits`}
          className="mr-4 inline-flex min-h-8 items-center text-[14px] underline"
        >
          Refits
        </Link>
        {heldOpen.length > 0 && (
          <p className="text-[15px] font-semibold text-rust">
            Must stay open until a pressure test has passed: {heldOpen.join(", ")}.
          </p>
        )}
        {unit.unsafe && (
          <p className="text-[15px] font-semibold text-rust">
            An unsafe finding stands open on this unit.
          </p>
        )}
      </div>
      <Link to={`/units/${unit.id}/map`} className={PLAIN_LINK}>
        Draw the map
      </Link>
      {mayWork && (
        <Link to={`/units/${unit.id}/walk`} className={PLAIN_LINK}>
          Walk-round
        </Link>
      )}
      <Button big onClick={() => setReading(true)}>
        Notes{notes && notes.length > 0 ? ` (${notes.length})` : ""}
      </Button>
      {unit.state.kind === "as-left" && <FilledAgain unit={unit} />}
      {mayWork && <Next unit={unit} runs={runs} />}
      {reading && (
        <Suspense fallback={null}>
          <NotesSheet unitId={unit.id} onClose={() => setReading(false)} />
        </Suspense>
      )}
    </div>
  );
};
