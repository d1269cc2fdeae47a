import { progressOf } from "@uppershed/core/refit";
import { useMemo } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { useHouseSetup } from "../../planning/house.ts";
import { type RefitHere, useRefit } from "../../refitting/use-refit.ts";
import { BarLink } from "../../shell/bar-link.tsx";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useUnitQuery } from "../../store/api.ts";
import { useMay } from "../../ui/use-may.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf } from "../../ui/words.ts";
import { AboutRefit } from "./about-refit.tsx";
import { AuditView } from "./audit-view.tsx";
import { CardsView } from "./cards-view.tsx";
import { CommissionView } from "./commission-view.tsx";
import { DrawingView } from "./drawing-view.tsx";
import { OfferView } from "./offer-view.tsx";
import { PartsView } from "./parts-view.tsx";
import { WorkView } from "./work-view.tsx";

const VIEWS = [
  ["drawing", "Drawing"],
  ["judged", "What gets better"],
  ["parts", "Parts and cuts"],
  ["work", "Work"],
  ["cards", "Job cards"],
  ["proof", "Commissioning"],
  ["offer", "Offer"],
] as const;
type View = (typeof VIEWS)[number][0];

/** How it stands, in a sentence. */
const standing = ({ onFile: { refit }, pieces }: RefitHere): string => {
  const adopted = new Set(refit.adopted.flatMap((a) => a.pieces)).size;
  if (refit.withdrawn) return `Withdrawn ${dayOf(refit.withdrawn.at)}: ${refit.withdrawn.why}`;
  if (pieces.length === 0)
    return adopted > 0
      ? "All of it is installed and stands on the unit's map."
      : "Nothing differs from today's map yet: draw what is to be.";
  const all = pieces.flatMap((p) => [...p.parts, ...p.runs]);
  const closed = progressOf(refit, all).find((p) => p.state === "installed")?.count ?? 0;
  return `${pieces.length} ${pieces.length === 1 ? "piece" : "pieces"} proposed${adopted > 0 ? `, ${adopted} on the unit's map already` : ""}${closed > 0 ? `; ${closed} of ${all.length} parts and pipes in place` : ""}.`;
};

/** One proposal: drawn beside today's map, judged, priced, worked on, offered. */
export const RefitScreen = () => {
  const { unitId = "", refitId = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { here, error } = useRefit(unitId, refitId);
  const setup = useHouseSetup(unit);
  const may = { work: useMay("work"), draw: useMay("draw"), stock: useMay("stock") };
  const view: View = VIEWS.find(([v]) => v === params.get("view"))?.[0] ?? "drawing";
  const said = useMemo(() => here && standing(here), [here]);
  useTitle(here ? here.onFile.name : "Refit");
  if (!unit || !here) return <Waiting error={unitError ?? (here ? undefined : error)} />;
  const isOpen = here.onFile.refit.withdrawn === undefined;
  const of = { unitId: unit.id, refitId, here, mayWork: may.work && isOpen };
  return (
    <main className="mx-auto max-w-[1240px] p-5">
      <InBar>
        <BarLink to={`/units/${unit.id}/refits`}>
          <b>{unit.name}</b> · refits
        </BarLink>
      </InBar>
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-[22px] font-bold">{here.onFile.name}</h1>
        <p className="text-[15px] text-muted">{said}</p>
        {of.mayWork && may.draw && (
          <Link
            className="ml-auto min-h-11 content-center font-semibold text-green underline"
            to={`/units/${unit.id}/refits/${refitId}/map`}
          >
            Draw it on the map bench
          </Link>
        )}
      </div>
      <AboutRefit {...of} />
      {here.onFile.refit.findingId !== undefined &&
        here.pieces.length === 0 &&
        here.onFile.refit.adopted.length > 0 && (
          <p className="my-2 border-l-4 border-green bg-green-soft p-2 text-[14px]">
            It was thought of for a finding: say there that it is mended, and by which test that is
            proved.{" "}
            <Link className="font-semibold text-green underline" to={`/units/${unit.id}`}>
              The unit&apos;s findings
            </Link>
          </p>
        )}
      {here.clashes.length > 0 && (
        <p className="my-2 border-l-4 border-rust bg-rust-soft p-2 text-[14px]">
          Since it was drawn, the unit's map was changed in the same places:{" "}
          {here.clashes.join("; ")}.
        </p>
      )}
      <div
        role="group"
        aria-label="What is shown"
        className="my-2 flex flex-wrap gap-1 border-b border-line"
      >
        {VIEWS.map(([v, label]) => (
          <button
            key={v}
            type="button"
            aria-pressed={v === view}
            onClick={() => setParams({ view: v }, { replace: true })}
            className={`min-h-11 border-b-4 px-3 text-[15px] font-semibold ${v === view ? "border-green text-green" : "border-transparent text-muted hover:text-ink"}`}
          >
            {label}
          </button>
        ))}
      </div>
      {view === "drawing" && <DrawingView {...of} mayDraw={may.draw} />}
      {view === "judged" && <AuditView {...of} setup={setup} />}
      {view === "parts" && <PartsView {...of} mayStock={may.stock} />}
      {view === "work" && <WorkView {...of} mayDraw={may.draw} />}
      {view === "cards" && <CardsView {...of} />}
      {view === "proof" && <CommissionView {...of} />}
      {view === "offer" && <OfferView {...of} setup={setup} />}
    </main>
  );
};
