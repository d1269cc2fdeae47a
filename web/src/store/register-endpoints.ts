import type {
  ChangeLife,
  Customer,
  CustomerChange,
  CustomerId,
  MapRevision,
  NewCustomer,
  NewMapRevision,
  NewUnit,
  Paper,
  PartSearch,
  RegisterFile,
  RegisterOutcome,
  RegisteredPart,
  RevisionLine,
  Unit,
  UnitChange,
  UnitId,
  UnitList,
  UnitSearch,
  UnitStandingTold,
} from "@uppershed/contract";
import type { PartId } from "@uppershed/core/watermap";
import { ALL_TAGS, type Build } from "./tags.ts";

/** Customers, units, their maps and parts. */
export const registerEndpoints = (build: Build) => ({
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
  eraseCustomer: build.mutation<Customer, { id: string; name: string }>({
    query: ({ id, name }) => ({ url: `/customers/${id}/erase`, method: "POST", body: { name } }),
    invalidatesTags: ["Customers", "Units", "Visits", "Findings", "Editions", "Links"],
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
  map: build.query<MapRevision, UnitId>({
    query: (id) => `/units/${id}/map`,
    providesTags: ["Units"],
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
  standing: build.query<UnitStandingTold, { id: UnitId; asOf?: string }>({
    query: ({ id, asOf }) => ({
      url: `/units/${id}/standing`,
      ...(asOf === undefined ? {} : { params: { asOf } }),
    }),
    providesTags: ["Units"],
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
});
