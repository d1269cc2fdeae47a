import { situationOf } from "../../contents/index.ts";
import {
  againstChecks,
  type Control,
  type Lineup,
  liveOpenings,
  type LiveOpening,
  passableLinks,
  reach,
  type Situation,
  wayTo,
} from "../../watermap/index.ts";
import type { Context } from "./context.ts";

/** How the valves before a pump must stand for it to draw on one opening and on nothing else. */

/** By control, what is turned; the rest stays as it stands. */
type Turns = Readonly<Record<string, string>>;

// More standings than this are not looked at: each is one search of the map. Two dozen valves in a row take a few hundred.
const MOST_LOOKS = 1500;

/** Where a pump draws now, and which valves could end what is wrong with it; no valves where nothing is. */
const conflict = (
  situation: Situation,
  inlet: number,
  wanted: string,
  isChoice: (key: string) => boolean,
): readonly string[] => {
  const { network } = situation;
  const may = againstChecks(network, passableLinks(situation));
  const drawn = reach(network, [inlet], may);
  const incoming = liveOpenings(situation).filter((o) => drawn[o.cell] === 1);
  const other: LiveOpening | undefined = incoming.find((o) => o.id !== wanted);
  const keys = new Set<string>();
  if (other) {
    // Something on the way to it must be shut.
    for (const i of wayTo(network, inlet, may, (cell) => cell === other.cell)?.links ?? [])
      for (const g of network.links[i]?.gates ?? []) keys.add(g.key);
    if (other.opening?.gate) keys.add(other.opening.gate.key);
  } else if (incoming.length === 0) {
    // Something at the edge of what it can draw on must be opened.
    network.links.forEach((l) => {
      if (drawn[l.a] !== drawn[l.b]) for (const g of l.gates) keys.add(g.key);
    });
    for (const o of network.openings) if (drawn[o.cell] === 1 && o.gate) keys.add(o.gate.key);
  } else return [];
  const some = [...keys].filter(isChoice);
  return some.length > 0 ? some : HOPELESS;
};
const HOPELESS: readonly string[] = ["none of them"];

/**
 * The fewest turns of some valves by which a pump draws on one opening and on nothing else, past a check's spring too. Standings are looked at
 * in order of their turns; from each only those follow that turn a valve which could end what is wrong with it, and every standing
 * that suits follows from some such.
 * @param lineup as it stands else, the pump on and the opening open
 * @returns nothing where there is none, or none was found within a fixed number of looks
 */
export const turnsToDrawOn = (
  context: Context,
  lineup: Lineup,
  inlet: number,
  wanted: string,
  valves: readonly Control[],
): Turns | undefined => {
  const byKey = new Map(valves.map((v) => [v.key, v]));
  const queue: Turns[] = [{}];
  const met = new Set<string>();
  for (const turns of queue) {
    if (met.size > MOST_LOOKS) return undefined;
    const situation = situationOf(context.network, {
      ...context.physical,
      lineup: { ...lineup, ...turns },
    });
    const toTurn = conflict(situation, inlet, wanted, (key) => byKey.has(key));
    if (toTurn.length === 0) return turns;
    for (const key of toTurn.filter((k) => !(k in turns)))
      for (const { name } of byKey.get(key)?.spec.positions ?? []) {
        if (name === (lineup[key] ?? byKey.get(key)?.spec.inUse)) continue;
        const next = { ...turns, [key]: name };
        const mark = JSON.stringify(Object.entries(next).toSorted(([a], [b]) => (a < b ? -1 : 1)));
        if (met.has(mark)) continue;
        met.add(mark);
        queue.push(next);
      }
  }
  return undefined;
};
