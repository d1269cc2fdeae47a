import type { Survey } from "@uppershed/core/survey";
import type { MapLayout, WaterMap } from "@uppershed/core/watermap";
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

/** The drawing of a map, laid out in the worker; the last one stays until the next is there. */
export const useLayout = (map: WaterMap | undefined): MapLayout | undefined => {
  const [laid, setLaid] = useState<{ readonly of: string; readonly layout: MapLayout }>();
  useEffect(() => {
    if (!map) return undefined;
    let wanted = true;
    void layoutOf(map).then((layout) => wanted && setLaid({ of: map.id, layout }));
    return () => {
      wanted = false;
    };
  }, [map]);
  return laid && laid.of === map?.id ? laid.layout : undefined;
};

// A map never changes: what was laid out once is the same for every screen that shows it.
const layouts = new WeakMap<WaterMap, Promise<MapLayout>>();
const layoutOf = (map: WaterMap): Promise<MapLayout> => {
  const known = layouts.get(map);
  if (known) return known;
  const asked = worker().layout(map);
  layouts.set(map, asked);
  return asked;
};

/** Where a part stands on the drawing when nobody has moved it, in grid units. */
export const automaticPlace = (
  map: WaterMap,
  partId: string,
): Promise<{ x: number; y: number } | undefined> => worker().placeOf(map, partId);

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
