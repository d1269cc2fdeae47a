import type { PictureMark } from "@uppershed/core/inspection";

const LINE = 9;
const WING = 46;

/** Rings and arrows over a picture; the drawing's own space is a thousand wide. */
export const Marks = ({ marks, aspect }: { marks: readonly PictureMark[]; aspect: number }) => {
  const height = 1000 / aspect;
  return (
    <svg
      viewBox={`0 0 1000 ${height}`}
      className="pointer-events-none absolute inset-0 size-full"
      aria-hidden
      preserveAspectRatio="none"
    >
      {marks.map((mark, i) => {
        if (mark.kind === "ring")
          return (
            <g key={i} fill="none">
              <circle
                cx={mark.x * 1000}
                cy={mark.y * height}
                r={mark.r * 1000}
                stroke="#fff"
                strokeWidth={LINE + 6}
              />
              <circle
                cx={mark.x * 1000}
                cy={mark.y * height}
                r={mark.r * 1000}
                stroke="#ad4013"
                strokeWidth={LINE}
              />
            </g>
          );
        const [x1, y1, x2, y2] = [
          mark.x * 1000,
          mark.y * height,
          mark.toX * 1000,
          mark.toY * height,
        ];
        const turn = Math.atan2(y2 - y1, x2 - x1);
        const wing = (by: number): string =>
          `${x2 - WING * Math.cos(turn + by)} ${y2 - WING * Math.sin(turn + by)}`;
        const d = `M${x1} ${y1}L${x2} ${y2}M${wing(0.5)}L${x2} ${y2}L${wing(-0.5)}`;
        return (
          <g key={i} fill="none" strokeLinecap="round" strokeLinejoin="round">
            <path d={d} stroke="#fff" strokeWidth={LINE + 6} />
            <path d={d} stroke="#ad4013" strokeWidth={LINE} />
          </g>
        );
      })}
    </svg>
  );
};

/** What marks say to who cannot see them. */
export const saysOf = (marks: readonly PictureMark[]): string => {
  const count = (kind: PictureMark["kind"], word: string): string[] => {
    const n = marks.filter((m) => m.kind === kind).length;
    return n === 0 ? [] : [n === 1 ? `one ${word}` : `${n} ${word}s`];
  };
  const said = [...count("ring", "ring"), ...count("arrow", "arrow")];
  return said.length > 0 ? `, marked with ${said.join(" and ")}` : "";
};
