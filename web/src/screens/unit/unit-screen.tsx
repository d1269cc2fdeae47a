import type { FindingOnFile, PointLook } from "@uppershed/contract";
import { heatersInWords } from "@uppershed/core/inspection";
import { lazy, Suspense, useMemo, useState } from "react";
import { useParams } from "react-router";
import { JudgedBy } from "../../frost/judged-by.tsx";
import { FrostLadder } from "../../frost/ladder.tsx";
import { lifeWords } from "../../mapping/life-words.ts";
import { heldOpenBy, partBadges } from "../../mapping/part-badges.ts";
import { EVER } from "../../planning/use-visit-here.ts";
import { useFindingsNow, useLooksNow, useReadingsNow } from "../../sending/on-device.ts";
import { InBar, useTitle } from "../../shell/slots.tsx";
import {
  useMeQuery,
  usePartsQuery,
  useRefitsOfUnitQuery,
  useTestsOfUnitQuery,
  useUnitQuery,
  useUnitRunsQuery,
  useVisitsQuery,
} from "../../store/api.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { marksOf } from "./marks.ts";
import { type Chosen, NOW, RunStrip } from "./run-strip.tsx";
import { UnitHead } from "./unit-head.tsx";
import { UnitMap } from "./unit-map.tsx";
import { useShown, type Wanted } from "./use-shown.ts";
import { YearStrip } from "./year-strip.tsx";

// One and the same nothing, so that what is worked out from it is not worked out again.
const NONE: readonly never[] = [];

/** Looks and findings as they stood at the end of a day; as they stand where none is chosen. */
const useAsOf = (
  dayEnd: string | undefined,
  looks: readonly PointLook[],
  findings: readonly FindingOnFile[],
) =>
  useMemo(
    () =>
      dayEnd === undefined
        ? { looks, findings }
        : {
            looks: looks.filter((l) => l.at <= dayEnd),
            findings: findings.filter((f) => f.foundAt <= dayEnd && (f.mended?.at ?? "9") > dayEnd),
          },
    [dayEnd, looks, findings],
  );

/** What the map is to show: a day of the past, a run, how it stands now, or how it is in use. */
const useWanted = (
  chosen: Chosen,
  dayEnd: string | undefined,
  openRun: string | undefined,
): Wanted =>
  useMemo<Wanted>(() => {
    // On a day of the past the map is the one of that day, and what it held is what the last record before it says.
    if (dayEnd !== undefined) return { what: "standing", asOf: dayEnd };
    if (chosen.what === "in use") return chosen;
    // A run that is open is the present state itself; a closed one is seen through what came after it.
    const runId = chosen.what === "run" ? chosen.runId : openRun;
    return runId === undefined ? { what: "standing", asOf: undefined } : { what: "run", runId };
  }, [dayEnd, chosen, openRun]);

// The map is what the screen is for: the lists beside it come after.
const Drawer = lazy(async () => ({ default: (await import("./drawer.tsx")).Drawer }));

/** One unit: its map as it stands or stood, the frost it holds, and everything that is known of it. */
export const UnitScreen = () => {
  const { unitId = "" } = useParams();
  const { data: me } = useMeQuery();
  const { data: unit, error: unitError } = useUnitQuery(unitId);
  const { data: runs = NONE } = useUnitRunsQuery(unitId);
  const { data: register } = usePartsQuery({ unit: unitId });
  const { data: visits = NONE } = useVisitsQuery({ ...EVER, unit: unitId });
  const findings = useFindingsNow(unitId) ?? NONE;
  const looks = useLooksNow(unitId) ?? NONE;
  const readings = useReadingsNow(unitId);
  const { data: tests = NONE } = useTestsOfUnitQuery(unitId);
  const { data: refits = NONE } = useRefitsOfUnitQuery(unitId);
  const [chosen, setChosen] = useState<Chosen>(NOW);
  const [day, setDay] = useState<string>();
  const [selected, setSelected] = useState<string>();
  const [now] = useState(() => new Date().toISOString());
  const today = now.slice(0, 10);
  useTitle(unit?.name ?? "Unit");
  const dayEnd = day === undefined ? undefined : `${day}T23:59:59.999Z`;
  const openRun = unit?.state.kind === "in-work" ? (unit.state.runId ?? undefined) : undefined;
  const wanted = useWanted(chosen, dayEnd, openRun);
  const { shown, revision, notKnown, error } = useShown(unitId, wanted);
  const marks = useMemo(
    () => marksOf(runs, visits, findings, readings, tests, now),
    [runs, visits, findings, readings, tests, now],
  );
  const then = useAsOf(dayEnd, looks, findings);
  const parts = register?.parts ?? NONE;
  const badges = useMemo(
    () =>
      partBadges(
        parts,
        then.looks,
        then.findings,
        day ?? today,
        // What is held open is told of today; of a day that was, its tests tell it.
        day === undefined ? heldOpenBy(tests, refits) : undefined,
      ),
    [parts, then, tests, refits, day, today],
  );
  if (!unit || !shown || !me) return <Waiting error={unitError ?? error} />;
  const { network, verdict } = shown;
  const standsNow =
    wanted.what === "standing" && dayEnd === undefined && unit.state.kind === "as-left";
  return (
    <div className="grid min-h-[560px] grid-cols-1 grid-rows-[auto_62dvh_auto_auto] lg:h-[calc(100dvh-var(--bar-height,52px))] lg:grid-rows-[auto_1fr_auto] lg:grid-cols-[1fr_310px]">
      <InBar>
        <span className="truncate rounded border border-on-bar/60 px-3 py-1 text-[15px]">
          <b>{unit.name}</b> · {unit.craft}
        </span>
      </InBar>
      <UnitHead
        unit={unit}
        runs={runs}
        tests={tests}
        refits={refits}
        stand={standsNow ? heatersInWords(network, shown.contents, shown.lineup) : NONE}
      />
      <UnitMap
        unitId={unit.id}
        shown={shown}
        wanted={wanted}
        day={day}
        revision={revision}
        notKnown={notKnown}
        badges={badges}
        life={selected === undefined ? [] : lifeWords(parts, selected, today)}
        selected={selected}
        onSelect={setSelected}
        onToday={() => setDay(undefined)}
      />
      <div className="min-h-[420px] border-t border-line lg:min-h-0 lg:border-l lg:border-t-0">
        <Suspense fallback={null}>
          <Drawer
            unit={unit}
            map={network.map}
            frost={
              <>
                <FrostLadder
                  verdict={verdict}
                  winterLowC={unit.place?.winterLowC ?? me.workshop.winterLowC}
                  onChoose={setSelected}
                />
                <JudgedBy unit={unit} workshop={me.workshop} />
              </>
            }
            findings={findings}
            visits={visits.toReversed()}
            readings={readings}
            register={parts}
            today={today}
          />
        </Suspense>
      </div>
      <div className="border-t border-line lg:col-span-2">
        <RunStrip
          runs={runs}
          state={unit.state}
          chosen={day === undefined ? chosen : undefined}
          onChoose={(what) => {
            setDay(undefined);
            setChosen(what);
          }}
        />
        <YearStrip marks={marks} chosen={day} onChoose={setDay} />
      </div>
    </div>
  );
};
