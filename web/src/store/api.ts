import { createApi, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import type {
  ChangeLife,
  MapRevision,
  Me,
  NewLook,
  NewMapRevision,
  NewNote,
  NewRun,
  NewUnit,
  Note,
  PartSearch,
  PointLook,
  RegisteredPart,
  RevisionLine,
  Problem,
  Run,
  SignIn,
  Unit,
  UnitRun,
  Visit,
} from "@uppershed/contract";

/** Everything that the screens ask of the server, but for a run's events: those go through the outbox. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: fetchBaseQuery({ baseUrl: `${window.location.origin}/api`, credentials: "same-origin" }),
  tagTypes: ["Me", "Units", "Visits", "Runs", "Parts", "Notes", "Looks"],
  endpoints: (build) => ({
    me: build.query<Me, void>({ query: () => "/me", providesTags: ["Me"] }),
    signIn: build.mutation<Me, SignIn>({
      query: (body) => ({ url: "/sign-in", method: "POST", body }),
      invalidatesTags: ["Me", "Units", "Visits", "Runs", "Parts", "Notes", "Looks"],
    }),
    signOut: build.mutation<{ signedOut: boolean }, void>({ query: () => ({ url: "/sign-out", method: "POST" }) }),
    units: build.query<Unit[], void>({
      query: () => "/units",
      transformResponse: (reply: { units: Unit[] }) => reply.units,
      providesTags: ["Units"],
    }),
    unit: build.query<Unit, string>({ query: (id) => `/units/${id}`, providesTags: ["Units"] }),
    addUnit: build.mutation<Unit, NewUnit>({
      query: (body) => ({ url: "/units", method: "POST", body }),
      invalidatesTags: ["Units", "Parts"],
    }),
    revisions: build.query<RevisionLine[], string>({
      query: (id) => `/units/${id}/map/revisions`,
      transformResponse: (reply: { revisions: RevisionLine[] }) => reply.revisions,
      providesTags: ["Units"],
    }),
    mapAt: build.query<MapRevision, { id: string; revision: number }>({ query: ({ id, revision }) => `/units/${id}/map/${revision}` }),
    saveMap: build.mutation<MapRevision, { id: string; asked: NewMapRevision }>({
      query: ({ id, asked }) => ({ url: `/units/${id}/map`, method: "POST", body: asked }),
      invalidatesTags: ["Units", "Parts"],
    }),
    parts: build.query<{ parts: RegisteredPart[]; more: boolean }, PartSearch>({
      query: (params) => ({ url: "/parts", params }),
      providesTags: ["Parts"],
    }),
    changeLife: build.mutation<RegisteredPart, { unitId: string; partId: string; item: string; change: ChangeLife }>({
      query: ({ unitId, partId, item, change }) => ({
        url: `/units/${unitId}/parts/${partId}`,
        method: "PATCH",
        params: { item },
        body: change,
      }),
      invalidatesTags: ["Parts"],
    }),
    map: build.query<MapRevision, string>({ query: (id) => `/units/${id}/map`, providesTags: ["Units"] }),
    unitRuns: build.query<UnitRun[], string>({
      query: (id) => `/units/${id}/runs`,
      transformResponse: (reply: { runs: UnitRun[] }) => reply.runs,
      providesTags: ["Runs"],
    }),
    notes: build.query<Note[], string>({
      query: (id) => `/units/${id}/notes`,
      transformResponse: (reply: { notes: Note[] }) => reply.notes,
      providesTags: ["Notes"],
    }),
    addNote: build.mutation<Note, { unitId: string; note: NewNote }>({
      query: ({ unitId, note }) => ({ url: `/units/${unitId}/notes`, method: "POST", body: note }),
      invalidatesTags: ["Notes"],
    }),
    looks: build.query<PointLook[], string>({
      query: (id) => `/units/${id}/looks`,
      transformResponse: (reply: { looks: PointLook[] }) => reply.looks,
      providesTags: ["Looks"],
    }),
    looksAt: build.query<PointLook[], { unitId: string; key: string }>({
      query: ({ unitId, key }) => ({ url: `/units/${unitId}/looks`, params: { key } }),
      transformResponse: (reply: { looks: PointLook[] }) => reply.looks,
      providesTags: ["Looks"],
    }),
    addLooks: build.mutation<PointLook[], { unitId: string; looks: readonly NewLook[] }>({
      query: ({ unitId, looks }) => ({ url: `/units/${unitId}/looks`, method: "POST", body: { looks } }),
      transformResponse: (reply: { looks: PointLook[] }) => reply.looks,
      invalidatesTags: ["Looks"],
    }),
    inUse: build.mutation<Unit, string>({
      query: (id) => ({ url: `/units/${id}/in-use`, method: "POST" }),
      invalidatesTags: ["Units", "Runs"],
    }),
    visits: build.query<Visit[], { from: string; to: string; unit?: string }>({
      query: (params) => ({ url: "/visits", params }),
      transformResponse: (reply: { visits: Visit[] }) => reply.visits,
      providesTags: ["Visits"],
    }),
    changeVisit: build.mutation<Visit, { id: string; state: Visit["state"] }>({
      query: ({ id, state }) => ({ url: `/visits/${id}`, method: "PATCH", body: { state } }),
      invalidatesTags: ["Visits"],
    }),
    startRun: build.mutation<Run, NewRun>({
      query: (body) => ({ url: "/runs", method: "POST", body }),
      invalidatesTags: ["Runs", "Units", "Visits"],
    }),
    run: build.query<Run, string>({ query: (id) => `/runs/${id}`, providesTags: ["Runs"], keepUnusedDataFor: 0 }),
  }),
});

export const {
  useMeQuery,
  useSignInMutation,
  useSignOutMutation,
  useUnitsQuery,
  useUnitQuery,
  useMapQuery,
  useAddUnitMutation,
  useRevisionsQuery,
  useMapAtQuery,
  useSaveMapMutation,
  usePartsQuery,
  useChangeLifeMutation,
  useUnitRunsQuery,
  useNotesQuery,
  useAddNoteMutation,
  useLooksQuery,
  useLooksAtQuery,
  useAddLooksMutation,
  useInUseMutation,
  useVisitsQuery,
  useChangeVisitMutation,
  useStartRunMutation,
  useRunQuery,
} = api;

/** The server's own sentence for a failed request, or what to do when it cannot be reached. */
export const problemText = (error: unknown): string => {
  const { data, status } = (error ?? {}) as { data?: Partial<Problem>; status?: number | string };
  if (data?.error?.message) return data.error.message;
  return status === "FETCH_ERROR"
    ? "The server cannot be reached. Check the connection; nothing is lost."
    : "That did not work. Try again.";
};
