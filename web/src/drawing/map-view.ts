import { UNIT_PX } from "@uppershed/core/drawing";
import type { MapLayout } from "@uppershed/core/watermap";
import { useReactFlow } from "@xyflow/react";
import { type RefObject, useEffect, useRef } from "react";
import type { MapDrawingProps } from "./map-nodes.tsx";

/** Which piece of the drawing is in view. */

type Frame = RefObject<HTMLDivElement | null>;

const PADDING = 0.03;
const LEGEND_UNITS = 1.6;
const NEAR_ZOOM = 1.15;

/** Keeps the whole map in view, or the parts that are to be near. */
export const useView = ({ scene, near, still = false }: MapDrawingProps, frame: Frame): void => {
  const flow = useReactFlow();
  const { bounds } = scene.layout;
  const nearKey = near?.join() ?? "";
  const chosenBefore = useRef<string | undefined>(undefined);
  useEffect(() => {
    const show = (): void => {
      const chosen =
        nearKey === "" ? [] : scene.parts.filter((p) => nearKey.split(",").includes(p.part.id));
      if (chosen.length > 0) {
        void flow.fitView({
          nodes: chosen.map((p) => ({ id: p.part.id })),
          padding: 0.5,
          maxZoom: NEAR_ZOOM,
        });
        return;
      }
      const [width, height] = [
        (bounds.right - bounds.left) * UNIT_PX,
        (bounds.bottom - bounds.top) * UNIT_PX,
      ];
      // The legend stands over the top edge.
      const top = LEGEND_UNITS * UNIT_PX;
      void flow.fitBounds(
        { x: bounds.left * UNIT_PX, y: bounds.top * UNIT_PX - top, width, height: height + top },
        { padding: PADDING },
      );
    };
    if (!still || chosenBefore.current === undefined || nearKey !== "") show();
    chosenBefore.current = nearKey;
    const watch = new ResizeObserver(() => !still && show());
    if (frame.current) watch.observe(frame.current);
    return () => watch.disconnect();
    // The view moves when the map or the wish changes, not with every change of contents.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [flow, still, nearKey, bounds.left, bounds.right, bounds.top, bounds.bottom]);
};

/** While the map is drawn, what stood still stands still on the screen: the view follows the middle of how far parts have moved. */
export const useStandingStill = (layout: MapLayout, still: boolean, frame: Frame): void => {
  const flow = useReactFlow();
  const before = useRef(layout);
  useEffect(() => {
    const was = new Map(before.current.parts.map((p) => [p.id, p.at]));
    before.current = layout;
    if (!still) return;
    const moved = layout.parts.flatMap((p) => {
      const at = was.get(p.id);
      return at ? [{ x: p.at.x - at.x, y: p.at.y - at.y }] : [];
    });
    const middle = (values: number[]): number =>
      values.toSorted((a, b) => a - b)[values.length >> 1] ?? 0;
    const [dx, dy] = [middle(moved.map((m) => m.x)), middle(moved.map((m) => m.y))];
    const view = flow.getViewport();
    if (dx !== 0 || dy !== 0)
      void flow.setViewport({
        ...view,
        x: view.x - dx * UNIT_PX * view.zoom,
        y: view.y - dy * UNIT_PX * view.zoom,
      });
    const made = layout.parts.find((p) => !was.has(p.id));
    const box = frame.current?.getBoundingClientRect();
    if (!made || !box || moved.length === 0) return;
    const at = flow.flowToScreenPosition({ x: made.at.x * UNIT_PX, y: made.at.y * UNIT_PX });
    if (at.x < box.left || at.x > box.right || at.y < box.top || at.y > box.bottom)
      void flow.fitView({ nodes: layout.parts.map((p) => ({ id: p.id })), padding: PADDING });
  }, [layout, still, flow, frame]);
};
