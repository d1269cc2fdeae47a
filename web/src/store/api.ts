import { createApi, type FetchArgs, fetchBaseQuery } from "@reduxjs/toolkit/query/react";
import type { Me, ApiProblem, SignIn } from "@uppershed/contract";
import { AS_HEADER, problemSchema, replySchema } from "@uppershed/contract";
import { forgetAll, nowHere, remember, remembered, whoIsHere } from "../device/seen.ts";
import { houseEndpoints } from "./house-endpoints.ts";
import { peopleEndpoints } from "./people-endpoints.ts";
import { refitEndpoints } from "./refit-endpoints.ts";
import { registerEndpoints } from "./register-endpoints.ts";
import { reportEndpoints } from "./report-endpoints.ts";
import { runEndpoints } from "./run-endpoints.ts";
import { ALL_TAGS, type Ask } from "./tags.ts";
import { visitEndpoints } from "./visit-endpoints.ts";
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
const WHO_AM_I: ReadonlySet<string> = new Set(["me", "signIn", "setUp", "join"]);
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
const askOrRemember: Ask = async (args, context, more) => {
  const asked: FetchArgs = typeof args === "string" ? { url: args } : args;
  const method = asked.method ?? "GET";
  const address = addressOf(asked);
  const open = /^\/(?:owner\/|join\/|set-up)/u.test(asked.url);
  // Somebody signed out here while the server could not be told: until it is, nobody is signed in.
  const signingIn = method === "POST" && /^\/(?:sign-in$|set-up$|join\/)/u.test(asked.url);
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
  // A demo that was loaded signs nobody in.
  if (signingIn && reply.data !== undefined && "person" in (reply.data as object)) {
    // Signing in ends the session of whoever was here before.
    await forgiveSignOut();
    await hereAs(reply.data as Me);
  }
  // What an owner reads by a link must not outlive the link; what is asked every second is kept with the run, and nowhere else.
  if (method !== "GET" || open || context.endpoint === "runNews") return reply;
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
    ...houseEndpoints(build),
    ...peopleEndpoints(build),
    ...registerEndpoints(build),
    ...visitEndpoints(build),
    ...reportEndpoints(build),
    ...runEndpoints(build),
    ...refitEndpoints(build),
  }),
});

export const {
  useMeQuery,
  useSignInMutation,
  useSetUpNeededQuery,
  useSetUpMutation,
  useJoinToldQuery,
  useJoinMutation,
  usePeopleQuery,
  useInviteMutation,
  useWithdrawInviteMutation,
  useChangePersonMutation,
  useResetPersonMutation,
  useChangeWorkshopMutation,
  useTakeDemoAwayMutation,
  useKeepingQuery,
  useBackUpNowMutation,
  useRestoreBackupMutation,
  useEraseCustomerMutation,
  useChangePasswordMutation,
  useRulesQuery,
  useChangeRulesMutation,
  usePlacesQuery,
  useAddPlaceMutation,
  useChangePlaceMutation,
  useFrostWatchQuery,
  useBringForecastMutation,
  useKitQuery,
  useAddKitMutation,
  useChangeKitMutation,
  useWaitingQuery,
  useAnswerProposalMutation,
  useSecondFactorQuery,
  useBeginSecondFactorMutation,
  useProveSecondFactorMutation,
  useEndSecondFactorMutation,
  useSessionsQuery,
  useEndSessionMutation,
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
  useTestsOfUnitQuery,
  useClocksQuery,
  useRunningTestsQuery,
  usePressureTestQuery,
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
  useTookElsewhereQuery,
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
  useRefitsOfUnitQuery,
  useRefitQuery,
  useRefitKitQuery,
  useAddToRefitMutation,
  useAdoptOfRefitMutation,
  useOwnerOffersQuery,
  useAnswerOfferMutation,
  usePricesQuery,
  useTakePricesMutation,
} = api;

/** Its code, where the server said one. */
export const problemCode = (error: unknown): string | undefined =>
  (error as { data?: Partial<ApiProblem> } | undefined)?.data?.error?.code;

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
