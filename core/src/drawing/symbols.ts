import { kindOfPart, type Side } from "../watermap/index.ts";
import { inkOf } from "./ink.ts";
import { circle, type Stroke, path, rect, stroke, text, type Tone } from "./mark.ts";
import { type SceneCell, type ScenePart, UNIT_PX } from "./scene.ts";

/** Our own set of symbols in the manner of process drawings: a shut valve is solid, an open one hollow. */

const ANGLE: Record<Side, number> = { right: 0, down: 90, left: 180, up: 270 };
const sideOf = (part: ScenePart, port: string): Side => part.laid.ports[port]?.side ?? "right";
const turned = (part: ScenePart, port: string, marks: readonly Stroke[]): Stroke[] =>
  marks.map((m) => ({ ...m, turn: ANGLE[sideOf(part, port)] }));

const VISIBLE = 0.25;
const fillOf = (cell: SceneCell | undefined, bare: Tone = "raised"): Tone =>
  cell && cell.share > VISIBLE ? `ink:${inkOf(cell.liquid)}` : bare;
const openOr = (open: boolean): Tone => (open ? "raised" : "pipe");

/** A triangle from each port to the middle; solid where the port is shut. */
const valve = (part: ScenePart): Stroke[] => [
  ...Object.keys(part.laid.ports).flatMap((port) =>
    turned(part, port, [path("M0 0 15 -9.5V9.5Z", openOr(part.portOpen[port] ?? true))]),
  ),
  circle(0, 0, 2.4, "pipe", 0),
];

const gate = (part: ScenePart): Stroke[] => {
  const open = part.positions["main"] === "open";
  return [
    ...turned(part, "out", [
      path("M-14 -9V9H14V-9Z", "raised"),
      stroke(open ? "M0 -15V-9" : "M0 -15V12", open ? 3 : 5),
    ]),
    ...(part.laid.symbol === "motor-gate"
      ? [circle(0, -13, 5, "raised"), text(0, -10, "m", 8)]
      : []),
  ];
};

const check = (part: ScenePart): Stroke[] =>
  turned(part, "out", [
    stroke("M-16 0H16"),
    path("M-9 -9 8 0 -9 9Z", "raised"),
    stroke("M9 -10V10"),
  ]);

const breaker = (part: ScenePart): Stroke[] => [
  ...turned(part, "out", [
    stroke("M-16 0H16"),
    path("M-9 -8 7 0 -9 8Z", "raised"),
    stroke("M8 -9V9"),
  ]),
  path("M-5 -12A5 5 0 0 1 5 -12Z", "raised", 1.6),
];

const regulator = (part: ScenePart): Stroke[] =>
  turned(part, "out", [
    path("M-15 -9V9L15 -9V9Z", "raised"),
    path("M0 0V-9M-8 -9A8 7 0 0 1 8 -9Z", "raised"),
  ]);

const pump = (part: ScenePart): Stroke[] => [
  circle(0, 0, 15, fillOf(part.cells["head"])),
  ...turned(part, "out", [
    path("M-7 -9 11 0 -7 9Z", part.positions["main"] === "on" ? "rust" : "pipe", 1.5, {
      stroke: "raised",
    }),
  ]),
  ...(kindOfPart(part.part).role.byHand ? [stroke("M-4 -15 -12 -24", 3)] : []),
];

const strainer = (part: ScenePart): Stroke[] => [
  path("M-16 0 0 -13 16 0 0 13Z", fillOf(part.cells["bowl"])),
  stroke("M0 -11V11", 2, { dash: "3 2.4" }),
];

const filter = (part: ScenePart): Stroke[] => {
  const held = part.cells["bowl"] ?? part.cells["column"] ?? part.cells["carbon"];
  return [
    rect(-13, -14, 26, 30, 7, fillOf(held), 2.2),
    stroke("M-13 -6H13", 2),
    stroke("M-5 -2V12M0 -2V12M5 -2V12", 1.4, { dash: "2.5 2" }),
  ];
};

const accumulator = (part: ScenePart): Stroke[] => [
  stroke("M0 10V16"),
  circle(0, -2, 13, "raised"),
  path("M-12.4 2A13 13 0 0 0 12.4 2Z", fillOf(part.cells["water side"], "empty"), 1.2),
];

const inlet = (part: ScenePart): Stroke[] => [
  circle(0, 0, 13, "raised", 2.6),
  circle(0, 0, 6.5, openOr(part.positions["main"] === "open")),
];

const WAVE = "M-14 10q4.6 -6 9.3 0t9.3 0 9.3 0";
const seacock = (part: ScenePart): Stroke[] => [
  stroke("M0 -16V-8"),
  path("M-9 -9H9L0 0ZM-9 9H9L0 0Z", openOr(part.positions["main"] === "open")),
  path(WAVE, "none", 2.4, { stroke: "wave" }),
];

const drain = (part: ScenePart): Stroke[] => [
  stroke("M0 -16V-8"),
  path("M-12 -9H12L0 10Z", openOr(part.positions["main"] === "open")),
];

const pickup = (part: ScenePart): Stroke[] =>
  part.positions["main"] === "in jug"
    ? [path("M-9 -4 -5 -10H5L9 -4V15H-9Z", "ink:antifreeze"), stroke("M0 -16V8")]
    : [stroke("M0 -16V4"), path("M-8 4H8V11H-8Z", "pipe")];

/** A water seal: what falls in by the pipe stands in the cup and runs over to the way out. */
const trap = (part: ScenePart): Stroke[] => {
  const cell = part.cells["seal"];
  return [
    stroke("M0 11V17", 4),
    path("M-10 -9V1A10 10 0 0 0 10 1V-9Z", "empty", 0),
    ...(cell && cell.share > 0.02
      ? [path("M-10 -4V1A10 10 0 0 0 10 1V-4Z", `ink:${inkOf(cell.liquid)}`, 0)]
      : []),
    stroke("M-10 -9V1A10 10 0 0 0 10 1V-9", 2.4),
    stroke("M0 -17V1", 3.4),
  ];
};

const overboard = (): Stroke[] => [
  stroke("M0 -16V0"),
  stroke("M-12 0H12", 4),
  path("M-13 9q4.4 -6 8.7 0t8.7 0 8.7 0", "none", 2.4, { stroke: "wave" }),
];

const vent = (): Stroke[] => [stroke("M0 16V-4"), stroke("M-9 -4H9M-6 -9H6M-3 -14H3", 2.4)];

const coupling = (part: ScenePart): Stroke[] =>
  turned(part, Object.keys(part.laid.ports)[1] ?? "b", [
    stroke("M-16 0H16"),
    rect(-7, -8, 6, 16, 1, "raised"),
    rect(1, -8, 6, 16, 1, "raised"),
  ]);

const endPlug = (part: ScenePart): Stroke[] =>
  turned(part, "in", [stroke("M16 0H4"), rect(-4, -9, 8, 18, 1, "pipe")]);

const mixerValve = (part: ScenePart): Stroke[] => [
  ...valve(part),
  circle(0, 0, 6, "raised", 2),
  text(0, 3, "m", 9),
];

/** Splits a name over two lines where it is long. */
const lines = (name: string): string[] => {
  const words = name.split(" ");
  if (name.length < 9 || words.length === 1) return [name];
  const half = Math.ceil(words.length / 2);
  return [words.slice(0, half).join(" "), words.slice(half).join(" ")];
};

const named = (name: string, y = 0, size = 16): Stroke[] => {
  const all = lines(name);
  return all.map((line, i) =>
    text(0, y + 4.5 + (i - (all.length - 1) / 2) * (size + 1), line, size),
  );
};

/** What stands in a vessel, within the vessel's own rounded foot and, nearly full, its rounded head. */
const level = (w: number, h: number, round: number, share: number, fill: Tone): Stroke => {
  const top = h - 2 * h * Math.min(share, 1);
  const foot = Math.min(round, h - top);
  // How far below the head's corner the surface stands; where there, it is narrower than the vessel.
  const below = top + h;
  const inset = below < round ? round - Math.sqrt(below * (2 * round - below)) : 0;
  const shoulder = Math.max(top, -h + round);
  const [left, right] = [-w + inset, w - inset];
  return path(
    `M${left} ${top}H${right}A${round} ${round} 0 0 1 ${w} ${shoulder}V${h - foot}A${foot} ${foot} 0 0 1 ${w - foot} ${h}H${-w + foot}A${foot} ${foot} 0 0 1 ${-w} ${h - foot}V${shoulder}A${round} ${round} 0 0 1 ${left} ${top}Z`,
    fill,
    0,
  );
};

const TOO_LITTLE = 0.004;
const vessel = (part: ScenePart, round: number, cell: SceneCell | undefined): Stroke[] => {
  const [w, h] = [part.laid.halfW * UNIT_PX, part.laid.halfH * UNIT_PX];
  const share = cell?.share ?? 0;
  return [
    rect(-w, -h, 2 * w, 2 * h, round, "empty", 0),
    ...(cell && share > TOO_LITTLE ? [level(w, h, round, share, `ink:${inkOf(cell.liquid)}`)] : []),
    rect(-w, -h, 2 * w, 2 * h, round, "none", 2.4),
    ...named(part.part.name, -4),
  ];
};

/** Heater: its plug out is drawn as an open hole at the foot. */
const heater = (part: ScenePart): Stroke[] => {
  const [w, h] = [part.laid.halfW * UNIT_PX, part.laid.halfH * UNIT_PX];
  const plug = part.positions["plug"] ?? part.positions["drain"];
  return [
    ...vessel(part, 16, part.cells["vessel"] ?? part.cells["tubes"]),
    ...(plug === undefined ? [] : [circle(w - 11, h - 1, 4.5, openOr(plug === "open"))]),
  ];
};

// Half the side of an outlet's box, and the height of the strip of each of its sides.
const OUTLET = 32;
const STRIP = 12;

/** One side of an outlet: a strip that shows what its cartridge holds, lettered, and whether its handle is open. */
const strip = (cell: SceneCell | undefined, y: number, letter: string, open: boolean): Stroke[] =>
  cell
    ? [
        rect(-OUTLET, y, 2 * OUTLET, STRIP, 0, fillOf(cell, "empty"), 1),
        circle(0, y + STRIP / 2, 5, openOr(open), 1.6),
        ...(letter ? [text(-21, y + STRIP / 2 + 4, letter, 11)] : []),
      ]
    : [];

const outlet = (part: ScenePart): Stroke[] => {
  const two = part.cells["tank"] !== undefined;
  const cold =
    part.cells["cold"] ?? part.cells["valve"] ?? part.cells["body"] ?? part.cells["tank"];
  const open = (...names: string[]): boolean =>
    names.some((name) => part.positions[name] === "open");
  const hot = part.cells["hot"] ?? part.cells["supply"];
  return [
    rect(-OUTLET, -OUTLET, 2 * OUTLET, 2 * OUTLET, 4, "raised", 0),
    ...strip(hot, -OUTLET, two ? "S" : "H", open("hot", "supply")),
    ...strip(
      cold,
      OUTLET - STRIP,
      two ? "T" : hot ? "C" : "",
      open("cold", "flush", "main", "call", "tank"),
    ),
    rect(
      -OUTLET,
      -OUTLET,
      2 * OUTLET,
      2 * OUTLET,
      part.laid.symbol === "appliance" ? 0 : 4,
      "none",
      2.4,
    ),
    ...(part.laid.symbol === "appliance" ? [stroke(`M${-OUTLET} ${OUTLET - 3}H${OUTLET}`, 4)] : []),
    // A long word is set smaller, so that it stays in its box.
    ...named(
      part.part.name,
      hot ? 0 : -5,
      Math.max(...lines(part.part.name).map((l) => l.length)) > 8 ? 12.5 : 15,
    ),
  ];
};

const panel = (part: ScenePart): Stroke[] => {
  const [w, h] = [part.laid.halfW * UNIT_PX, part.laid.halfH * UNIT_PX];
  return [
    rect(-w, -h, 2 * w, 2 * h, 3, "raised", 2.4),
    ...named(part.part.name, -7, 13),
    rect(-w + 5, h - 20, 2 * w - 10, 15, 7, "pipe", 0),
    { ...text(0, h - 9, part.positions["main"] ?? "", 11), fill: "raised", stroke: "none" },
  ];
};

const manifold = (part: ScenePart): Stroke[] => {
  const [w, h] = [part.laid.halfW * UNIT_PX, part.laid.halfH * UNIT_PX];
  return [
    rect(-w, -h + 6, 2 * w, 2 * h - 12, 8, fillOf(part.cells["bar"]), 2.4),
    ...Object.entries(part.laid.ports)
      .filter(([name]) => name.startsWith("out"))
      .map(([name, place]) =>
        circle(
          place.dx * UNIT_PX,
          Math.sign(place.dy) * (h - 8),
          4.5,
          openOr(part.positions[`way${name.slice(3)}`] !== "shut"),
          1.6,
        ),
      ),
  ];
};

const unknown = (part: ScenePart): Stroke[] => {
  const [w, h] = [part.laid.halfW * UNIT_PX, part.laid.halfH * UNIT_PX];
  return [rect(-w, -h, 2 * w, 2 * h, 4, "raised", 2.2, { dash: "5 3" }), text(0, 7, "?", 20)];
};

const box = (part: ScenePart): Stroke[] => [
  rect(
    -part.laid.halfW * UNIT_PX,
    -part.laid.halfH * UNIT_PX,
    2 * part.laid.halfW * UNIT_PX,
    2 * part.laid.halfH * UNIT_PX,
    0,
    "raised",
  ),
  ...named(part.part.name, 0, 11),
];

const SYMBOLS: Readonly<Record<string, (part: ScenePart) => Stroke[]>> = {
  tee: () => [circle(0, 0, 5.5, "pipe", 0)],
  elbow: () => [circle(0, 0, 4, "raised", 2)],
  valve,
  selector: valve,
  mixer: mixerValve,
  gate,
  "motor-gate": gate,
  check,
  breaker,
  regulator,
  pump,
  strainer,
  filter,
  accumulator,
  inlet,
  seacock,
  drain,
  pickup,
  trap,
  overboard,
  vent,
  coupling,
  plug: endPlug,
  tank: (part) => vessel(part, 5, part.cells["tank"]),
  heater,
  tap: outlet,
  shower: outlet,
  toilet: outlet,
  appliance: outlet,
  panel,
  manifold,
  unknown,
};

/** Every symbol that kinds may name. */
export const SYMBOL_NAMES: readonly string[] = Object.keys(SYMBOLS);

/** A dashed frame and a question mark on whatever is not known yet: not by colour alone. */
const questionMark = (part: ScenePart): Stroke[] => {
  if (!part.part.unknown || part.laid.symbol === "unknown") return [];
  const [w, h] = [
    Math.max(part.laid.halfW, 0.6) * UNIT_PX + 3,
    Math.max(part.laid.halfH, 0.6) * UNIT_PX + 3,
  ];
  return [
    rect(-w, -h, 2 * w, 2 * h, 5, "none", 1.8, { dash: "4 3", stroke: "rust" }),
    circle(w - 1, -h + 1, 8, "raised", 1.6, { stroke: "rust" }),
    text(w - 1, -h + 5.5, "?", 13),
  ];
};

const THROUGH = new Set([
  "coupling",
  "check",
  "breaker",
  "regulator",
  "strainer",
  "filter",
  "gate",
  "motor-gate",
  "pump",
  "mixer",
]);

/** Pipe from each port to the middle of a small symbol, so that a bend in it is seen. */
const stubs = (part: ScenePart): Stroke[] =>
  THROUGH.has(part.laid.symbol)
    ? Object.values(part.laid.ports).map((place) =>
        stroke(`M0 0L${place.dx * UNIT_PX} ${place.dy * UNIT_PX}`, 3),
      )
    : [];

/** The symbol of a part, round its middle. */
export const symbolMarks = (part: ScenePart): Stroke[] => [
  ...stubs(part),
  ...(SYMBOLS[part.laid.symbol] ?? box)(part),
  ...questionMark(part),
];
