import type { FrostWatch as Watch } from "@uppershed/contract";
import { Link } from "react-router";
import { useFrostWatchQuery } from "../store/api.ts";
import { useUnits } from "../ui/units.ts";
import { clock, shortDay } from "../ui/words.ts";

const SHOWN = 8;

/** The same in a few words: how long, where it is coldest first. */
const Short = ({ risk }: { risk: Watch["risks"][number] }) => {
  const { q } = useUnits();
  return (
    <li>
      <Link to={`/units/${risk.unitId}`} className="font-bold underline">
        {risk.unit}
      </Link>{" "}
      {risk.hours === null ? "" : `${clock(risk.hours * 60)} h, `}
      {q(risk.night.lowC, "temperature")}
    </li>
  );
};

const Risk = ({ risk }: { risk: Watch["risks"][number] }) => {
  const { q, holds } = useUnits();
  return (
    <li className="border-b border-line py-1 last:border-0">
      <Link to={`/units/${risk.unitId}`} className="font-bold underline">
        {risk.unit}
      </Link>{" "}
      {shortDay(risk.night.day)}, {q(risk.night.lowC, "temperature")} at {risk.place}: holds to{" "}
      {holds(risk.holdsToC)}
      {risk.hours !== null && (
        <>
          ; first to freeze through is {risk.part}, after <b>{clock(risk.hours * 60)} h</b>
        </>
      )}
      {risk.minutes !== null && ` (to make it safe took ${clock(risk.minutes)} h last time)`}.
    </li>
  );
};

/** Which units do not hold the nights to come, the first to freeze first. */
export const FrostWatch = () => {
  const { data } = useFrostWatchQuery();
  if (!data || data.risks.length + data.more === 0) return null;
  const simulated = data.risks.some((r) => r.simulated);
  const rest = data.risks.length - Math.min(SHOWN, data.risks.length) + data.more;
  return (
    <section
      aria-label="Frost watch"
      className="mb-3 border-l-4 border-rust bg-rust-soft px-3 py-2 text-[15px]"
    >
      <h2 className="font-bold">
        Frost watch: {data.risks.length + data.more} do not hold the nights to come
        {simulated && (
          <span className="font-normal">
            {" "}
            (simulated: nobody has brought a forecast;{" "}
            <Link to="/workshop/places" className="underline">
              bring one
            </Link>
            )
          </span>
        )}
      </h2>
      <ul aria-label="Hours until something freezes through" className="flex flex-wrap gap-x-5">
        {data.risks.slice(0, SHOWN).map((risk) => (
          <Short key={risk.unitId} risk={risk} />
        ))}
      </ul>
      <details>
        <summary className="min-h-8">
          What freezes first, and how long it takes to make safe
          {rest > 0 && `; and ${rest} more`}
        </summary>
        <ul>
          {data.risks.map((risk) => (
            <Risk key={risk.unitId} risk={risk} />
          ))}
        </ul>
      </details>
    </section>
  );
};
