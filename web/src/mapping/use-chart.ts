import type { MapLayout, Survey, WaterMap } from "@uppershed/core";
import { type Remote, wrap } from "comlink";
import { useEffect, useState } from "react";
import type { ChartWorker } from "./chart.worker.ts";

export interface Chart {
  /** The map that was drawn; an edit may have gone further since. */
  readonly map: WaterMap;
  readonly layout: MapLayout;
  readonly survey: Survey;
}

let shared: Remote<ChartWorker> | undefined;
const worker = (): Remote<ChartWorker> =>
  (shared ??= wrap<ChartWorker>(
    new Worker(new URL("chart.worker.ts", import.meta.url), { type: "module" }),
  ));

// Whoever shows a map needs it: it comes while the map itself is asked for.
if (typeof Worker !== "undefined") worker();

/** The drawing and the survey of a map, made in a worker; the last one stays until the next is there. */
export const useChart = (map: WaterMap | undefined): Chart | undefined => {
  const [chart, setChart] = useState<Chart>();
  useEffect(() => {
    if (!map) return undefined;
    let wanted = true;
    void worker()
      .chart(map)
      .then((made) => wanted && setChart({ map, ...made }));
    return () => {
      wanted = false;
    };
  }, [map]);
  return chart;
};
