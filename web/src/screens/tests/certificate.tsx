import { judgedTest, outcomeOf, type PressureTest, WAY_LABELS } from "@uppershed/core/hold";
import { writeHoldCsv } from "@uppershed/core/formats";
import { useMemo } from "react";
import { useParams } from "react-router";
import { saveFile } from "../../mapping/save-file.ts";
import { useTestNow } from "../../sending/on-device.ts";
import { BarLink } from "../../shell/bar-link.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useMeQuery, useUnitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";
import { aDay, gauge, OUTCOMES, span } from "../../holding/words.ts";

const MOST_LINES = 40;

/** The readings on paper: all of a short hold, the first, the last and an even choice of a long one. */
const Lines = ({ test }: { test: PressureTest }) => {
  const { system, q } = useUnits();
  const every = Math.ceil(test.readings.length / MOST_LINES);
  const shown = test.readings.filter((_, i) => i % every === 0 || i === test.readings.length - 1);
  return (
    <table className="mt-2 w-full text-left text-[13px] tabular-nums">
      <caption className="text-left font-semibold">
        Readings{every > 1 ? `, every ${every}th of ${test.readings.length}` : ""}
      </caption>
      <thead>
        <tr className="border-b border-ink">
          <th>After</th>
          <th>Gauge</th>
          <th>Temperature</th>
          <th>Barometer</th>
        </tr>
      </thead>
      <tbody>
        {shown.map((r) => (
          <tr key={r.atS} className="border-b border-line">
            <td>{span(r.atS)}</td>
            <td>{gauge(r.pressurePa, system)}</td>
            <td>{r.temperatureC === undefined ? "not read" : `${r.temperatureC.toFixed(1)} °C`}</td>
            <td>
              {r.barometerPa === undefined
                ? "not read"
                : `${(r.barometerPa / 100).toFixed(1)} mbar`}
            </td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={4}>
            Volume {q(test.plan.held.volumeM3, "volume")}, gauge steps of{" "}
            {gauge(test.instruments.gauge.stepPa, system)}.
          </td>
        </tr>
      </tfoot>
    </table>
  );
};

/** What was tested, how and with what, every figure that the verdict rests on, and who signs. A reader can work it out again. */
export const Certificate = () => {
  const { unitId = "", testId = "" } = useParams();
  const { data: me } = useMeQuery();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { here, error } = useTestNow(unitId, testId);
  const { system, text, q } = useUnits();
  const verdict = useMemo(
    () => (here && here.test.readings.length > 1 ? judgedTest(here.test) : undefined),
    [here],
  );
  useTitle("Certificate of a pressure test");
  if (!unit || !here || !me) return <Waiting error={unitError ?? (here ? undefined : error)} />;
  const { test } = here;
  const { sign, word } = OUTCOMES[outcomeOf(test)];
  const signed = test.ended?.concluded;
  const rows: (readonly [string, string])[] = [
    ["Unit", `${unit.name}, ${unit.craft}`],
    ["Tested", test.plan.title],
    ["With", `${WAY_LABELS[test.plan.by]}, ${test.plan.held.medium}`],
    ["Not tested", test.plan.leftOut.join(", ") || "nothing of it left out"],
    [
      "Pressed to",
      `${text(`{g:${test.plan.pressurePa}}`)}; ${test.plan.weakest.name} bears ${q(test.plan.weakest.pa, "pressure")}`,
    ],
    [
      "Gauge",
      `${test.gauge.name}${test.gauge.certificate ? `, ${test.gauge.certificate}` : ""}${test.gauge.calibratedUntil ? `, calibrated until ${dayOf(test.gauge.calibratedUntil)}` : ""}`,
    ],
    ["Begun", `${dayOf(test.begunAt)}, ${test.begunBy}`],
    ["Held", verdict ? `${span(verdict.figures.seconds)} of ${span(test.plan.holdS)} planned` : ""],
    ...(signed
      ? ([
          [
            "Leak, 95 in 100",
            `${aDay(signed.leak.low, system)} to ${aDay(signed.leak.high, system)}`,
          ],
          ["Smallest that would have shown", aDay(signed.smallestDetectable, system)],
        ] as const)
      : []),
    ...(test.ended?.early ? ([["Ended before its time", test.ended.early]] as const) : []),
  ];
  const f = verdict?.figures;
  return (
    <main className="mx-auto max-w-[760px] p-5 print:p-0">
      <InBar>
        <BarLink to={`/units/${unit.id}/tests/${testId}`}>
          <b>{unit.name}</b> · pressure test
        </BarLink>
      </InBar>
      <div className="mb-4 flex gap-3 print:hidden">
        <Button look="act" onClick={() => window.print()}>
          Print, or keep as PDF
        </Button>
        <Button
          disabled={test.readings.length === 0}
          onClick={() => saveFile(`${unit.name}-test.csv`, writeHoldCsv(test.readings), "text/csv")}
        >
          Readings as CSV
        </Button>
      </div>
      <p className="text-[14px]">{me.workshop.name}</p>
      <h1 className="text-[22px] font-bold">
        Pressure test: {sign} {word}
      </h1>
      {test.isSimulated && (
        <p className="font-semibold text-rust">Simulated readings: this is no proof of anything.</p>
      )}
      {here.openedSince && (
        <p className="font-semibold text-rust">Opened since: {dayOf(here.openedSince)}.</p>
      )}
      {signed && <p>{text(signed.why)}</p>}
      <dl className="mt-3">
        {rows.map(([label, value]) => (
          <div key={label} className="grid grid-cols-[190px_1fr] gap-3 border-t border-line py-1">
            <dt className="text-muted">{label}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      {f && test.plan.held.medium === "air" && (
        <p className="mt-3 text-[14px]">
          If nothing had left: ({gauge(f.first.pressurePa, system)} +{" "}
          {(f.first.barometerPa / 100).toFixed(1)} mbar) ×{" "}
          {(f.last.temperatureC + 273.15).toFixed(2)} K ÷{" "}
          {(f.first.temperatureC + 273.15).toFixed(2)} K − {(f.last.barometerPa / 100).toFixed(1)}{" "}
          mbar = {gauge(f.tightAtEndPa, system)}; read {gauge(f.last.pressurePa, system)}. The leak
          is the slope of what was shut in over all readings, V · (p + B) / T; its uncertainty comes
          from the steps of the instruments, the scatter, and what was not read.
        </p>
      )}
      {f && test.plan.held.medium === "water" && (
        <p className="mt-3 text-[14px]">
          What was pressed in gives {(f.storeM3PerPa * 1e5 * 1e6).toFixed(2)} mL for each bar, by
          pipe, trapped air (assumed) and accumulators; the leak is the slope of that over all
          readings, less what the water grew.
        </p>
      )}
      {test.readings.length > 0 && <Lines test={test} />}
      <p className="mt-6 border-t border-ink pt-2">
        {test.ended ? `Signed ${test.ended.name}, ${dayOf(test.ended.at)}` : "Not signed: running."}
      </p>
      <p className="mt-1 text-[12px] text-muted">
        A pressure test proves what was pressed, at its pressure, on that day. Makers&apos;
        instructions and local codes come first.
      </p>
    </main>
  );
};
