import { wasteTankBelow } from "../contents/index.ts";
import { PSI_PA } from "../quantity/index.ts";
import { RULE_STANDARDS, type RuleValues } from "../rules/index.ts";
import {
  heatersOf,
  inUseLineup,
  type Mode,
  type Network,
  type Part,
  paramsOf,
  roleOf,
} from "../watermap/index.ts";
import { modeLineup } from "./modes.ts";
import { turnsBetween } from "./turns.ts";

/** How the water of this very unit is used, in plain words for whoever takes it away: only what applies to it, with its own handles. */
export interface HandoverSection {
  readonly title: string;
  readonly lines: readonly string[];
  /** Parts to show on the map. */
  readonly parts: readonly string[];
}

const nameOf = (part: Part): string =>
  `${part.tag ? `${part.tag} ` : ""}${part.name.toLowerCase()}`;
const at = (part: Part): string => (part.place ? ` (${part.place.toLowerCase()})` : "");

/** The handles from use on the tank to another use; pumps and caps are said in their own words. */
const turnsTo = (network: Network, mode: Mode): { lines: string[]; parts: string[] } => {
  const turns = turnsBetween(network, inUseLineup(network), modeLineup(network, mode)).filter((t) =>
    network.controls.some(
      (c) => c.key === t.key && (c.spec.role === "valve" || c.spec.role === "selector"),
    ),
  );
  return {
    lines: turns.map(
      (t) =>
        `${t.tag ? `${t.tag} ` : ""}${t.name.toLowerCase()}${t.place ? ` (${t.place.toLowerCase()})` : ""}: to ${t.toLabel}${t.handle ? `, ${t.handle}` : ""}.`,
    ),
    parts: turns.map((t) => t.part),
  };
};

const partsBy = (network: Network, is: (part: Part) => boolean): Part[] =>
  network.map.parts.filter((p) => is(p) && roleOf(p).ashore !== true);

const connect = (network: Network, rule: (key: string) => string | number): HandoverSection[] => {
  const inlets = network.openings.filter(
    (o) => o.use === "supply" && !o.pressed && roleOf(o.part).ashore !== true,
  );
  const [inlet] = inlets;
  if (!inlet) return [];
  const pumps = network.controls.filter((c) => c.spec.role === "switch");
  const turns = turnsTo(network, "use on supply");
  return [
    {
      title: "On a site's supply",
      lines: [
        `Run the post for a moment, then regulator on the post, a hose for drinking water, and its end on the ${nameOf(inlet.part)}${at(inlet.part)}. No more than {pa:${Math.round(Number(rule("supply.fail")))}}.`,
        ...(pumps.length > 0 && rule("use.pumpOnSupply") === "off"
          ? ["Pump off: the supply presses by itself."]
          : []),
        ...turns.lines,
        "Open the post slowly, with a cold and a hot tap open until no air comes; then look along the hose and under the unit.",
        ...(rule("use.unattended") === "both-off"
          ? ["Nobody aboard: the post shut. A failed hose floods a unit, and sinks a boat."]
          : []),
      ],
      parts: [inlet.part.id, ...turns.parts],
    },
  ];
};

const fill = (network: Network): HandoverSection[] => {
  const tanks = partsBy(network, (p) => roleOf(p).vessel === "fresh");
  if (tanks.length === 0) return [];
  const fills = network.openings.filter((o) => o.use === "fill");
  const turns = fills.length > 0 ? { lines: [], parts: [] } : turnsTo(network, "fill tank");
  return [
    {
      title: tanks.length === 1 ? "Filling the tank" : "Filling the tanks",
      lines: [
        fills.length > 0
          ? `Slowly, at the ${fills.map((o) => nameOf(o.part) + at(o.part)).join(" and ")}, with a hose for drinking water: the vent must blow. A shut vent swells the tank.`
          : "Slowly, by the inlet: the vent must blow.",
        ...turns.lines,
        `It holds {m3:${tanks.reduce((s, t) => s + Number(paramsOf(t)["volumeL"] ?? 0) / 1000, 0)}}${tanks.length > 1 ? " in all" : ""}.`,
        ...(fills.length > 0 ? ["Cap back on, before driving or casting off."] : []),
      ],
      parts: [...tanks.map((t) => t.id), ...fills.map((o) => o.part.id), ...turns.parts],
    },
  ];
};

const pump = (network: Network, rule: (key: string) => string | number): HandoverSection[] => {
  const pumps = partsBy(
    network,
    (p) => roleOf(p).pump === true && roleOf(p).byHand !== true,
  ).filter((p) => network.cells.some((c) => c.ownerId === p.id && c.side === "fresh"));
  if (pumps.length === 0) return [];
  return [
    {
      title: "The pump",
      lines: [
        "On only where water comes from the tank. It stops when every tap is shut; one that starts by itself tells of a leak.",
        "Running on with nothing coming: switch it off, and look for an empty tank or a selector that stands on the jug.",
        ...(rule("use.unattended") !== "pump-on" ? ["Nobody aboard, or under way: off."] : []),
      ],
      parts: pumps.map((p) => p.id),
    },
  ];
};

const heat = (network: Network): HandoverSection[] => {
  const heaters = heatersOf(network).map(({ part }) => part);
  if (heaters.length === 0) return [];
  const loops = heaters.some((p) => paramsOf(p)["engineLoop"] === true);
  return [
    {
      title: heaters.length === 1 ? "The heater" : "The heaters",
      lines: [
        "On only when a hot tap has run half a minute without air: dry, it burns out in seconds.",
        "It drips at its relief valve while it heats up: that is water growing. A stream, or steam, is not: off, and have it looked at.",
        "Water above {c:50} scalds within minutes, at {c:60} within seconds; children are quicker to burn.",
        ...(loops
          ? ["The engine heats it too, and hotter than its own thermostat: mix before you touch."]
          : []),
        "Off before the water is let out, and before the unit is left for long.",
      ],
      parts: heaters.map((p) => p.id),
    },
  ];
};

const litresOf = (part: Part): number => Number(paramsOf(part)["volumeL"] ?? 0);

/** Whether each waste tank takes all that the fresh tanks bring (E46): anybody may run it all into one. On a supply nothing bounds it. */
const waste = (network: Network): HandoverSection[] => {
  const tanks = partsBy(network, (p) => roleOf(p).vessel === "waste" && takesOutlets(network, p));
  if (tanks.length === 0) return [];
  const freshL = partsBy(network, (p) => roleOf(p).vessel === "fresh").reduce(
    (sum, p) => sum + litresOf(p),
    0,
  );
  const shown = (litres: number): string => `{m3:${Number((litres / 1000).toPrecision(6))}}`;
  return [
    {
      title: tanks.length === 1 ? "The waste tank" : "The waste tanks",
      lines: [
        ...(freshL > 0
          ? tanks.map((p) =>
              litresOf(p) >= freshL
                ? `The ${nameOf(p)}, ${shown(litresOf(p))}, takes a whole tankful of ${shown(freshL)}: emptied before each filling it does not run over.`
                : `The ${nameOf(p)} takes ${shown(litresOf(p))} of a tankful of ${shown(freshL)}: emptied before so much has run into it.`,
            )
          : []),
        ...(network.openings.some((o) => o.use === "supply")
          ? ["On a site's supply nothing bounds what runs in: look at the level."]
          : []),
        "Emptied only where that is allowed; never with the hose for drinking water.",
      ],
      parts: tanks.map((p) => p.id),
    },
  ];
};

/** Whether anything that outlets let go ends in a tank, as the unit is used. */
const takesOutlets = (network: Network, tank: Part): boolean => {
  const inUse = { network, lineup: inUseLineup(network), apart: [] };
  return network.openings.some((o) => {
    const below = o.use === "outlet" ? wasteTankBelow(inUse, o) : undefined;
    return below !== undefined && network.cells[below]?.part === tank;
  });
};

const travel = (network: Network): HandoverSection => {
  const gates = network.controls.filter((c) =>
    network.openings.some((o) => o.use === "dump" && o.gate?.key === c.key),
  );
  const cocks = network.openings.filter((o) => o.use === "raw").map((o) => o.part);
  const off = [
    ...(network.controls.some((c) => c.spec.role === "switch") ? ["pump off"] : []),
    ...(network.openings.some((o) => o.use === "supply") ? ["supply off"] : []),
    ...(heatersOf(network).length > 0 ? ["heater off"] : []),
  ].join(", ");
  return {
    title: "Before it moves, and while nobody is there",
    lines: [
      ...(off ? [`${off.charAt(0).toUpperCase()}${off.slice(1)}; filler and inlet capped.`] : []),
      ...(gates.length > 0
        ? [`Gates of the ${gates.map((g) => nameOf(g.part)).join(" and ")} shut, caps on.`]
        : []),
      ...(cocks.length > 0
        ? [
            `Seacocks shut while nobody is aboard: ${[...new Set(cocks.map((p) => nameOf(p) + at(p)))].join("; ")}.`,
          ]
        : []),
    ],
    parts: [...gates.map((g) => g.part.id), ...cocks.map((p) => p.id)],
  };
};

const OUTSIDE = new Set(["outside-shower", "pressurised-inlet", "fill-box"]);

const frost = (network: Network): HandoverSection => {
  const outside = partsBy(network, (p) => OUTSIDE.has(p.kind));
  return {
    title: "Frost",
    lines: [
      "Full of water it holds to {c:0}: before the first night of frost it is winterized, or drained and left open.",
      ...(outside.length > 0
        ? [`What stands outside freezes first: the hose, ${outside.map(nameOf).join(", ")}.`]
        : []),
    ],
    parts: outside.map((p) => p.id),
  };
};

/** @param values the house's rules; as they were shipped where they do not say */
export const handoverOf = (network: Network, values: RuleValues = {}): HandoverSection[] => {
  const rule = (key: string): string | number =>
    values[key] ?? RULE_STANDARDS[key] ?? (key === "supply.fail" ? 80 * PSI_PA : "");
  return [
    ...connect(network, rule),
    ...fill(network),
    ...pump(network, rule),
    ...heat(network),
    ...waste(network),
    travel(network),
    frost(network),
  ].map((s) => ({ ...s, parts: [...new Set(s.parts)] }));
};
