import { LineupPanel } from "../../mapping/lineup-panel.tsx";
import type { Desk } from "./desk.ts";
import type { Lineups } from "./use-lineups.ts";

/** Beside the drawing: the turns from one lineup to another. */
export const LineupsMargin = ({ desk, lineups }: { desk: Desk; lineups: Lineups }) => {
  const { known, leftAt, found } = lineups.known;
  return (
    <LineupPanel
      map={desk.map}
      network={desk.network}
      known={known}
      leftAt={leftAt}
      found={{
        ...found,
        keep: desk.changed ? "Save the map first: it goes with a revision." : found.keep,
      }}
      from={lineups.from}
      to={lineups.to}
      onFrom={lineups.setFrom}
      onTo={lineups.setTo}
      onProposal={lineups.propose}
    />
  );
};
