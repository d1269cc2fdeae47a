import type {
  BaseQueryFn,
  EndpointBuilder,
  FetchArgs,
  FetchBaseQueryError,
} from "@reduxjs/toolkit/query/react";

/** What the screens hold of the server, by what makes it stale. */
export const ALL_TAGS = [
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
  "Tests",
  "Refits",
  "Prices",
  "Pictures",
  "Papers",
  "Readings",
  "Snapshots",
  "Spring",
  "Links",
  "Editions",
  "People",
  "Sessions",
  "SecondFactor",
  "Keeping",
  "Rules",
  "Places",
  "Kit",
  "Waiting",
  "FrostWatch",
] as const;

export type Ask = BaseQueryFn<string | FetchArgs, unknown, FetchBaseQueryError>;
export type Build = EndpointBuilder<Ask, (typeof ALL_TAGS)[number], "api">;
