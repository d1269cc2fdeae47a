import {
  buildNetwork,
  type Contents,
  type FrostVerdict,
  frostVerdict,
  type Lineup,
  liquidIn,
  type Network,
  reachOf,
  readWaterMap,
  replayRun,
  startingContents,
  type StartContents,
  type WaterMap,
} from "@uppershed/core";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import type { Halo } from "../../drawing/pipes.tsx";
import { airHalos, reachHalos } from "../../mapping/halos.ts";
import { lineupOf, type Standing } from "../../mapping/lineups.ts";
import { useNotesQuery, useRunQuery, useUnitQuery } from "../../store/api.ts";
import type { TryTab } from "../../trying/try-panel.tsx";
import { type Sandbox, useSandbox } from "../../trying/use-sandbox.ts";
import type { BenchMode } from "./tool-bar.tsx";

export interface Trying {
  readonly sandbox: Sandbox;
  /** What everything holds and how it stands at the moment that is looked at; in use while nothing is tried. */
  readonly contents: Contents;
  readonly lineup: Lineup | undefined;
  readonly verdict: FrostVerdict | undefined;
  /** Runs in which something moves at that moment, and whether towards their "to" end. */
  readonly flows: ReadonlyMap<string, boolean> | undefined;
  /** What it stood as at the start. */
  readonly standing: Standing;
  readonly begin: (start: StartContents, standing: Standing) => void;
  /** What the unit holds by its last record, where there is one. */
  readonly recorded: StartContents | undefined;
  readonly tab: TryTab;
  readonly setTab: (tab: TryTab) => void;
  /** What the drawing shows beside contents: what air did, or what water reaches. */
  readonly halos: ReadonlyMap<string, Halo> | undefined;
}

/** What the unit's last record says that it holds, and how it stands, told for the map as it is now: parts keep their names. */
const useRecorded = (unitId: string, network: Network, on: boolean): { start: StartContents; lineup: Lineup } | undefined => {
  const { data: unit } = useUnitQuery(unitId);
  const runId = unit?.state.runId ?? "";
  const { data: run } = useRunQuery(runId, { skip: !on || runId === "" });
  return useMemo(() => {
    const then = run?.id === runId ? readWaterMap(run.map) : undefined;
    if (!run || !then?.ok) return undefined;
    const before = buildNetwork(then.map);
    const { physical } = replayRun(before, run.setup, run.events).state;
    const held = Object.fromEntries(
      before.cells.flatMap((cell, i) => {
        if (!network.cellIndex.has(cell.id)) return [];
        const { waterM3, glycolM3 } = liquidIn(physical.contents[i]);
        return [[cell.id, { waterM3, glycolM3 }] as const];
      }),
    );
    const keys = new Set(network.controls.map((c) => c.key));
    const lineup = Object.fromEntries(Object.entries(physical.lineup).filter(([key]) => keys.has(key)));
    return { start: { held }, lineup };
  }, [run, runId, network]);
};

/**
 * Try mode on the bench. It begins anew with every change of the map, and keeps its place while another mode is looked at.
 * A note named in the address is tried again: Try mode opens and does its steps.
 */
export const useTry = (unitId: string, map: WaterMap, network: Network, on: boolean, setMode: (mode: BenchMode) => void): Trying => {
  const recorded = useRecorded(unitId, network, on);
  const sandbox = useSandbox(map, on);
  const [standing, setStanding] = useState<Standing>("in use");
  const [tab, setTab] = useState<TryTab>("Steps");
  const [params] = useSearchParams();
  const noteId = params.get("try");
  const { data: notes } = useNotesQuery(unitId, { skip: noteId === null });
  const begunOn = useRef<WaterMap>(undefined);
  const noteDone = useRef<string>(undefined);
  const { begin } = sandbox;

  const beginAs = useCallback(
    (start: StartContents, as: Standing): void => {
      setStanding(as);
      begin(start, lineupOf(network, as, recorded?.lineup ?? {}));
    },
    [begin, network, recorded],
  );
  const tried = notes?.find((n) => n.id === noteId)?.tried;
  useEffect(() => {
    if (tried && noteId !== null && noteDone.current !== noteId) {
      noteDone.current = noteId;
      begunOn.current = map;
      setMode("try");
      begin(tried.start, tried.lineup, tried.actions);
    } else if (on && begunOn.current !== map) {
      begunOn.current = map;
      beginAs("in use", "in use");
    }
  }, [tried, noteId, on, map, begin, beginAs, setMode]);

  const moment = on ? sandbox.shown : undefined;
  const contents = useMemo(() => moment?.contents ?? startingContents(network), [network, moment?.contents]);
  // A map that has just changed waits for its own beginning: what was tried on the one before does not fit it.
  const fits = contents.length === network.cells.length;
  const held = useMemo(() => (fits ? contents : startingContents(network)), [fits, contents, network]);
  const verdict = useMemo(() => (on ? frostVerdict(network, held) : undefined), [on, network, held]);
  const flows = useMemo(
    () => (moment ? new Map(Object.entries(moment.runM3PerS).map(([id, flow]) => [id, flow > 0] as const)) : undefined),
    [moment],
  );
  const air = on ? sandbox.state.done[sandbox.state.step]?.air : undefined;
  const lineup = moment?.lineup;
  const halos = useMemo(() => {
    if (air && fits) return airHalos(network, air);
    return tab === "Reach" && lineup ? reachHalos(reachOf(network, lineup)) : undefined;
  }, [air, fits, network, tab, lineup]);
  return { tab, setTab, halos, recorded: recorded?.start, sandbox, contents: held, lineup, verdict, flows, standing, begin: beginAs };
};
