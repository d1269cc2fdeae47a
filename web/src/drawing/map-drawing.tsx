import { type Scene, type ScenePart, UNIT_PX } from "@uppershed/core/drawing";
import { cellName, type MapLayout, type Network } from "@uppershed/core/watermap";
import {
  ConnectionMode,
  Controls,
  Handle,
  type Node,
  type NodeProps,
  Position,
  ReactFlow,
  ReactFlowProvider,
  useReactFlow,
  useStore,
} from "@xyflow/react";
import {
  createContext,
  type ReactNode,
  type RefObject,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { useUnits } from "../ui/units.ts";
import { type Badge, BadgeSign } from "./badges.tsx";
import { Inks, Legend } from "./inks.tsx";
import { type Halo, haloStroke, Pipes } from "./pipes.tsx";
import { sayPart } from "./say-part.ts";
import { shareAlong } from "./share.ts";
import { PartSymbol } from "./symbols.tsx";
import { Tether } from "./tether.tsx";
import type { DrawTools } from "./tools.ts";

/** The drawing of a unit's water map: pan, zoom, tap or walk with the Tab key to a part. */

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

const Drawing = createContext<MapDrawingProps | null>(null);

/** Names and tags of the parts that do not carry theirs inside; a halo keeps them readable over pipes. */
const Labels = ({ scene, halo = false }: { scene: Scene; halo?: boolean }) =>
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

const NODE_TYPES = { pipes: PipesNode, part: PartNode };

const nodesOf = (
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

const PADDING = 0.03;
const LEGEND_UNITS = 1.6;
const NEAR_ZOOM = 1.15;

type Frame = RefObject<HTMLDivElement | null>;

/** Keeps the whole map in view, or the parts that are to be near. */
const useView = ({ scene, near, still = false }: MapDrawingProps, frame: Frame): void => {
  const flow = useReactFlow();
  const { bounds } = scene.layout;
  const nearKey = near?.join() ?? "";
  const chosenBefore = useRef<string | undefined>(undefined);
  useEffect(() => {
    const show = (): void => {
      const chosen =
        nearKey === "" ? [] : scene.parts.filter((p) => nearKey.split(",").includes(p.part.id));
      if (chosen.length > 0) {
        void flow.fitView({
          nodes: chosen.map((p) => ({ id: p.part.id })),
          padding: 0.5,
          maxZoom: NEAR_ZOOM,
        });
        return;
      }
      const [width, height] = [
        (bounds.right - bounds.left) * UNIT_PX,
        (bounds.bottom - bounds.top) * UNIT_PX,
      ];
      // The legend stands over the top edge.
      const top = LEGEND_UNITS * UNIT_PX;
      void flow.fitBounds(
        { x: bounds.left * UNIT_PX, y: bounds.top * UNIT_PX - top, width, height: height + top },
        { padding: PADDING },
      );
    };
    if (!still || chosenBefore.current === undefined || nearKey !== "") show();
    chosenBefore.current = nearKey;
    const watch = new ResizeObserver(() => !still && show());
    if (frame.current) watch.observe(frame.current);
    return () => watch.disconnect();
    // The view moves when the map or the wish changes, not with every change of contents.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [flow, still, nearKey, bounds.left, bounds.right, bounds.top, bounds.bottom]);
};

/** While the map is drawn, what stood still stands still on the screen: the view follows the middle of how far parts have moved. */
const useStandingStill = (layout: MapLayout, still: boolean, frame: Frame): void => {
  const flow = useReactFlow();
  const before = useRef(layout);
  useEffect(() => {
    const was = new Map(before.current.parts.map((p) => [p.id, p.at]));
    before.current = layout;
    if (!still) return;
    const moved = layout.parts.flatMap((p) => {
      const at = was.get(p.id);
      return at ? [{ x: p.at.x - at.x, y: p.at.y - at.y }] : [];
    });
    const middle = (values: number[]): number =>
      values.toSorted((a, b) => a - b)[values.length >> 1] ?? 0;
    const [dx, dy] = [middle(moved.map((m) => m.x)), middle(moved.map((m) => m.y))];
    const view = flow.getViewport();
    if (dx !== 0 || dy !== 0)
      void flow.setViewport({
        ...view,
        x: view.x - dx * UNIT_PX * view.zoom,
        y: view.y - dy * UNIT_PX * view.zoom,
      });
    const made = layout.parts.find((p) => !was.has(p.id));
    const box = frame.current?.getBoundingClientRect();
    if (!made || !box || moved.length === 0) return;
    const at = flow.flowToScreenPosition({ x: made.at.x * UNIT_PX, y: made.at.y * UNIT_PX });
    if (at.x < box.left || at.x > box.right || at.y < box.top || at.y > box.bottom)
      void flow.fitView({ nodes: layout.parts.map((p) => ({ id: p.id })), padding: PADDING });
  }, [layout, still, flow, frame]);
};

const Canvas = (props: MapDrawingProps) => {
  const { network, scene, onSelect, draw, badges, still = false } = props;
  const drawing = draw !== undefined;
  const drawn = useMemo(
    () => nodesOf(network, scene, drawing, badges),
    [network, scene, drawing, badges],
  );
  // The part under the finger moves at once; the pipes follow when it is let go.
  const [dragged, setDragged] = useState<{ id: string; x: number; y: number }>();
  const nodes = useMemo(
    () =>
      dragged
        ? drawn.map((n) =>
            n.id === dragged.id ? { ...n, position: { x: dragged.x, y: dragged.y } } : n,
          )
        : drawn,
    [drawn, dragged],
  );
  const flow = useReactFlow();
  const frame = useRef<HTMLDivElement>(null);
  useView(props, frame);
  useStandingStill(scene.layout, still, frame);
  /** A part tapped or entered: what is in the hand goes onto its open port, else the part is chosen. */
  const choose = (id: string): void => {
    const port = draw?.held ? draw.openPorts.get(id)?.[0] : undefined;
    if (draw && port !== undefined) draw.onDrop({ on: "port", end: { part: id, port } });
    else onSelect?.(id);
  };
  return (
    <div
      ref={frame}
      role="presentation"
      className="absolute inset-0"
      onKeyDown={(event) => {
        const node =
          event.target instanceof HTMLElement && event.target.matches(".react-flow__node")
            ? event.target.dataset["id"]
            : undefined;
        if (node === undefined || (event.key !== "Enter" && event.key !== " ")) return;
        event.preventDefault();
        choose(node);
      }}
    >
      <ReactFlow
        nodes={nodes}
        edges={[]}
        nodeTypes={NODE_TYPES}
        minZoom={0.2}
        maxZoom={3}
        nodesDraggable={draw !== undefined}
        nodesConnectable={draw !== undefined}
        nodeDragThreshold={4}
        connectionMode={ConnectionMode.Loose}
        connectionLineStyle={{ stroke: "var(--rust)", strokeWidth: 5 }}
        connectionRadius={26}
        onConnect={({ source, sourceHandle, target, targetHandle }) => {
          if (sourceHandle && targetHandle)
            draw?.onConnect(
              { part: source, port: sourceHandle },
              { part: target, port: targetHandle },
            );
        }}
        onConnectEnd={(event, state) => {
          if (!draw || state.isValid || !state.fromNode || !state.fromHandle?.id) return;
          const at = "changedTouches" in event ? event.changedTouches[0] : event;
          if (!at) return;
          const run = document
            .elementsFromPoint(at.clientX, at.clientY)
            .map((el) => el.getAttribute("data-hit-run"))
            .find((id) => id !== null);
          const laid = scene.layout.runs.find((r) => r.id === run);
          const place = flow.screenToFlowPosition({ x: at.clientX, y: at.clientY });
          if (run && laid)
            draw.onConnectToRun(
              { part: state.fromNode.id, port: state.fromHandle.id },
              run,
              shareAlong(laid, { x: place.x / UNIT_PX, y: place.y / UNIT_PX }),
            );
        }}
        onNodeDrag={(_, node) => setDragged({ id: node.id, ...node.position })}
        onNodeDragStop={(_, node) => {
          setDragged(undefined);
          const was = drawn.find((n) => n.id === node.id)?.position;
          if (!was) return;
          const [dx, dy] = [
            Math.round((node.position.x - was.x) / UNIT_PX),
            Math.round((node.position.y - was.y) / UNIT_PX),
          ];
          if (dx !== 0 || dy !== 0) draw?.onMove(node.id, dx, dy);
        }}
        elementsSelectable={false}
        zoomOnDoubleClick={false}
        proOptions={{ hideAttribution: true }}
        onNodeClick={(_, node) => node.type === "part" && choose(node.id)}
        onPaneClick={(event) => {
          if (!draw?.held) return onSelect?.(undefined);
          const at = flow.screenToFlowPosition({ x: event.clientX, y: event.clientY });
          draw.onDrop({
            on: "empty",
            x: Math.round(at.x / UNIT_PX),
            y: Math.round(at.y / UNIT_PX),
          });
        }}
        ariaLabelConfig={{ "node.a11yDescription.default": "Enter opens its plate" }}
      >
        {props.tether && <Tether to={props.tether.to} entry={props.tether.entry} scene={scene} />}
        <Controls
          showInteractive={false}
          position="bottom-right"
          aria-label="Zoom"
          className="no-print"
        />
      </ReactFlow>
    </div>
  );
};

export const MapDrawing = (props: MapDrawingProps) => (
  <div
    className="relative size-full min-h-0 bg-ground"
    role="group"
    aria-label={`Water map of ${props.network.map.name}`}
  >
    <Inks />
    <Drawing value={props}>
      <ReactFlowProvider>
        <Canvas {...props} />
      </ReactFlowProvider>
    </Drawing>
    <div className="pointer-events-none absolute left-3 top-2 hidden max-w-[calc(100%-1.5rem)] sm:block">
      {props.legend ?? <Legend turning={props.rings !== undefined && props.rings.size > 0} />}
    </div>
  </div>
);

/** The same drawing without a canvas, for paper. */
export const PaperMap = ({ scene, name }: { scene: Scene; name: string }) => {
  const { bounds } = scene.layout;
  const box = [
    bounds.left - 1,
    bounds.top - 1,
    bounds.right - bounds.left + 2,
    bounds.bottom - bounds.top + 2,
  ].map((v) => v * UNIT_PX);
  return (
    <>
      <Inks />
      <svg
        viewBox={box.join(" ")}
        role="img"
        aria-label={`Water map of ${name}, as left`}
        className="h-auto w-full"
      >
        <Pipes scene={scene} />
        {scene.parts.map((part) => (
          <g
            key={part.part.id}
            transform={`translate(${part.laid.at.x * UNIT_PX} ${part.laid.at.y * UNIT_PX})`}
          >
            <PartSymbol part={part} />
          </g>
        ))}
        <Labels scene={scene} />
      </svg>
    </>
  );
};
