import { type Desk, GAP, half, hop, isPickup, put, putChain, through } from "./desk.ts";
import { drawnWay, joined, mainSource } from "./sides.ts";

/** What lies before the neck: tanks, pumps, ways in. */

const TANK_ABOVE_ROW = 8;

/** The source side: tank and pump along the rail's row, supply inlets on rows above, fills above the tank, drains and pickups below. */
export const placeSources = (desk: Desk, neck: string, railY: number): void => {
  const { graph } = desk;
  const sources = [...graph.parts.keys()].filter(graph.isSource);
  const start = mainSource(graph);
  const spine =
    start === undefined || start === neck
      ? []
      : drawnWay(graph, start, (id) => id === neck).slice(0, -1);
  // The tank stands over the first part of its line, which keeps the row short and uses the upper left.
  const overhead = graph.isTank(spine[0] ?? "");
  let x = 0;
  spine.forEach((id, i) => {
    const size = half(desk, id);
    if (overhead && i === 0) {
      put(desk, id, { x: size.halfW, y: railY - TANK_ABOVE_ROW });
      x = size.halfW;
      return;
    }
    x += size.halfW;
    const sides = through(desk, spine[i - 1], id, spine[i + 1] ?? neck, "right");
    const fromTank = overhead && i === 1 ? hop(desk, id, spine[0] ?? "")?.port : undefined;
    put(desk, id, { x, y: railY }, fromTank ? { ...sides, [fromTank]: "up" } : sides);
    x += size.halfW + (size.halfW === 0 ? GAP + 1 : GAP);
  });
  put(
    desk,
    neck,
    { x: Math.max(x, 2), y: railY },
    through(desk, spine.at(-1), neck, undefined, "right"),
  );
  const side = new Set(sources.flatMap((s) => [...joined(graph, s, new Set([neck]))]));
  let inletRow = railY - (overhead ? TANK_ABOVE_ROW + 9 : 8);
  const todo = [...spine, neck];
  for (let id = todo.shift(); id !== undefined; id = todo.shift())
    for (const hop of graph.near.get(id) ?? []) {
      const { to } = hop;
      if (desk.placed.has(to) || !side.has(to)) continue;
      const chain = sourceChain(desk, id, to, (c) => side.has(c));
      const at = desk.placed.get(id)?.at ?? { x: 0, y: railY };
      const size = half(desk, id);
      todo.push(...chain);
      if (chain.some(graph.isTank) && hop.port.startsWith("link")) {
        const was = desk.placed.get(id);
        if (was) desk.placed.set(id, { ...was, sides: { ...was.sides, [hop.port]: "left" } });
        putChain(desk, chain, id, { x: at.x - size.halfW - 2 * GAP, y: at.y + 1 }, "left");
        continue;
      }
      const hangs = chain.some(
        (c) =>
          graph.isDrain(c) ||
          (graph.isSource(c) && !graph.isTank(c) && isPickup(graph.parts.get(c))),
      );
      if (hangs)
        putChain(
          desk,
          chain,
          id,
          { x: graph.isTank(id) ? at.x - 2 : at.x, y: at.y + size.halfH + GAP },
          "down",
        );
      else if (chain.length <= 1)
        putChain(
          desk,
          chain,
          id,
          { x: graph.isTank(id) ? at.x - 2 : at.x, y: at.y - size.halfH - GAP },
          "up",
        );
      else {
        putChain(desk, chain, id, { x: at.x - GAP, y: inletRow }, "left");
        inletRow -= 4;
      }
    }
};

/** A chain on the source side: where it branches it goes on toward a way in, past fills and tanks. */
const sourceChain = (
  desk: Desk,
  from: string,
  first: string,
  allowed: (id: string) => boolean,
): string[] => {
  const { graph } = desk;
  const chain = [first];
  for (let last = first, before = from; ;) {
    if (graph.isTank(last)) return chain;
    const onward = (graph.near.get(last) ?? []).filter(
      (h) => h.to !== before && allowed(h.to) && !desk.placed.has(h.to) && !chain.includes(h.to),
    );
    const blocked = new Set([...desk.placed.keys(), ...chain]);
    const leads = onward.filter(
      (h) =>
        h.run.service !== "fill" &&
        [...joined(graph, h.to, blocked)].some((id) => graph.isSource(id) && !graph.isTank(id)),
    );
    const next = onward.length === 1 ? onward[0] : leads[0];
    if (next === undefined) return chain;
    before = last;
    last = next.to;
    chain.push(last);
  }
};
