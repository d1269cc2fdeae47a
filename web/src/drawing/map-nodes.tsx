import { type Scene, type ScenePart, UNIT_PX } from "@uppershed/core/drawing";
import { cellName, type Network } from "@uppershed/core/watermap";
import { Handle, type Node, type NodeProps, Position, useReactFlow, useStore } from "@xyflow/react";
import { createContext, type ReactNode, useContext } from "react";
import { useUnits } from "../ui/units.ts";
import { type Badge, BadgeSign } from "./badges.tsx";
import { type Halo, haloStroke, Pipes } from "./pipes.tsx";
import { sayPart } from "./say-part.ts";
import { shareAlong } from "./share.ts";
import { PartSymbol } from "./symbols.tsx";
import type { DrawTools } from "./tools.ts";

/** What stands on the canvas: all pipes as one, each part for itself. */

export interface MapDrawingProps {
  readonly network: Network;
  readonly scene: Scene;
  /** Parts to be turned in the step in hand, and those already turned. */
  readonly rings?: ReadonlyMap<string, "turn" | "done">;
  readonly flowing?: ReadonlySet<string>;
  /** Runs in which something moves now, and which way. */
  readonly flows?: ReadonlyMap<string, boolean>;
  readonly selected?: string | undefined;
  readonly onSelect?: (id: string | undefined) => void;
  /** Parts to bring into view; none means the whole map. */
  readonly near?: readonly string[];
  /** What else is to be seen of parts and pipes: the reach path, sections, standing water, differences. */
  readonly halos?: ReadonlyMap<string, Halo>;
  /** How parts stand: found bad, to be watched, past their life. */
  readonly badges?: ReadonlyMap<string, Badge>;
  /** Present where the map is being drawn. */
  readonly draw?: DrawTools;
  /** Pipes can be reached with the Tab key and are named. */
  readonly walkPipes?: boolean;
  /** Part or pipe from which a line runs to the margin's entry with this element id. */
  readonly tether?: { readonly to: string; readonly entry: string } | undefined;
  /** Keeps the view as it is while the map changes. */
  readonly still?: boolean;
  readonly legend?: ReactNode;
}

export const Drawing = createContext<MapDrawingProps | null>(null);

/** Names and tags of the parts that do not carry theirs inside; a halo keeps them readable over pipes. */
export const Labels = ({ scene, halo = false }: { scene: Scene; halo?: boolean }) =>
  scene.layout.labels.map((label) => (
    <text
      key={label.id}
      x={label.at.x * UNIT_PX}
      y={label.at.y * UNIT_PX + 5}
      textAnchor={label.anchor}
      className="narrow"
      fontSize="16"
      fontWeight="600"
      fill="var(--ink)"
      {...(halo ? { paintOrder: "stroke", stroke: "var(--ground)", strokeWidth: 4 } : {})}
    >
      {label.text}
    </text>
  ));

const RING = 5;
// A sign at a small part stands off it, so that both are seen.
const SMALL_PX = 30;
const LENGTHS_FROM_ZOOM = 1.25;

const PipesNode = () => {
  const shown = useContext(Drawing);
  const { q } = useUnits();
  const flow = useReactFlow();
  const zoom = useStore((s) => s.transform[2]);
  if (!shown) return null;
  const { scene, draw, network } = shown;
  const runs = new Map(network.map.runs.map((r) => [r.id, r]));
  const select = (id: string, event: React.MouseEvent | React.KeyboardEvent): void => {
    if (!draw?.held) return shown.onSelect?.(id);
    const laid = scene.layout.runs.find((r) => r.id === id);
    const at =
      "clientX" in event
        ? flow.screenToFlowPosition({ x: event.clientX, y: event.clientY })
        : undefined;
    draw.onDrop({
      on: "run",
      run: id,
      share: laid && at ? shareAlong(laid, { x: at.x / UNIT_PX, y: at.y / UNIT_PX }) : 0.5,
    });
  };
  return (
    <svg
      width="1"
      height="1"
      overflow="visible"
      aria-hidden={shown.walkPipes ? undefined : true}
      style={{ pointerEvents: "none" }}
    >
      <Pipes
        scene={scene}
        {...(shown.flowing ? { flowing: shown.flowing } : {})}
        {...(shown.flows ? { flows: shown.flows } : {})}
        selected={shown.selected}
        onSelect={shown.onSelect || draw ? select : undefined}
        halos={shown.halos}
        say={
          shown.walkPipes
            ? (id) =>
                `${runs.get(id)?.service ?? ""} ${cellName(network, network.cellIndex.get(id) ?? -1)}`
            : undefined
        }
        lengths={
          zoom >= LENGTHS_FROM_ZOOM ? (id) => q(runs.get(id)?.lengthM ?? 0, "length") : undefined
        }
      />
      <Labels scene={scene} halo />
    </svg>
  );
};

const PartNode = ({ data }: NodeProps<Node<{ part: ScenePart }>>) => {
  const shown = useContext(Drawing);
  if (!shown) return null;
  const part = shown.scene.parts.find((p) => p.part.id === data.part.part.id) ?? data.part;
  const { halfW, halfH } = part.laid;
  const [w, h] = [Math.max(halfW, 0.5) * UNIT_PX, Math.max(halfH, 0.5) * UNIT_PX];
  const ring = shown.rings?.get(part.part.id);
  const chosen = shown.selected === part.part.id;
  const halo = shown.halos?.get(part.part.id);
  const badge = shown.badges?.get(part.part.id);
  return (
    <>
      <svg
        width={2 * w}
        height={2 * h}
        viewBox={`${-w} ${-h} ${2 * w} ${2 * h}`}
        overflow="visible"
        aria-hidden
      >
        <rect
          className="focus-box"
          x={-w - 6}
          y={-h - 6}
          width={2 * w + 12}
          height={2 * h + 12}
          rx="8"
          fill="none"
          stroke={chosen ? "var(--rust)" : "transparent"}
          strokeWidth="3"
        />
        {halo && (
          <rect
            x={-w - 5}
            y={-h - 5}
            width={2 * w + 10}
            height={2 * h + 10}
            rx="8"
            fill="none"
            strokeWidth="5"
            opacity="0.8"
            {...haloStroke(halo)}
          />
        )}
        <PartSymbol part={part} />
        {ring && (
          <ellipse
            rx={Math.max(w, 12) + RING}
            ry={Math.max(h, 12) + RING}
            fill="none"
            stroke={ring === "turn" ? "var(--rust)" : "var(--green)"}
            strokeWidth="4"
            strokeDasharray={ring === "turn" ? undefined : "9 5"}
          />
        )}
        {badge && <BadgeSign badge={badge} x={w + 2} y={h < SMALL_PX ? -h - 8 : -h - 2} />}
      </svg>
      {shown.draw && <OpenPorts part={part} open={shown.draw.openPorts.get(part.part.id) ?? []} />}
    </>
  );
};

const SIDE_POSITION = {
  left: Position.Left,
  right: Position.Right,
  up: Position.Top,
  down: Position.Bottom,
} as const;

/** A ring at each port that has no pipe: drag from one to another to pipe them. */
const OpenPorts = ({ part, open }: { part: ScenePart; open: readonly string[] }) => {
  const [w, h] = [
    Math.max(part.laid.halfW, 0.5) * UNIT_PX,
    Math.max(part.laid.halfH, 0.5) * UNIT_PX,
  ];
  return open.flatMap((name) => {
    const place = part.laid.ports[name];
    if (!place) return [];
    return [
      <Handle
        key={name}
        id={name}
        type="source"
        position={SIDE_POSITION[place.side ?? "right"]}
        className="open-port"
        data-port={`${part.part.id}.${name}`}
        style={{ left: w + place.dx * UNIT_PX, top: h + place.dy * UNIT_PX }}
      />,
    ];
  });
};

export const NODE_TYPES = { pipes: PipesNode, part: PartNode };

export const nodesOf = (
  network: Network,
  scene: Scene,
  draw: boolean,
  badges: MapDrawingProps["badges"],
): Node[] => [
  {
    id: "pipes",
    type: "pipes",
    position: { x: 0, y: 0 },
    data: {},
    selectable: false,
    focusable: false,
    draggable: false,
    zIndex: 0,
  },
  ...scene.parts.map((part) => {
    const [halfW, halfH] = [Math.max(part.laid.halfW, 0.5), Math.max(part.laid.halfH, 0.5)];
    return {
      id: part.part.id,
      type: "part",
      position: { x: (part.laid.at.x - halfW) * UNIT_PX, y: (part.laid.at.y - halfH) * UNIT_PX },
      width: 2 * halfW * UNIT_PX,
      height: 2 * halfH * UNIT_PX,
      data: { part },
      draggable: draw,
      connectable: draw,
      // Joints carry nothing to look up: the Tab key passes them by.
      focusable: draw || part.laid.symbol !== "tee",
      ariaLabel: [sayPart(network, part), badges?.get(part.part.id)?.says]
        .filter(Boolean)
        .join(". "),
      ariaRole: "button" as const,
      zIndex: 1,
    };
  }),
];
