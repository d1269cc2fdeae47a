import { MAP_VERSION, type Part, type PipeRun, type WaterMap } from "../watermap/index.ts";

type PartMore = Partial<Pick<Part, "tag" | "place" | "access" | "params">>;
type RunMore = Partial<Pick<PipeRun, "name" | "sag" | "heated" | "insulated">>;

/** Short ways to write a map by hand. The result still goes through `readWaterMap` in the tests. */
export const part = (
  id: string,
  kind: string,
  name: string,
  heightM: number,
  more: PartMore = {},
): Part => ({
  id,
  kind,
  name,
  heightM,
  params: {},
  ...more,
});

const end = (text: string): PipeRun["from"] => {
  const [partId = "", port = ""] = text.split(".");
  return { part: partId, port };
};

export const run = (
  from: string,
  to: string,
  pipe: string,
  lengthM: number,
  service: PipeRun["service"],
  more: RunMore = {},
): PipeRun => ({
  id: `r-${from}-${to}`.replaceAll(".", "-"),
  from: end(from),
  to: end(to),
  pipe,
  lengthM,
  service,
  heated: false,
  insulated: false,
  ...more,
});

export const compose = (
  head: Pick<WaterMap, "id" | "name" | "craft"> &
    Partial<Pick<WaterMap, "note" | "places" | "lineup">>,
  parts: readonly Part[],
  runs: readonly PipeRun[],
): WaterMap => ({
  format: "upper-shed/water-map",
  version: MAP_VERSION,
  places: [],
  lineup: {},
  contents: {},
  modes: {},
  ...head,
  parts: [...parts],
  runs: [...runs],
});
