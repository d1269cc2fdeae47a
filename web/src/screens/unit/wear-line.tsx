import type { Reading } from "@uppershed/contract";
import { type Dimension, formatParts } from "@uppershed/core/quantity";
import { format } from "date-fns";
import { Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import { useUnits } from "../../ui/units.ts";

const KNOWN = new Set(["length", "volume", "pressure", "temperature", "fraction"]);

/** Readings of one thing over the years as a line; where several were taken at one time, the lowest. */
export const WearLine = ({ readings }: { readings: readonly Reading[] }) => {
  const { system } = useUnits();
  const dimension = readings[0]?.dimension ?? "";
  const shown = (value: number): number =>
    KNOWN.has(dimension)
      ? Number(formatParts(value, dimension as Dimension, system).value.replace("−", "-"))
      : value;
  const lowest = new Map<string, number>();
  for (const r of readings)
    lowest.set(r.at, Math.min(lowest.get(r.at) ?? Number.POSITIVE_INFINITY, r.value));
  const points = [...lowest]
    .map(([at, value]) => ({ at: Date.parse(at), value: shown(value) }))
    .toSorted((a, b) => a.at - b.at);
  if (points.length < 2) return null;
  return (
    <div className="h-28" aria-hidden>
      <ResponsiveContainer width="100%" height="100%">
        <LineChart data={points} margin={{ top: 6, right: 10, bottom: 0, left: -18 }}>
          <XAxis
            dataKey="at"
            type="number"
            domain={["dataMin", "dataMax"]}
            tickFormatter={(at: number) => format(at, "MMM yy")}
            tick={{ fontSize: 11, fill: "var(--muted)" }}
          />
          <YAxis tick={{ fontSize: 11, fill: "var(--muted)" }} domain={["auto", "auto"]} />
          <Tooltip labelFormatter={(at) => format(Number(at), "d MMM yyyy")} />
          <Line
            dataKey="value"
            stroke="var(--green)"
            strokeWidth={2}
            dot={{ r: 3, fill: "var(--green)" }}
            isAnimationActive={false}
          />
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
};
