import { surveyMap } from "@uppershed/core/survey";
import { buildNetwork, layOut, type WaterMap } from "@uppershed/core/watermap";
import { expose } from "comlink";

/** The drawing and the survey of a map, made beside the screen. */
const worker = {
  chart: (map: WaterMap) => ({ layout: layOut(map), survey: surveyMap(map, buildNetwork(map)) }),
  layout: (map: WaterMap) => layOut(map),
  placeOf: (map: WaterMap, partId: string) => layOut(map).parts.find((p) => p.id === partId)?.at,
};

export type ChartWorker = typeof worker;
expose(worker);
