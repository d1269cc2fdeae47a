import { startingContents } from "@uppershed/core/contents";
import { useCallback, useMemo, useState } from "react";
import type { Halo } from "../../drawing/pipes.tsx";
import { correctMode, type LineupName, lineupOf } from "../../mapping/lineups.ts";
import { useKeys } from "../../ui/use-keys.ts";
import { type Desk, type OnDrawing, useTurning } from "./desk.ts";
import { useKnownLineups } from "./use-known-lineups.ts";

export interface Lineups {
  readonly onDrawing: OnDrawing;
  readonly known: ReturnType<typeof useKnownLineups>;
  readonly from: LineupName;
  readonly to: LineupName;
  readonly setFrom: (name: LineupName) => void;
  readonly setTo: (name: LineupName) => void;
  readonly turn: (key: string, position: string) => void;
  /** Takes the corrections of the lineup back, to what the graph proposes. */
  readonly propose: () => void;
}

/** Lineups mode: how the unit stands and is to stand. A tap sets how it was found, or corrects the map. Its keys change nothing. */
export const useLineups = (
  desk: Desk,
  on: boolean,
  surveyed: ReadonlyMap<string, Halo> | undefined,
): Lineups => {
  const { unitId, revision, network, apply, say, select } = desk;
  const known = useKnownLineups(unitId, revision);
  const [from, setFrom] = useState<LineupName>();
  const [to, setTo] = useState<LineupName>("draw antifreeze");
  const lineup = useMemo(() => lineupOf(network, to, known.known), [network, to, known.known]);
  const contents = useMemo(() => startingContents(network), [network]);
  const { tap } = known;
  const turn = useCallback(
    (key: string, position: string): void => {
      if (to === "as found") tap(key, position);
      else if (to === "as left") say("How it was left is not changed here.");
      else if (to === "in use")
        apply((now) => ({ ...now, lineup: { ...now.lineup, [key]: position } }));
      else apply((now) => correctMode(now, network, to, key, position));
    },
    [to, tap, say, apply, network],
  );
  useKeys(on, { Escape: () => select(undefined) });
  return {
    onDrawing: {
      lineup,
      contents,
      choose: useTurning(desk, lineup, turn),
      ...(surveyed ? { halos: surveyed } : {}),
    },
    known,
    from: from ?? (known.known.left ? "as left" : "in use"),
    to,
    setFrom,
    setTo,
    turn,
    propose: () =>
      apply((now) => ({
        ...now,
        modes: Object.fromEntries(Object.entries(now.modes).filter(([name]) => name !== to)),
      })),
  };
};
