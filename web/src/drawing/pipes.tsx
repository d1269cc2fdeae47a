import type { LaidRun, Point } from "@uppershed/core";
import { inkOf, paint } from "./inks.tsx";
import { type Scene, type ScenePipe, UNIT_PX } from "./scene.ts";

const BRIDGE_PX = 8;

/** A pipe's way as a path, with a hump where it is bridged over another. */
export const pathOf = (laid: LaidRun): string => {
  const px = (v: number): number => v * UNIT_PX;
  return laid.points
    .map((p, i) => {
      const before = laid.points[i - 1];
      if (!before) return `M${px(p.x)} ${px(p.y)}`;
      const right = p.x > before.x;
      const humps = laid.bridges
        .filter((b) => b.y === p.y && before.y === p.y && b.x > Math.min(p.x, before.x) && b.x < Math.max(p.x, before.x))
        .sort((a, b) => (right ? a.x - b.x : b.x - a.x))
        .map((b) => {
          const side = right ? BRIDGE_PX : -BRIDGE_PX;
          return `L${px(b.x) - side} ${px(b.y)}A${BRIDGE_PX} ${BRIDGE_PX} 0 0 ${right ? 1 : 0} ${px(b.x) + side} ${px(b.y)}`;
        })
        .join("");
      return `${humps}L${px(p.x)} ${px(p.y)}`;
    })
    .join("");
};

/** The middle of a pipe's longest straight, and which way water runs there. */
const middleOf = (laid: LaidRun): { at: Point; angle: number; length: number } | undefined => {
  let best: { at: Point; angle: number; length: number } | undefined;
  laid.points.forEach((p, i) => {
    const q = laid.points[i + 1];
    if (!q) return;
    const length = Math.abs(p.x - q.x) + Math.abs(p.y - q.y);
    if (best && length <= best.length) return;
    const [from, to] = laid.forward ? [p, q] : [q, p];
    best = { at: { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 }, angle: (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI, length };
  });
  return best;
};

const ARROW_FROM_UNITS = 3.5;
const FULL = 0.97;

/** What lies in a pipe: plugs along it when it is full, a thread along the bottom when it is not. */
const Filling = ({ pipe, d }: { pipe: ScenePipe; d: string }) => {
  const bore = pipe.widthPx - 3.4;
  const common = { d, fill: "none", strokeLinejoin: "round" as const, pathLength: 1 };
  if (pipe.share < FULL) {
    const all = pipe.plugs[0]?.liquid;
    if (!all || pipe.share < 0.005) return null;
    return <path {...common} stroke={paint(inkOf(all))} strokeWidth={Math.max(1.4, bore * pipe.share)} />;
  }
  return pipe.plugs.map((plug, i) => {
    const from = pipe.plugs.slice(0, i).reduce((sum, p) => sum + p.share, 0);
    return (
      <path key={from} {...common} stroke={paint(inkOf(plug.liquid))} strokeWidth={bore} strokeDasharray={`0 ${from} ${plug.share} 2`} />
    );
  });
};

export interface PipesProps {
  readonly scene: Scene;
  /** Runs in which liquid moves in the step in hand. */
  readonly flowing?: ReadonlySet<string>;
  readonly selected?: string | undefined;
  readonly onSelect?: ((runId: string) => void) | undefined;
  readonly lengths?: ((runId: string) => string) | undefined;
}

/** All pipes of a map. */
export const Pipes = ({ scene, flowing, selected, onSelect, lengths }: PipesProps) => {
  const sorted = [...scene.pipes].sort((a, b) => a.laid.bridges.length - b.laid.bridges.length);
  return (
    <g>
      {sorted.map((pipe) => {
        const d = pathOf(pipe.laid);
        const middle = middleOf(pipe.laid);
        const moves = flowing?.has(pipe.laid.id) ?? false;
        const waste = pipe.run.service === "waste";
        return (
          <g key={pipe.laid.id} data-run={pipe.laid.id}>
            <path d={d} fill="none" stroke="var(--ground)" strokeWidth={pipe.widthPx + 5} strokeLinejoin="round" />
            <path
              d={d}
              fill="none"
              stroke={selected === pipe.laid.id ? "var(--rust)" : "var(--pipe)"}
              strokeWidth={pipe.widthPx}
              strokeLinejoin="round"
              opacity={waste ? 0.62 : 1}
            />
            <path d={d} fill="none" stroke="var(--empty)" strokeWidth={pipe.widthPx - 3.4} strokeLinejoin="round" />
            <Filling pipe={pipe} d={d} />
            {moves && (
              <path
                d={d}
                fill="none"
                stroke="var(--rust)"
                strokeWidth={3}
                strokeDasharray="12 12"
                className={pipe.laid.forward ? "flowing" : "flowing-back"}
              />
            )}
            {middle && middle.length >= ARROW_FROM_UNITS && !waste && (
              <path
                d="M-4 -4.5 5 0 -4 4.5Z"
                fill="var(--pipe)"
                stroke="var(--empty)"
                strokeWidth="1.2"
                transform={`translate(${middle.at.x * UNIT_PX} ${middle.at.y * UNIT_PX}) rotate(${middle.angle})`}
              />
            )}
            {lengths && middle && middle.length >= 2 && (
              <text
                x={middle.at.x * UNIT_PX + (middle.angle % 180 === 0 ? 0 : 9)}
                y={middle.at.y * UNIT_PX + (middle.angle % 180 === 0 ? -9 : -12)}
                textAnchor={middle.angle % 180 === 0 ? "middle" : "start"}
                className="narrow"
                fontSize="10"
                fill="var(--muted)"
                paintOrder="stroke"
                stroke="var(--ground)"
                strokeWidth="3"
              >
                {lengths(pipe.laid.id)}
              </text>
            )}
            {onSelect && (
              <path
                d={d}
                fill="none"
                stroke="transparent"
                strokeWidth={22}
                className="cursor-pointer"
                style={{ pointerEvents: "stroke" }}
                onClick={() => onSelect(pipe.laid.id)}
              />
            )}
          </g>
        );
      })}
    </g>
  );
};
