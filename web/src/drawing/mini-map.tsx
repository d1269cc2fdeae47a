import type { MapLayout } from "@uppershed/core/watermap";

/** A map as small as a stamp: every pipe as a thin line, and what stays wet thick, dashed and with a square on its part. */
export const MiniMap = ({
  layout,
  wet,
  label,
}: {
  layout: MapLayout;
  /** Ids of parts and pipes. */
  wet: ReadonlySet<string>;
  label: string;
}) => {
  const { left, right, top, bottom } = layout.bounds;
  const width = Math.max(1, right - left);
  const height = Math.max(1, bottom - top);
  const unit = Math.max(width / 150, height / 90);
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`${left - unit * 3} ${top - unit * 3} ${width + unit * 6} ${height + unit * 6}`}
      className="h-[92px] w-full"
      preserveAspectRatio="xMidYMid meet"
    >
      {layout.runs.map((run) => {
        const isWet = wet.has(run.id);
        return (
          <polyline
            key={run.id}
            points={run.points.map((p) => `${p.x},${p.y}`).join(" ")}
            fill="none"
            stroke={isWet ? "var(--rust)" : "var(--muted)"}
            strokeWidth={unit * (isWet ? 3.2 : 0.9)}
            {...(isWet ? { strokeDasharray: `${unit * 5} ${unit * 2}` } : {})}
          />
        );
      })}
      {layout.parts.map((part) =>
        wet.has(part.id) ? (
          <rect
            key={part.id}
            x={part.at.x - unit * 3.5}
            y={part.at.y - unit * 3.5}
            width={unit * 7}
            height={unit * 7}
            fill="var(--rust)"
            stroke="var(--paper)"
            strokeWidth={unit}
          />
        ) : (
          <circle key={part.id} cx={part.at.x} cy={part.at.y} r={unit * 1.3} fill="var(--muted)" />
        ),
      )}
    </svg>
  );
};
