import { type Desk, half, put, through } from "./desk.ts";

/** The mains, each along a rail of its own. */

export const OUTLET_PITCH = 5;
export const DRAIN_PITCH = 4;

interface Trunk {
  /** Leaves and in-line parts in the order in which the rail meets them. */
  readonly order: string[];
  /** Parents by part, from the rail's beginning. */
  readonly parent: Map<string, string>;
  readonly children: Map<string, string[]>;
}

/** The tree of a main from its beginning, the small branch of every tee first, so that the main itself runs on. */
export const trunkFrom = (
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
export const railUp = (
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
export const mergeOrders = (cold: readonly string[], hot: readonly string[]): string[] => {
  const order = [...cold];
  hot.forEach((id, i) => {
    if (order.includes(id)) return;
    const next = hot.slice(i + 1).find((later) => order.includes(later));
    order.splice(next === undefined ? order.length : order.indexOf(next), 0, id);
  });
  return order;
};
