import { startingContents } from "../contents/index.ts";
import { buildScene, UNIT_PX } from "../drawing/index.ts";
import { buildNetwork, inUseLineup, layOut, type WaterMap } from "../watermap/index.ts";
import { sceneSvg } from "./svg.ts";

const RING_PX = 12;
// A ring and its number stand out over the part at the edge.
const ROOM_PX = 44;

const roomFor = (viewBox: string): string => {
  const [x = 0, y = 0, width = 0, height = 0] = viewBox.split(" ").map(Number);
  return [x - ROOM_PX, y - ROOM_PX, width + 2 * ROOM_PX, height + 2 * ROOM_PX].join(" ");
};

/** A small map with some of its parts lit: a ring round each, numbered in the order in which they are named. */
export const litMapSvg = (map: WaterMap, lit: readonly string[]): string => {
  const network = buildNetwork(map);
  const layout = layOut(map);
  const scene = buildScene(network, startingContents(network), inUseLineup(network), layout);
  const rings = lit.flatMap((id, i) => {
    const part = layout.parts.find((p) => p.id === id);
    if (!part) return [];
    const [x, y] = [part.at.x * UNIT_PX, part.at.y * UNIT_PX];
    const r = Math.max(part.halfW, part.halfH, 0.6) * UNIT_PX + RING_PX;
    const [bx, by] = [x + r * 0.72, y - r * 0.72];
    return [
      `<circle cx="${x}" cy="${y}" r="${r}" fill="none" stroke="#ad4013" stroke-width="7"/>`,
      `<circle cx="${bx}" cy="${by}" r="17" fill="#ad4013"/>`,
      `<text x="${bx}" y="${by + 8}" text-anchor="middle" font-size="23" font-weight="700" fill="#ffffff">${i + 1}</text>`,
    ];
  });
  return sceneSvg(scene, `Water map of ${map.name}, ${lit.length} parts marked`)
    .replace(/viewBox="([^"]+)"/u, (_, box: string) => `viewBox="${roomFor(box)}"`)
    .replace(/<\/svg>\s*$/u, `${rings.join("")}</svg>\n`);
};
