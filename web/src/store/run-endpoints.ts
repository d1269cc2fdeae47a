import type {
  ClockList,
  NewProcedureRun,
  ProcedureRun,
  RunId,
  RunNews,
  TookElsewhere,
  UnitId,
  UnitRun,
} from "@uppershed/contract";
import type { Build } from "./tags.ts";

/** Runs, but for their entries: those go through the outbox. */
export const runEndpoints = (build: Build) => ({
  unitRuns: build.query<UnitRun[], UnitId>({
    query: (id) => `/units/${id}/runs`,
    transformResponse: (reply: { runs: UnitRun[] }) => reply.runs,
    providesTags: ["Runs"],
  }),
  /** What the workshop's other units took, for one that has no measure of its own. */
  tookElsewhere: build.query<TookElsewhere["others"], UnitId>({
    query: (id) => `/units/${id}/took`,
    transformResponse: (reply: TookElsewhere) => reply.others,
    providesTags: ["Runs"],
  }),
  clocks: build.query<ClockList["clocks"], void>({
    query: () => "/clocks",
    transformResponse: (reply: ClockList) => reply.clocks,
    providesTags: ["Runs"],
  }),
  /** What others have added to a run since. */
  runNews: build.query<RunNews, { id: RunId; after: number }>({
    query: ({ id, after }) => ({ url: `/runs/${id}/news`, params: { after } }),
    keepUnusedDataFor: 0,
  }),
  startRun: build.mutation<ProcedureRun, NewProcedureRun>({
    query: (body) => ({ url: "/runs", method: "POST", body }),
    invalidatesTags: ["Runs", "Units", "Visits"],
  }),
  run: build.query<ProcedureRun, RunId>({
    query: (id) => `/runs/${id}`,
    // Entries are only ever added: an answer that was on its way while others came takes none of them back.
    merge: (known, come) => {
      const ids = new Set(come.events.map((e) => e.id));
      const since = known.events.filter((e) => !ids.has(e.id));
      return { ...come, events: [...come.events, ...since] };
    },
    providesTags: (_, __, id) => [{ type: "Run", id }],
    keepUnusedDataFor: 0,
  }),
});
