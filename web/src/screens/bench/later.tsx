import type { Visit } from "@uppershed/contract";
import { Link } from "react-router";
import { shortDay, timeOf } from "../../ui/words.ts";

/** What is booked on the next days. */
export const Later = ({ visits }: { visits: readonly Visit[] }) =>
  visits.length === 0 ? null : (
    <section aria-label="Later this week" className="mt-5">
      <h2 className="text-[14px] font-bold uppercase tracking-wide text-muted">Later this week</h2>
      <ul>
        {visits.map((visit) => (
          <li key={visit.id} className="border-t border-line">
            <Link
              to={`/visits/${visit.id}`}
              className="flex min-h-11 flex-wrap items-center gap-x-4 hover:bg-green-soft"
            >
              <span className="w-32 text-muted">
                {shortDay(visit.startsAt)} {timeOf(visit.startsAt)}
              </span>
              <b className="w-24">{visit.unitName}</b>
              <span>{visit.asked}</span>
              {visit.ownerSaid && <q className="italic text-muted">{visit.ownerSaid}</q>}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
