import {
  chlorineOf,
  liquidIn,
  type Mixture,
  strengthOf,
  volumeOf,
  warmthOf,
} from "@uppershed/core/contents";
import {
  COMMON_SIM_SETTINGS,
  contentsToStart,
  controlNamed,
  positionNamed,
  simActions,
  type SimDone,
  type SimSettings,
  startContents,
  simStart,
  simulate,
} from "@uppershed/core/simulation";
import { buildNetwork, cellTold, type Network, type WaterMap } from "@uppershed/core/watermap";
import { z } from "zod";
import type { Answer } from "./flows.ts";

/** A simulation for the command line: a list of actions, and what everything holds after each. SI units. */

const bad = (problem: string): { ok: false; problem: string } => ({ ok: false, problem });

const FILE = z.union([
  simActions.transform((actions) => ({ start: "in use" as const, lineup: {}, actions })),
  z.strictObject({
    /** What it holds at first. */
    start: startContents.default("in use"),
    /** Positions by control or tag, upon a unit in use. */
    lineup: z.record(z.string(), z.string()).default({}),
    actions: simActions,
  }),
]);

/** The first thing wrong with an actions file, with its place. */
const problemIn = (error: z.ZodError): string => {
  // Of the two forms, the one that got further is meant.
  const deepest = (issues: readonly z.core.$ZodIssue[]): z.core.$ZodIssue | undefined =>
    issues
      .flatMap((i) =>
        i.code === "invalid_union" && i.errors.length > 0
          ? i.errors.map((e) => deepest(e) ?? i)
          : [i],
      )
      .toSorted((a, b) => b.path.length - a.path.length)[0];
  const issue = deepest(error.issues);
  return issue
    ? `${issue.path.length > 0 ? `${issue.path.join(".")}: ` : ""}${issue.message}`
    : "is not a list of actions";
};

export const readActions = (text: string): Answer<z.output<typeof FILE>> => {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    return bad(`is not JSON (${(error as Error).message})`);
  }
  const read = FILE.safeParse(data);
  return read.success ? { ok: true, value: read.data } : bad(problemIn(read.error));
};

const told = (m: Mixture, aroundC: number): object => ({
  volumeM3: volumeOf(m),
  strength: strengthOf(m),
  temperatureC: aroundC + warmthOf(m),
  chlorineMgL: chlorineOf(m),
});

const inAndOut = (m: Mixture): object => ({
  volumeM3: volumeOf(m),
  waterM3: m.waterM3,
  glycolM3: m.glycolM3,
});

const doneAnswer = (network: Network, done: SimDone, aroundC: number, trace: boolean): object => {
  const ids = (cells: readonly number[]): string[] => cells.map((c) => cellTold(network, c));
  return {
    action: done.action,
    seconds: done.seconds,
    clockS: done.state.clockS,
    ...(done.ended ? { ended: done.ended } : {}),
    in: inAndOut(done.came),
    out: inAndOut(done.gone),
    outBy: Object.fromEntries([...done.out].map(([id, m]) => [id, told(m, aroundC)])),
    flowsOutM3PerS: done.openingM3PerS,
    warnings: done.notices,
    ...(done.air
      ? {
          air: {
            swept: ids(done.air.swept),
            pressedOnly: ids(done.air.pressedOnly),
            notReached: ids(done.air.notReached),
            seconds: done.air.seconds,
            rounds: done.air.rounds,
            outM3: done.air.outM3,
            remainsM3: done.air.remainsM3,
          },
        }
      : {}),
    contents: Object.fromEntries(
      network.cells.map((_, i) => [
        cellTold(network, i),
        {
          ...told(liquidIn(done.state.contents[i]), aroundC),
          capacityM3: network.cells[i]?.capacityM3 ?? 0,
        },
      ]),
    ),
    ...(trace ? { trace: done.trace } : {}),
  };
};

/** Does the actions of a file to a map. */
export const simulateAnswer = (
  map: WaterMap,
  file: z.output<typeof FILE>,
  how: { trace: boolean; supplyPa?: number },
): Answer<object> => {
  const network = buildNetwork(map);
  const lineup: Record<string, string> = {};
  for (const [name, wanted] of Object.entries(file.lineup)) {
    const control = controlNamed(network, name);
    if (!control.ok) return bad(`lineup: ${control.problem}`);
    const position = positionNamed(control.value, wanted);
    if (!position.ok) return bad(`lineup: ${position.problem}`);
    lineup[control.value.key] = position.value;
  }
  const settings: SimSettings = {
    ...COMMON_SIM_SETTINGS,
    frames: 0,
    flow: {
      ...COMMON_SIM_SETTINGS.flow,
      ...(how.supplyPa === undefined ? {} : { supplyPa: how.supplyPa }),
    },
  };
  const start = simStart(network, { lineup, contents: contentsToStart(network, file.start) });
  const result = simulate(network, start, file.actions, settings);
  if (!result.ok) return bad(`action ${result.action + 1}: ${result.problem}`);
  const aroundC = settings.flow.temperatureC;
  return {
    ok: true,
    value: {
      map: map.id,
      seconds: result.after.reduce((s, d) => s + d.seconds, 0),
      inM3: result.after.reduce((s, d) => s + volumeOf(d.came), 0),
      outM3: result.after.reduce((s, d) => s + volumeOf(d.gone), 0),
      after: result.after.map((d) => doneAnswer(network, d, aroundC, how.trace)),
    },
  };
};
