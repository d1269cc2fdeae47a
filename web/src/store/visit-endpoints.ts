import type {
  FindingOnFile,
  FindingSearch,
  NewNote,
  NewVisit,
  Note,
  Picture,
  PictureChange,
  PointLook,
  PressureTestOnFile,
  Reading,
  Snapshot,
  SpringLook,
  TestLine,
  UnitId,
  Visit,
  VisitChange,
  VisitId,
} from "@uppershed/contract";
import type { Build } from "./tags.ts";

/** Visits, and what is seen, measured and found on them. */
export const visitEndpoints = (build: Build) => ({
  findings: build.query<{ findings: FindingOnFile[]; more: boolean }, FindingSearch>({
    query: (params) => ({ url: "/findings", params }),
    providesTags: ["Findings"],
  }),
  findingsOfUnit: build.query<FindingOnFile[], UnitId>({
    query: (id) => `/units/${id}/findings`,
    transformResponse: (reply: { findings: FindingOnFile[] }) => reply.findings,
    providesTags: ["Findings"],
  }),
  testsOfUnit: build.query<TestLine[], string>({
    query: (id) => `/units/${id}/tests`,
    transformResponse: (reply: { tests: TestLine[] }) => reply.tests,
    providesTags: ["Tests"],
  }),
  runningTests: build.query<TestLine[], void>({
    query: () => "/tests/running",
    transformResponse: (reply: { tests: TestLine[] }) => reply.tests,
    providesTags: ["Tests"],
  }),
  pressureTest: build.query<PressureTestOnFile, { unitId: string; testId: string }>({
    query: ({ unitId, testId }) => `/units/${unitId}/tests/${testId}`,
    providesTags: ["Tests"],
  }),
  pictures: build.query<Picture[], UnitId>({
    query: (id) => `/units/${id}/pictures`,
    transformResponse: (reply: { pictures: Picture[] }) => reply.pictures,
    providesTags: ["Pictures"],
  }),
  changePicture: build.mutation<Picture, { id: string; change: PictureChange }>({
    query: ({ id, change }) => ({ url: `/pictures/${id}`, method: "PATCH", body: change }),
    invalidatesTags: ["Pictures"],
  }),
  readings: build.query<{ readings: Reading[]; more: boolean }, { unitId: UnitId; key?: string }>({
    query: ({ unitId, key }) => ({
      url: `/units/${unitId}/readings`,
      ...(key === undefined ? {} : { params: { key } }),
    }),
    providesTags: ["Readings"],
  }),
  spring: build.query<SpringLook[], UnitId>({
    query: (id) => `/units/${id}/spring`,
    transformResponse: (reply: { looks: SpringLook[] }) => reply.looks,
    providesTags: ["Spring"],
  }),
  visit: build.query<Visit, VisitId>({
    query: (id) => `/visits/${id}`,
    providesTags: ["Visits"],
  }),
  bookVisit: build.mutation<Visit, NewVisit>({
    query: (body) => ({ url: "/visits", method: "POST", body }),
    invalidatesTags: ["Visits"],
  }),
  snapshots: build.query<Snapshot[], VisitId>({
    query: (id) => `/visits/${id}/snapshots`,
    transformResponse: (reply: { snapshots: Snapshot[] }) => reply.snapshots,
    providesTags: ["Snapshots"],
  }),
  notes: build.query<Note[], UnitId>({
    query: (id) => `/units/${id}/notes`,
    transformResponse: (reply: { notes: Note[] }) => reply.notes,
    providesTags: ["Notes"],
  }),
  addNote: build.mutation<Note, { unitId: UnitId; note: NewNote }>({
    query: ({ unitId, note }) => ({ url: `/units/${unitId}/notes`, method: "POST", body: note }),
    invalidatesTags: ["Notes"],
  }),
  looks: build.query<PointLook[], UnitId>({
    query: (id) => `/units/${id}/looks`,
    transformResponse: (reply: { looks: PointLook[] }) => reply.looks,
    providesTags: ["Looks"],
  }),
  looksAt: build.query<PointLook[], { unitId: UnitId; key: string }>({
    query: ({ unitId, key }) => ({ url: `/units/${unitId}/looks`, params: { key } }),
    transformResponse: (reply: { looks: PointLook[] }) => reply.looks,
    providesTags: ["Looks"],
  }),
  visits: build.query<Visit[], { from: string; to: string; unit?: string; here?: "yes" | "no" }>({
    query: (params) => ({ url: "/visits", params }),
    transformResponse: (reply: { visits: Visit[] }) => reply.visits,
    providesTags: ["Visits"],
  }),
  changeVisit: build.mutation<Visit, { id: VisitId; change: VisitChange }>({
    query: ({ id, change }) => ({ url: `/visits/${id}`, method: "PATCH", body: change }),
    invalidatesTags: ["Visits", "Editions"],
  }),
});
