import type {
  FrostWatch,
  KitChange,
  KitItem,
  NewKitItem,
  NewPlace,
  NewRules,
  Place,
  PlaceChange,
  Rules,
  RulesChanged,
  Waiting,
} from "@uppershed/contract";
import type { Build } from "./tags.ts";

/** House rules, places, kit, and what waits for a countersign. */
export const houseEndpoints = (build: Build) => ({
  rules: build.query<Rules, void>({ query: () => "/rules", providesTags: ["Rules"] }),
  changeRules: build.mutation<RulesChanged, NewRules>({
    query: (body) => ({ url: "/rules", method: "POST", body }),
    invalidatesTags: ["Rules", "Waiting", "Kit"],
  }),
  places: build.query<{ places: Place[] }, void>({
    query: () => "/places",
    providesTags: ["Places"],
  }),
  addPlace: build.mutation<{ places: Place[] }, NewPlace>({
    query: (body) => ({ url: "/places", method: "POST", body }),
    invalidatesTags: ["Places"],
  }),
  changePlace: build.mutation<{ places: Place[] }, { id: string; change: PlaceChange }>({
    query: ({ id, change }) => ({ url: `/places/${id}`, method: "PATCH", body: change }),
    invalidatesTags: ["Places", "Units"],
  }),
  frostWatch: build.query<FrostWatch, void>({
    query: () => "/frost-watch",
    providesTags: ["FrostWatch", "Units", "Places"],
  }),
  bringForecast: build.mutation<FrostWatch, { placeId: string; text: string }>({
    query: ({ placeId, text }) => ({
      url: `/places/${placeId}/forecast`,
      method: "POST",
      body: { text },
    }),
    invalidatesTags: ["FrostWatch"],
  }),
  kit: build.query<{ kit: KitItem[] }, void>({ query: () => "/kit", providesTags: ["Kit"] }),
  addKit: build.mutation<{ kit: KitItem[] }, NewKitItem>({
    query: (body) => ({ url: "/kit", method: "POST", body }),
    invalidatesTags: ["Kit"],
  }),
  changeKit: build.mutation<{ kit: KitItem[] }, { id: string; change: KitChange }>({
    query: ({ id, change }) => ({ url: `/kit/${id}`, method: "PATCH", body: change }),
    invalidatesTags: ["Kit"],
  }),
  waiting: build.query<Waiting, void>({ query: () => "/waiting", providesTags: ["Waiting"] }),
  answerProposal: build.mutation<Waiting, { id: string; answer: "countersign" | "withdraw" }>({
    query: ({ id, answer }) => ({ url: `/waiting/${id}`, method: "POST", body: { answer } }),
    invalidatesTags: ["Waiting", "Rules", "Units", "Customers"],
  }),
});
