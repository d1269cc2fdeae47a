import { type Scene, UNIT_PX } from "@uppershed/core/drawing";
import { type ReactFlowInstance, useReactFlow, useStore } from "@xyflow/react";
import { useEffect, useState } from "react";
import { createPortal } from "react-dom";

interface Line {
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
}

const lineTo = (
  flow: Pick<ReactFlowInstance, "flowToScreenPosition">,
  scene: Scene,
  to: string,
  entry: string,
): Line | undefined => {
  const part = scene.layout.parts.find((p) => p.id === to)?.at;
  const run = scene.layout.runs.find((r) => r.id === to)?.points;
  const at = part ?? run?.[Math.floor((run.length - 1) / 2)];
  const box = document.getElementById(entry)?.getBoundingClientRect();
  if (!at || !box) return undefined;
  const from = flow.flowToScreenPosition({ x: at.x * UNIT_PX, y: at.y * UNIT_PX });
  // Beside the drawing or, where the screen is narrow, below it.
  const beside = box.left > from.x;
  return {
    x1: from.x,
    y1: from.y,
    x2: beside ? box.left : box.left + 24,
    y2: beside ? box.top + Math.min(20, box.height / 2) : box.top,
  };
};

/** A line from a part or pipe of the drawing to an entry in the margin. */
export const Tether = ({ to, entry, scene }: { to: string; entry: string; scene: Scene }) => {
  const flow = useReactFlow();
  const transform = useStore((s) => s.transform);
  const [line, setLine] = useState<Line>();
  useEffect(() => {
    const draw = (): void => setLine(lineTo(flow, scene, to, entry));
    // After the browser has laid out the margin's entry.
    const frame = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(frame);
  }, [flow, transform, to, entry, scene]);
  if (!line) return null;
  return createPortal(
    <svg aria-hidden className="pointer-events-none fixed inset-0 z-30 size-full">
      <line {...line} stroke="var(--rust)" strokeWidth="2" strokeDasharray="2 4" />
      <circle cx={line.x1} cy={line.y1} r="7" fill="none" stroke="var(--rust)" strokeWidth="2.5" />
    </svg>,
    document.body,
  );
};
