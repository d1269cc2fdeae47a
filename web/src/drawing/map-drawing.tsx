import { type Scene, UNIT_PX } from "@uppershed/core/drawing";
import {
  ConnectionMode,
  Controls,
  ReactFlow,
  ReactFlowProvider,
  useReactFlow,
} from "@xyflow/react";
import { useMemo, useRef, useState } from "react";
import { Inks, Legend } from "./inks.tsx";
import { Drawing, Labels, type MapDrawingProps, NODE_TYPES, nodesOf } from "./map-nodes.tsx";
import { useStandingStill, useView } from "./map-view.ts";
import { Pipes } from "./pipes.tsx";
import { shareAlong } from "./share.ts";
import { PartSymbol } from "./symbols.tsx";
import { Tether } from "./tether.tsx";

/** The drawing of a unit's water map: pan, zoom, tap or walk with the Tab key to a part. */

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
