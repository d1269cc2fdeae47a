import {
  type Contents,
  drain,
  holding,
  liquidIn,
  type Mixture,
  plus,
  pouredInto,
  product,
  push,
  type PushResult,
  remade,
  situationOf,
  type Spill,
  sum,
  take,
  turned,
  undone,
  volumeOf,
  water,
} from "../contents/index.ts";
import { COMMON_FLOW_SETTINGS, cushionsAtRest } from "../flows/index.ts";
import type { AirResult } from "../simulation/index.ts";
import { cellWith, type Network } from "../watermap/index.ts";
import { byAir } from "./by-air.ts";
import { type Physical, pouredFact } from "./physical.ts";
import type { Action } from "./step.ts";

/** What is done to a unit, one action at a time. */

/** What an action did, for expectations and for the record. */
export interface Effect {
  readonly physical: Physical;
  readonly out: ReadonlyMap<string, Mixture>;
  readonly push?: PushResult;
  readonly drained: readonly number[];
  readonly keptWet: readonly number[];
  readonly air?: AirResult;
}

const spilled = (left: readonly Spill[]): Mixture => sum(left.map((s) => s.liquid));

const asContents = (before: Contents, held: readonly (readonly Mixture[])[]): Contents =>
  before.map((c, i) => holding(held[i] ?? [], c.source));

/**
 * Does one action to the unit.
 * @param productStrength strength of the antifreeze in hand, glycol by volume
 * @param rough pushes in large steps
 */
export const act = (
  network: Network,
  before: Physical,
  action: Action,
  productStrength: number,
  how: { readonly rough?: boolean; readonly byEye?: boolean } = {},
): Effect => {
  const plain = (change: Partial<Physical>): Effect => ({
    physical: { ...before, ...change },
    out: new Map(),
    drained: [],
    keptWet: [],
  });
  // A plan turns many valves: nothing else is looked at for them.
  if (action.type === "set-valve") return plain(turned(before, action.control, action.position));
  const situation = situationOf(asMeasured(network, before), before);
  switch (action.type) {
    case "confirm":
      return plain({
        facts: before.facts.includes(action.fact) ? before.facts : [...before.facts, action.fact],
      });
    case "wait":
      return plain({});
    case "stand":
      return plain({ contents: faded(before.contents, action.seconds) });
    case "fill":
    case "dose":
      return plain(intoTank(network, before, action));
    case "disconnect":
      return plain(undone(before, action));
    case "reconnect":
      return plain(remade(before, action));
    case "drain": {
      const result = drain(situation, before.contents);
      return {
        physical: {
          ...before,
          contents: result.contents,
          gone: plus(before.gone, spilled(result.left)),
        },
        out: result.out,
        drained: result.drained,
        keptWet: result.kept.map((k) => k.cell),
      };
    }
    case "pump":
    case "supply":
    case "push-by-hand": {
      const cell = action.type === "pump" ? undefined : network.cellIndex.get(action.cell);
      const result = push(situation, before.contents, {
        drive:
          action.type === "pump"
            ? { kind: "pump", switchKey: action.switch }
            : { kind: "push", cell: cell ?? -1 },
        productStrength: action.type === "supply" ? 0 : productStrength,
        ...(action.type === "supply" ? { chlorineMgL: action.chlorineMgL } : {}),
        ...(action.type === "push-by-hand" ? {} : { wants: action.wants }),
        watch: action.watch,
        ...(action.type === "supply" || action.untilStrength === undefined
          ? {}
          : { untilStrength: action.untilStrength }),
        ...(action.type === "pump" && action.untilAir !== undefined
          ? { untilAir: action.untilAir }
          : {}),
        maxM3: action.maxM3,
        ...(!how.rough && network.cells.some((c) => c.prechargePa !== undefined)
          ? {
              cushions: (held) =>
                cushionsAtRest(situation, asContents(before.contents, held), COMMON_FLOW_SETTINGS),
            }
          : {}),
        ...(how.rough ? { rough: true } : {}),
        ...(how.byEye ? { byEyeM3: action.aboutM3 ?? 0 } : {}),
      });
      return {
        physical: {
          ...before,
          contents: result.contents,
          // What a supply brings is no product.
          drawnM3: before.drawnM3 + (action.type === "supply" ? 0 : result.drawnM3),
          came: plus(before.came, result.came),
          gone: plus(before.gone, spilled(result.left)),
        },
        out: new Map(),
        push: result,
        drained: [],
        keptWet: [],
      };
    }
    case "blow":
    case "suck":
      return byAir(network, before, action);
    case "pour": {
      const cell = network.cellIndex.get(action.cell);
      if (cell === undefined) return plain({});
      const fact = pouredFact(action.cell);
      return plain({
        ...pouredInto(network, before, cell, product(action.volumeM3, productStrength)).standing,
        facts: before.facts.includes(fact) ? before.facts : [...before.facts, fact],
        drawnM3: before.drawnM3 + action.volumeM3,
      });
    }
  }
};

// Half-life of free chlorine in clean pipes, s; our own estimate, a day. What a strip reads replaces it.
const CHLORINE_HALF_LIFE_S = 86_400;

/** What is left of free chlorine after so long. */
export const keptOfChlorine = (seconds: number): number => 0.5 ** (seconds / CHLORINE_HALF_LIFE_S);

const faded = (contents: Contents, seconds: number): Contents =>
  contents.map((held) =>
    held.plugs.some((p) => p.chlorineMg)
      ? {
          ...held,
          plugs: held.plugs.map((p) =>
            p.chlorineMg ? { ...p, chlorineMg: p.chlorineMg * keptOfChlorine(seconds) } : p,
          ),
        }
      : held,
  );

/** Water or chlorine into a tank, all of it mixed; what it cannot hold runs over. */
const intoTank = (
  network: Network,
  before: Physical,
  action: Extract<Action, { type: "fill" | "dose" }>,
): Partial<Physical> => {
  const index = network.cellIndex.get(action.cell);
  const cell = network.cells[index ?? -1];
  if (index === undefined || !cell) return {};
  const comes: Mixture =
    action.type === "fill"
      ? water(action.volumeM3)
      : { ...water(action.bottleM3), chlorineMg: action.chlorineMg };
  const mixed = plus(liquidIn(before.contents[index]), comes);
  const { taken, left } = take(mixed, cell.capacityM3);
  return {
    contents: before.contents.map((c, i) => (i === index ? holding([taken], "worked out") : c)),
    came: plus(before.came, comes),
    gone: plus(before.gone, left),
  };
};

interface Acted {
  readonly network: Network;
  readonly productStrength: number;
  readonly effect: Effect;
}

const acted = new WeakMap<Physical, WeakMap<Action, Acted>>();

/** Does one action to the unit; asked for the very same again, it says what it said. */
export const actOnce = (
  network: Network,
  before: Physical,
  action: Action,
  productStrength: number,
): Effect => {
  const done = acted.get(before) ?? new WeakMap<Action, Acted>();
  acted.set(before, done);
  const known = done.get(action);
  if (known?.network === network && known.productStrength === productStrength) return known.effect;
  const effect = act(network, before, action, productStrength);
  done.set(action, { network, productStrength, effect });
  return effect;
};

const measuredNetworks = new WeakMap<Network, Map<string, Network>>();
const MOST_KEPT = 50;

/** The network with every measured remainder as what stays in its vessel, whatever a vessel of its kind usually keeps. */
const asMeasured = (
  network: Network,
  { facts, contents }: Pick<Physical, "facts" | "contents">,
): Network => {
  if (!facts.some((fact) => fact.startsWith("remains:"))) return network;
  const remains = facts.flatMap((fact) => {
    const cell = fact.startsWith("remains:")
      ? network.cellIndex.get(fact.slice("remains:".length))
      : undefined;
    const capacityM3 = network.cells[cell ?? -1]?.capacityM3 ?? 0;
    return cell === undefined || capacityM3 <= 0
      ? []
      : [[cell, Math.min(1, volumeOf(liquidIn(contents[cell])) / capacityM3)] as const];
  });
  if (remains.length === 0) return network;
  const known = measuredNetworks.get(network) ?? new Map<string, Network>();
  measuredNetworks.set(network, known);
  const key = remains.map(([cell, share]) => `${cell}:${share}`).join();
  const before = known.get(key);
  if (before) return before;
  if (known.size >= MOST_KEPT) known.clear();
  const shares = new Map(remains);
  const made = {
    ...network,
    cells: network.cells.map((c, i) =>
      shares.has(i) ? cellWith(c, { drainRemainder: shares.get(i) ?? c.drainRemainder }) : c,
    ),
  };
  known.set(key, made);
  return made;
};
