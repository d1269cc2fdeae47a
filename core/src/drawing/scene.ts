import { type Contents, liquidIn, type Mixture, plus, volumeOf } from "../contents/index.ts";
import {
  cellId,
  kindOfPart,
  type LaidPart,
  type LaidRun,
  type Lineup,
  type MapLayout,
  type Network,
  type Part,
  paramsOf,
  PIPE_SYSTEMS,
  type PipeRun,
} from "../watermap/index.ts";
import { inkOf } from "./ink.ts";

/** One grid unit of the layout on the drawing, px. */
export const UNIT_PX = 16;

export interface ScenePart {
  readonly laid: LaidPart;
  readonly part: Part;
  /** Whether a port's own gate stands open; ports without one are open. */
  readonly portOpen: Readonly<Record<string, boolean>>;
  /** Positions of its controls, by the control's name. */
  readonly positions: Readonly<Record<string, string>>;
  readonly cells: Readonly<Record<string, SceneCell>>;
}

export interface SceneCell {
  readonly liquid: Mixture;
  /** How full, 0 to 1. */
  readonly share: number;
}

export interface ScenePipe {
  readonly laid: LaidRun;
  readonly run: PipeRun;
  readonly share: number;
  /** From the run's "from" end: each plug's part of the length. */
  readonly plugs: readonly { readonly liquid: Mixture; readonly share: number }[];
  readonly widthPx: number;
}

/** Everything that a drawing shows, worked out once per state. */
export interface Scene {
  readonly layout: MapLayout;
  readonly parts: readonly ScenePart[];
  readonly pipes: readonly ScenePipe[];
}

const WIDTH_PER_MM = 0.42;
const LEAST_WIDTH = 7;
const MOST_WIDTH = 15;

const cellsOf = (network: Network, contents: Contents, part: Part): Record<string, SceneCell> => {
  const anatomy = kindOfPart(part).anatomy(paramsOf(part));
  return Object.fromEntries(
    anatomy.cells.map((spec) => {
      const index = network.cellIndex.get(cellId(part.id, spec.name)) ?? -1;
      const liquid = liquidIn(contents[index]);
      return [
        spec.name,
        { liquid, share: Math.min(1, volumeOf(liquid) / Math.max(spec.volumeM3, 1e-12)) },
      ];
    }),
  );
};

/** Plugs that look the same are drawn as one. */
const sameInkTogether = (
  plugs: readonly Mixture[],
  capacityM3: number,
): { liquid: Mixture; share: number }[] => {
  const together: Mixture[] = [];
  for (const plug of plugs) {
    const last = together.at(-1);
    if (last && inkOf(last) === inkOf(plug)) together[together.length - 1] = plus(last, plug);
    else together.push(plug);
  }
  return together.map((liquid) => ({ liquid, share: volumeOf(liquid) / capacityM3 }));
};

export const buildScene = (
  network: Network,
  contents: Contents,
  lineup: Lineup,
  layout: MapLayout,
): Scene => {
  const parts = layout.parts.flatMap<ScenePart>((laid) => {
    const part = network.map.parts.find((p) => p.id === laid.id);
    if (!part) return [];
    const anatomy = kindOfPart(part).anatomy(paramsOf(part));
    const controls = network.controls.filter((c) => c.part.id === part.id);
    const positions = Object.fromEntries(
      controls.map((c) => [c.spec.name, lineup[c.key] ?? c.spec.inUse]),
    );
    const portOpen = Object.fromEntries(
      anatomy.ports.map((p) => [
        p.name,
        !p.gate || p.gate.in.includes(positions[p.gate.control] ?? ""),
      ]),
    );
    return [{ laid, part, portOpen, positions, cells: cellsOf(network, contents, part) }];
  });
  const pipes = layout.runs.flatMap<ScenePipe>((laid) => {
    const run = network.map.runs.find((r) => r.id === laid.id);
    const index = network.cellIndex.get(laid.id);
    const cell = index === undefined ? undefined : network.cells[index];
    if (!run || index === undefined || !cell) return [];
    const bore = (PIPE_SYSTEMS.get(run.pipe)?.boreM ?? 0.012) * 1000;
    const plugs = sameInkTogether(contents[index]?.plugs ?? [], cell.capacityM3);
    return [
      {
        laid,
        run,
        share: plugs.reduce((sum, p) => sum + p.share, 0),
        plugs,
        widthPx: Math.max(LEAST_WIDTH, Math.min(MOST_WIDTH, 3 + bore * WIDTH_PER_MM)),
      },
    ];
  });
  return { layout, parts, pipes };
};
