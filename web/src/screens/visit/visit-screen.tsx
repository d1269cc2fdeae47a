import type { FindingOnFile, Unit, Visit } from "@uppershed/contract";
import { staysOnSheets } from "@uppershed/core/inspection";
import { type Job, JOB_NAMES, jobOf, jobWork } from "@uppershed/core/procedure";
import { buildNetwork } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { FindingForm } from "../../findings/finding-form.tsx";
import { FindingList } from "../../findings/finding-list.tsx";
import { FindingSheet } from "../../findings/finding-sheet.tsx";
import { useUnitMap } from "../../planning/use-map.ts";
import { useFindingsNow } from "../../sending/on-device.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useUnitQuery, useVisitQuery } from "../../store/api.ts";
import { Button } from "../../ui/button.tsx";
import { ACT_LINK, PLAIN_LINK } from "../../ui/field.tsx";
import { Waiting } from "../../ui/waiting.tsx";
import { Access } from "./access.tsx";
import { VisitHead } from "./visit-head.tsx";
import { WaitSheet } from "./wait-sheet.tsx";
import { WorkList } from "./work-list.tsx";
import { BarLink } from "../../shell/bar-link.tsx";

/** The job card of a visit: how to get at it, what is unsafe, what is asked for, how far the work is. */
export const VisitScreen = () => {
  const { visitId = "" } = useParams();
  const { data: visit, error } = useVisitQuery(visitId);
  const unitId = visit?.unitId ?? "";
  const { data: unit } = useUnitQuery(unitId, { skip: unitId === "" });
  useTitle(visit ? `Visit of ${visit.unitName}` : "Visit");
  if (!visit || !unit) return <Waiting error={error} />;
  return <Card visit={visit} unit={unit} />;
};

const PLAN_WORDS: Readonly<Record<Job, string>> = {
  winterize: "Plan a winterizing",
  spring: "Plan the de-winterizing",
  sanitize: "Plan the sanitizing",
};

/** The jobs with a sheet of their own that a visit asks for and that no run of it was for yet; winterizing where it asks for none. */
const jobsToPlan = ({ jobs, run }: Visit): Job[] => {
  const asked = JOB_NAMES.filter((j) => jobs.includes(j));
  const open = asked.filter((j) => run === null || j !== jobOf(run.summary));
  return run === null && asked.length === 0 ? ["winterize"] : open;
};

/** The work of the visit that has a sheet: to be planned, under way, or signed. */
const WorkLinks = ({ visit }: { visit: Visit }) => {
  const { run, unitId, jobs } = visit;
  if (run && run.summary.phase !== "closed")
    return (
      <Link to={`/runs/${run.id}`} className={ACT_LINK}>
        Go on with the {jobWork(run.summary.job)}
      </Link>
    );
  return (
    <>
      {jobsToPlan(visit).map((job, i) => (
        <Link
          key={job}
          to={`/units/${unitId}/plan${job === "winterize" ? "" : `/${job}`}?visit=${visit.id}`}
          className={jobs.includes(job) && i === 0 ? ACT_LINK : PLAIN_LINK}
        >
          {PLAN_WORDS[job]}
        </Link>
      ))}
      {run && (
        <Link to={`/records/${run.id}`} className={PLAIN_LINK}>
          Signed sheet of the {jobWork(run.summary.job)}
        </Link>
      )}
    </>
  );
};

const OpenFindings = ({
  findings,
  onOpen,
}: {
  findings: readonly FindingOnFile[];
  onOpen: (finding: FindingOnFile) => void;
}) => (
  <section aria-label="Findings" className="mt-5">
    <h2 className="text-[17px] font-bold">Findings that stand open</h2>
    {findings.some((f) => f.severity === "unsafe" && f.answer?.answer === "no") && (
      <p className="border-l-4 border-rust bg-rust-soft p-2 text-[15px]">
        Unsafe, and declined by the owner: it stands on every sheet until it is mended.
      </p>
    )}
    {findings.length === 0 && <p className="text-muted">None.</p>}
    <FindingList findings={findings} onOpen={onOpen} />
  </section>
);

const Card = ({ visit, unit }: { visit: Visit; unit: Unit }) => {
  const { map, revision, error } = useUnitMap(unit.id);
  const findings = useFindingsNow(unit.id) ?? [];
  const network = useMemo(() => map && buildNetwork(map), [map]);
  const [sheet, setSheet] = useState<"wait" | "found" | FindingOnFile>();
  if (!map) return <Waiting error={error} />;
  const of = { unitId: unit.id, visitId: visit.id, mapRevision: revision };
  const close = (): void => setSheet(undefined);
  const opened =
    typeof sheet === "object" ? (findings.find((f) => f.id === sheet.id) ?? sheet) : undefined;
  return (
    <div className="mx-auto max-w-5xl p-4 pb-12">
      <InBar>
        <BarLink to={`/units/${unit.id}`}>
          <b>{unit.name}</b>
          <span className="hidden lg:inline"> · {unit.craft}</span>
        </BarLink>
      </InBar>
      <Access note={unit.accessNote} map={map} unitId={unit.id} />
      <VisitHead visit={visit} unit={unit} onWait={() => setSheet("wait")} />
      <div className="mt-4 flex flex-wrap gap-2">
        <WorkLinks visit={visit} />
        <Link to={`/units/${unit.id}`} className={PLAIN_LINK}>
          The unit
        </Link>
        <Button big onClick={() => setSheet("found")}>
          A finding
        </Button>
      </div>
      <WorkList visit={visit} network={network} />
      <OpenFindings findings={findings.filter(staysOnSheets)} onOpen={setSheet} />
      {sheet === "wait" && <WaitSheet visit={visit} onClose={close} />}
      {sheet === "found" && <FindingForm of={of} map={map} onClose={close} />}
      {opened && <FindingSheet of={of} finding={opened} map={map} onClose={close} />}
    </div>
  );
};
