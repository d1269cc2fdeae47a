import type { Lineup, Network } from "../watermap/index.ts";
import { carriedOver, passing } from "./doubt-readings.ts";
import { act } from "./act.ts";
import { type Physical } from "./physical.ts";
import type { Action } from "./step.ts";

/** What is stuck, how, and how many actions are done before that makes a difference. */
type Stuck = readonly [key: string, position: string, after: number];

/**
 * The same actions on one reading of a map, done again and again with one thing or another stuck in it. Each is begun where it first differs
 * from another that was done already: what is stuck as it stands changes nothing until somebody would turn it.
 */
class Replays {
  readonly #network: Network;
  readonly #start: Physical;
  readonly #productStrength: number;
  readonly #known: ReadonlySet<string>;
  /** By what is stuck, how everything stands before each action that was done with it, and after the last. */
  readonly #states = new Map<string, Physical[]>();
  #actions: readonly Action[] = [];

  constructor(network: Network, start: Physical, productStrength: number) {
    this.#network = network;
    this.#start = start;
    this.#productStrength = productStrength;
    this.#known = new Set(network.controls.map((c) => c.key));
  }

  /** Goes on with these actions; what was done of others is forgotten. @param same how many of them are those of before */
  use(actions: readonly Action[], same: number): void {
    if (same < this.#actions.length)
      for (const [name, states] of this.#states)
        if ((JSON.parse(name) as Stuck[]).some(([, , after]) => after >= same))
          this.#states.delete(name);
        else states.length = Math.min(states.length, same + 1);
    this.#actions = actions;
  }

  /** How everything stands after the first of the actions. */
  after(count: number, stuck: Lineup): Physical {
    const differing = Object.entries(stuck)
      .map<Stuck>(([key, position]) => [key, position, this.#differsAfter(key, position)])
      .filter(([, , after]) => after < count)
      .toSorted((a, b) => a[2] - b[2] || (a[0] < b[0] ? -1 : 1));
    return this.#statesOf(differing, count)[count] ?? this.#start;
  }

  #differsAfter(key: string, position: string): number {
    if (this.#start.lineup[key] !== position) return 0;
    const turned = this.#actions.findIndex(
      (a) => a.type === "set-valve" && a.control === key && a.position !== position,
    );
    return turned < 0 ? this.#actions.length : turned;
  }

  #statesOf(stuck: readonly Stuck[], count: number): readonly Physical[] {
    const name = JSON.stringify(stuck);
    const held: Lineup = Object.fromEntries(stuck.map(([key, position]) => [key, position]));
    const states = this.#states.get(name) ?? this.#begun(stuck, held);
    this.#states.set(name, states);
    for (let i = states.length - 1; i < count; i++)
      states.push(this.#done(states[i] as Physical, held, this.#actions[i] as Action));
    return states;
  }

  #begun(stuck: readonly Stuck[], held: Lineup): Physical[] {
    const after = stuck.at(-1)?.[2] ?? 0;
    return after > 0
      ? this.#statesOf(stuck.slice(0, -1), after).slice(0, after + 1)
      : [{ ...this.#start, lineup: { ...this.#start.lineup, ...held } }];
  }

  #done(before: Physical, held: Lineup, action: Action): Physical {
    if (
      action.type === "set-valve" &&
      (held[action.control] !== undefined || !this.#known.has(action.control))
    )
      return before;
    if (action.type === "pump" && !this.#known.has(action.switch)) return before;
    // Whoever works by the sheet goes by what comes out, not by how the map really is.
    const how = { rough: true, byEye: true };
    return act(this.#network, before, action, this.#productStrength, how).physical;
  }
}

/** One beginning of a unit, and what was done from it. */
interface History {
  readonly begins: string;
  readonly replays: Map<Network, Replays>;
  actions: readonly Action[];
  /** The same, each as one word to compare by. */
  words: readonly string[];
}

// A run is planned, planned again and signed from one beginning or two.
const MOST_BEGINNINGS = 3;
const histories = new WeakMap<Network, History[]>();

const historyOf = (network: Network, start: Physical, productStrength: number): History => {
  const { measured: _, ...standing } = start;
  const begins = JSON.stringify([productStrength, standing]);
  const all = histories.get(network) ?? [];
  const history = all.find((h) => h.begins === begins) ?? {
    begins,
    replays: new Map(),
    actions: [],
    words: [],
  };
  histories.set(network, [history, ...all.filter((h) => h !== history)].slice(0, MOST_BEGINNINGS));
  return history;
};

/** Does the actions from a start on any reading of a map: what was done before on this network is not done again. */
export const replaysFrom = (
  network: Network,
  start: Physical,
  actions: readonly Action[],
  productStrength: number,
): ((read: Network, stuck: Lineup) => Physical) => {
  const history = historyOf(network, start, productStrength);
  const words = actions.map((a) => JSON.stringify(a));
  const parts = words.findIndex((w, i) => w !== history.words[i]);
  const same = parts < 0 ? words.length : parts;
  // A beginning of what was done already is looked up in it.
  if (same < words.length) {
    for (const replays of history.replays.values()) replays.use(actions, same);
    history.actions = actions;
    history.words = words;
  }
  return (read, stuck) => {
    let replays = history.replays.get(read);
    if (!replays) {
      const carried = carriedOver(network, start, read);
      const begun = { ...carried, lineup: { ...passing(network), ...carried.lineup } };
      replays = new Replays(read, begun, productStrength);
      replays.use(history.actions, 0);
      history.replays.set(read, replays);
    }
    return replays.after(actions.length, stuck);
  };
};
