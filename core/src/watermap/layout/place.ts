import type { Part, WaterMap } from "../document.ts";
import { type Desk, GAP, half, type Placed, put, putChain, through } from "./desk.ts";
import { type Side, symbolOf } from "./geometry.ts";
import { placeSources } from "./place-sources.ts";
import { buildGraph, findNeck, type Hop, wayBetween } from "./sides.ts";
import { DRAIN_PITCH, mergeOrders, OUTLET_PITCH, railUp, trunkFrom } from "./trunk.ts";

/**
 * Rules of a plumbing drawing: sources and the tank at the left, the cold main a rail along the bottom, the hot main a rail along
 * the top, heater and bypass where the rails begin, each outlet a rung between the rails in the order of the pipe, drains hanging
 * from where they tap, waste on a strip below.
 */

const LEAST_RAIL_DISTANCE = 15;

/**
 * Pieces that the rails do not hold, each on a row of its own from left to right: raw water, a tank's rinse, a second pump's line, a tap
 * with two sources. Outlets stand above the row, drains and seacocks hang below it.
 */
const placeStrips = (desk: Desk, firstY: number): number => {
  const { graph } = desk;
  const near = (id: string): readonly Hop[] => graph.wet.get(id) ?? [];
  const left = (id: string): boolean => !desk.placed.has(id) && !graph.isWaste(id);
  const isRaw = (id: string): boolean => graph.isSource(id) || graph.isIntake(id);
  let y = firstY;
  for (;;) {
    const waiting = [...graph.parts.keys()].filter(left);
    // A piece is begun where water comes in: at a part that is placed, at a source of its own, else anywhere.
    const root =
      waiting.find((id) => isRaw(id) && !near(id).some((h) => desk.placed.has(h.to))) ??
      waiting.find((id) => near(id).some((h) => desk.placed.has(h.to) && !graph.isOutlet(h.to))) ??
      waiting[0];
    if (root === undefined) return y;
    const seen = new Set([root]);
    const order: string[] = [];
    const walk = (id: string): void => {
      order.push(id);
      const onward = near(id)
        .map((h) => h.to)
        .filter((to) => left(to) && !seen.has(to))
        .toSorted((a, b) => near(a).length - near(b).length || (a < b ? -1 : 1));
      for (const to of onward) {
        if (seen.has(to)) continue;
        seen.add(to);
        // Water ends at an outlet; what lies behind it is another piece.
        if (!graph.isOutlet(id)) walk(to);
      }
    };
    walk(root);
    const before = near(root).find((h) => desk.placed.has(h.to))?.to;
    const startX =
      before === undefined
        ? 2
        : Math.max(2, (desk.placed.get(before)?.at.x ?? 2) + half(desk, before).halfW + GAP);
    const tall = order.some((id) => graph.isOutlet(id) || half(desk, id).halfH > 1);
    const rail = y + (tall ? 6 : 2);
    let x = startX;
    order.forEach((id, i) => {
      const size = half(desk, id);
      const hangs = graph.isDrain(id) || (graph.isIntake(id) && near(id).length === 1 && i > 0);
      const intake = graph.isIntake(id) && i === 0;
      x += size.halfW;
      const at = graph.isOutlet(id)
        ? { x, y: rail - size.halfH - GAP }
        : hangs || intake
          ? { x, y: rail + size.halfH + GAP }
          : { x, y: rail };
      put(
        desk,
        id,
        at,
        graph.isOutlet(id) || hangs || intake
          ? {}
          : through(desk, order[i - 1] ?? before, id, order[i + 1], "right"),
      );
      x += size.halfW + GAP + (size.halfW === 0 ? 1 : 0);
    });
    y = rail + (order.some((id) => graph.isDrain(id) || graph.isIntake(id)) ? 6 : 4);
  }
};

/** Everything past the neck. */
const placeHouse = (desk: Desk, neck: string, railY: number): number => {
  const { graph } = desk;
  const unplaced = (id: string): boolean => !desk.placed.has(id);
  const leaf = (id: string): boolean => graph.isOutlet(id) || graph.isDrain(id);
  const heaters = [...graph.parts.keys()].filter((id) => graph.isHeater(id) && unplaced(id));
  const hotPart = (id: string): boolean => {
    const services = (graph.near.get(id) ?? []).map((h) => h.run.service);
    return services.filter((s) => s === "hot").length * 2 > services.length;
  };
  const cold = trunkFrom(
    desk,
    neck,
    (id) => unplaced(id) && !graph.isHeater(id) && !hotPart(id),
    leaf,
  );
  // Columns of heaters: the way from the cold main up to the first tee of the hot main.
  const neckAt = desk.placed.get(neck)?.at ?? { x: 0, y: railY };
  const onTrunk = (id: string): boolean =>
    id === neck || (cold.parent.has(id) && (cold.children.get(id) ?? []).length > 0);
  const stacks = heaters.map((heater) => {
    const up = wayBetween(graph, heater, onTrunk, (id) => hotPart(id) || graph.isOutlet(id)).slice(
      1,
    );
    const hotHop = graph.near.get(heater)?.find((h) => h.run.service === "hot");
    const after: string[] = [];
    for (
      let [at, before] = [hotHop?.to, heater];
      at !== undefined && half(desk, at).halfW > 0 && !leaf(at) && !graph.isHeater(at);
    ) {
      after.push(at);
      const next = (graph.near.get(at) ?? []).map((h) => h.to).filter((id) => id !== before);
      before = at;
      at = next.length === 1 ? next[0] : undefined;
    }
    const top =
      hotHop && after.length > 0
        ? graph.near
            .get(after.at(-1) as string)
            ?.find((h) => h.to !== heater && !after.includes(h.to))?.to
        : hotHop?.to;
    return { heater, chain: up.slice(0, -1).toReversed(), foot: up.at(-1) ?? neck, after, top };
  });
  const height = (id: string): number => half(desk, id).halfH * 2 + GAP;
  const tallest = Math.max(
    0,
    ...stacks.map((s) =>
      [...s.chain, s.heater, ...s.after].reduce((sum, id) => sum + height(id), GAP),
    ),
  );
  const hotY = railY - Math.max(LEAST_RAIL_DISTANCE, tallest + 1);
  let x = neckAt.x;
  stacks.forEach((stack, i) => {
    if (i > 0) x += 8;
    const column = stack.foot === neck ? neckAt.x + i * 8 : x;
    x = Math.max(x, column);
    putChain(
      desk,
      [...stack.chain, stack.heater, ...stack.after],
      stack.foot,
      { x: column, y: railY - GAP },
      "up",
      stack.top,
    );
  });
  const hotRoots = stacks
    .map((s) => s.top)
    .filter((id): id is string => id !== undefined && unplaced(id));
  const hotRoot = hotRoots[0];
  const hot =
    hotRoot === undefined
      ? undefined
      : trunkFrom(
          desk,
          hotRoot,
          (id) => unplaced(id) && !graph.isHeater(id) && (hotPart(id) || leaf(id)),
          leaf,
        );
  // Columns, left to right.
  const order = mergeOrders(cold.order, hot?.order ?? []).filter(unplaced);
  const column = new Map<string, number>();
  let at = x + (stacks.length > 0 ? 5 : 4);
  for (const id of order) {
    const pitch = graph.isOutlet(id) ? OUTLET_PITCH : DRAIN_PITCH;
    at += pitch / 2;
    column.set(id, Math.round(at));
    at += pitch / 2;
  }
  const middle = Math.round((railY + hotY) / 2);
  for (const id of order) {
    const cx = column.get(id) ?? at;
    if (graph.isOutlet(id)) put(desk, id, { x: cx, y: middle }, {}, 0);
    else if (graph.isDrain(id))
      put(desk, id, { x: cx, y: (cold.order.includes(id) ? railY : hotY) + 3 });
  }
  if (hotRoot !== undefined && hot) {
    const columns = (hot.children.get(hotRoot) ?? []).flatMap((c) => column.get(c) ?? []);
    const rootColumn = columns.length > 0 ? Math.min(...columns) : undefined;
    const stack = stacks.find((s) => s.top === hotRoot);
    const stackX = desk.placed.get(stack?.heater ?? "")?.at.x ?? neckAt.x;
    put(
      desk,
      hotRoot,
      { x: rootColumn ?? stackX, y: hotY },
      {},
      half(desk, hotRoot).halfW === 0 ? 0 : 1,
    );
    railUp(desk, hot, hotRoot, column, hotY, 1);
  }
  railUp(desk, cold, neck, column, railY, -1);
  // What still hangs between two placed parts (a bypass): beside the heater.
  for (const id of [...graph.parts.keys()].filter((p) => unplaced(p) && !graph.isWaste(p))) {
    const ends = (graph.near.get(id) ?? [])
      .map((h) => desk.placed.get(h.to)?.at)
      .filter((p) => p !== undefined);
    if (ends.length === 0) continue;
    const low = Math.max(...ends.map((e) => e.y));
    const high = Math.min(...ends.map((e) => e.y));
    const names = (graph.near.get(id) ?? [])
      .map((h) => h.to)
      .sort((a, b) => (desk.placed.get(b)?.at.y ?? 0) - (desk.placed.get(a)?.at.y ?? 0));
    put(
      desk,
      id,
      { x: Math.min(...ends.map((e) => e.x)) - 4, y: Math.round((low + high) / 2) },
      through(desk, names[0], id, names[1], "up"),
    );
  }
  return at;
};

const sidesOnTheRight = (desk: Desk, before: string, id: string): Record<string, Side> => {
  const run = desk.graph.map.runs.find((r) => r.from.part === before && r.to.part === id);
  return run ? { [run.to.port]: "left", out: "right" } : {};
};

/** Traps under their outlets, waste tanks and discharges below them. */
const placeWaste = (desk: Desk, stripY: number): void => {
  const { graph } = desk;
  const waste = graph.map.runs.filter((r) => r.service === "waste");
  const into = (id: string): string[] =>
    waste.filter((r) => r.to.part === id).map((r) => r.from.part);
  const rest = [...graph.parts.keys()].filter((id) => !desk.placed.has(id) && graph.isWaste(id));
  // A vent and its filter stand beside what they ventilate.
  const airy = (id: string): boolean =>
    ["vent", "filter"].includes(symbolOf(graph.parts.get(id) as Part));
  const airOf = (id: string): string | undefined =>
    airy(id) ? into(id).find((from) => desk.placed.has(from)) : undefined;
  const ready = (id: string): boolean => into(id).some((from) => desk.placed.has(from));
  let row = stripY;
  for (let left = rest; left.length > 0; row += 5) {
    const now = left.filter(ready);
    const batch = now.length > 0 ? now : left;
    const wanted = batch.map((id) => {
      const xs = into(id)
        .map((from) => (desk.placed.get(from)?.at.x ?? 0) + (graph.isOutlet(from) ? 1 : 0))
        .filter((v) => v > 0);
      return { id, x: xs.length > 0 ? Math.round(xs.reduce((a, b) => a + b, 0) / xs.length) : 4 };
    });
    for (const { id, x } of wanted.sort((a, b) => a.x - b.x || (a.id < b.id ? -1 : 1))) {
      const beside = airOf(id);
      if (beside) {
        const at = desk.placed.get(beside)?.at ?? { x, y: row };
        put(
          desk,
          id,
          { x: at.x + half(desk, beside).halfW + GAP + half(desk, id).halfW + 1, y: at.y - 1 },
          sidesOnTheRight(desk, beside, id),
        );
      } else put(desk, id, { x, y: row });
    }
    left = left.filter((id) => !desk.placed.has(id));
  }
};

/** Places every part of a map. The same map gives the same places; a nudged part stays where it was put. */
export const placeParts = (map: WaterMap): Map<string, Placed> => {
  const graph = buildGraph(map);
  const desk: Desk = { graph, placed: new Map(), boxes: new Map() };
  const railY = 0;
  const neck = findNeck(graph);
  if (neck !== undefined) {
    placeSources(desk, neck, railY);
    placeHouse(desk, neck, railY);
  }
  const bottom = Math.max(railY + 1, ...[...desk.boxes.values()].map((b) => b.bottom));
  const stripsY = neck === undefined ? railY : Math.max(railY + 6, bottom + 2);
  const wasteY = placeStrips(desk, stripsY);
  placeWaste(desk, wasteY === stripsY ? railY + 7 : wasteY + 2);
  let x = 2;
  for (const id of graph.parts.keys())
    if (!desk.placed.has(id)) {
      put(desk, id, { x, y: railY + 24 });
      x += 6;
    }
  for (const part of graph.parts.values()) {
    const was = desk.placed.get(part.id);
    if (!part.nudge || !was) continue;
    desk.boxes.delete(part.id);
    put(
      desk,
      part.id,
      { x: was.at.x + Math.round(part.nudge.x), y: was.at.y + Math.round(part.nudge.y) },
      was.sides,
      0,
    );
  }
  return desk.placed;
};
