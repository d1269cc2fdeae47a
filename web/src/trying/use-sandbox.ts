import { type Contents } from "@uppershed/core/contents";
import {
  type Notice,
  type SimAction,
  type SimDone,
  type SimFrame,
  type SimState,
  type StartContents,
} from "@uppershed/core/simulation";
import { type Lineup, type WaterMap } from "@uppershed/core/watermap";
import { useCallback, useEffect, useReducer, useRef } from "react";
import { besideOf } from "../device/beside.ts";
import type { TryBeside } from "./try-beside.ts";

const beside = besideOf<TryBeside>("try");

interface Shown {
  readonly contents: Contents;
  readonly lineup: Lineup;
  readonly atS: number;
  readonly runM3PerS: SimFrame["runM3PerS"];
  readonly openingM3PerS: SimFrame["openingM3PerS"];
}

export interface SandboxState {
  readonly start: StartContents;
  /** Positions that differ from use at the start. */
  readonly lineup: Lineup;
  readonly first: SimState | undefined;
  readonly done: readonly SimDone[];
  /** Notices of letting two minutes pass as things stand now. */
  readonly ahead: readonly Notice[] | undefined;
  readonly busy: boolean;
  readonly problem: string | undefined;
  /** Step that is looked at, and the moment of it, s from its beginning. */
  readonly step: number;
  readonly momentS: number;
  readonly playing: boolean;
}

type Event =
  | { readonly what: "set up"; readonly start: StartContents; readonly lineup: Lineup }
  | { readonly what: "begun"; readonly state: SimState }
  | { readonly what: "working" }
  | { readonly what: "done"; readonly step: SimDone; readonly play: boolean }
  | { readonly what: "refused"; readonly problem: string }
  | { readonly what: "ahead"; readonly notices: readonly Notice[]; readonly of: SimState }
  | { readonly what: "back" }
  | {
      readonly what: "look";
      readonly step: number;
      readonly momentS: number;
      readonly playing?: boolean;
    }
  | { readonly what: "play"; readonly on: boolean };

const EMPTY: SandboxState = {
  start: "in use",
  lineup: {},
  first: undefined,
  done: [],
  ahead: undefined,
  busy: false,
  problem: undefined,
  step: -1,
  momentS: 0,
  playing: false,
};

export const stateNow = (s: SandboxState): SimState | undefined => s.done.at(-1)?.state ?? s.first;

const change = (s: SandboxState, e: Event): SandboxState => {
  switch (e.what) {
    case "set up":
      return { ...EMPTY, start: e.start, lineup: e.lineup, busy: true };
    case "begun":
      return { ...s, first: e.state, busy: false, ahead: undefined };
    case "working":
      return { ...s, busy: true, problem: undefined, playing: false };
    case "done": {
      const step = s.done.length;
      return {
        ...s,
        done: [...s.done, e.step],
        busy: false,
        ahead: undefined,
        step,
        momentS: e.play ? 0 : e.step.seconds,
        playing: e.play,
      };
    }
    case "refused":
      return { ...s, busy: false, problem: e.problem };
    case "ahead":
      return stateNow(s) === e.of ? { ...s, ahead: e.notices } : s;
    case "back": {
      const done = s.done.slice(0, -1);
      return {
        ...s,
        done,
        ahead: undefined,
        problem: undefined,
        playing: false,
        step: done.length - 1,
        momentS: done.at(-1)?.seconds ?? 0,
      };
    }
    case "look":
      return {
        ...s,
        step: e.step,
        momentS: e.momentS,
        ...(e.playing === undefined ? {} : { playing: e.playing }),
      };
    case "play":
      return { ...s, playing: e.on };
  }
};

export interface Sandbox {
  readonly state: SandboxState;
  readonly shown: Shown | undefined;
  /** Begins again; a lineup is what differs from use. */
  readonly begin: (start: StartContents, lineup: Lineup, actions?: readonly SimAction[]) => void;
  readonly act: (action: SimAction) => void;
  readonly back: () => void;
  readonly look: (step: number, momentS: number, playing?: boolean) => void;
  readonly play: (on: boolean) => void;
}

/** The moment that is looked at: of a step's frames the last one before it, or how things stand now. */
const shownOf = (s: SandboxState): Shown | undefined => {
  const done = s.done[s.step];
  if (!done)
    return (
      s.first && {
        contents: s.first.contents,
        lineup: s.first.lineup,
        atS: 0,
        runM3PerS: {},
        openingM3PerS: {},
      }
    );
  const begun = done.state.clockS - done.seconds;
  const frame = done.frames.findLast((f) => f.atS - begun <= s.momentS + 1e-9);
  if (s.momentS >= done.seconds || !frame)
    return {
      contents: done.state.contents,
      lineup: done.state.lineup,
      atS: done.state.clockS,
      runM3PerS: done.frames.at(-1)?.runM3PerS ?? {},
      openingM3PerS: done.openingM3PerS,
    };
  // While nothing moves no frame comes; the clock goes on.
  return { ...frame, atS: begun + s.momentS };
};

const stillness = (): boolean => window.matchMedia("(prefers-reduced-motion: reduce)").matches;

/** A map to be tried out: nothing in it touches the unit's record. */
export const useSandbox = (map: WaterMap, on: boolean): Sandbox => {
  const [state, tell] = useReducer(change, EMPTY);
  const now = stateNow(state);
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const states = useRef<SimState[]>([]);
  const mapNow = useRef(map);
  useEffect(() => {
    mapNow.current = map;
  }, [map]);

  // Actions are done one after another, each on what the one before has left.
  const queue = useCallback((work: () => Promise<void>): void => {
    line.current = line.current.then(work).catch((error: unknown) => {
      tell({
        what: "refused",
        problem: error instanceof Error ? error.message : "That could not be worked out.",
      });
    });
  }, []);

  const act = useCallback(
    (action: SimAction, play = true): void =>
      queue(async () => {
        const before = states.current.at(-1);
        if (!before) return;
        tell({ what: "working" });
        const result = await beside.act(mapNow.current, before, action);
        if (!result.ok) return tell({ what: "refused", problem: result.problem });
        states.current.push(result.done.state);
        tell({
          what: "done",
          step: result.done,
          play: play && result.done.frames.length > 2 && !stillness(),
        });
      }),
    [queue],
  );

  const begin = useCallback(
    (start: StartContents, lineup: Lineup, actions: readonly SimAction[] = []): void => {
      queue(async () => {
        tell({ what: "set up", start, lineup });
        const first = await beside.begin(mapNow.current, start, lineup);
        states.current = [first];
        tell({ what: "begun", state: first });
      });
      for (const action of actions) act(action, false);
    },
    [queue, act],
  );

  const back = useCallback((): void => {
    queue(async () => {
      if (states.current.length < 2) return;
      states.current.pop();
      tell({ what: "back" });
    });
  }, [queue]);

  useEffect(() => {
    if (!on || !now || state.busy) return undefined;
    let wanted = true;
    void beside
      .ahead(mapNow.current, now)
      .then((notices) => wanted && tell({ what: "ahead", notices, of: now }));
    return () => {
      wanted = false;
    };
  }, [on, now, state.busy]);

  return {
    state,
    shown: shownOf(state),
    begin,
    act,
    back,
    look: useCallback(
      (step, momentS, playing) =>
        tell({ what: "look", step, momentS, ...(playing === undefined ? {} : { playing }) }),
      [],
    ),
    play: useCallback((playing) => tell({ what: "play", on: playing }), []),
  };
};
