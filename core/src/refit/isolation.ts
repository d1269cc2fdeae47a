import { drain, startingContents, totalAboard, volumeOf } from "../contents/index.ts";
import {
  type ApartEnd,
  inUseLineup,
  type Lineup,
  type Network,
  type Part,
  reach,
  runsAt,
} from "../watermap/index.ts";

/** Whether a part can be taken out without draining the unit: proved on the graph, and what runs out then reckoned by the engine. */

export interface Isolation {
  /** Valves to shut, by control key and name; none where no valve stands between. */
  readonly shut: readonly { readonly key: string; readonly name: string }[];
  /** Tanks and heaters whose water stands on the part all the same. */
  readonly still: readonly string[];
  /** Ways in from outside that press on it: shut off and let down first. */
  readonly pressed: readonly string[];
  /** What runs out at its undone ends with every tap shut, m3 (worked out, from the unit as it stands in use). */
  readonly outM3: number;
  /** What runs out once air comes in by an open tap, m3. */
  readonly mostM3: number;
  /** Hot water stands on it: off, cooled, and its pressure gone before anything is undone. */
  readonly isHot: boolean;
}

const canShut = (network: Network): Network["controls"] =>
  network.controls.filter(
    (c) => c.spec.role === "valve" && c.spec.positions.some((p) => p.name === "shut"),
  );

const called = (part: Part): string => `${part.tag ? `${part.tag} ` : ""}${part.name}`;

/** Cells that stand on a part with some valves shut: past everything else that can be opened, no pump's valves passed. */
const standOn = (network: Network, part: Part, shut: ReadonlySet<string>): Set<number> => {
  const own = network.cells.flatMap((c, i) => (c.ownerId === part.id ? [i] : []));
  const marks = reach(network, own, (l, from) => {
    const link = network.links[l];
    if (!link || link.drivenBy !== undefined) return false;
    // A vessel's water comes by it; what stands beyond a vessel comes through it.
    if (network.cells[from]?.form === "vessel" && !own.includes(from)) return false;
    return link.gates.every((g) => g.in.length > 0 && !shut.has(g.key));
  });
  return new Set([...marks.keys()].filter((c) => marks[c] === 1));
};

/** The valves of all that can be shut which really stand between: with any one of them open, more stands on the part. */
const neededOf = (network: Network, part: Part): Network["controls"] => {
  let shut = canShut(network).filter((c) => c.part.id !== part.id);
  const size = standOn(network, part, new Set(shut.map((c) => c.key))).size;
  for (const control of shut) {
    const without = shut.filter((c) => c !== control);
    if (standOn(network, part, new Set(without.map((c) => c.key))).size === size) shut = without;
  }
  return shut;
};

const apartAt = (network: Network, part: Part): ApartEnd[] =>
  runsAt(network.map, part.id).map((run) => ({
    run: run.id,
    end: run.from.part === part.id ? "from" : "to",
    jug: false,
  }));

/** How a part is isolated, and what runs out when its ends are undone with every tap shut. */
export const isolationOf = (network: Network, part: Part): Isolation => {
  const shut = neededOf(network, part);
  const cells = standOn(network, part, new Set(shut.map((c) => c.key)));
  const vessels = [...cells].flatMap((c) => {
    const cell = network.cells[c];
    return cell?.form === "vessel" && cell.part && cell.ownerId !== part.id && cell.side !== "waste"
      ? [cell.part]
      : [];
  });
  const lineup: Lineup = {
    ...inUseLineup(network),
    ...Object.fromEntries(
      network.controls.filter((c) => c.spec.role === "switch").map((c) => [c.key, "off"] as const),
    ),
    ...Object.fromEntries(shut.map((c) => [c.key, "shut"] as const)),
  };
  const before = startingContents(network);
  const apart = apartAt(network, part);
  const out = (of: Lineup): number => {
    const after = drain({ network, lineup: of, apart }, before).contents;
    return Math.max(0, volumeOf(totalAboard(before)) - volumeOf(totalAboard(after)));
  };
  const opened = network.controls.flatMap((c) =>
    c.spec.role === "outlet" && c.part.id !== part.id
      ? [[c.key, c.spec.positions.find((p) => p.name === "open")?.name ?? c.spec.inUse] as const]
      : [],
  );
  const outM3 = out(lineup);
  const hot = (c: number): boolean =>
    network.cells[c]?.run?.service === "hot" || network.cells[c]?.kind?.role.vessel === "heater";
  return {
    shut: shut.map((c) => ({ key: c.key, name: called(c.part) })),
    still: [...new Set(vessels.map(called))],
    pressed: [
      ...new Set(
        network.openings.flatMap((o) =>
          cells.has(o.cell) && o.use === "supply" ? [called(o.part)] : [],
        ),
      ),
    ],
    outM3,
    mostM3: Math.max(outM3, out({ ...lineup, ...Object.fromEntries(opened) })),
    isHot: [...cells].some(hot),
  };
};
