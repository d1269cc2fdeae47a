/** A small sign at a part's corner: how it was found, that its life is over, that what lies before it must stay open. */

export interface Badge {
  readonly sign: "bad" | "held" | "watch" | "due";
  /** In words, for the part's name to a screen reader: "bad, looked at 3 May". */
  readonly says: string;
}

const R = 12;

/** Told apart by shape and letter, not by colour alone: a square with a cross, a door that stands ajar, a triangle with a mark, a ring with hands. */
export const BadgeSign = ({ badge, x, y }: { badge: Badge; x: number; y: number }) => (
  <g transform={`translate(${x} ${y})`}>
    {badge.sign === "bad" && (
      <>
        <rect
          x={-R}
          y={-R}
          width={2 * R}
          height={2 * R}
          rx="3"
          fill="var(--rust)"
          stroke="var(--ground)"
          strokeWidth="3"
        />
        <path
          d="M-5 -5L5 5M5 -5L-5 5"
          stroke="var(--on-rust)"
          strokeWidth="3.4"
          strokeLinecap="round"
        />
      </>
    )}
    {badge.sign === "held" && (
      <>
        <path d={`M${-R} ${-R}H${R}V${R}H${-R}Z`} fill="var(--raised)" />
        <path
          d={`M${-R} ${R}V${-R}H${R}V${R}M${-R} ${-R}L2 -6V${R + 5}L${-R} ${R}Z`}
          fill="none"
          stroke="var(--rust)"
          strokeWidth="3"
          strokeLinejoin="round"
        />
      </>
    )}
    {badge.sign === "watch" && (
      <>
        <path
          d={`M0 ${-R - 2}L${R + 2} ${R - 1}H${-R - 2}Z`}
          fill="var(--raised)"
          stroke="var(--rust)"
          strokeWidth="3"
          strokeLinejoin="round"
        />
        <path d="M0 -5V2M0 6V6.5" stroke="var(--rust)" strokeWidth="3.2" strokeLinecap="round" />
      </>
    )}
    {badge.sign === "due" && (
      <>
        <circle r={R} fill="var(--raised)" stroke="var(--rust)" strokeWidth="3" />
        <path
          d="M0 -6V0L4.5 3"
          fill="none"
          stroke="var(--rust)"
          strokeWidth="2.8"
          strokeLinecap="round"
        />
      </>
    )}
  </g>
);
