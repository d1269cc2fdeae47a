import { certificateOf } from "@uppershed/core/hold";
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
import { OUTCOMES } from "../../holding/words.ts";

/** The paper of a test: the same words, from the same figures, as its PDF. A reader can work it out again. */
export const Certificate = () => {
  const { unitId = "", testId = "" } = useParams();
  const { data: me } = useMeQuery();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { here, error } = useTestNow(unitId, testId);
  const { text } = useUnits();
  const paper = useMemo(
    () =>
      here &&
      unit &&
      certificateOf(here.test, {
        unit: `${unit.name}, ${unit.craft}`,
        openedSince: here.openedSince,
        day: dayOf,
      }),
    [here, unit],
  );
  useTitle("Certificate of a pressure test");
  if (!unit || !here || !paper || !me)
    return <Waiting error={unitError ?? (here ? undefined : error)} />;
  const { test } = here;
  const { sign, word } = OUTCOMES[paper.outcome];
  const { readings } = paper;
  return (
    <main className="mx-auto max-w-[760px] p-5 print:p-0">
      <InBar>
        <BarLink to={`/units/${unit.id}/tests/${testId}`}>
          <b>{unit.name}</b> · pressure test
        </BarLink>
      </InBar>
      <div className="mb-4 flex flex-wrap gap-3 print:hidden">
        <a
          className="inline-flex min-h-11 items-center rounded bg-green px-4 font-semibold text-on-green"
          href={`/api/units/${unit.id}/tests/${testId}/certificate.pdf`}
          download
        >
          Certificate as PDF
        </a>
        <Button onClick={() => window.print()}>Print</Button>
        <Button
          disabled={test.readings.length === 0}
          onClick={() => saveFile(`${unit.name}-test.csv`, writeHoldCsv(test.readings), "text/csv")}
        >
          Readings as CSV
        </Button>
      </div>
      {here.waits > 0 && (
        <p className="mb-3 border-l-4 border-rust bg-rust-soft p-2 text-[14px] print:hidden">
          {here.waits} kept here and not sent yet: the PDF is made by the server, and is without
          them.
        </p>
      )}
      <p className="text-[14px]">{me.workshop.name}</p>
      <h1 className="text-[22px] font-bold">
        Pressure test: {sign} {word}
      </h1>
      {paper.warnings.map((w) => (
        <p key={w} className="font-semibold text-rust">
          {w}
        </p>
      ))}
      {paper.why && <p>{text(paper.why)}</p>}
      <dl className="mt-3">
        {paper.rows.map(([label, value]) => (
          <div key={label} className="grid grid-cols-[190px_1fr] gap-3 border-t border-line py-1">
            <dt className="text-muted">{label}</dt>
            <dd>{text(value)}</dd>
          </div>
        ))}
      </dl>
      {paper.working && <p className="mt-3 text-[14px]">{text(paper.working)}</p>}
      {readings.lines.length > 0 && (
        <table className="mt-2 w-full text-left text-[13px] tabular-nums">
          <caption className="text-left font-semibold">{readings.caption}</caption>
          <thead>
            <tr className="border-b border-ink">
              {readings.head.map((h) => (
                <th key={h}>{h}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {readings.lines.map((line, i) => (
              <tr key={test.readings[i]?.atS ?? i} className="border-b border-line">
                {line.map((cell, c) => (
                  <td key={readings.head[c]}>{text(cell)}</td>
                ))}
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <td colSpan={readings.head.length}>{text(readings.note)}</td>
            </tr>
          </tfoot>
        </table>
      )}
      <p className="mt-6 border-t border-ink pt-2">{paper.signed}</p>
      <p className="mt-1 text-[12px] text-muted">{paper.foot}</p>
    </main>
  );
};
