import type { Network } from "@uppershed/core";
import { Controls, type Node, type NodeProps, ReactFlow, ReactFlowProvider, useReactFlow, useStore } from "@xyflow/react";
import { createContext, useContext, useEffect, useMemo, useRef } from "react";
import { useUnits } from "../ui/units.ts";
import { Inks, Legend } from "./inks.tsx";
import { Pipes } from "./pipes.tsx";
import { sayPart } from "./say-part.ts";
import { type Scene, type ScenePart, UNIT_PX } from "./scene.ts";
import { PartSymbol } from "./symbols.tsx";

/** The drawing of a unit's water map: pan, zoom, tap or walk with the Tab key to a part. */

export interface MapDrawingProps {
  readonly network: Network;
  readonly scene: Scene;
  /** Parts to be turned in the step in hand, and those already turned. */
  readonly rings?: ReadonlyMap<string, "turn" | "done">;
  readonly flowing?: ReadonlySet<string>;
  readonly selected?: string | undefined;
  readonly onSelect?: (id: string | undefined) => void;
  /** Parts to bring into view; none means the whole map. */
  readonly near?: readonly string[];
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
const LENGTHS_FROM_ZOOM = 1.25;

const PipesNode = () => {
  const shown = useContext(Drawing);
  const { q } = useUnits();
  const zoom = useStore((s) => s.transform[2]);
  if (!shown) return null;
  const { scene } = shown;
  const runs = new Map(shown.network.map.runs.map((r) => [r.id, r]));
  return (
    <svg width="1" height="1" overflow="visible" aria-hidden style={{ pointerEvents: "none" }}>
      <Pipes
        scene={scene}
        {...(shown.flowing ? { flowing: shown.flowing } : {})}
        selected={shown.selected}
        onSelect={shown.onSelect}
        lengths={zoom >= LENGTHS_FROM_ZOOM ? (id) => q(runs.get(id)?.lengthM ?? 0, "length") : undefined}
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
  return (
    <svg width={2 * w} height={2 * h} viewBox={`${-w} ${-h} ${2 * w} ${2 * h}`} overflow="visible" aria-hidden>
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
    </svg>
  );
};

const NODE_TYPES = { pipes: PipesNode, part: PartNode };

const nodesOf = (network: Network, scene: Scene): Node[] => [
  { id: "pipes", type: "pipes", position: { x: 0, y: 0 }, data: {}, selectable: false, focusable: false, draggable: false, zIndex: 0 },
  ...scene.parts.map((part) => {
    const [halfW, halfH] = [Math.max(part.laid.halfW, 0.5), Math.max(part.laid.halfH, 0.5)];
    return {
      id: part.part.id,
      type: "part",
      position: { x: (part.laid.at.x - halfW) * UNIT_PX, y: (part.laid.at.y - halfH) * UNIT_PX },
      width: 2 * halfW * UNIT_PX,
      height: 2 * halfH * UNIT_PX,
      data: { part },
      draggable: false,
      // Joints carry nothing to look up: the Tab key passes them by.
      focusable: part.laid.symbol !== "tee",
      ariaLabel: sayPart(network, part),
      ariaRole: "button" as const,
      zIndex: 1,
    };
  }),
];

const PADDING = 0.03;
const LEGEND_UNITS = 1.6;
const NEAR_ZOOM = 1.15;

const Canvas = (props: MapDrawingProps) => {
  const { network, scene, onSelect, near } = props;
  const nodes = useMemo(() => nodesOf(network, scene), [network, scene]);
  const flow = useReactFlow();
  const { bounds } = scene.layout;
  const frame = useRef<HTMLDivElement>(null);
  const nearKey = near?.join() ?? "";
  useEffect(() => {
    const show = (): void => {
      const chosen = nearKey === "" ? [] : scene.parts.filter((p) => nearKey.split(",").includes(p.part.id));
      if (chosen.length > 0) {
        void flow.fitView({ nodes: chosen.map((p) => ({ id: p.part.id })), padding: 0.5, maxZoom: NEAR_ZOOM });
        return;
      }
      const [width, height] = [(bounds.right - bounds.left) * UNIT_PX, (bounds.bottom - bounds.top) * UNIT_PX];
      // The legend stands over the top edge.
      const top = LEGEND_UNITS * UNIT_PX;
      void flow.fitBounds({ x: bounds.left * UNIT_PX, y: bounds.top * UNIT_PX - top, width, height: height + top }, { padding: PADDING });
    };
    show();
    const watch = new ResizeObserver(show);
    if (frame.current) watch.observe(frame.current);
    return () => watch.disconnect();
    // The view moves when the map or the wish changes, not with every change of contents.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [flow, nearKey, bounds.left, bounds.right, bounds.top, bounds.bottom]);
  return (
    <div ref={frame} className="absolute inset-0">
      <ReactFlow
        nodes={nodes}
        edges={[]}
        nodeTypes={NODE_TYPES}
        minZoom={0.2}
        maxZoom={3}
        nodesDraggable={false}
        nodesConnectable={false}
        elementsSelectable
        zoomOnDoubleClick={false}
        proOptions={{ hideAttribution: true }}
        onNodeClick={(_, node) => node.type === "part" && onSelect?.(node.id)}
        onNodesChange={(changes) => {
          // Enter or Space on a focused part selects it.
          const chosen = changes.find((c) => c.type === "select" && c.selected);
          if (chosen?.type === "select") onSelect?.(chosen.id);
        }}
        onPaneClick={() => onSelect?.(undefined)}
        ariaLabelConfig={{ "node.a11yDescription.default": "Enter opens its plate" }}
      >
        <Controls showInteractive={false} position="bottom-right" aria-label="Zoom" className="no-print" />
      </ReactFlow>
    </div>
  );
};

export const MapDrawing = (props: MapDrawingProps) => (
  <div className="relative size-full min-h-0 bg-ground" role="group" aria-label={`Water map of ${props.network.map.name}`}>
    <Inks />
    <Drawing value={props}>
      <ReactFlowProvider>
        <Canvas {...props} />
      </ReactFlowProvider>
    </Drawing>
    <div className="pointer-events-none absolute left-3 top-2 hidden max-w-[calc(100%-1.5rem)] sm:block">
      <Legend turning={props.rings !== undefined && props.rings.size > 0} />
    </div>
  </div>
);

/** The same drawing without a canvas, for paper. */
export const PaperMap = ({ scene, name }: { scene: Scene; name: string }) => {
  const { bounds } = scene.layout;
  const box = [bounds.left - 1, bounds.top - 1, bounds.right - bounds.left + 2, bounds.bottom - bounds.top + 2].map((v) => v * UNIT_PX);
  return (
    <>
      <Inks />
      <svg viewBox={box.join(" ")} role="img" aria-label={`Water map of ${name}, as left`} className="h-auto w-full">
        <Pipes scene={scene} />
        {scene.parts.map((part) => (
          <g key={part.part.id} transform={`translate(${part.laid.at.x * UNIT_PX} ${part.laid.at.y * UNIT_PX})`}>
            <PartSymbol part={part} />
          </g>
        ))}
        <Labels scene={scene} />
      </svg>
    </>
  );
};
