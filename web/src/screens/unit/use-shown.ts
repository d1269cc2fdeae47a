import type { UnitStandingTold } from "@uppershed/contract";
import {
  type Contents,
  frostVerdict,
  startingContents,
  type Verdict,
} from "@uppershed/core/contents";
import { contentsSaid, replayRun, verdictNow } from "@uppershed/core/procedure";
import {
  buildNetwork,
  inUseLineup,
  type Lineup,
  type Network,
  readWaterMap,
  type WaterMap,
} from "@uppershed/core/watermap";
import { useMemo } from "react";
import { useUnitMap } from "../../planning/use-map.ts";
import { useMapAtQuery, useRunQuery, useStandingQuery } from "../../store/api.ts";

// One and the same nothing, so that what is worked out from it is not worked out again.
const NONE: readonly never[] = [];

export interface Picture {
  readonly network: Network;
  readonly contents: Contents;
  readonly lineup: Lineup;
  readonly verdict: Verdict;
  /** How many entries of the run have no effect on it. */
  readonly astray?: number;
}

/** How the unit stands now, on today's map, with what came after its record. */
const pictureNow = (map: WaterMap, told: UnitStandingTold): Picture => {
  const network = buildNetwork(map);
  const lineup = { ...inUseLineup(network), ...told.lineup };
  if (told.contents === null) {
    const contents = startingContents(network);
    return {
      network,
      contents,
      lineup,
      verdict: frostVerdict(network, contents, "by-part", undefined, { powered: true }),
    };
  }
  const verdict = {
    holdsToC: told.holdsToC,
    weakest: told.owners.find((o) => o.id === told.weakest) ?? null,
    owners: told.owners,
  };
  return {
    network,
    contents: contentsSaid(network, new Map(Object.entries(told.contents))),
    lineup,
    verdict,
  };
};

/** What is to be looked at. */
export type Wanted =
  /** How it stands now, or stood at the end of a day. */
  | { readonly what: "standing"; readonly asOf: string | undefined }
  /** As a run has left it, on the map of that day. */
  | { readonly what: "run"; readonly runId: string }
  | { readonly what: "in use" };

/** What the map shows, and which of its parts and pipes are not known to hold. */
export const useShown = (unitId: string, wanted: Wanted) => {
  const { map: newest, revision: newestRevision, error } = useUnitMap(unitId);
  const asOf = wanted.what === "standing" ? wanted.asOf : undefined;
  const { currentData: told, error: standingError } = useStandingQuery({
    id: unitId,
    ...(asOf === undefined ? {} : { asOf }),
  });
  const { data: older } = useMapAtQuery(
    { id: unitId, revision: told?.mapRevision ?? 1 },
    { skip: asOf === undefined || told === undefined },
  );
  const { data: run } = useRunQuery(wanted.what === "run" ? wanted.runId : "", {
    skip: wanted.what !== "run",
  });
  const shown = useMemo<Picture | undefined>(() => {
    if (wanted.what === "run") {
      const then = run?.id === wanted.runId ? readWaterMap(run.map) : undefined;
      if (!run || !then?.ok) return undefined;
      const { setup, begins, events, unread } = run;
      const replayed = replayRun({
        network: buildNetwork(then.map),
        setup,
        begins: begins ?? undefined,
        events,
        unread,
      });
      const state = replayed.whole ? replayed.state : replayed.stateWithout;
      const { contents, lineup } = state.physical;
      return {
        network: state.network,
        contents,
        lineup,
        verdict: verdictNow(state),
        astray: replayed.whole ? 0 : replayed.astray.length,
      };
    }
    if (!newest) return undefined;
    if (wanted.what === "in use") {
      const network = buildNetwork(newest);
      const contents = startingContents(network);
      return {
        network,
        contents,
        lineup: inUseLineup(network),
        verdict: frostVerdict(network, contents, "by-part", undefined, { powered: true }),
      };
    }
    if (!told) return undefined;
    if (wanted.asOf === undefined)
      return told.mapRevision === newestRevision ? pictureNow(newest, told) : undefined;
    const read = older?.revision === told.mapRevision ? readWaterMap(older.document) : undefined;
    return read?.ok ? pictureNow(read.map, told) : undefined;
  }, [newest, newestRevision, told, older, run, wanted]);
  return {
    network: shown?.network,
    shown,
    revision: told?.mapRevision,
    notKnown: wanted.what === "standing" ? (told?.notKnown ?? NONE) : NONE,
    error: error ?? standingError,
  };
};
