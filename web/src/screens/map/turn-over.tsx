import { controlsOfPart, type Lineup, partOf } from "@uppershed/core/watermap";
import { TurnPlate } from "../../mapping/turn-plate.tsx";
import { type Desk, plateOnRight } from "./desk.ts";

/** Over the drawing where valves are turned: the plate of what has more than one handle. */
export const TurnOver = ({
  desk,
  lineup,
  onTurn,
}: {
  desk: Desk;
  lineup: Lineup;
  onTurn: (key: string, position: string) => void;
}) => {
  const part = desk.selected ? partOf(desk.map, desk.selected) : undefined;
  if (!part || controlsOfPart(part).length <= 1) return null;
  return (
    <TurnPlate
      network={desk.network}
      partId={part.id}
      lineup={lineup}
      right={plateOnRight(desk.chart?.layout, part.id)}
      onTurn={onTurn}
      onClose={() => desk.select(undefined)}
    />
  );
};
