import { buildNetwork, layOut, surveyMap, type WaterMap } from "@uppershed/core";
import { expose } from "comlink";

/** The drawing and the survey of a map, made beside the screen. */
const worker = {
  chart: (map: WaterMap) => ({ layout: layOut(map), survey: surveyMap(map, buildNetwork(map)) }),
};

export type ChartWorker = typeof worker;
expose(worker);
