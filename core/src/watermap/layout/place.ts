import { type Part, paramsOf, type WaterMap } from "../document.ts";
import { PART_KINDS } from "../kinds/index.ts";
import {
  type Box,
  boxAt,
  OPPOSITE,
  overlaps,
  type Point,
  type Side,
  shapeOf,
  STEP,
  symbolOf,
} from "./geometry.ts";
import {
  buildGraph,
  drawnWay,
  findNeck,
  type Graph,
  type Hop,
  joined,
  mainSource,
  wayBetween,
} from "./sides.ts";

/** A hose for a jug: it hangs below what it joins. */
const isPickup = (part: Part | undefined): boolean =>
  part !== undefined &&
  PART_KINDS.get(part.kind)
    ?.anatomy(paramsOf(part))
    .openings.some((o) => o.use === "pickup") === true;

/**
 * Rules of a plumbing drawing: sources and the tank at the left, the cold main a rail along the bottom, the hot main a rail along
 * the top, heater and bypass where the rails begin, each outlet a rung between the rails in the order of the pipe, drains hanging
 * from where they tap, waste on a strip below.
 */

export interface Placed {
  readonly at: Point;
  /** Sides that pipes ask for, by port. */
  readonly sides: Record<string, Side>;
}

const GAP = 2;
const OUTLET_PITCH = 5;
const DRAIN_PITCH = 4;
const LEAST_RAIL_DISTANCE = 15;
const TANK_ABOVE_ROW = 8;

interface Desk {
  readonly graph: Graph;
  readonly placed: Map<string, Placed>;
  readonly boxes: Map<string, Box>;
}

const half = (desk: Desk, id: string): { halfW: number; halfH: number } => {
  const part = desk.graph.parts.get(id);
  return part ? shapeOf(part) : { halfW: 1, halfH: 1 };
};

const isFree = (desk: Desk, id: string, at: Point, margin: number): boolean => {
  const box = boxAt(at, half(desk, id), margin);
  for (const [other, b] of desk.boxes) if (other !== id && overlaps(box, b)) return false;
  return true;
};

/** Puts a part at a place, or at the nearest free one: rings outward, always in the same order. */
const put = (
  desk: Desk,
  id: string,
  at: Point,
  sides: Record<string, Side> = {},
  margin = 1,
): Point => {
  let found = at;
  search: for (let ring = 0; ring < 200; ring++)
    for (let dx = -ring; dx <= ring; dx++)
      for (let dy = -ring; dy <= ring; dy++) {
        if (Math.max(Math.abs(dx), Math.abs(dy)) !== ring) continue;
        found = { x: at.x + dx, y: at.y + dy };
        if (isFree(desk, id, found, margin)) break search;
      }
  desk.placed.set(id, { at: found, sides });
  desk.boxes.set(id, boxAt(found, half(desk, id)));
  return found;
};

const hop = (desk: Desk, from: string, to: string): Hop | undefined =>
  desk.graph.wet.get(from)?.find((h) => h.to === to);

/** Sides for a part passed along a direction: in by one end, out by the other. */
const through = (
  desk: Desk,
  before: string | undefined,
  id: string,
  after: string | undefined,
  dir: Side,
): Record<string, Side> => {
  const sides: Record<string, Side> = {};
  const inPort = before === undefined ? undefined : hop(desk, id, before)?.port;
  const outPort = after === undefined ? undefined : hop(desk, id, after)?.port;
  if (inPort) sides[inPort] = OPPOSITE[dir];
  if (outPort) sides[outPort] = dir;
  return sides;
};

/** A chain of parts from a start outward, then whatever branches off it, each at the nearest free place. */
const putChain = (
  desk: Desk,
  chain: readonly string[],
  from: string | undefined,
  start: Point,
  dir: Side,
  onward?: string,
): void => {
  let at = start;
  let before: string | undefined;
  chain.forEach((id, i) => {
    const size = half(desk, id);
    const reach = dir === "left" || dir === "right" ? size.halfW : size.halfH;
    at = { x: at.x + STEP[dir].x * reach, y: at.y + STEP[dir].y * reach };
    const placed = put(
      desk,
      id,
      at,
      through(desk, before ?? from, id, chain[i + 1] ?? onward, dir),
    );
    at = { x: placed.x + STEP[dir].x * (reach + GAP), y: placed.y + STEP[dir].y * (reach + GAP) };
    before = id;
  });
};

/** The source side: tank and pump along the rail's row, supply inlets on rows above, fills above the tank, drains and pickups below. */
const placeSources = (desk: Desk, neck: string, railY: number): void => {
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

interface Trunk {
  /** Leaves and in-line parts in the order in which the rail meets them. */
  readonly order: string[];
  /** Parents by part, from the rail's beginning. */
  readonly parent: Map<string, string>;
  readonly children: Map<string, string[]>;
}

/** The tree of a main from its beginning, the small branch of every tee first, so that the main itself runs on. */
const trunkFrom = (
  desk: Desk,
  root: string,
  allowed: (id: string) => boolean,
  leaf: (id: string) => boolean,
): Trunk => {
  const parent = new Map<string, string>();
  const children = new Map<string, string[]>();
  const seen = new Set([root]);
  const todo = [root];
  for (let at = todo.shift(); at !== undefined; at = todo.shift()) {
    if (at !== root && leaf(at)) continue;
    for (const { to } of desk.graph.near.get(at) ?? []) {
      if (seen.has(to) || !allowed(to)) continue;
      seen.add(to);
      parent.set(to, at);
      children.set(at, [...(children.get(at) ?? []), to]);
      todo.push(to);
    }
  }
  const weight = new Map<string, number>();
  const weigh = (id: string): number => {
    const own = leaf(id) ? 1 : 0;
    const all = own + (children.get(id) ?? []).reduce((sum, c) => sum + weigh(c), 0);
    weight.set(id, all);
    return all;
  };
  weigh(root);
  for (const [id, list] of children)
    children.set(
      id,
      list
        .filter((c) => (weight.get(c) ?? 0) > 0)
        .sort((a, b) => (weight.get(a) ?? 0) - (weight.get(b) ?? 0) || (a < b ? -1 : 1)),
    );
  const order: string[] = [];
  const visit = (id: string): void => {
    const inline = id !== root && !leaf(id) && half(desk, id).halfW > 0;
    if (leaf(id) || inline) order.push(id);
    for (const c of children.get(id) ?? []) visit(c);
  };
  visit(root);
  return { order, parent, children };
};

/** Sets the tees and in-line parts of a trunk on its rail, sub-branches with several leaves on rails of their own. */
const railUp = (
  desk: Desk,
  trunk: Trunk,
  root: string,
  column: ReadonlyMap<string, number>,
  railY: number,
  inward: 1 | -1,
): void => {
  const firstColumn = (id: string): number => {
    const own = column.get(id);
    if (own !== undefined) return own;
    return Math.min(...(trunk.children.get(id) ?? []).map(firstColumn), Number.POSITIVE_INFINITY);
  };
  const visit = (id: string, level: number): void => {
    const list = trunk.children.get(id) ?? [];
    if (id !== root && !desk.placed.has(id)) {
      const x = column.get(id) ?? firstColumn(id);
      if (Number.isFinite(x))
        put(
          desk,
          id,
          { x, y: level },
          through(desk, trunk.parent.get(id), id, list[0], "right"),
          half(desk, id).halfW === 0 ? 0 : 1,
        );
    }
    list.forEach((child, i) => {
      const last = i === list.length - 1;
      const several = (trunk.children.get(child) ?? []).length > 0;
      visit(child, last || !several ? level : level + inward * 3);
    });
  };
  visit(root, railY);
};

/** Merges the order of the hot main into that of the cold: what only hot meets goes before its next companion. */
const mergeOrders = (cold: readonly string[], hot: readonly string[]): string[] => {
  const order = [...cold];
  hot.forEach((id, i) => {
    if (order.includes(id)) return;
    const next = hot.slice(i + 1).find((later) => order.includes(later));
    order.splice(next === undefined ? order.length : order.indexOf(next), 0, id);
  });
  return order;
};

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
