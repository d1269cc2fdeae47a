import type {
  EditionId,
  EditionLine,
  NewEdition,
  OwnerLink,
  ReportData,
  VisitId,
} from "@uppershed/contract";
import type { Build } from "./tags.ts";

/** Reports to owners, their editions and links. */
export const reportEndpoints = (build: Build) => ({
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
});
