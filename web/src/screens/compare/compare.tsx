import { compareMaps } from "@uppershed/core/survey";
import { readWaterMap, type WaterMap } from "@uppershed/core/watermap";
import { useMemo, useState } from "react";
import { useDrawn } from "../../mapping/use-drawn.ts";
import { Link, useParams, useSearchParams } from "react-router";
import { MapDrawing } from "../../drawing/map-drawing.tsx";
import { Differences } from "../../mapping/differences.tsx";
import { differenceHalos } from "../../mapping/halos.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import { useMapAtQuery, useRevisionsQuery, useUnitQuery } from "../../store/api.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { dayOf, timeOf } from "../../ui/words.ts";
import { BarLink } from "../../shell/bar-link.tsx";

const useMapAt = (id: string, revision: number | undefined): WaterMap | undefined => {
  const { data } = useMapAtQuery({ id, revision: revision ?? 1 }, { skip: revision === undefined });
  return useMemo(() => {
    const read = data ? readWaterMap(data.document) : undefined;
    return read?.ok ? read.map : undefined;
  }, [data]);
};

/** Every revision of a unit's map, and what differs between two of them, on the drawing and as a list. */
export const Compare = () => {
  const { unitId = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const { data: unit } = useUnitQuery(unitId);
  const { data: revisions, error } = useRevisionsQuery(unitId);
  const [selected, setSelected] = useState<string>();
  const [side, setSide] = useState<"before" | "after">("after");
  useTitle(unit ? `Revisions of ${unit.name}` : "Revisions");
  const newest = revisions?.[0]?.revision;
  const after = Number(params.get("after") ?? newest ?? 0) || undefined;
  const before =
    Number(params.get("before") ?? (after && after > 1 ? after - 1 : after) ?? 0) || undefined;
  const [mapAfter, mapBefore] = [useMapAt(unitId, after), useMapAt(unitId, before)];
  const list = useMemo(
    () => (mapAfter && mapBefore ? compareMaps(mapBefore, mapAfter) : []),
    [mapAfter, mapBefore],
  );
  const shownMap = side === "after" ? mapAfter : mapBefore;
  const drawn = useDrawn(shownMap);
  const halos = useMemo(() => differenceHalos(list, side), [list, side]);
  if (!unit || !revisions || !drawn || before === undefined || after === undefined)
    return <Waiting error={error} />;
  const choose = (side: "before" | "after", value: string): void =>
    setParams({ before: String(before), after: String(after), [side]: value }, { replace: true });
  const select = (side: "before" | "after", label: string, value: number) => (
    <label className="flex items-center gap-2 text-[15px]">
      <span className="text-muted">{label}</span>
      <select className="field" value={value} onChange={(e) => choose(side, e.target.value)}>
        {revisions.map((r) => (
          <option key={r.revision} value={r.revision}>
            {r.revision}, {dayOf(r.at)}
          </option>
        ))}
      </select>
    </label>
  );
  return (
    <div className="grid h-[calc(100dvh-var(--bar-height,52px))] min-h-[520px] grid-cols-1 grid-rows-[minmax(0,1fr)_minmax(0,45%)] lg:grid-cols-[minmax(0,1fr)_380px] lg:grid-rows-1">
      <InBar>
        <BarLink to={`/units/${unitId}`}>
          <b>{unit.name}</b> · {unit.craft}
        </BarLink>
        <Link
          to={`/units/${unitId}/map`}
          className="min-h-11 content-center text-[14px] text-on-bar underline"
        >
          map bench
        </Link>
      </InBar>
      <div className="relative min-h-0">
        <MapDrawing
          network={drawn.network}
          scene={drawn.scene}
          halos={halos}
          selected={selected}
          onSelect={setSelected}
          legend={
            <p className="rounded bg-paper/90 px-2 py-1 text-[13px]">
              {side === "after" ? (
                <>
                  Revision {after}: <b>+</b> added, <b>~</b> changed since revision {before}
                </>
              ) : (
                <>
                  Revision {before}: <b>−</b> taken out, <b>~</b> changed in revision {after}
                </>
              )}
            </p>
          }
        />
      </div>
      <div className="min-h-0 overflow-auto border-t border-line bg-paper p-4 lg:border-l lg:border-t-0">
        <h1 className="text-lg font-bold">Revisions of {unit.name}</h1>
        <div className="my-2 flex flex-wrap gap-3">
          {select("before", "From", before)}
          {select("after", "to", after)}
        </div>
        <div role="group" aria-label="Which one is drawn" className="flex">
          {(["before", "after"] as const).map((which) => (
            <button
              key={which}
              type="button"
              aria-pressed={side === which}
              onClick={() => {
                setSide(which);
                setSelected(undefined);
              }}
              className={`min-h-11 border-[1.5px] border-green px-4 text-[15px] first:rounded-l last:rounded-r ${side === which ? "bg-green text-on-green" : "bg-raised text-green"}`}
            >
              Draw revision {which === "before" ? before : after}
            </button>
          ))}
        </div>
        <h2 className="mt-3 text-[15px] font-semibold">What differs</h2>
        <Differences list={list} onChoose={setSelected} />
        <h2 className="mt-5 text-[15px] font-semibold">All revisions</h2>
        <ol>
          {revisions.map((r) => (
            <li key={r.revision} className="border-t border-line py-2 text-[14px]">
              <b>{r.revision}</b> {dayOf(r.at)}, {timeOf(r.at)}, {r.by}: {r.why}{" "}
              <span className="text-muted">({r.parts} parts)</span>
            </li>
          ))}
        </ol>
      </div>
    </div>
  );
};
