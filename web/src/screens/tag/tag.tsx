import { tagWords, verdictNow } from "@uppershed/core/procedure";
import { Printer } from "lucide-react";
import { QRCodeSVG } from "qrcode.react";
import { Link, useParams } from "react-router";
import { useRun } from "../../run/use-run.ts";
import { useTitle } from "../../shell/slots.tsx";
import { Button } from "../../ui/button.tsx";
import { useUnits } from "../../ui/units.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";

const QR_PX = 150;

/** The tag that hangs on a unit until spring: what must not be done, how cold it holds, and a code that opens the unit here. */
export const TagScreen = () => {
  const { runId = "" } = useParams();
  const { live, error } = useRun(runId);
  const { holds } = useUnits();
  useTitle(live ? `Tag, ${live.run.unitName}` : "Tag");
  if (!live) return <Waiting error={error} />;
  const { run, state } = live;
  if (!state.closed)
    return (
      <p className="p-5">
        The tag is printed when the work is signed off.{" "}
        <Link to={`/runs/${run.id}`} className="underline">
          Go on
        </Link>
      </p>
    );
  const { lockOut, others } = tagWords(state);
  return (
    <div className="mx-auto max-w-xl p-5">
      <div className="no-print mb-4 flex gap-2">
        <Button look="act" onClick={() => window.print()}>
          <Printer aria-hidden size={18} /> Print the tag
        </Button>
        <Link to={`/records/${run.id}`} className="flex min-h-11 items-center px-3 underline">
          Back to the signed sheet
        </Link>
      </div>
      <article
        aria-label="Tag"
        className="border-[3px] border-ink bg-raised p-5 print:border-black print:bg-white"
      >
        <div aria-hidden className="mx-auto mb-3 size-6 rounded-full border-2 border-ink" />
        {lockOut.map((words) => (
          <p key={words} className="text-[27px] font-extrabold uppercase leading-tight text-rust">
            {words}
          </p>
        ))}
        <h1 className="mt-3 text-[22px] font-bold">
          {run.unitName} <span className="font-normal">{run.craft}</span>
        </h1>
        <p className="text-[17px]">
          Winterized {dayOf(state.closed.at)}, holds to <b>{holds(verdictNow(state).holdsToC)}</b>.
          Signed by {state.closed.name}.
        </p>
        <div className="mt-3 flex items-start gap-4">
          <ul className="min-w-0 flex-1 list-disc pl-5 text-[16px]">
            {others.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
          <div className="bg-white p-2">
            <QRCodeSVG
              value={`${window.location.origin}/units/${run.unitId}`}
              size={QR_PX}
              title={`Code that opens ${run.unitName} here`}
            />
          </div>
        </div>
      </article>
    </div>
  );
};
