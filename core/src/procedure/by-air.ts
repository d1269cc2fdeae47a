import { findFlow, type Mixture, plus, type Standing } from "../contents/index.ts";
import {
  COMMON_SIM_SETTINGS,
  type SimAction,
  simDo,
  simStart,
  USUAL_BLOW,
} from "../simulation/index.ts";
import type { AirResult } from "../simulation/index.ts";
import { liveOpenings, type Network, type Situation } from "../watermap/index.ts";
import type { Action } from "./step.ts";

/** Air let in, and what a suction hose draws: done by the trial's own engine, so that a plan and a trial cannot differ. */

const QUIET = { ...COMMON_SIM_SETTINGS, frames: 0 };

export interface ByAir<S extends Standing> {
  readonly physical: S;
  /** By opening, or by the cell that was sucked out. */
  readonly out: ReadonlyMap<string, Mixture>;
  readonly drained: readonly number[];
  readonly keptWet: readonly number[];
  readonly air?: AirResult;
  /** Why it was not done: too much for what would be pressed. */
  readonly refused?: string;
}

/** The inlet that an air hose is on lets air in; for everything else it stays as shut as its ball valve. */
const hoseOn = (network: Network, opening: string): Readonly<Record<string, string>> => {
  const gate = network.openings.find((o) => o.id === opening)?.gate;
  return gate ? { [gate.key]: gate.in[0] ?? "open" } : {};
};

const ALL_OF_IT = 0.995;

/** Whether the air leaves where it is watched and nowhere else: what else stands open takes it, and nothing counts as swept. */
const leavesThere = (
  situation: Situation,
  { opening, watch }: Extract<Action, { type: "blow" }>,
): boolean => {
  const entry = liveOpenings(situation).find((o) => o.id === opening);
  if (!entry) return false;
  const found = findFlow({ ...situation, stopped: [opening] }, { kind: "push", cell: entry.cell });
  return found.ok && found.flow.opening.some((o) => o.at.id === watch && o.share >= ALL_OF_IT);
};

export const byAir = <S extends Standing>(
  network: Network,
  before: S,
  action: Extract<Action, { type: "blow" | "suck" }>,
): ByAir<S> => {
  const nothing = { physical: before, out: new Map(), drained: [], keptWet: [] };
  const lineup =
    action.type === "blow"
      ? { ...before.lineup, ...hoseOn(network, action.opening) }
      : before.lineup;
  if (action.type === "blow" && !leavesThere({ network, lineup, apart: before.apart }, action))
    return nothing;
  const start = {
    ...simStart(network, { lineup, contents: before.contents }),
    apart: before.apart,
  };
  const asked: SimAction =
    action.type === "blow"
      ? { ...USUAL_BLOW, do: "blow", at: action.opening, regulatorPa: action.pa }
      : { do: "suck", from: action.cell };
  const result = simDo(network, start, asked, QUIET);
  if (!result.ok) return { ...nothing, refused: result.problem };
  const { state, out, air, came, gone } = result.done;
  return {
    physical: {
      ...before,
      contents: state.contents,
      came: plus(before.came, came),
      gone: plus(before.gone, gone),
    },
    out,
    drained: air?.swept ?? [],
    keptWet: air ? [...air.pressedOnly, ...air.notReached, ...air.beside] : [],
    ...(air ? { air } : {}),
  };
};
