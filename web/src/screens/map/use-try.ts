import { type Verdict, frostVerdict, startingContents } from "@uppershed/core/contents";
import { type StartContents } from "@uppershed/core/simulation";
import { reachOf } from "@uppershed/core/survey";
import { inUseLineup, type Lineup, type Network, type WaterMap } from "@uppershed/core/watermap";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { airHalos, reachHalos } from "../../mapping/halos.ts";
import { lineupOf, type LineupName } from "../../mapping/lineups.ts";
import { useBegins } from "../../planning/use-begins.ts";
import { useNotesQuery } from "../../store/api.ts";
import { leftOn } from "../../trying/left-on.ts";
import type { TryTab } from "../../trying/try-panel.tsx";
import { type Sandbox, useSandbox } from "../../trying/use-sandbox.ts";
import { useKeys } from "../../ui/use-keys.ts";
import { type Desk, type OnDrawing, useTurning } from "./desk.ts";
import type { BenchMode } from "./tool-bar.tsx";

export interface Trying {
  readonly onDrawing: OnDrawing;
  readonly sandbox: Sandbox;
  readonly verdict: Verdict | undefined;
  /** What it stood as at the start. */
  readonly standing: LineupName;
  readonly begin: (start: StartContents, standing: LineupName) => void;
  readonly turn: (key: string, position: string) => void;
  /** What the unit holds by its last record, and when that was, where somebody has written down how it was left. */
  readonly recorded: { readonly start: StartContents; readonly at: string } | undefined;
  readonly tab: TryTab;
  readonly setTab: (tab: TryTab) => void;
}

/**
 * What is tried. It begins as the unit was left last, anew with every change of the map, and keeps its place while another mode is
 * looked at.
 * A note named in the address is tried again: Try mode opens and does its steps.
 */
const useTrial = (
  { unitId, map, network }: Desk,
  on: boolean,
  setMode: (mode: BenchMode) => void,
): Pick<Trying, "sandbox" | "standing" | "begin" | "recorded"> => {
  const begins = useBegins(unitId);
  const left = useMemo(() => (begins ? leftOn(network, begins) : undefined), [network, begins]);
  const sandbox = useSandbox(map, on);
  const [standing, setStanding] = useState<LineupName>("in use");
  const [params] = useSearchParams();
  const noteId = params.get("try");
  const { data: notes } = useNotesQuery(unitId, { skip: noteId === null });
  const begunOn = useRef<WaterMap>(undefined);
  const noteDone = useRef<string>(undefined);
  const { begin } = sandbox;

  const beginAs = useCallback(
    (start: StartContents, as: LineupName): void => {
      setStanding(as);
      begin(start, lineupOf(network, as, { left: left?.lineup, found: undefined }));
    },
    [begin, network, left],
  );
  const tried = notes?.find((n) => n.id === noteId)?.tried;
  useEffect(() => {
    if (tried && noteId !== null && noteDone.current !== noteId) {
      noteDone.current = noteId;
      begunOn.current = map;
      setMode("try");
      begin(tried.start, tried.lineup, tried.actions);
    } else if (on && begins !== undefined && begunOn.current !== map) {
      begunOn.current = map;
      // What is set is what the sandbox is begun with.
      // oxlint-disable-next-line react/set-state-in-effect
      if (left) beginAs(left.start, "as left");
      else beginAs("in use", "in use");
    }
  }, [tried, noteId, on, map, begin, beginAs, begins, left, setMode]);

  return {
    sandbox,
    standing,
    begin: beginAs,
    recorded: begins && left ? { start: left.start, at: begins.at } : undefined,
  };
};

/** What everything holds at the moment that is looked at, and its verdict; in use while nothing is tried. */
const useMoment = (network: Network, sandbox: Sandbox, on: boolean) => {
  const moment = on ? sandbox.shown : undefined;
  const contents = useMemo(
    () => moment?.contents ?? startingContents(network),
    [network, moment?.contents],
  );
  // A map that has just changed waits for its own beginning: what was tried on the one before does not fit it.
  const fits = contents.length === network.cells.length;
  const held = useMemo(
    () => (fits ? contents : startingContents(network)),
    [fits, contents, network],
  );
  const verdict = useMemo(
    () => (on ? frostVerdict(network, held) : undefined),
    [on, network, held],
  );
  const flows = useMemo(
    () =>
      moment
        ? new Map(Object.entries(moment.runM3PerS).map(([id, flow]) => [id, flow > 0] as const))
        : undefined,
    [moment],
  );
  return { contents: held, fits, verdict, flows, lineup: moment?.lineup };
};

/** Try mode: what is turned and done here touches no record. Its keys take back what was tried. */
export const useTry = (desk: Desk, on: boolean, setMode: (mode: BenchMode) => void): Trying => {
  const { network, select } = desk;
  const trial = useTrial(desk, on, setMode);
  const { sandbox } = trial;
  const [tab, setTab] = useState<TryTab>("Steps");
  const { contents, fits, verdict, flows, lineup } = useMoment(network, sandbox, on);
  const air = on ? sandbox.state.done[sandbox.state.step]?.air : undefined;
  const halos = useMemo(() => {
    if (air && fits) return airHalos(network, air);
    return tab === "Reach" && lineup ? reachHalos(reachOf(network, lineup)) : undefined;
  }, [air, fits, network, tab, lineup]);
  const standing = useMemo<Lineup>(() => lineup ?? inUseLineup(network), [lineup, network]);
  const { act, back } = sandbox;
  const turn = useCallback(
    (key: string, position: string) => act({ do: "turn", control: key, to: position }),
    [act],
  );
  useKeys(on, {
    "$mod+z": (event) => {
      event.preventDefault();
      if (!sandbox.state.busy) back();
    },
    Escape: () => select(undefined),
  });
  return {
    ...trial,
    onDrawing: {
      lineup: standing,
      contents,
      choose: useTurning(desk, standing, turn),
      ...(halos ? { halos } : {}),
      ...(flows ? { flows } : {}),
    },
    verdict,
    turn,
    tab,
    setTab,
  };
};
