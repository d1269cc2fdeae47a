import { sum, volumeOf } from "../contents/index.ts";
import type { Network } from "../watermap/index.ts";
import { Passing, QUIET_M3, type Wait } from "./passing.ts";
import type { SimSettings, SimState } from "./state.ts";
import { newTally, type Tally } from "./tally.ts";

/** Lets time pass over a unit as it stands. */

const LONGEST_STEP_S = 60;
// Enough for a tank of a cubic metre through a tap; a wait that needs more ends early and says so.
const MOST_STEPS = 20_000;
const GRAVITY_STEPS = 50;
// Pipes run out in about this time (common practice, no source).
const PIPES_DRAIN_S = 5;

export interface Waited {
  readonly state: SimState;
  readonly tally: Tally;
  readonly seconds: number;
  readonly ended: "time" | "seen" | "at rest" | "too many steps";
}

/**
 * Lets so many seconds pass, or fewer when what is waited for shows or nothing moves any more.
 * While a pump runs or a supply presses, contents are carried along the solved flows; what is closed off from them, and
 * everything when nothing presses, follows gravity.
 */
export const passTime = (
  network: Network,
  before: SimState,
  wait: Wait,
  settings: SimSettings,
  tally: Tally = newTally(),
): Waited => {
  const p = new Passing(network, before, wait, settings, tally);
  const whole = wait.seconds;
  let ended: Waited["ended"] = "time";
  let movedM3 = 0;
  let fellAtS = Number.NEGATIVE_INFINITY;
  p.frame(true);
  for (let steps = 0; p.passedS < whole; steps++) {
    if (steps > MOST_STEPS) {
      ended = "too many steps";
      break;
    }
    p.solve();
    const left = whole - p.passedS;
    let stepS = Math.min(left, LONGEST_STEP_S);
    let still = false;
    if (p.found && p.stations.length > 0) {
      const fastest = p.found.linkM3PerS.reduce((m, q) => Math.max(m, Math.abs(q)), 0);
      stepS = Math.min(stepS, p.pace.next(p.held, movedM3) / fastest, p.leftS(), p.givesForS());
      movedM3 += stepS * fastest;
      p.carry(stepS);
      // What is closed off falls by itself, looked at every second.
      if (p.passedS - fellAtS >= 1 && p.mayFall()) {
        p.fallFor(Math.max(stepS, Math.min(1, left)));
        fellAtS = p.passedS;
      }
    } else {
      const paceS = Math.min(left, Math.max(1, whole / GRAVITY_STEPS));
      const { movedM3, slowestS, kept } = p.fallFor(paceS);
      still = movedM3 <= QUIET_M3;
      stepS = still ? left : Math.min(paceS, Math.max(slowestS, PIPES_DRAIN_S), left);
      if (still) {
        tally.lastOpenings = {};
        for (const { cell, why } of kept)
          tally.trace.push({
            atS: before.clockS + p.passedS,
            at: network.cells[cell]?.id ?? "",
            what: why,
            m3: volumeOf(sum(p.held[cell] ?? [])),
          });
        if (wait.until && Object.keys(before.heats).length === 0) {
          ended = "at rest";
          break;
        }
      }
    }
    p.grow(stepS);
    p.passedS += stepS;
    p.frame();
    if (p.hasShown()) {
      ended = "seen";
      break;
    }
    // Nothing moves any more: the rest of the time has passed at once.
    if (still) break;
  }
  p.settle();
  for (const [id, liquid] of tally.out)
    tally.trace.push({
      atS: before.clockS + p.passedS,
      at: id,
      what: "came out here",
      m3: volumeOf(liquid),
    });
  p.frame(true);
  const jugs = Object.fromEntries(
    Object.entries(before.jugs).map(([id, jug]) => [
      id,
      jug.leftM3 === undefined
        ? jug
        : { ...jug, leftM3: Math.max(0, jug.leftM3 - (p.drawn.get(id) ?? 0)) },
    ]),
  );
  return {
    state: { ...before, contents: p.contents(), jugs, clockS: before.clockS + p.passedS },
    tally,
    seconds: p.passedS,
    ended,
  };
};
