import {
  type BaseQueryFn,
  createApi,
  type FetchArgs,
  fetchBaseQuery,
  type FetchBaseQueryError,
} from "@reduxjs/toolkit/query/react";
import type {
  ChangeLife,
  Customer,
  CustomerChange,
  CustomerId,
  EditionId,
  EditionLine,
  FindingOnFile,
  FindingSearch,
  MapRevision,
  Me,
  NewEdition,
  NewMapRevision,
  NewNote,
  NewProcedureRun,
  NewCustomer,
  NewUnit,
  NewVisit,
  Note,
  OwnerLink,
  Paper,
  PartSearch,
  Picture,
  PictureChange,
  PointLook,
  RegisteredPart,
  RevisionLine,
  ApiProblem,
  Reading,
  RegisterFile,
  RegisterOutcome,
  ReportData,
  ProcedureRun,
  RunId,
  SignIn,
  Snapshot,
  SpringLook,
  Unit,
  UnitChange,
  UnitId,
  UnitList,
  UnitRun,
  UnitSearch,
  UnitStandingTold,
  Visit,
  VisitChange,
  VisitId,
} from "@uppershed/contract";
import { AS_HEADER, problemSchema, replySchema } from "@uppershed/contract";
import type { PartId } from "@uppershed/core/watermap";
import { forgetAll, nowHere, remember, remembered, whoIsHere } from "../device/seen.ts";
import { forgiveSignOut, settleSignOut, signOutOwed } from "../device/sign-out.ts";

// A request that is never answered must not keep a screen waiting.
const ANSWER_WITHIN_MS = 30_000;
const ask = fetchBaseQuery({
  baseUrl: `${window.location.origin}/api`,
  credentials: "same-origin",
  timeout: ANSWER_WITHIN_MS,
  // Who this page belongs to: in another tab somebody else may have signed in since.
  prepareHeaders: (headers, { getState, endpoint }) => {
    const person = WHO_AM_I.has(endpoint) ? undefined : personOf(getState());
    if (person !== undefined) headers.set(AS_HEADER, person);
  },
});
/** Requests that ask who is signed in, or change it. */
const WHO_AM_I: ReadonlySet<string> = new Set(["me", "signIn"]);
const personOf = (state: unknown): string | undefined =>
  api.endpoints.me.select()(state as Parameters<ReturnType<typeof api.endpoints.me.select>>[0]).data
    ?.person.id;

const SIGNED_OUT = {
  status: 401,
  data: { error: { code: "not-signed-in", message: "Sign in first." } },
} as const;

/** In development and in the tests every reply is held against the contract. */
const asAgreed = (method: string, address: string, data: unknown): void => {
  if (import.meta.env.PROD || data === undefined) return;
  const schema = replySchema(method, address);
  const read = schema?.safeParse(data);
  if (read && !read.success)
    throw new Error(`${method} ${address} does not answer as agreed: ${read.error.message}`);
};

const isSomebodyElse = (body: unknown): boolean =>
  problemSchema.safeParse(body).data?.error.code === "somebody-else";

const addressOf = ({ url, params }: FetchArgs): string =>
  `${url}?${new URLSearchParams((params ?? {}) as Record<string, string>).toString()}`;

/** What is only read is kept on this device under whoever saw it, and read from there by nobody else, where there is no signal. */
const askOrRemember: BaseQueryFn<string | FetchArgs, unknown, FetchBaseQueryError> = async (
  args,
  context,
  more,
) => {
  const asked: FetchArgs = typeof args === "string" ? { url: args } : args;
  const method = asked.method ?? "GET";
  const address = addressOf(asked);
  const open = asked.url.startsWith("/owner/");
  // Somebody signed out here while the server could not be told: until it is, nobody is signed in.
  const signingIn = method === "POST" && asked.url === "/sign-in";
  if (!open && (await signOutOwed()) && !(await settleSignOut()) && !signingIn)
    return { error: { ...SIGNED_OUT } };
  const reply = await ask(asked, context, more);
  if (reply.error?.status === 401 && !open) {
    const another = isSomebodyElse(reply.error.data);
    if (!another) await forgetAll();
    // In another tab somebody signed out, or somebody else signed in: who is here is asked anew, and shown.
    if (!WHO_AM_I.has(context.endpoint))
      await context.dispatch(
        api.endpoints.me.initiate(undefined, { forceRefetch: true, subscribe: false }) as never,
      );
    if (another) context.dispatch(api.util.invalidateTags(ALL_TAGS.filter((tag) => tag !== "Me")));
  }
  if (reply.error === undefined) asAgreed(method, asked.url, reply.data);
  if (signingIn && reply.data !== undefined) {
    // Signing in ends the session of whoever was here before.
    await forgiveSignOut();
    await hereAs(reply.data as Me);
  }
  // What an owner reads by a link must not outlive the link.
  if (method !== "GET" || open) return reply;
  if (reply.data !== undefined && asked.url === "/me") await hereAs(reply.data as Me);
  const who = await whoIsHere();
  const tabs = asked.url === "/me" ? who?.personId : personOf(context.getState());
  // Without a line, too, a tab that stayed open shows nothing that somebody else has seen since, and adds nothing to it.
  if (!who || (tabs !== undefined && tabs !== who.personId)) return reply;
  if (reply.error?.status === "FETCH_ERROR" || reply.error?.status === "TIMEOUT_ERROR") {
    const seen = await remembered(who, address);
    return seen === undefined ? reply : { data: seen };
  }
  if (reply.data !== undefined) await remember(who, address, reply.data);
  return reply;
};

const hereAs = (me: Me): Promise<void> =>
  nowHere({ personId: me.person.id, workshopId: me.workshop.id });

const ALL_TAGS = [
  "Me",
  "Units",
  "Customers",
  "Visits",
  "Runs",
  "Run",
  "Parts",
  "Notes",
  "Looks",
  "Findings",
  "Pictures",
  "Papers",
  "Readings",
  "Snapshots",
  "Spring",
  "Links",
  "Editions",
] as const;

/** Everything that the screens ask of the server, but for a run's events: those go through the outbox. */
export const api = createApi({
  reducerPath: "api",
  baseQuery: askOrRemember,
  tagTypes: ALL_TAGS,
  endpoints: (build) => ({
    me: build.query<Me, void>({ query: () => "/me", providesTags: ["Me"] }),
    signIn: build.mutation<Me, SignIn>({
      query: (body) => ({ url: "/sign-in", method: "POST", body }),
      invalidatesTags: [...ALL_TAGS],
    }),
    units: build.query<UnitList, UnitSearch>({
      query: (params) => ({ url: "/units", params: params as Record<string, string> }),
      providesTags: ["Units"],
    }),
    changeUnit: build.mutation<Unit, { id: UnitId; change: UnitChange }>({
      query: ({ id, change }) => ({ url: `/units/${id}`, method: "PATCH", body: change }),
      invalidatesTags: ["Units", "Customers"],
    }),
    mergeUnit: build.mutation<Unit, { id: UnitId; double: UnitId }>({
      query: ({ id, double }) => ({ url: `/units/${id}/merge`, method: "POST", body: { double } }),
      invalidatesTags: [...ALL_TAGS],
    }),
    customers: build.query<
      { customers: Customer[]; more: boolean },
      { find?: string; limit?: number }
    >({
      query: (params) => ({ url: "/customers", params }),
      providesTags: ["Customers"],
    }),
    customer: build.query<Customer, CustomerId>({
      query: (id) => `/customers/${id}`,
      providesTags: ["Customers"],
    }),
    addCustomer: build.mutation<Customer, NewCustomer>({
      query: (body) => ({ url: "/customers", method: "POST", body }),
      invalidatesTags: ["Customers"],
    }),
    changeCustomer: build.mutation<Customer, { id: CustomerId; change: CustomerChange }>({
      query: ({ id, change }) => ({ url: `/customers/${id}`, method: "PATCH", body: change }),
      invalidatesTags: ["Customers", "Units"],
    }),
    mergeCustomer: build.mutation<Customer, { id: CustomerId; double: CustomerId }>({
      query: ({ id, double }) => ({
        url: `/customers/${id}/merge`,
        method: "POST",
        body: { double },
      }),
      invalidatesTags: ["Customers", "Units"],
    }),
    bringRegister: build.mutation<RegisterOutcome, RegisterFile>({
      query: (body) => ({ url: "/register", method: "POST", body }),
      invalidatesTags: (_, __, { tryOnly }) => (tryOnly ? [] : ["Customers", "Units"]),
    }),
    findings: build.query<{ findings: FindingOnFile[]; more: boolean }, FindingSearch>({
      query: (params) => ({ url: "/findings", params }),
      providesTags: ["Findings"],
    }),
    findingsOfUnit: build.query<FindingOnFile[], UnitId>({
      query: (id) => `/units/${id}/findings`,
      transformResponse: (reply: { findings: FindingOnFile[] }) => reply.findings,
      providesTags: ["Findings"],
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
    papers: build.query<Paper[], UnitId>({
      query: (id) => `/units/${id}/documents`,
      transformResponse: (reply: { documents: Paper[] }) => reply.documents,
      providesTags: ["Papers"],
    }),
    addPaper: build.mutation<Paper, { unitId: UnitId; id: string; title: string; file: File }>({
      query: ({ unitId, id, title, file }) => ({
        url: `/units/${unitId}/documents`,
        method: "POST",
        params: { id, title },
        headers: { "content-type": "application/pdf" },
        body: file,
      }),
      invalidatesTags: ["Papers"],
    }),
    readings: build.query<{ readings: Reading[]; more: boolean }, { unitId: UnitId; key?: string }>(
      {
        query: ({ unitId, key }) => ({
          url: `/units/${unitId}/readings`,
          ...(key === undefined ? {} : { params: { key } }),
        }),
        providesTags: ["Readings"],
      },
    ),
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
    report: build.query<ReportData, VisitId>({
      query: (id) => `/visits/${id}/report`,
      providesTags: ["Looks", "Findings", "Pictures", "Snapshots", "Visits", "Units"],
    }),
    ownerReport: build.query<ReportData, string>({ query: (token) => `/owner/${token}` }),
    links: build.query<OwnerLink[], VisitId>({
      query: (id) => `/visits/${id}/links`,
      transformResponse: (reply: { links: OwnerLink[] }) => reply.links,
      providesTags: ["Links"],
    }),
    editions: build.query<EditionLine[], VisitId>({
      query: (id) => `/visits/${id}/editions`,
      transformResponse: (reply: { editions: EditionLine[] }) => reply.editions,
      providesTags: ["Editions"],
    }),
    makeEdition: build.mutation<EditionLine, { visitId: VisitId; edition: NewEdition }>({
      query: ({ visitId, edition }) => ({
        url: `/visits/${visitId}/editions`,
        method: "POST",
        body: edition,
      }),
      invalidatesTags: ["Editions"],
    }),
    edition: build.query<ReportData, EditionId>({ query: (id) => `/editions/${id}` }),
    makeLink: build.mutation<
      { links: OwnerLink[] },
      { visitId: VisitId; link: { id: string; editionId: EditionId; days: number } }
    >({
      query: ({ visitId, link }) => ({
        url: `/visits/${visitId}/links`,
        method: "POST",
        body: link,
      }),
      invalidatesTags: ["Links"],
    }),
    withdrawLink: build.mutation<{ links: OwnerLink[] }, string>({
      query: (id) => ({ url: `/links/${id}/withdraw`, method: "POST" }),
      invalidatesTags: ["Links"],
    }),
    unit: build.query<Unit, UnitId>({ query: (id) => `/units/${id}`, providesTags: ["Units"] }),
    addUnit: build.mutation<Unit, NewUnit>({
      query: (body) => ({ url: "/units", method: "POST", body }),
      invalidatesTags: ["Units", "Parts"],
    }),
    revisions: build.query<RevisionLine[], UnitId>({
      query: (id) => `/units/${id}/map/revisions`,
      transformResponse: (reply: { revisions: RevisionLine[] }) => reply.revisions,
      providesTags: ["Units"],
    }),
    mapAt: build.query<MapRevision, { id: UnitId; revision: number }>({
      query: ({ id, revision }) => `/units/${id}/map/${revision}`,
    }),
    saveMap: build.mutation<MapRevision, { id: UnitId; asked: NewMapRevision }>({
      query: ({ id, asked }) => ({ url: `/units/${id}/map`, method: "POST", body: asked }),
      invalidatesTags: ["Units", "Parts"],
    }),
    parts: build.query<{ parts: RegisteredPart[]; more: boolean }, PartSearch>({
      query: (params) => ({ url: "/parts", params }),
      providesTags: ["Parts"],
    }),
    changeLife: build.mutation<
      RegisteredPart,
      { unitId: UnitId; partId: PartId; item: string; change: ChangeLife }
    >({
      query: ({ unitId, partId, item, change }) => ({
        url: `/units/${unitId}/parts/${partId}`,
        method: "PATCH",
        params: { item },
        body: change,
      }),
      // A part that was exchanged is known to the unit's state.
      invalidatesTags: ["Parts", "Units"],
    }),
    map: build.query<MapRevision, UnitId>({
      query: (id) => `/units/${id}/map`,
      providesTags: ["Units"],
    }),
    unitRuns: build.query<UnitRun[], UnitId>({
      query: (id) => `/units/${id}/runs`,
      transformResponse: (reply: { runs: UnitRun[] }) => reply.runs,
      providesTags: ["Runs"],
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
    standing: build.query<UnitStandingTold, { id: UnitId; asOf?: string }>({
      query: ({ id, asOf }) => ({
        url: `/units/${id}/standing`,
        ...(asOf === undefined ? {} : { params: { asOf } }),
      }),
      providesTags: ["Units"],
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
  }),
});

export const {
  useMeQuery,
  useSignInMutation,
  useUnitsQuery,
  useChangeUnitMutation,
  useMergeUnitMutation,
  useCustomersQuery,
  useCustomerQuery,
  useAddCustomerMutation,
  useChangeCustomerMutation,
  useMergeCustomerMutation,
  useBringRegisterMutation,
  useFindingsQuery,
  useFindingsOfUnitQuery,
  usePicturesQuery,
  useChangePictureMutation,
  usePapersQuery,
  useAddPaperMutation,
  useReadingsQuery,
  useSpringQuery,
  useVisitQuery,
  useBookVisitMutation,
  useSnapshotsQuery,
  useReportQuery,
  useOwnerReportQuery,
  useLinksQuery,
  useMakeLinkMutation,
  useWithdrawLinkMutation,
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
  useStandingQuery,
  useEditionsQuery,
  useMakeEditionMutation,
  useEditionQuery,
  useVisitsQuery,
  useChangeVisitMutation,
  useStartRunMutation,
  useRunQuery,
} = api;

/** The server's own sentence for a failed request, or what to do when it cannot be reached. */
export const problemText = (error: unknown): string => {
  const { data, status } = (error ?? {}) as {
    data?: Partial<ApiProblem>;
    status?: number | string;
  };
  if (data?.error?.message) return data.error.message;
  return status === "FETCH_ERROR" || status === "TIMEOUT_ERROR"
    ? "The server cannot be reached. Check the connection; nothing is lost."
    : "That did not work. Try again.";
};
