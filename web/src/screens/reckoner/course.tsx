import {
  type Calculation,
  courseOf,
  type Figure,
  reckon,
  showFigure,
} from "@uppershed/core/reckon";
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceDot,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from "recharts";
import { useUnits } from "../../ui/units.ts";

const TICK = { fontSize: 12, fill: "var(--muted)" };

/** How the answer runs while one input changes and the others stay, with what is asked marked on it. */
export const Course = ({
  calculation,
  values,
  along,
  answer,
}: {
  calculation: Calculation;
  values: Readonly<Record<string, number>>;
  along: string;
  answer: Figure;
}) => {
  const { system } = useUnits();
  const input = calculation.inputs.find((i) => i.name === along);
  const points = courseOf(calculation, values, along, reckon);
  const drawn = points.filter((p) => p.answer !== undefined);
  const [first, last] = [drawn[0], drawn.at(-1)];
  if (!input || !first || !last || drawn.length < 3)
    return <p className="text-[14px] text-muted">There is no answer to draw beside this one.</p>;
  const asked = (value: number): string => showFigure({ ...input, value }, system);
  const told = (value: number): string => showFigure({ ...answer, value }, system);
  const own = values[along] ?? input.standard;
  const words = `${answer.label}: ${told(first.answer ?? 0)} at ${asked(first.at)}, ${told(answer.value)} at ${asked(own)} as asked, ${told(last.answer ?? 0)} at ${asked(last.at)}`;
  return (
    <figure className="mt-1">
      <div role="img" aria-label={words} className="h-56">
        <ResponsiveContainer width="100%" height="100%">
          <LineChart
            data={points.map((p) => ({ ...p }))}
            margin={{ top: 10, right: 24, bottom: 4, left: 16 }}
          >
            <CartesianGrid stroke="var(--line)" vertical={false} />
            <XAxis
              dataKey="at"
              type="number"
              domain={["dataMin", "dataMax"]}
              tick={TICK}
              tickFormatter={asked}
              tickCount={5}
            />
            <YAxis
              dataKey="answer"
              type="number"
              domain={["auto", "auto"]}
              tick={TICK}
              tickFormatter={told}
              width={72}
            />
            <Line
              dataKey="answer"
              stroke="var(--green)"
              strokeWidth={2.5}
              dot={false}
              isAnimationActive={false}
              connectNulls={false}
            />
            <ReferenceDot
              x={own}
              y={answer.value}
              r={6}
              fill="var(--rust)"
              stroke="var(--paper)"
              strokeWidth={2}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
      <figcaption className="text-[13px] text-muted">{words}.</figcaption>
    </figure>
  );
};
