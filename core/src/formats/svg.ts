import { type Contents, startingContents } from "../contents/index.ts";
import {
  buildScene,
  type Stroke,
  pathOf,
  type Scene,
  type ScenePipe,
  symbolMarks,
  type Tone,
  UNIT_PX,
} from "../drawing/index.ts";
import { inkOf } from "../drawing/index.ts";
import {
  buildNetwork,
  inUseLineup,
  layOut,
  type Lineup,
  type MapLayout,
  type WaterMap,
} from "../watermap/index.ts";

/** The drawing as an SVG file of its own: paper colours, patterns for contents, nothing fetched. */

const COLOURS: Record<string, string> = {
  pipe: "#14201b",
  raised: "#ffffff",
  empty: "#fbf9f4",
  ink: "#14201b",
  rust: "#ad4013",
  wave: "#2473a8",
  none: "none",
};

const GROUND = "#fbf9f4";

const toneOf = (tone: Tone): string =>
  tone.startsWith("ink:")
    ? tone === "ink:empty"
      ? GROUND
      : `url(#${tone.replace(":", "-")})`
    : (COLOURS[tone] ?? "none");

const PATTERNS = `<defs>
<pattern id="ink-water" width="12" height="12" patternUnits="userSpaceOnUse"><rect width="12" height="12" fill="#2473a8"/></pattern>
<pattern id="ink-weak" width="8" height="8" patternUnits="userSpaceOnUse"><rect width="8" height="8" fill="#2473a8"/><circle cx="2" cy="2" r="1.5" fill="#f3bcd9"/><circle cx="6" cy="6" r="1.5" fill="#f3bcd9"/></pattern>
<pattern id="ink-antifreeze" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><rect width="7" height="7" fill="#f3bcd9"/><rect width="3.2" height="7" fill="#b81f72"/></pattern>
</defs>`;

/** Text and attribute values as XML; what XML 1.0 cannot hold is left out. */
export const escapeXml = (value: string): string =>
  Array.from(value)
    .filter((c) => {
      const code = c.codePointAt(0) ?? 0;
      return code >= 0x20 || code === 9 || code === 10 || code === 13;
    })
    .join("")
    .replaceAll("&", "&amp;")
    .replaceAll("<", "&lt;")
    .replaceAll(">", "&gt;")
    .replaceAll('"', "&quot;");

const attributes = (values: Record<string, string | number | undefined>): string =>
  Object.entries(values)
    .flatMap(([name, value]) =>
      value === undefined ? [] : [` ${name}="${escapeXml(String(value))}"`],
    )
    .join("");

const markSvg = (mark: Stroke): string => {
  const { tag, d, x, y, w, h, r, fill, stroke, width = 0, dash, turn, text, size } = mark;
  const common = {
    fill: toneOf(fill),
    ...(stroke && width > 0
      ? { stroke: toneOf(stroke), "stroke-width": width, "stroke-linejoin": "round" }
      : {}),
    "stroke-dasharray": dash,
    transform: turn ? `rotate(${turn})` : undefined,
  };
  switch (tag) {
    case "path":
      return `<path${attributes({ d, ...common })}/>`;
    case "circle":
      return `<circle${attributes({ cx: x, cy: y, r, ...common })}/>`;
    case "rect":
      return `<rect${attributes({ x, y, width: w, height: h, rx: r, ...common })}/>`;
    case "text": {
      const halo =
        stroke === "none"
          ? {}
          : { "paint-order": "stroke", stroke: "#ffffff", "stroke-width": 3.5 };
      return `<text${attributes({ x, y, "text-anchor": "middle", "font-size": size, "font-weight": 600, fill: toneOf(fill), ...halo })}>${escapeXml(text ?? "")}</text>`;
    }
  }
};

const FULL = 0.97;

const filling = (pipe: ScenePipe, d: string): string => {
  const bore = pipe.widthPx - 3.4;
  const common = { d, fill: "none", "stroke-linejoin": "round", pathLength: 1 };
  if (pipe.share < 0.005) return "";
  if (pipe.share < FULL)
    return `<path${attributes({ ...common, stroke: toneOf(`ink:${inkOf(pipe.plugs[0]?.liquid ?? { waterM3: 0, glycolM3: 0 })}`), "stroke-width": Math.max(1.4, bore * pipe.share) })}/>`;
  let from = 0;
  return pipe.plugs
    .map((plug) => {
      const dash = `0 ${from} ${plug.share} 2`;
      from += plug.share;
      return `<path${attributes({ ...common, stroke: toneOf(`ink:${inkOf(plug.liquid)}`), "stroke-width": bore, "stroke-dasharray": dash })}/>`;
    })
    .join("");
};

const pipeSvg = (pipe: ScenePipe): string => {
  const d = pathOf(pipe.laid);
  const line = (stroke: string, width: number): string =>
    `<path${attributes({ d, fill: "none", stroke, "stroke-width": width, "stroke-linejoin": "round" })}/>`;
  return `<g${attributes({ "data-run": pipe.laid.id })}>${line(GROUND, pipe.widthPx + 5)}${line(pipe.run.service === "waste" ? "#5f6a64" : "#14201b", pipe.widthPx)}${line(GROUND, pipe.widthPx - 3.4)}${filling(pipe, d)}</g>`;
};

const MARGIN = 1;

/** A scene as SVG. */
export const sceneSvg = (scene: Scene, title: string): string => {
  const { left, right, top, bottom } = scene.layout.bounds;
  const box = [
    left - MARGIN,
    top - MARGIN,
    right - left + 2 * MARGIN,
    bottom - top + 2 * MARGIN,
  ].map((v) => Number((v * UNIT_PX).toFixed(2)));
  const pipes = [...scene.pipes].sort((a, b) => a.laid.bridges.length - b.laid.bridges.length);
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box.join(" ")}" font-family="Archivo, Arial, sans-serif" role="img">`,
    `<title>${escapeXml(title)}</title>`,
    PATTERNS,
    `<rect${attributes({ x: box[0], y: box[1], width: box[2], height: box[3], fill: GROUND })}/>`,
    ...pipes.map(pipeSvg),
    ...scene.parts.map(
      (part) =>
        `<g${attributes({ "data-part": part.part.id, transform: `translate(${part.laid.at.x * UNIT_PX} ${part.laid.at.y * UNIT_PX})` })}>${symbolMarks(part).map(markSvg).join("")}</g>`,
    ),
    ...scene.layout.labels.map(
      (l) =>
        `<text${attributes({ x: l.at.x * UNIT_PX, y: l.at.y * UNIT_PX + 5, "text-anchor": l.anchor, "font-size": 16, "font-weight": 600, "paint-order": "stroke", stroke: GROUND, "stroke-width": 4, fill: "#14201b" })}>${escapeXml(l.text)}</text>`,
    ),
    "</svg>",
    "",
  ].join("\n");
};

/** A map's drawing as an SVG file: in use unless told otherwise. */
export const writeSvg = (
  map: WaterMap,
  state: { contents?: Contents; lineup?: Lineup; layout?: MapLayout } = {},
): string => {
  const network = buildNetwork(map);
  const scene = buildScene(
    network,
    state.contents ?? startingContents(network),
    state.lineup ?? inUseLineup(network),
    state.layout ?? layOut(map),
  );
  return sceneSvg(scene, `Water map of ${map.name}`);
};
