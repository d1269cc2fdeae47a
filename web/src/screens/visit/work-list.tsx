import type { Snapshot, Visit } from "@uppershed/contract";
import { JOBS, staysOnSheets } from "@uppershed/core/inspection";
import type { Network } from "@uppershed/core/watermap";
import { Link } from "react-router";
import {
  useFindingsNow,
  useLooksNow,
  useReadingsNow,
  useSnapshotsNow,
} from "../../sending/on-device.ts";
import { timeOf } from "../../ui/words.ts";

/** One line of the card: a piece of the work, what there is of it, and where it is done. */
const Work = ({
  title,
  said,
  to,
  act,
}: {
  title: string;
  said: string;
  to: string;
  act: string;
}) => (
  <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line py-2">
    <span className="min-w-0 flex-1">
      <b className="block text-[17px]">{title}</b>
      <span className="text-[15px] text-muted">{said}</span>
    </span>
    <Link
      to={to}
      className="inline-flex min-h-[54px] min-w-36 items-center justify-center rounded border-[1.5px] border-green bg-raised px-4 text-[16px] font-semibold text-green"
    >
      {act}
    </Link>
  </li>
);

const NAMED = 4;

/** How it stood, in words: what was otherwise than in use. */
const stood = (snapshot: Snapshot | undefined, none: string): string => {
  if (!snapshot) return none;
  const { turns, at, by, note } = snapshot;
  const named = turns.slice(0, NAMED).map((t) => `${t.tag || t.name} ${t.now}`);
  const more = turns.length - named.length;
  const what =
    turns.length === 0
      ? "all as in use"
      : `${named.join(", ")}${more > 0 ? ` and ${more} more` : ""}`;
  return `${what}; ${timeOf(at)}, ${by}${note ? `: ${note}` : ""}`;
};

const LABELS = new Map<string, string>(JOBS.map((j) => [j.id, j.label]));

/** The pieces of a visit's work in their order, how far each is, and what it was booked for. */
export const WorkList = ({ visit, network }: { visit: Visit; network: Network | undefined }) => {
  const { unitId } = visit;
  const findings = useFindingsNow(unitId) ?? [];
  const looks = useLooksNow(unitId) ?? [];
  const readings = useReadingsNow(unitId);
  const snapshots = useSnapshotsNow(unitId, visit.id, network);
  const open = findings.filter(staysOnSheets).length;
  const found = snapshots.findLast((s) => s.kind === "as-found");
  const left = snapshots.findLast((s) => s.kind === "as-left");
  const seen = looks.filter((l) => l.visitId === visit.id);
  const taken = readings.filter((r) => r.at >= visit.startsAt.slice(0, 10)).length;
  return (
    <>
      <ul className="mt-4" aria-label="The work">
        <Work
          title="As found"
          said={stood(found, "how everything stood when it came: not written down yet")}
          to={`/visits/${visit.id}/found`}
          act={found ? "Look, correct" : "Write it down"}
        />
        <Work
          title="Walk-round"
          said={
            seen.length > 0
              ? `${seen.length} points looked at on this visit`
              : "nothing looked at on this visit yet"
          }
          to={`/units/${unitId}/walk?visit=${visit.id}`}
          act={seen.length > 0 ? "Go on" : "Begin"}
        />
        <Work
          title="Gauge and meter"
          said={
            taken > 0
              ? `${taken} readings since it came`
              : "supply pressure, polarity, plug, tank level"
          }
          to={`/units/${unitId}/gauge?visit=${visit.id}`}
          act="Take readings"
        />
        <Work
          title="Other systems"
          said="battery, gas, fridge, furnace, lights: a look, kept apart from the water"
          to={`/units/${unitId}/spring?visit=${visit.id}`}
          act="Spring look"
        />
        <Work
          title="As left"
          said={stood(left, "how everything stands as it goes: not written down yet")}
          to={`/visits/${visit.id}/left`}
          act={left ? "Look, correct" : "Write it down"}
        />
        <Work
          title="Report to the owner"
          said={`${open} ${open === 1 ? "finding" : "findings"} open; on paper, as PDF, by a link`}
          to={`/visits/${visit.id}/report`}
          act="Open"
        />
      </ul>
      {visit.jobs.length > 0 && (
        <p className="mt-2 text-[14px] text-muted">
          Booked for: {visit.jobs.map((j) => LABELS.get(j) ?? j).join(", ")}
        </p>
      )}
    </>
  );
};
