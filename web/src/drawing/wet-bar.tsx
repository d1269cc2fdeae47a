import type { WetLines } from "@uppershed/core/procedure";
import { useUnits } from "../ui/units.ts";

const PLACES = [
  ["suction", "suctionM3", "S", 0.4],
  ["cold", "coldM3", "C", 1],
  ["hot", "hotM3", "H", 0.7],
  ["bodies", "bodiesM3", "", 0.25],
] as const;

/** How much water is still in the lines, and where: lettered, because hot and cold are the same water. */
export const WetBar = ({ wet }: { wet: WetLines }) => {
  const { q } = useUnits();
  const shares = PLACES.map(([, key]) => (100 * wet[key]) / wet.capacityM3);
  const words = PLACES.map(([name, key]) => `${name} ${q(wet[key], "volume")}`).join(", ");
  return (
    <svg
      role="img"
      aria-label={`Still in: ${words}`}
      viewBox="0 0 100 14"
      preserveAspectRatio="none"
      className="mt-1 h-[15px] w-full max-w-48 border border-ink"
    >
      <title>{words}</title>
      {PLACES.map(([name, , , opacity], i) => (
        <rect
          key={name}
          x={shares.slice(0, i).reduce((sum, s) => sum + s, 0)}
          y="0"
          width={shares[i]}
          height="14"
          fill="var(--water)"
          fillOpacity={opacity}
          stroke="var(--paper)"
          strokeWidth="1"
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
};
