import type { Contents } from "@uppershed/core/contents";
import { type Lineup, type MapLayout, type Network, type WaterMap } from "@uppershed/core/watermap";
import { useCallback } from "react";
import type { MapDrawingProps } from "../../drawing/map-nodes.tsx";
import { nextPosition, turnable } from "../../mapping/lineups.ts";
import type { Edit } from "../../mapping/part-plate.tsx";
import type { Chart } from "../../mapping/use-chart.ts";

/** What lies on the bench, whichever mode it is in: the map in hand, and what of it is chosen. */
export interface Desk {
  readonly unitId: string;
  readonly map: WaterMap;
  readonly network: Network;
  readonly chart: Chart | undefined;
  readonly revision: number;
  /** Something of it is kept nowhere else yet. */
  readonly changed: boolean;
  readonly apply: Edit;
  readonly selected: string | undefined;
  readonly select: (id: string | undefined) => void;
  /** Says something to whoever cannot see the drawing. */
  readonly say: (words: string) => void;
}

/** What a mode puts on the drawing. */
export interface OnDrawing extends Pick<
  MapDrawingProps,
  "halos" | "flows" | "draw" | "near" | "tether"
> {
  readonly lineup: Lineup;
  readonly contents: Contents;
  readonly choose: (id: string | undefined) => void;
}

/** A tap on what can be turned only one way turns it; what has several handles is chosen, for its plate. */
export const useTurning = (
  { network, select }: Desk,
  lineup: Lineup,
  turn: (key: string, position: string) => void,
): ((id: string | undefined) => void) =>
  useCallback(
    (id) => {
      const controls = id ? turnable(network, id) : [];
      const [only] = controls;
      if (only && controls.length === 1)
        turn(only.key, nextPosition(only, lineup[only.key] ?? only.spec.inUse));
      select(id);
    },
    [network, lineup, turn, select],
  );

/** Whether a plate opens on the right: on the side where what was tapped does not stand. */
export const plateOnRight = (layout: MapLayout | undefined, id: string | undefined): boolean => {
  const x =
    layout?.parts.find((p) => p.id === id)?.at.x ??
    layout?.runs.find((r) => r.id === id)?.points[0]?.x;
  return (
    layout !== undefined && x !== undefined && x < (layout.bounds.left + layout.bounds.right) / 2
  );
};
