import type {
  Adoption,
  NewRefitEntry,
  OwnerOfferAnswer,
  OwnerOffers,
  PriceList,
  RefitKitOnFile,
  RefitLine,
  RefitOnFile,
} from "@uppershed/contract";
import type { Build } from "./tags.ts";

interface OfRefit {
  readonly unitId: string;
  readonly refitId: string;
}

const at = ({ unitId, refitId }: OfRefit): string => `/units/${unitId}/refits/${refitId}`;

/** Refits: maps that are not in force yet. */
export const refitEndpoints = (build: Build) => ({
  refitsOfUnit: build.query<RefitLine[], string>({
    query: (unitId) => `/units/${unitId}/refits`,
    transformResponse: (reply: { refits: RefitLine[] }) => reply.refits,
    providesTags: ["Refits"],
  }),
  refit: build.query<RefitOnFile, OfRefit>({ query: at, providesTags: ["Refits", "Units"] }),
  refitKit: build.query<RefitKitOnFile, OfRefit>({
    query: (of) => `${at(of)}/kit`,
    providesTags: ["Refits", "Units", "Prices"],
  }),
  addToRefit: build.mutation<RefitOnFile, OfRefit & { readonly entry: NewRefitEntry }>({
    query: ({ entry, ...of }) => ({ url: at(of), method: "POST", body: entry }),
    invalidatesTags: ["Refits"],
  }),
  adoptOfRefit: build.mutation<RefitOnFile, OfRefit & { readonly asked: Adoption }>({
    query: ({ asked, ...of }) => ({ url: `${at(of)}/adopt`, method: "POST", body: asked }),
    invalidatesTags: ["Refits", "Units", "Parts", "Runs", "Tests"],
  }),
  ownerOffers: build.query<OwnerOffers["offers"], string>({
    query: (token) => `/owner/${token}/offers`,
    transformResponse: (reply: OwnerOffers) => reply.offers,
    providesTags: ["Refits"],
  }),
  answerOffer: build.mutation<
    OwnerOffers,
    { readonly token: string; readonly offerId: string; readonly asked: OwnerOfferAnswer }
  >({
    query: ({ token, offerId, asked }) => ({
      url: `/owner/${token}/offers/${offerId}`,
      method: "POST",
      body: asked,
    }),
    invalidatesTags: ["Refits"],
  }),
  prices: build.query<PriceList["lines"], void>({
    query: () => "/prices",
    transformResponse: (reply: PriceList) => reply.lines,
    providesTags: ["Prices"],
  }),
  takePrices: build.mutation<PriceList, string>({
    query: (text) => ({ url: "/prices", method: "PUT", body: { text } }),
    invalidatesTags: ["Prices"],
  }),
});
