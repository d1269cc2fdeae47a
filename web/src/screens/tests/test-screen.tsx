import type { UnitId } from "@uppershed/contract";
import {
  concludedOf,
  isMadeSafe,
  type HoldReading,
  type HoldVerdict,
  judgedTest,
  outcomeOf,
  holdEnds,
  type PressureTest,
} from "@uppershed/core/hold";
import { writeClocksIcs } from "@uppershed/core/formats";
import { buildNetwork, readWaterMap } from "@uppershed/core/watermap";
import { BellRing } from "lucide-react";
import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { useWakeLock } from "../../device/wake-lock.ts";
import { useLogger } from "../../holding/use-logger.ts";
import { type EnterTest, useTestEntry } from "../../holding/use-test-entry.ts";
import { saveFile } from "../../mapping/save-file.ts";
import { type TestHere, useTestNow } from "../../sending/on-device.ts";
import { BarLink } from "../../shell/bar-link.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useMapAtQuery, useMeQuery, useUnitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { Field } from "../../ui/field.tsx";
import { useMay } from "../../ui/use-may.ts";
import { useNow } from "../../ui/use-now.ts";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf, nowIso } from "../../ui/words.ts";
import { FindLeak } from "./find-leak.tsx";
import { PumpRun } from "./pump-run.tsx";
import { LoggerRow, ReadForm } from "./readings.tsx";
import { Trace } from "./trace.tsx";
import { useAlarm } from "./use-alarm.ts";
import { Verdict } from "./verdict.tsx";
import { OUTCOMES, span } from "../../holding/words.ts";

/** A step of the test with its rows; signed as a whole, in its order. */
const Steps = ({ test, enter }: { test: PressureTest; enter: EnterTest }) => {
  const { text } = useUnits();
  const next = test.plan.steps.find((s) => !test.done.includes(s.id));
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  return (
    <ol aria-label="Steps">
      {test.plan.steps.map((s) => {
        const isDone = test.done.includes(s.id);
        const isNext = s.id === next?.id;
        const keys = s.rows.map((r) => `${s.id} ${r}`);
        return (
          <li key={s.id} className={`border-t border-line py-2 ${isNext ? "" : "text-muted"}`}>
            <p className={isNext ? "text-[17px] font-bold" : "font-semibold"}>
              {isDone ? "✓ " : ""}
              {text(s.title)}
            </p>
            {isNext && (
              <>
                {s.cautions.map((c) => (
                  <p key={c} className="my-1 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
                    {text(c)}
                  </p>
                ))}
                <p className="text-[14px] text-muted">{text(s.why)}</p>
                {s.rows.map((row, i) => (
                  <label key={row} className="flex min-h-12 items-center gap-3">
                    <input
                      type="checkbox"
                      className="size-7 shrink-0"
                      checked={ticked.has(keys[i] as string)}
                      onChange={() =>
                        setTicked((now) => {
                          const then = new Set(now);
                          if (!then.delete(keys[i] as string)) then.add(keys[i] as string);
                          return then;
                        })
                      }
                    />
                    {text(row)}
                  </label>
                ))}
                <Button
                  look="act"
                  big
                  disabled={!keys.every((k) => ticked.has(k))}
                  onClick={() => enter({ type: "step-done", step: s.id }, test)}
                >
                  Done
                </Button>
              </>
            )}
          </li>
        );
      })}
    </ol>
  );
};

const EYE = [
  ["tight", "At the mark, dry"],
  ["leaking", "Fallen, or wet"],
  ["cannot-tell", "Too short to tell"],
] as const;

/** Ends it under a name, with the verdict as it is signed. */
const End = ({
  test,
  verdict,
  enter,
}: {
  test: PressureTest;
  verdict: HoldVerdict | undefined;
  enter: EnterTest;
}) => {
  const { data: me } = useMeQuery();
  const isLevel = test.plan.by === "brim" || test.plan.by === "head";
  const now = useNow(30_000);
  const heldS = isLevel ? (now - Date.parse(test.begunAt)) / 1000 : (verdict?.figures.seconds ?? 0);
  const isEarly = heldS < test.plan.holdS;
  const [why, setWhy] = useState("");
  const [byEye, setByEye] = useState<(typeof EYE)[number][0]>();
  const able = (!isLevel || byEye !== undefined) && (!isEarly || why.trim() !== "");
  return (
    <section aria-label="End" className="my-4 border-t-2 border-green pt-3">
      {isLevel && (
        <fieldset>
          <legend className="font-semibold">How does it stand?</legend>
          {EYE.map(([value, label]) => (
            <label key={value} className="flex min-h-11 items-center gap-2">
              <input
                type="radio"
                name="eye"
                className="size-6"
                checked={byEye === value}
                onChange={() => setByEye(value)}
              />
              {label}
            </label>
          ))}
        </fieldset>
      )}
      {isEarly && (
        <Field
          label={`It was to be held ${span(test.plan.holdS)}${isLevel ? ": too short to be called tight" : ""}. Why does it end before?`}
          value={why}
          onChange={(e) => setWhy(e.target.value)}
        />
      )}
      <Button
        look="act"
        big
        className="mt-2"
        disabled={!able}
        onClick={() =>
          enter(
            {
              type: "ended",
              name: me?.person.name ?? "",
              early: isEarly ? why : "",
              ...(isLevel
                ? { byEye }
                : verdict
                  ? { concluded: concludedOf(verdict) }
                  : { byEye: "cannot-tell" }),
            },
            test,
          )
        }
      >
        End it, signed {me?.person.name}
      </Button>
    </section>
  );
};

/** The end of the hold for this device's own calendar: it rings when locked, and with the page closed. */
const HoldAlarm = ({ unit, test }: { unit: string; test: PressureTest }) => (
  <button
    type="button"
    className="ml-3 inline-flex min-h-11 items-center gap-1 text-[14px] underline"
    title="For this device's own calendar: it rings when locked, and without a signal"
    onClick={() =>
      saveFile(
        "hold.ics",
        writeClocksIcs(
          unit,
          [{ label: `the hold is over: ${test.plan.title}`, endsAt: holdEnds(test) }],
          nowIso(),
        ),
        "text/calendar",
      )
    }
  >
    <BellRing aria-hidden size={17} />
    Alarm at its end
  </button>
);

/** All readings, those that are not kept yet among them. */
const withFresh = (test: PressureTest, fresh: readonly HoldReading[]): readonly HoldReading[] => {
  if (fresh.length === 0 || !test.logger) return test.readings;
  const zero = Date.parse(test.readingsFrom ?? test.logger.at);
  const off = (Date.parse(test.logger.at) - zero) / 1000;
  const last = test.readings.at(-1)?.atS ?? -1;
  return [
    ...test.readings,
    ...fresh.map((r) => ({ ...r, atS: r.atS + off })).filter((r) => r.atS > last),
  ];
};

const Running = ({
  here,
  unitId,
  unitName,
  testId,
  enter,
  mayWork,
}: {
  here: TestHere;
  unitId: UnitId;
  unitName: string;
  testId: string;
  enter: EnterTest;
  mayWork: boolean;
}) => {
  const { test } = here;
  const { text } = useUnits();
  useWakeLock();
  const { data: drawn } = useMapAtQuery({ id: unitId, revision: here.mapRevision });
  const network = useMemo(() => {
    const read = drawn && readWaterMap(drawn.document);
    return read?.ok ? buildNetwork(read.map) : undefined;
  }, [drawn]);
  const fresh = useLogger(unitId, testId, test, enter);
  const readings = useMemo(() => withFresh(test, fresh), [test, fresh]);
  const isLevel = test.plan.by === "brim" || test.plan.by === "head";
  const verdict = useMemo(() => {
    if (readings.length === 0) return undefined;
    const now = judgedTest({ ...test, readings });
    // What was signed is what it came to, whatever would be worked out today.
    const signed = test.ended?.concluded;
    return signed
      ? {
          ...now,
          verdict: signed.verdict,
          why: signed.why,
          leak: signed.leak,
          smallestDetectable: signed.smallestDetectable,
          next: [],
        }
      : now;
  }, [test, readings]);
  const held = verdict?.figures.seconds ?? 0;
  useAlarm(test, verdict);
  const signed = test.ended?.concluded?.verdict ?? test.ended?.byEye;
  const isPassed = test.ended !== undefined && signed === "tight";
  const leaks = (test.ended ? signed : verdict?.verdict) === "leaking";
  return (
    <div className="grid gap-x-8 lg:grid-cols-[340px_1fr]">
      <div>
        {mayWork && <Steps test={test} enter={enter} />}
        {test.plan.leftOut.length > 0 && (
          <p className="mt-2 text-[13px] text-muted">
            Says nothing of: {test.plan.leftOut.join(", ").toLowerCase()}.
          </p>
        )}
      </div>
      <div>
        {!isPassed && test.holdPoints.length > 0 && (
          <p className="mb-2 border-l-4 border-rust bg-rust-soft p-2 font-semibold">
            Stays open until this has passed: {test.holdPoints.join(", ")}.
          </p>
        )}
        {test.isSimulated && (
          <p className="border-l-4 border-rust bg-rust-soft p-2 text-[14px] font-semibold">
            Simulated: the readings come from a stand-in, not from a gauge.
          </p>
        )}
        {!isLevel && (
          <>
            {!test.ended && (
              <p className="mt-1 text-[15px]" role="timer" aria-live="off">
                Held {span(held)} of {span(test.plan.holdS)}
                {test.pressedAgain > 0 && `, pressed again ${test.pressedAgain} times`}
                {here.waits > 0 && ` · ${here.waits} kept here, not sent yet`}
                {test.readings.length > 0 && <HoldAlarm unit={unitName} test={test} />}
              </p>
            )}
            <Trace test={test} readings={readings} />
            {!test.ended && mayWork && !isMadeSafe(test) && (
              <p className="my-3 border-l-4 border-rust bg-rust-soft p-2 text-[15px]">
                Nothing is pressed with air before what makes it safe has been signed.
              </p>
            )}
            {!test.ended && mayWork && isMadeSafe(test) && (
              <>
                <ReadForm test={test} enter={enter} />
                <LoggerRow test={test} enter={enter} />
              </>
            )}
            {test.plan.by === "pump" && (
              <PumpRun test={test} enter={enter} able={mayWork && !test.ended} />
            )}
            {verdict && <Verdict verdict={verdict} medium={test.plan.held.medium} />}
            {!test.ended && verdict?.verdict === "settling" && mayWork && (
              <Button onClick={() => enter({ type: "pressed-again" }, test)}>
                Pressed to {text(`{g:${test.plan.pressurePa}}`)} again
              </Button>
            )}
          </>
        )}
        {test.ended && (
          <div className="my-3 border-l-4 border-green bg-raised p-3">
            <p className="font-semibold">
              Signed {test.ended.name}, {dayOf(test.ended.at)}: {OUTCOMES[outcomeOf(test)].sign}{" "}
              {OUTCOMES[outcomeOf(test)].word}
              {here.openedSince && (
                <span className="text-rust">, opened since ({dayOf(here.openedSince)})</span>
              )}
            </p>
            {test.ended.early && <p>Ended before its time: {test.ended.early}</p>}
            <p className="mt-1 flex flex-wrap gap-4">
              <Link
                className="text-green underline"
                to={`/units/${unitId}/tests/${testId}/certificate`}
              >
                Certificate
              </Link>
              <Link className="text-green underline" to={`/units/${unitId}/tests?retest=${testId}`}>
                Test again
              </Link>
            </p>
          </div>
        )}
        {!test.ended && mayWork && <End test={test} verdict={verdict} enter={enter} />}
        {leaks && network && mayWork && test.plan.sections > 0 && (
          <FindLeak
            network={network}
            unitId={unitId}
            testId={testId}
            visitId={here.visitId}
            mapRevision={here.mapRevision}
            test={test}
            enter={enter}
          />
        )}
      </div>
    </div>
  );
};

export const TestScreen = () => {
  const { unitId = "", testId = "" } = useParams();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { here, error } = useTestNow(unitId, testId);
  const mayWork = useMay("work");
  const enter = useTestEntry({
    unitId,
    testId,
    visitId: here?.visitId ?? null,
    mapRevision: here?.mapRevision ?? 1,
  });
  useTitle(here ? here.title : "Pressure test");
  if (!unit || !here) return <Waiting error={unitError ?? (here ? undefined : error)} />;
  return (
    <main className="mx-auto max-w-[1180px] p-5">
      <InBar>
        <BarLink to={`/units/${unit.id}/tests`}>
          <b>{unit.name}</b> · pressure tests
        </BarLink>
      </InBar>
      <h1 className="mb-3 text-[20px] font-bold">{here.title}</h1>
      <Running
        here={here}
        unitId={unit.id}
        unitName={unit.name}
        testId={testId}
        enter={enter}
        mayWork={mayWork}
      />
    </main>
  );
};
