import type { WaterMap } from "@uppershed/core/watermap";
import { Link } from "react-router";
import { capital } from "../../ui/words.ts";

/** Panels, and what must be moved to get behind them: first on every job card. */
export const Access = ({ note, map, unitId }: { note: string; map: WaterMap; unitId: string }) => {
  const panels = new Map<string, string[]>();
  for (const part of map.parts)
    if (part.access)
      panels.set(part.access, [...(panels.get(part.access) ?? []), part.tag ?? part.name]);
  return (
    <section aria-label="Getting at it" className="border-l-4 border-green bg-green-soft p-3">
      <h2 className="text-[16px] font-bold">Getting at it</h2>
      {note && <p className="whitespace-pre-wrap">{note}</p>}
      {panels.size > 0 && (
        <ul className="mt-1 text-[15px]">
          {[...panels].map(([access, names]) => (
            <li key={access}>
              <b>{capital(access)}</b>: {names.join(", ")}
            </li>
          ))}
        </ul>
      )}
      {!note && panels.size === 0 && (
        <p className="text-[15px] text-muted">
          Nothing is written down yet.{" "}
          <Link to={`/units/${unitId}/edit`} className="text-green underline">
            Write it
          </Link>
        </p>
      )}
    </section>
  );
};
