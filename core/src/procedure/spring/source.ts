import { liquidIn, situationOf, volumeOf, type Wanted } from "../../contents/index.ts";
import {
  againstChecks,
  type Control,
  type Opening,
  passableLinks,
  reach,
  roleOf,
} from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import { type Context, controlsOf, freshPumps } from "../winterize/context.ts";
import { watchedBy } from "../winterize/watch.ts";
import { forcedReach } from "../fill-lineup.ts";

/** Where water comes from to run an outlet: a pump on its tanks, or a supply at an inlet. */
export interface Source {
  readonly key: string;
  readonly label: string;
  /** Cell from which it presses on. */
  readonly start: number;
  readonly pump?: Control;
  /** Tanks that the pump draws on, by cell. */
  readonly tanks: readonly number[];
  readonly inlet?: Opening;
  readonly cap?: Control;
}

const tanksBehind = (context: Context, inlet: number): number[] => {
  const { network, physical } = context;
  const met = reach(
    network,
    [inlet],
    againstChecks(network, passableLinks(situationOf(network, physical))),
  );
  return network.cells.flatMap((c, i) =>
    met[i] === 1 && c.form === "vessel" && c.kind?.role.vessel === "fresh" ? [i] : [],
  );
};

/** Every source as the valves stand, those that reach most first, pumps before supplies. */
export const sourcesOf = (context: Context): Source[] => {
  const { network, physical } = context;
  const reaches = (start: number): number =>
    forcedReach({ network, lineup: physical.lineup, apart: physical.apart }, start).size;
  const pumps = freshPumps(context).flatMap<Source>((pump) => {
    const driven = network.links.find((l) => l.drivenBy === pump.key);
    if (!driven) return [];
    const tanks = tanksBehind(context, driven.a);
    return tanks.length > 0
      ? [{ key: pump.key, label: pump.part.name, start: driven.b, pump, tanks }]
      : [];
  });
  const supplies = network.openings.flatMap<Source>((inlet) => {
    if (inlet.use !== "supply" || inlet.pressed || roleOf(inlet.part).ashore) return [];
    const cap = controlsOf(context, "cap").find((c) => c.key === inlet.gate?.key);
    return [
      {
        key: inlet.id,
        label: inlet.part.name,
        start: inlet.cell,
        tanks: [],
        inlet,
        ...(cap ? { cap } : {}),
      },
    ];
  });
  const byReach = (all: Source[]): Source[] =>
    all.toSorted((a, b) => reaches(b.start) - reaches(a.start) || (a.key < b.key ? -1 : 1));
  return [...byReach(pumps), ...byReach(supplies)];
};

/** One opening to run, by the source that reaches it. */
export interface Run {
  readonly source: Source;
  readonly control: Control;
  readonly position: string;
  readonly rest: string;
  readonly watch: string;
  readonly wayM3: number;
  readonly cells: readonly number[];
}

export const runFor = (
  context: Context,
  source: Source,
  control: Control,
  position = "open",
  rest = "shut",
): Run | undefined => {
  const watched = watchedBy(
    context,
    control,
    source.pump
      ? { kind: "pump", switchKey: source.pump.key }
      : { kind: "push", cell: source.start },
    position,
  );
  if (!watched) return undefined;
  const cells = watched.order.filter((c) => !source.tanks.includes(c));
  return { source, control, position, rest, watch: watched.watch, wayM3: watched.wayM3, cells };
};

/** What is forced along a run. */
export const driveOf = (
  context: Context,
  run: Run,
  wants: Wanted,
  maxM3: number,
  chlorineMgL?: number,
): Action => {
  const { source } = run;
  return source.pump
    ? { type: "pump", switch: source.pump.key, watch: run.watch, wants, maxM3 }
    : {
        type: "supply",
        cell: context.network.cells[source.start]?.id ?? "",
        inlet: source.inlet?.id ?? "",
        ...(source.cap ? { cap: source.cap.key } : {}),
        watch: run.watch,
        wants,
        maxM3,
        ...(chlorineMgL === undefined ? {} : { chlorineMgL }),
        label: `Hose and regulator on the ${source.label.toLowerCase()}, post opened a little; off again after it`,
      };
};

/** What the tanks of a source hold, and can hold, m3. */
export const inTanks = (context: Context, source: Source): { heldM3: number; fullM3: number } => ({
  heldM3: source.tanks.reduce((s, t) => s + volumeOf(liquidIn(context.physical.contents[t])), 0),
  fullM3: source.tanks.reduce((s, t) => s + (context.network.cells[t]?.capacityM3 ?? 0), 0),
});
