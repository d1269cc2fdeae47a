const [TOP_C, FOOT_C] = [2, -45];
const WIDTH = 84;

/** A unit's mark on a ladder lying down, with the winter low across it. */
export const TinyLadder = ({
  holdsToC,
  winterLowC,
}: {
  holdsToC: number | null;
  winterLowC: number;
}) => {
  const at = (c: number): number =>
    4 + Math.min(1, Math.max(0, (TOP_C - c) / (TOP_C - FOOT_C))) * (WIDTH - 8);
  const bad = holdsToC !== null && holdsToC > winterLowC;
  return (
    <svg aria-hidden width={WIDTH} height="20">
      <rect x={4} y={8} width={at(winterLowC) - 4} height={4} fill="var(--rust-soft)" />
      <path d={`M4 10H${WIDTH - 4}`} stroke="var(--line)" strokeWidth="2" />
      <path d={`M${at(winterLowC)} 3V17`} stroke="var(--rust)" strokeWidth="2" />
      {bad ? (
        <path d={`M${at(holdsToC)} 4l6 6-6 6-6-6z`} fill="var(--rust)" />
      ) : (
        <circle cx={at(holdsToC ?? FOOT_C)} cy={10} r={5.5} fill="var(--green)" />
      )}
    </svg>
  );
};
