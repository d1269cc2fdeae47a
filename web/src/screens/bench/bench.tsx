import { mayDo, type Me } from "@uppershed/contract";
import { addDays, startOfDay } from "date-fns";
import { useMemo } from "react";
import { Link } from "react-router";
import { FrostWatch } from "../../frost/watch.tsx";
import { BackupLine } from "../../keeping/backup-line.tsx";
import { WaitingLine } from "../../keeping/waiting-line.tsx";
import { useTitle } from "../../shell/slots.tsx";
import {
  useFrostWatchQuery,
  useKeepingQuery,
  useMeQuery,
  useRulesQuery,
  useRunningTestsQuery,
  useUnitsQuery,
  useVisitsQuery,
  useWaitingQuery,
} from "../../store/api.ts";
import { Waiting } from "../../ui/waiting.tsx";
import { shortDay } from "../../ui/words.ts";
import { useNow } from "../../ui/use-now.ts";
import { DayStrip } from "./day-strip.tsx";
import { Later } from "./later.tsx";
import { Load } from "./load.tsx";
import { LotLadder } from "./lot-ladder.tsx";
import { RunningClocks } from "./running-clocks.tsx";
import { RunningTests } from "./running-tests.tsx";
import { StillHere } from "./still-here.tsx";

const DAYS_AHEAD = 7;
const MINUTE = 60_000;
// More than these marks cannot be told apart on the ladder.
const ON_LADDER = 16;

/** Whether what stands above the day is still on its way: coming late, it would push the day away under a finger. */
const useIsSettling = (me: Me | undefined): boolean => {
  const skip = me === undefined || !mayDo(me.person.role, "workshop");
  const above = [
    useKeepingQuery(undefined, { skip }),
    useRulesQuery(undefined, { skip }),
    useWaitingQuery(),
    useFrostWatchQuery(),
    useRunningTestsQuery(),
  ];
  return above.some((q) => q.isLoading);
};

/** Today: visits as a strip of the day, clocks that run, what to load, and the frost ladder of the whole lot. */
export const Bench = () => {
  useTitle("Bench");
  const now = useNow(MINUTE);
  const today = startOfDay(now).getTime();
  const span = useMemo(
    () => ({
      from: new Date(today).toISOString(),
      to: addDays(today, DAYS_AHEAD).toISOString(),
      here: "yes" as const,
    }),
    [today],
  );
  const { data: me } = useMeQuery();
  const { data: visits, error } = useVisitsQuery(span);
  const { data: lot } = useUnitsQuery({ sort: "cold", limit: ON_LADDER });
  const isSettling = useIsSettling(me);
  if (!visits || !me || isSettling) return <Waiting error={error} />;
  const tomorrow = addDays(today, 1).getTime();
  const before = visits.filter((v) => Date.parse(v.startsAt) < today);
  const todays = visits.filter(
    (v) => Date.parse(v.startsAt) >= today && Date.parse(v.startsAt) < tomorrow,
  );
  const later = visits.filter((v) => Date.parse(v.startsAt) >= tomorrow);
  return (
    <div className="grid min-h-[calc(100dvh-var(--bar-height,52px))] grid-cols-1 grid-rows-[auto_1fr_auto] lg:grid-cols-[1fr_290px]">
      <div className="flex flex-wrap items-baseline gap-x-4 px-5 pb-1 pt-4 lg:col-span-2">
        <h1 className="text-2xl font-bold">{shortDay(new Date(now).toISOString())}</h1>
        <p className="text-muted">
          {todays.length === 0
            ? "Nothing booked today"
            : `${todays.length} visit${todays.length === 1 ? "" : "s"} today`}
          {later.length > 0 && `, ${later.length} more this week`}
        </p>
        <Link
          to="/visits/new"
          className="ml-auto inline-flex min-h-11 items-center rounded bg-green px-4 text-[15px] font-semibold text-on-green"
        >
          Book a visit
        </Link>
      </div>
      <div className="min-w-0 px-5 pb-4">
        <BackupLine role={me.person.role} />
        <WaitingLine me={me} />
        <FrostWatch />
        <RunningClocks />
        <RunningTests />
        <StillHere visits={before} />
        <DayStrip visits={todays} now={now} />
        <Later visits={later} />
      </div>
      <div className="border-t border-line px-5 py-4 lg:border-l lg:border-t-0">
        <LotLadder
          units={lot?.units ?? []}
          found={lot?.found ?? 0}
          winterLowC={me.workshop.winterLowC}
        />
      </div>
      <div className="sticky bottom-0 z-20 border-t-2 border-green bg-green-soft px-5 py-3 lg:col-span-2">
        <Load visits={[...before, ...todays]} workshop={me.workshop} />
      </div>
    </div>
  );
};
