import { volumeOf } from "@uppershed/core/contents";
import { controlNamed, type SimAction, type SimDone } from "@uppershed/core/simulation";
import { cellName, type Network, positionLabel } from "@uppershed/core/watermap";
import type { Units } from "../ui/units.ts";

type Q = Units["q"];

const partName = (network: Network, id: string): string => {
  const part = network.map.parts.find((p) => p.id === id || p.tag === id);
  return part ? (part.tag ?? part.name) : id;
};

/** An opening as a technician says it: "Galley tap, cold". */
export const openingWords = (network: Network, id: string): string => {
  const o = network.openings.find((x) => x.id === id);
  if (!o)
    return network.map.parts.some((p) => p.id === id) ? partName(network, id) : "the undone joint";
  const several =
    network.openings.filter((x) => x.part.id === o.part.id && x.use === o.use).length > 1;
  const name = o.part.tag ?? o.part.name;
  return several || o.use === "vent" || o.use === "plug" || o.use === "relief"
    ? `${name}, ${o.label}`
    : name;
};

const runName = (network: Network, id: string): string =>
  cellName(network, network.cellIndex.get(id) ?? -1);

export const secondsWords = (s: number): string => {
  if (s < 90) return `${Math.round(s)} s`;
  if (s < 5400) return `${Math.round(s / 60)} min`;
  return `${Number((s / 3600).toFixed(1))} h`;
};

const percent = (share: number): string => `${Math.round(share * 100)} %`;

type Sayers = {
  readonly [K in SimAction["do"]]: (
    a: Extract<SimAction, { do: K }>,
    network: Network,
    q: Q,
  ) => string;
};
const SAYERS: Sayers = {
  turn: ({ control, to }, network) => {
    const found = controlNamed(network, control);
    if (!found.ok) return `${control}: ${to}`;
    const { part, spec } = found.value;
    const side = spec.name === "main" ? "" : `, ${spec.label.toLowerCase()}`;
    return `${part.tag ? `${part.tag}, ` : ""}${part.name}${side}: ${positionLabel(found.value, to)}`;
  },
  jug: ({ at, strength, volumeM3 }, network, q) =>
    strength === undefined
      ? `${openingWords(network, at)} out of the jug, in the air`
      : `${openingWords(network, at)} in a jug of ${percent(strength)}${volumeM3 === undefined ? "" : `, ${q(volumeM3, "volume")} in it`}`,
  hose: ({ at, pa }, network, q) =>
    pa > 0
      ? `Hose on at ${openingWords(network, at)}, ${q(pa, "pressure")}`
      : `Hose off at ${openingWords(network, at)}`,
  undo: ({ run, end }, network) =>
    `${runName(network, run)} undone at its ${end === "from" ? "first" : "far"} end`,
  remake: ({ run }, network) => `${runName(network, run)} made again`,
  wait: ({ seconds, until }, network) =>
    `Wait ${secondsWords(seconds)}${until ? `, or until it shows at ${openingWords(network, until.at)}` : ""}`,
  blow: ({ at, regulatorPa }, network, q) =>
    `Blow at ${openingWords(network, at)}, ${q(regulatorPa, "pressure")}`,
  suck: ({ from }, network) => `Suck ${partName(network, from)} out`,
  fill: ({ tank, volumeM3, strength }, network, q) =>
    `Fill ${q(volumeM3, "volume")}${strength > 0 ? ` of ${percent(strength)}` : ""} into ${partName(network, tank)}`,
  pour: ({ into, volumeM3, strength }, network, q) =>
    `Pour ${q(volumeM3, "volume")} of ${percent(strength)} into ${partName(network, into)}`,
  push: ({ in: where, volumeM3, strength }, network, q) =>
    `Push ${q(volumeM3, "volume")}${strength > 0 ? ` of ${percent(strength)}` : ""} in at ${partName(network, where)} by hand`,
  dose: ({ into, chlorineMg }, network) =>
    `${Math.round(chlorineMg)} mg of free chlorine into ${partName(network, into)}`,
  cycle: ({ appliance }, network) => `Run ${partName(network, appliance)} through a fill`,
  hold: ({ in: where, share, strength }, network) => {
    const cell = network.cellIndex.get(where);
    const name = cell === undefined ? partName(network, where) : cellName(network, cell);
    return share === 0
      ? `${name} is empty`
      : `${name} is ${percent(share)} full of ${strength > 0 ? `${percent(strength)} antifreeze` : "water"}`;
  },
  heat: ({ heater, watts }, network) =>
    watts > 0 ? `${partName(network, heater)} on, ${watts} W` : `${partName(network, heater)} off`,
};

/** An action in a few words. */
export const actionWords = (network: Network, action: SimAction, q: Q): string =>
  (SAYERS[action.do] as (a: SimAction, n: Network, q: Q) => string)(action, network, q);

const FLOOR_M3 = 1e-6;

/** What came of it, in a few words: how long, how much, where. */
export const outcomeWords = (network: Network, done: SimDone, q: Q): string => {
  const words: string[] = [];
  if (done.seconds > 0 && done.action.do !== "wait") words.push(secondsWords(done.seconds));
  if (done.ended === "seen") words.push(`it showed after ${secondsWords(done.seconds)}`);
  if (done.ended === "at rest") words.push("nothing more moves");
  if (done.ended === "too many steps")
    words.push(`stopped after ${secondsWords(done.seconds)}: too long to follow`);
  const outs = [...done.out]
    .filter(([, m]) => volumeOf(m) > FLOOR_M3)
    .toSorted((a, b) => volumeOf(b[1]) - volumeOf(a[1]));
  for (const [id, m] of outs.slice(0, 3))
    words.push(`${q(volumeOf(m), "volume")} out at ${openingWords(network, id)}`);
  if (outs.length > 3) words.push(`and at ${outs.length - 3} more`);
  if (volumeOf(done.came) > FLOOR_M3) words.push(`${q(volumeOf(done.came), "volume")} in`);
  if (done.air) {
    const parts = (cells: readonly number[]): number =>
      new Set(cells.map((c) => network.cells[c]?.ownerId)).size;
    words.push(
      `${parts(done.air.swept)} parts and pipes swept, ${parts(done.air.pressedOnly)} pressed only, ${parts(done.air.notReached)} not reached`,
      `${q(done.air.remainsM3, "volume")} left on the way`,
      done.air.rounds > 1 ? `receiver filled ${done.air.rounds} times` : "",
    );
  }
  return words.filter(Boolean).join("; ");
};
