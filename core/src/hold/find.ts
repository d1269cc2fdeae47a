import { type Control, type Lineup, type Network } from "../watermap/index.ts";
import { sectionsOf } from "../survey/sections.ts";
import { canShut, pressedCells } from "./bound.ts";
import { jointsIn } from "./joints.ts";

/** Which valves to shut next, so that the next hold halves what may leak. */

/** A section of what is under test. */
export interface TestSection {
  readonly id: string;
  readonly cells: readonly number[];
  readonly owners: readonly string[];
  readonly joints: number;
  /** How likely it holds the leak, against the others. */
  readonly likely: number;
}

/** The pieces of what is pressed that valves can part, heaviest first. */
export const testSections = (network: Network, pressed: ReadonlySet<number>): TestSection[] => {
  const known = sectionsOf(network);
  const inOne = new Set(known.flatMap((s) => s.cells));
  // What lies between valves of one and the same part, a filter's bowl, is a piece of its own.
  const stray = [...pressed].filter((c) => !inOne.has(c));
  const others = [...new Set(stray.map((c) => network.cells[c]?.ownerId ?? ""))].map((owner) => ({
    cells: stray.filter((c) => network.cells[c]?.ownerId === owner),
    owners: [owner],
  }));
  return [...known, ...others]
    .flatMap((s) => {
      const cells = s.cells.filter((c) => pressed.has(c));
      if (cells.length === 0) return [];
      const joints = jointsIn(network, new Set(cells));
      return [
        {
          // A manifold stands in several: a cell stands in one only.
          id: network.cells[cells[0] ?? -1]?.id ?? "",
          cells,
          owners: s.owners,
          joints: joints.length,
          likely: joints.reduce((sum, j) => sum + j.likely, 0),
        },
      ];
    })
    .filter((s) => s.joints > 0)
    .toSorted((a, b) => b.likely - a.likely || (a.id < b.id ? -1 : 1));
};

export interface Split {
  /** Valves that are shut for the next hold, all others of the test standing open. */
  readonly shut: readonly Control[];
  /** Sections that stay with the gauge. */
  readonly near: readonly string[];
  /** Suspects with the gauge, and beyond. */
  readonly nearSuspects: readonly string[];
  readonly farSuspects: readonly string[];
}

export interface Hunt {
  readonly network: Network;
  /** As the test stands with everything open that is under test. */
  readonly lineup: Lineup;
  /** Where gauge and source are. */
  readonly gauge: number;
  readonly sections: readonly TestSection[];
}

const HALF = 0.5;
const MOST_STARTS = 40;

/** Sections that feel the gauge with some valves shut. */
const nearWith = (hunt: Hunt, shut: readonly Control[]): Set<string> => {
  const lineup = {
    ...hunt.lineup,
    ...Object.fromEntries(shut.map((c) => [c.key, "shut"])),
  };
  const pressed = pressedCells(hunt.network, lineup, hunt.gauge);
  return new Set(hunt.sections.flatMap((s) => (s.cells.some((c) => pressed.has(c)) ? [s.id] : [])));
};

/** Valves of the test that stand open and can be shut. */
const shuttable = (hunt: Hunt): Control[] =>
  hunt.network.controls.filter(
    (c) =>
      canShut(c) &&
      (hunt.lineup[c.key] ?? c.spec.inUse) !== "shut" &&
      hunt.sections.some((s) => s.owners.includes(c.part.id) || touches(hunt, c)),
  );

const touches = (hunt: Hunt, control: Control): boolean =>
  hunt.network.links.some(
    (l) =>
      l.gates.some((g) => g.key === control.key) &&
      hunt.sections.some((s) => s.cells.includes(l.a) || s.cells.includes(l.b)),
  );

/** Only the valves that really part what is near from the rest: the others stay open. */
const needed = (hunt: Hunt, shut: readonly Control[]): Control[] => {
  let kept = [...shut];
  const wanted = nearWith(hunt, shut);
  for (const control of shut) {
    const fewer = kept.filter((c) => c !== control);
    const near = nearWith(hunt, fewer);
    if (near.size === wanted.size) kept = fewer;
  }
  return kept;
};

interface Tried {
  readonly shut: readonly Control[];
  readonly near: ReadonlySet<string>;
  readonly most: number;
  readonly off: number;
}

/**
 * The next split: valves shut so that what stays with the gauge holds about half of what is suspected, by how likely; first of all so that
 * neither side holds more sections than halving allows. Undefined where no valve parts the suspects.
 */
export const nextSplit = (hunt: Hunt, suspects: ReadonlySet<string>): Split | undefined => {
  const valves = shuttable(hunt);
  const weight = (ids: Iterable<string>): number =>
    [...ids].reduce((sum, id) => sum + (hunt.sections.find((s) => s.id === id)?.likely ?? 0), 0);
  const whole = weight(suspects);
  const fair = Math.ceil(suspects.size / 2);
  let best: Tried | undefined;
  const consider = (shut: readonly Control[]): ReadonlySet<string> => {
    const near = nearWith(hunt, shut);
    const inside = [...suspects].filter((id) => near.has(id));
    if (inside.length === 0 || inside.length === suspects.size) return near;
    const tried: Tried = {
      shut,
      near,
      most: Math.max(fair, inside.length, suspects.size - inside.length),
      off: Math.abs(weight(inside) / whole - HALF),
    };
    if (
      !best ||
      tried.most < best.most ||
      (tried.most === best.most &&
        (tried.off < best.off - 1e-9 ||
          (Math.abs(tried.off - best.off) < 1e-9 && tried.shut.length < best.shut.length)))
    )
      best = tried;
    return near;
  };
  for (const control of valves) consider([control]);
  // Grown from the gauge outwards, one valve after another opened, from each first valve in turn.
  const all = new Set(valves);
  for (const first of [undefined, ...valves].slice(0, MOST_STARTS)) {
    let shut = [...all].filter((c) => c !== first);
    let near = consider(shut);
    while (shut.length > 0) {
      const next = nextToOpen(hunt, shut, near, suspects);
      if (!next) break;
      shut = shut.filter((c) => c !== next);
      near = consider(shut);
    }
  }
  if (!best) return undefined;
  const shut = needed(hunt, best.shut);
  const near = best.near;
  return {
    shut,
    near: [...near],
    nearSuspects: [...suspects].filter((id) => near.has(id)),
    farSuspects: [...suspects].filter((id) => !near.has(id)),
  };
};

/** The valve whose opening adds least that is suspected, so that no half is passed over. */
const nextToOpen = (
  hunt: Hunt,
  shut: readonly Control[],
  near: ReadonlySet<string>,
  suspects: ReadonlySet<string>,
): Control | undefined => {
  let found: { control: Control; added: number } | undefined;
  for (const control of shut) {
    const more = nearWith(
      hunt,
      shut.filter((c) => c !== control),
    );
    if (more.size <= near.size) continue;
    const added = [...more].filter((id) => !near.has(id) && suspects.has(id)).length;
    if (!found || added < found.added) found = { control, added };
  }
  return found?.control;
};

/** What is left after an answer: the gauge fell with those valves shut, or it held. */
export const narrowed = (split: Split, fell: boolean): ReadonlySet<string> =>
  new Set(fell ? split.nearSuspects : split.farSuspects);
