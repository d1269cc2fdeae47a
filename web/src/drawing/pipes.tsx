import {
  inkOf,
  middleOf,
  pathOf,
  type Scene,
  type ScenePipe,
  UNIT_PX,
} from "@uppershed/core/drawing";
import type { KeyboardEvent, MouseEvent } from "react";
import { paint } from "./inks.tsx";

const ARROW_FROM_UNITS = 3.5;
const FULL = 0.97;

/** What lies in a pipe: plugs along it when it is full, a thread along the bottom when it is not. */
const Filling = ({ pipe, d }: { pipe: ScenePipe; d: string }) => {
  const bore = pipe.widthPx - 3.4;
  const common = { d, fill: "none", strokeLinejoin: "round" as const, pathLength: 1 };
  if (pipe.share < FULL) {
    const all = pipe.plugs[0]?.liquid;
    if (!all || pipe.share < 0.005) return null;
    return (
      <path {...common} stroke={paint(inkOf(all))} strokeWidth={Math.max(1.4, bore * pipe.share)} />
    );
  }
  return pipe.plugs.map((plug, i) => {
    const from = pipe.plugs.slice(0, i).reduce((sum, p) => sum + p.share, 0);
    return (
      <path
        key={from}
        {...common}
        stroke={paint(inkOf(plug.liquid))}
        strokeWidth={bore}
        strokeDasharray={`0 ${from} ${plug.share} 2`}
      />
    );
  });
};

/** Something shown of a pipe or part beside its contents: told by a word or a number, never by colour alone. */
export interface Halo {
  readonly tone: "reach" | "standing" | "section" | "added" | "changed" | "problem";
  readonly text?: string;
  /** Of several of one tone beside each other, which: they take turns in colour and in stroke. */
  readonly turn?: number;
}

const HALO_TONE: Record<Halo["tone"], { colour: string; dash?: string }> = {
  reach: { colour: "var(--green)" },
  standing: { colour: "var(--rust)", dash: "10 6" },
  section: { colour: "var(--mixed)" },
  added: { colour: "var(--green)", dash: "3 5" },
  changed: { colour: "var(--rust)", dash: "14 5" },
  problem: { colour: "var(--rust)" },
};

const TURNS: readonly { colour: string; dash?: string }[] = [
  { colour: "var(--mixed)" },
  { colour: "var(--green)", dash: "16 5" },
  { colour: "var(--glycol)", dash: "5 4" },
];

export const haloStroke = (halo: Halo): { stroke: string; strokeDasharray?: string } => {
  if (halo.turn !== undefined) {
    const { colour, dash } = TURNS[halo.turn % TURNS.length] ?? { colour: "var(--mixed)" };
    return { stroke: colour, ...(dash ? { strokeDasharray: dash } : {}) };
  }
  const { colour, dash } = HALO_TONE[halo.tone];
  return { stroke: colour, ...(dash ? { strokeDasharray: dash } : {}) };
};

const HaloPath = ({ pipe, d, halo }: { pipe: ScenePipe; d: string; halo: Halo }) => {
  const middle = middleOf(pipe.laid);
  return (
    <>
      <path
        d={d}
        fill="none"
        strokeWidth={pipe.widthPx + 9}
        strokeLinejoin="round"
        opacity={0.75}
        {...haloStroke(halo)}
      />
      {halo.text && middle && middle.length >= 1.5 && (
        <text
          x={middle.at.x * UNIT_PX + (middle.angle % 180 === 0 ? 0 : 13)}
          y={middle.at.y * UNIT_PX - (middle.angle % 180 === 0 ? 13 : -5)}
          textAnchor={middle.angle % 180 === 0 ? "middle" : "start"}
          fontSize="13"
          fontWeight="700"
          fill="var(--ink)"
          paintOrder="stroke"
          stroke="var(--ground)"
          strokeWidth="4"
        >
          {halo.text}
        </text>
      )}
    </>
  );
};

const Length = ({ pipe, text }: { pipe: ScenePipe; text: string }) => {
  const middle = middleOf(pipe.laid);
  if (!middle || middle.length < 2) return null;
  const level = middle.angle % 180 === 0;
  return (
    <text
      x={middle.at.x * UNIT_PX + (level ? 0 : 9)}
      y={middle.at.y * UNIT_PX + (level ? -9 : -12)}
      textAnchor={level ? "middle" : "start"}
      className="narrow"
      fontSize="10"
      fill="var(--muted)"
      paintOrder="stroke"
      stroke="var(--ground)"
      strokeWidth="3"
    >
      {text}
    </text>
  );
};

export interface PipesProps {
  readonly scene: Scene;
  /** Runs in which liquid moves in the step in hand. */
  readonly flowing?: ReadonlySet<string>;
  /** Runs in which something moves now: whether it goes from the run's "from" end to its "to" end. */
  readonly flows?: ReadonlyMap<string, boolean>;
  readonly selected?: string | undefined;
  readonly onSelect?: ((runId: string, event: MouseEvent | KeyboardEvent) => void) | undefined;
  readonly lengths?: ((runId: string) => string) | undefined;
  readonly halos?: ReadonlyMap<string, Halo> | undefined;
  /** Names pipes for the keyboard and for those who hear the drawing; without it pipes are passed by. */
  readonly say?: ((runId: string) => string) | undefined;
}

/** The wide stroke that a finger, a mouse or the Tab key finds. */
const Hit = ({
  pipe,
  d,
  onSelect,
  say,
}: { pipe: ScenePipe; d: string } & Pick<PipesProps, "onSelect" | "say">) => {
  if (!onSelect) return null;
  const { id } = pipe.laid;
  const named = say
    ? {
        tabIndex: 0,
        role: "button",
        "aria-label": say(id),
        onKeyDown: (event: KeyboardEvent) => {
          if (event.key !== "Enter" && event.key !== " ") return;
          event.preventDefault();
          event.stopPropagation();
          onSelect(id, event);
        },
      }
    : {};
  return (
    <path
      d={d}
      fill="none"
      stroke="transparent"
      strokeWidth={22}
      className="pipe-hit cursor-pointer"
      style={{ pointerEvents: "stroke" }}
      data-hit-run={id}
      onClick={(event) => {
        event.stopPropagation();
        onSelect(id, event);
      }}
      {...named}
    />
  );
};

/** All pipes of a map. */
export const Pipes = ({
  scene,
  flowing,
  flows,
  selected,
  onSelect,
  lengths,
  halos,
  say,
}: PipesProps) => {
  const sorted = [...scene.pipes].sort((a, b) => a.laid.bridges.length - b.laid.bridges.length);
  return (
    <g>
      {sorted.map((pipe) => {
        const d = pathOf(pipe.laid);
        const middle = middleOf(pipe.laid);
        const ahead = flows?.get(pipe.laid.id);
        const moves = ahead !== undefined || (flowing?.has(pipe.laid.id) ?? false);
        const waste = pipe.run.service === "waste";
        const halo = halos?.get(pipe.laid.id);
        return (
          <g key={pipe.laid.id} data-run={pipe.laid.id}>
            <path
              d={d}
              fill="none"
              stroke="var(--ground)"
              strokeWidth={pipe.widthPx + 5}
              strokeLinejoin="round"
            />
            {halo && <HaloPath pipe={pipe} d={d} halo={halo} />}
            <path
              d={d}
              fill="none"
              stroke={selected === pipe.laid.id ? "var(--rust)" : "var(--pipe)"}
              strokeWidth={pipe.widthPx}
              strokeLinejoin="round"
              opacity={waste ? 0.62 : 1}
            />
            <path
              d={d}
              fill="none"
              stroke="var(--empty)"
              strokeWidth={pipe.widthPx - 3.4}
              strokeLinejoin="round"
            />
            <Filling pipe={pipe} d={d} />
            {moves && (
              <path
                d={d}
                fill="none"
                stroke="var(--rust)"
                strokeWidth={3}
                strokeDasharray="12 12"
                className={(ahead ?? pipe.laid.forward) ? "flowing" : "flowing-back"}
              />
            )}
            {middle && middle.length >= ARROW_FROM_UNITS && !waste && (
              <path
                d="M-4 -4.5 5 0 -4 4.5Z"
                fill="var(--pipe)"
                stroke="var(--empty)"
                strokeWidth="1.2"
                transform={`translate(${middle.at.x * UNIT_PX} ${middle.at.y * UNIT_PX}) rotate(${middle.angle})`}
              />
            )}
            {lengths && <Length pipe={pipe} text={lengths(pipe.laid.id)} />}
            <Hit pipe={pipe} d={d} onSelect={onSelect} say={say} />
          </g>
        );
      })}
    </g>
  );
};
