import { type HoldReading, type PressureTest, tightAt } from "@uppershed/core/hold";
import { useMemo } from "react";
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceArea,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from "recharts";
import { useUnits } from "../../ui/units.ts";
import { gauge, span } from "../../holding/words.ts";

const TICK = { fontSize: 12, fill: "var(--muted)" };
const MOST_POINTS = 400;
const BAND_STEPS = 2;

/** The trace as read, dashed, and as it would stand without drift, whole; between the lines is where tight stays. */
export const Trace = ({
  test,
  readings,
}: {
  test: PressureTest;
  readings: readonly HoldReading[];
}) => {
  const { system } = useUnits();
  const points = useMemo(() => {
    const every = Math.ceil(readings.length / MOST_POINTS);
    const shown = readings.filter((_, i) => i % every === 0 || i === readings.length - 1);
    return tightAt(test.plan.held, shown).map((tightPa, i) => {
      const { atS, pressurePa } = shown[i] as HoldReading;
      return {
        at: atS,
        read: pressurePa,
        corrected: (shown[0]?.pressurePa ?? 0) + pressurePa - tightPa,
      };
    });
  }, [test.plan.held, readings]);
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last || points.length < 2)
    return (
      <p className="my-3 text-[15px] text-muted">
        Two readings make a line; the verdict wants three at least.
      </p>
    );
  const band = BAND_STEPS * test.instruments.gauge.stepPa;
  const words = `Gauge from ${gauge(first.read, system)} to ${gauge(last.read, system)} in ${span(last.at)}; without drift it would stand at ${gauge(last.corrected, system)}; tight stays within ${gauge(band, system)} of the start.`;
  const all = points.flatMap((p) => [p.read, p.corrected]);
  const low = Math.min(...all, first.read - band * 1.5);
  const high = Math.max(...all, first.read + band * 1.5);
  return (
    <figure className="my-3">
      <div role="img" aria-label={words} className="h-64">
        <ResponsiveContainer width="100%" height="100%">
          <LineChart data={points} margin={{ top: 10, right: 24, bottom: 4, left: 16 }}>
            <CartesianGrid stroke="var(--line)" vertical={false} />
            <ReferenceArea
              y1={first.read - band}
              y2={first.read + band}
              fill="var(--green)"
              fillOpacity={0.14}
              stroke="var(--green)"
            />
            <XAxis
              dataKey="at"
              type="number"
              domain={[0, "dataMax"]}
              tick={TICK}
              tickFormatter={span}
              tickCount={6}
            />
            <YAxis
              type="number"
              domain={[low, high]}
              tick={TICK}
              tickFormatter={(v: number) => gauge(v, system)}
              width={84}
            />
            <Line
              dataKey="read"
              name="as read"
              stroke="var(--muted)"
              strokeDasharray="5 4"
              strokeWidth={1.5}
              dot={false}
              isAnimationActive={false}
            />
            <Line
              dataKey="corrected"
              name="without drift"
              stroke="var(--ink)"
              strokeWidth={2.5}
              dot={false}
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
      <figcaption className="text-[13px] text-muted">
        Dashed: as read. Whole line: without what temperature and barometer did. Between the lines:
        where tight stays. {words}
      </figcaption>
    </figure>
  );
};
