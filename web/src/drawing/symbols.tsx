import type { Side } from "@uppershed/core";
import { inkOf, paint } from "./inks.tsx";
import { type SceneCell, type ScenePart, UNIT_PX } from "./scene.ts";

/** Our own set of symbols in the manner of process drawings: a shut valve is solid, an open one hollow. Drawn round the part's middle. */

const ANGLE: Record<Side, number> = { right: 0, down: 90, left: 180, up: 270 };
const LINE = { stroke: "var(--pipe)", strokeWidth: 2, strokeLinejoin: "round" as const };
const HOLLOW = "var(--raised)";
const SOLID = "var(--pipe)";

const sideOf = (part: ScenePart, port: string): Side => part.laid.ports[port]?.side ?? "right";

/** A triangle from each port to the middle; solid where the port is shut. */
const Valve = ({ part }: { part: ScenePart }) => (
  <>
    {Object.keys(part.laid.ports).map((port) => (
      <path
        key={port}
        d="M0 0 15 -9.5V9.5Z"
        transform={`rotate(${ANGLE[sideOf(part, port)]})`}
        fill={part.portOpen[port] ? HOLLOW : SOLID}
        {...LINE}
      />
    ))}
    <circle r="2.4" fill={SOLID} />
  </>
);

const Check = ({ part }: { part: ScenePart }) => (
  <g transform={`rotate(${ANGLE[sideOf(part, "out")]})`}>
    <path d="M-16 0H16" stroke="var(--pipe)" strokeWidth="3" />
    <path d="M-9 -9 8 0 -9 9Z" fill={HOLLOW} {...LINE} />
    <path d="M9 -10V10" {...LINE} strokeWidth="3" />
  </g>
);

const Regulator = ({ part }: { part: ScenePart }) => (
  <g transform={`rotate(${ANGLE[sideOf(part, "out")]})`}>
    <path d="M-15 -9V9L15 -9V9Z" fill={HOLLOW} {...LINE} />
    <path d="M0 0V-9M-8 -9A8 7 0 0 1 8 -9Z" fill={HOLLOW} {...LINE} />
  </g>
);

const Pump = ({ part }: { part: ScenePart }) => {
  const cell = part.cells["head"];
  const on = part.positions["main"] === "on";
  return (
    <>
      <circle r="15" fill={cell && cell.share > 0.25 ? paint(inkOf(cell.liquid)) : HOLLOW} {...LINE} />
      <g transform={`rotate(${ANGLE[sideOf(part, "out")]})`}>
        <path d="M-7 -9 11 0 -7 9Z" fill={on ? "var(--rust)" : SOLID} stroke="var(--raised)" strokeWidth="1.5" />
      </g>
    </>
  );
};

const Strainer = ({ part }: { part: ScenePart }) => {
  const cell = part.cells["bowl"];
  return (
    <>
      <path d="M-16 0 0 -13 16 0 0 13Z" fill={cell && cell.share > 0.25 ? paint(inkOf(cell.liquid)) : HOLLOW} {...LINE} />
      <path d="M0 -11V11" stroke="var(--pipe)" strokeWidth="2" strokeDasharray="3 2.4" />
    </>
  );
};

const Inlet = ({ part }: { part: ScenePart }) => {
  const open = part.positions["main"] === "open";
  return (
    <>
      <circle r="13" fill={HOLLOW} {...LINE} strokeWidth="2.6" />
      <circle r="6.5" fill={open ? HOLLOW : SOLID} {...LINE} />
    </>
  );
};

const Drain = ({ part }: { part: ScenePart }) => (
  <>
    <path d="M0 -16V-8" stroke="var(--pipe)" strokeWidth="3" />
    <path d="M-12 -9H12L0 10Z" fill={part.positions["main"] === "open" ? HOLLOW : SOLID} {...LINE} />
  </>
);

const Pickup = ({ part }: { part: ScenePart }) =>
  part.positions["main"] === "in jug" ? (
    <>
      <path d="M-9 -4 -5 -10H5L9 -4V15H-9Z" fill={paint("antifreeze")} {...LINE} />
      <path d="M0 -16V8" stroke="var(--pipe)" strokeWidth="3" />
    </>
  ) : (
    <>
      <path d="M0 -16V4" stroke="var(--pipe)" strokeWidth="3" />
      <path d="M-8 4H8V11H-8Z" fill={SOLID} {...LINE} />
    </>
  );

/** A water seal: what falls in by the pipe stands in the cup and runs over to the way out. */
const Trap = ({ part }: { part: ScenePart }) => {
  const cell = part.cells["seal"];
  return (
    <>
      <path d="M0 11V17" stroke="var(--pipe)" strokeWidth="4" />
      <path d="M-10 -9V1A10 10 0 0 0 10 1V-9Z" fill="var(--empty)" />
      {cell && cell.share > 0.02 && <path d="M-10 -4V1A10 10 0 0 0 10 1V-4Z" fill={paint(inkOf(cell.liquid))} />}
      <path d="M-10 -9V1A10 10 0 0 0 10 1V-9" fill="none" {...LINE} strokeWidth="2.4" />
      <path d="M0 -17V1" stroke="var(--pipe)" strokeWidth="3.4" />
    </>
  );
};

const Overboard = () => (
  <>
    <path d="M0 -16V0" stroke="var(--pipe)" strokeWidth="3" />
    <path d="M-12 0H12" stroke="var(--pipe)" strokeWidth="4" />
    <path d="M-13 9q4.4 -6 8.7 0t8.7 0 8.7 0" fill="none" stroke="var(--water)" strokeWidth="2.4" />
  </>
);

/** Splits a name over two lines where it is long. */
const lines = (name: string): string[] => {
  const words = name.split(" ");
  if (name.length < 9 || words.length === 1) return [name];
  const half = Math.ceil(words.length / 2);
  return [words.slice(0, half).join(" "), words.slice(half).join(" ")];
};

const Name = ({ name, y = 0, size = 16 }: { name: string; y?: number; size?: number }) => {
  const all = lines(name);
  return (
    <text
      className="narrow"
      textAnchor="middle"
      fontSize={size}
      fontWeight="650"
      fill="var(--ink)"
      paintOrder="stroke"
      stroke="var(--raised)"
      strokeWidth="3.5"
    >
      {all.map((line, i) => (
        <tspan key={line} x="0" y={y + 4.5 + (i - (all.length - 1) / 2) * (size + 1)}>
          {line}
        </tspan>
      ))}
    </text>
  );
};

const Vessel = ({ part, round, cell }: { part: ScenePart; round: number; cell: SceneCell | undefined }) => {
  const w = part.laid.halfW * UNIT_PX;
  const h = part.laid.halfH * UNIT_PX;
  const share = cell?.share ?? 0;
  const id = `vessel-${part.part.id}`;
  return (
    <>
      <clipPath id={id}>
        <rect x={-w} y={-h} width={2 * w} height={2 * h} rx={round} />
      </clipPath>
      <rect x={-w} y={-h} width={2 * w} height={2 * h} rx={round} fill="var(--empty)" />
      {cell && share > 0.004 && (
        <rect clipPath={`url(#${id})`} x={-w} y={h - 2 * h * share} width={2 * w} height={2 * h * share} fill={paint(inkOf(cell.liquid))} />
      )}
      <rect x={-w} y={-h} width={2 * w} height={2 * h} rx={round} fill="none" {...LINE} strokeWidth="2.4" />
      <Name name={part.part.name} y={-4} />
    </>
  );
};

/** Heater: its plug out is drawn as an open hole at the foot. */
const Heater = ({ part }: { part: ScenePart }) => {
  const w = part.laid.halfW * UNIT_PX;
  const h = part.laid.halfH * UNIT_PX;
  const out = part.positions["plug"] === "open";
  return (
    <>
      <Vessel part={part} round={16} cell={part.cells["vessel"]} />
      <circle cx={w - 11} cy={h - 1} r="4.5" fill={out ? HOLLOW : SOLID} {...LINE} />
    </>
  );
};

// Half the side of an outlet's box, and the height of the strip of each of its sides.
const OUTLET = 32;
const STRIP = 12;

/** One side of an outlet: a strip that shows what its cartridge holds, lettered C or H, and whether its handle is open. */
const Strip = ({ cell, y, letter, open }: { cell: SceneCell | undefined; y: number; letter: string; open: boolean }) => {
  if (!cell) return null;
  const middle = y + STRIP / 2;
  return (
    <>
      <rect
        x={-OUTLET}
        y={y}
        width={2 * OUTLET}
        height={STRIP}
        fill={cell.share > 0.25 ? paint(inkOf(cell.liquid)) : "var(--empty)"}
        stroke="var(--pipe)"
        strokeWidth="1"
      />
      <circle cx="0" cy={middle} r="5" fill={open ? HOLLOW : SOLID} {...LINE} strokeWidth="1.6" />
      <text
        x="-21"
        y={middle + 4}
        fontSize="11"
        fontWeight="750"
        textAnchor="middle"
        fill="var(--ink)"
        paintOrder="stroke"
        stroke="var(--raised)"
        strokeWidth="3.5"
      >
        {letter}
      </text>
    </>
  );
};

const Outlet = ({ part }: { part: ScenePart }) => {
  const cold = part.cells["cold"] ?? part.cells["valve"] ?? part.cells["body"];
  const coldOpen = [part.positions["cold"], part.positions["flush"], part.positions["main"]].includes("open");
  const hot = part.cells["hot"];
  return (
    <>
      <rect x={-OUTLET} y={-OUTLET} width={2 * OUTLET} height={2 * OUTLET} rx="4" fill={HOLLOW} />
      <Strip cell={hot} y={-OUTLET} letter="H" open={part.positions["hot"] === "open"} />
      <Strip cell={cold} y={OUTLET - STRIP} letter={hot ? "C" : ""} open={coldOpen} />
      <rect x={-OUTLET} y={-OUTLET} width={2 * OUTLET} height={2 * OUTLET} rx="4" fill="none" {...LINE} strokeWidth="2.4" />
      <Name name={part.part.name} size={15} y={hot ? 0 : -5} />
    </>
  );
};

const Box = ({ part }: { part: ScenePart }) => (
  <>
    <rect
      x={-part.laid.halfW * UNIT_PX}
      y={-part.laid.halfH * UNIT_PX}
      width={2 * part.laid.halfW * UNIT_PX}
      height={2 * part.laid.halfH * UNIT_PX}
      fill={HOLLOW}
      {...LINE}
    />
    <Name name={part.part.name} size={11} />
  </>
);

/** The symbol of a part, round its middle. */
export const PartSymbol = ({ part }: { part: ScenePart }) => {
  switch (part.laid.symbol) {
    case "tee":
      return <circle r="5.5" fill={SOLID} />;
    case "valve":
    case "selector":
      return <Valve part={part} />;
    case "check":
      return <Check part={part} />;
    case "regulator":
      return <Regulator part={part} />;
    case "pump":
      return <Pump part={part} />;
    case "strainer":
      return <Strainer part={part} />;
    case "inlet":
      return <Inlet part={part} />;
    case "drain":
      return <Drain part={part} />;
    case "pickup":
      return <Pickup part={part} />;
    case "trap":
      return <Trap part={part} />;
    case "overboard":
      return <Overboard />;
    case "tank":
      return <Vessel part={part} round={5} cell={part.cells["tank"]} />;
    case "heater":
      return <Heater part={part} />;
    case "tap":
    case "shower":
    case "toilet":
      return <Outlet part={part} />;
    default:
      return <Box part={part} />;
  }
};
