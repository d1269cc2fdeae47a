import { type Stroke, type ScenePart, symbolMarks, type Tone } from "@uppershed/core/drawing";
import type { Ink } from "@uppershed/core/drawing";
import { paint } from "./inks.tsx";

const TONES: Record<string, string> = {
  pipe: "var(--pipe)",
  raised: "var(--raised)",
  empty: "var(--empty)",
  ink: "var(--ink)",
  rust: "var(--rust)",
  wave: "var(--water)",
  none: "none",
};

const toneOf = (tone: Tone): string =>
  tone.startsWith("ink:") ? paint(tone.slice(4) as Ink) : (TONES[tone] ?? "none");

const Drawn = ({ mark }: { mark: Stroke }) => {
  const { fill, stroke, width = 0, dash, turn } = mark;
  const common = {
    fill: toneOf(fill),
    ...(stroke && width > 0
      ? { stroke: toneOf(stroke), strokeWidth: width, strokeLinejoin: "round" as const }
      : {}),
    ...(dash ? { strokeDasharray: dash } : {}),
    ...(turn ? { transform: `rotate(${turn})` } : {}),
  };
  switch (mark.tag) {
    case "path":
      return <path d={mark.d} {...common} />;
    case "circle":
      return <circle cx={mark.x} cy={mark.y} r={mark.r} {...common} />;
    case "rect":
      return <rect x={mark.x} y={mark.y} width={mark.w} height={mark.h} rx={mark.r} {...common} />;
    case "text":
      return (
        <text
          x={mark.x}
          y={mark.y}
          className="narrow"
          textAnchor="middle"
          fontSize={mark.size}
          fontWeight="650"
          fill={toneOf(fill)}
          {...(stroke === "none"
            ? {}
            : { paintOrder: "stroke", stroke: "var(--raised)", strokeWidth: 3.5 })}
        >
          {mark.text}
        </text>
      );
  }
};

/** The symbol of a part, round its middle. */
export const PartSymbol = ({ part }: { part: ScenePart }) =>
  // A symbol's strokes have no identity but their order.
  // oxlint-disable-next-line react/no-array-index-key
  symbolMarks(part).map((mark, i) => <Drawn key={i} mark={mark} />);
