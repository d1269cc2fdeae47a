import type {
  DemoLoaded,
  Invite,
  InviteMade,
  Join,
  JoinTold,
  Keeping,
  Me,
  NewInvite,
  NewPassword,
  People,
  PersonChange,
  Restored,
  SecondFactor,
  SecondFactorBegun,
  SecondFactorEnd,
  Sessions,
  SetUp,
  WorkshopChange,
} from "@uppershed/contract";
import { ALL_TAGS, type Build } from "./tags.ts";

/** The first start, who belongs to the workshop, and one's own account. */
export const peopleEndpoints = (build: Build) => ({
  setUpNeeded: build.query<{ needed: boolean }, void>({ query: () => "/set-up" }),
  setUp: build.mutation<Me | DemoLoaded, SetUp>({
    query: (body) => ({ url: "/set-up", method: "POST", body }),
    invalidatesTags: [...ALL_TAGS],
  }),
  joinTold: build.query<JoinTold, string>({ query: (token) => `/join/${token}` }),
  join: build.mutation<Me, { token: string; asked: Join }>({
    query: ({ token, asked }) => ({ url: `/join/${token}`, method: "POST", body: asked }),
    invalidatesTags: [...ALL_TAGS],
  }),
  people: build.query<People, void>({ query: () => "/people", providesTags: ["People"] }),
  invite: build.mutation<InviteMade, NewInvite>({
    query: (body) => ({ url: "/people/invites", method: "POST", body }),
    invalidatesTags: ["People"],
  }),
  withdrawInvite: build.mutation<Invite, string>({
    query: (id) => ({ url: `/people/invites/${id}/withdraw`, method: "POST" }),
    invalidatesTags: ["People"],
  }),
  changePerson: build.mutation<People, { id: string; change: PersonChange }>({
    query: ({ id, change }) => ({ url: `/people/${id}`, method: "PATCH", body: change }),
    invalidatesTags: ["People", "Me"],
  }),
  resetPerson: build.mutation<InviteMade, { personId: string; id: string }>({
    query: ({ personId, id }) => ({
      url: `/people/${personId}/reset`,
      method: "POST",
      body: { id },
    }),
    invalidatesTags: ["People"],
  }),
  changeWorkshop: build.mutation<Me, WorkshopChange>({
    query: (body) => ({ url: "/workshop", method: "PATCH", body }),
    invalidatesTags: ["Me", "Units"],
  }),
  keeping: build.query<Keeping, void>({ query: () => "/keeping", providesTags: ["Keeping"] }),
  backUpNow: build.mutation<Keeping, void>({
    query: () => ({ url: "/keeping/now", method: "POST" }),
    invalidatesTags: ["Keeping"],
  }),
  restoreBackup: build.mutation<Restored, string>({
    query: (name) => ({ url: `/keeping/${name}/restore`, method: "POST" }),
  }),
  takeDemoAway: build.mutation<{ code: string | null }, void>({
    query: () => ({ url: "/workshop/take-away", method: "POST" }),
  }),
  changePassword: build.mutation<{ changed: boolean }, NewPassword>({
    query: (body) => ({ url: "/me/password", method: "POST", body }),
    invalidatesTags: ["Sessions"],
  }),
  secondFactor: build.query<SecondFactor, void>({
    query: () => "/me/second-factor",
    providesTags: ["SecondFactor"],
  }),
  beginSecondFactor: build.mutation<SecondFactorBegun, string>({
    query: (password) => ({ url: "/me/second-factor", method: "POST", body: { password } }),
  }),
  proveSecondFactor: build.mutation<{ recovery: string[] }, string>({
    query: (code) => ({ url: "/me/second-factor/prove", method: "POST", body: { code } }),
    invalidatesTags: ["SecondFactor", "People"],
  }),
  endSecondFactor: build.mutation<SecondFactor, SecondFactorEnd>({
    query: (body) => ({ url: "/me/second-factor/end", method: "POST", body }),
    invalidatesTags: ["SecondFactor", "People"],
  }),
  sessions: build.query<Sessions, void>({
    query: () => "/me/sessions",
    providesTags: ["Sessions"],
  }),
  endSession: build.mutation<{ ended: boolean }, string>({
    query: (id) => ({ url: `/me/sessions/${id}/end`, method: "POST" }),
    invalidatesTags: ["Sessions"],
  }),
});
