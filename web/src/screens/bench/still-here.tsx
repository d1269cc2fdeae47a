import type { Visit } from "@uppershed/contract";
import { Link } from "react-router";
import { shortDay } from "../../ui/words.ts";
import { Clocks, howFar, MoveOn } from "./day-strip.tsx";

/** Units that came before today and have not gone: soaking, holding, waiting for parts, ready. */
export const StillHere = ({ visits }: { visits: readonly Visit[] }) =>
  visits.length === 0 ? null : (
    <section aria-label="Still here" className="mb-4">
      <h2 className="text-[14px] font-bold uppercase tracking-wide text-muted">Still here</h2>
      <ul>
        {visits.map((visit) => (
          <li key={visit.id} className="flex flex-wrap items-center gap-x-4 border-t border-line">
            <Link
              to={`/visits/${visit.id}`}
              className="flex min-h-12 min-w-0 flex-1 flex-wrap items-center gap-x-4 hover:bg-green-soft"
            >
              <b className="w-24">{visit.unitName}</b>
              <span>{visit.asked}</span>
              <span className="text-muted">since {shortDay(visit.startsAt)}</span>
              <b>{howFar(visit)}</b>
              {visit.unsafe > 0 && <b className="text-rust">unsafe finding open</b>}
              <Clocks visit={visit} />
            </Link>
            <MoveOn visit={visit} />
          </li>
        ))}
      </ul>
    </section>
  );
