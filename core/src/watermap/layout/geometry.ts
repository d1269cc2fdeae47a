import { paramsOf, type Part } from "../document.ts";
import { PART_KINDS } from "../kinds/index.ts";

/** Drawing plane in grid units, y down. Parts stand at whole numbers, pipes too but where they were taken apart. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

export type Side = "left" | "right" | "up" | "down";
export const STEP: Record<Side, Point> = {
  left: { x: -1, y: 0 },
  right: { x: 1, y: 0 },
  up: { x: 0, y: -1 },
  down: { x: 0, y: 1 },
};
export const OPPOSITE: Record<Side, Side> = {
  left: "right",
  right: "left",
  up: "down",
  down: "up",
};

/** Where a port lies on its part: offset from the centre, and the side a pipe leaves by (any, at a tee). */
export interface PortPlace {
  readonly dx: number;
  readonly dy: number;
  readonly side?: Side;
}

export interface Shape {
  /** Half width and half height, whole numbers. */
  readonly halfW: number;
  readonly halfH: number;
  /** Ports at fixed places; in-line symbols have none and take the sides that the pipe asks for. */
  readonly fixed?: Readonly<Record<string, PortPlace>>;
}

const OUTLET: Shape = {
  halfW: 2,
  halfH: 2,
  fixed: {
    cold: { dx: 0, dy: 2, side: "down" },
    water: { dx: 0, dy: 2, side: "down" },
    hot: { dx: 0, dy: -2, side: "up" },
    // A tap that chooses between two sources has them where others have cold and hot.
    tank: { dx: 0, dy: 2, side: "down" },
    supply: { dx: 0, dy: -2, side: "up" },
    waste: { dx: 1, dy: 2, side: "down" },
  },
};

const place = (dx: number, dy: number, side: Side): PortPlace => ({ dx, dy, side });
const UP_STUB: Shape = {
  halfW: 1,
  halfH: 1,
  fixed: { in: place(0, -1, "up"), out: place(0, -1, "up") },
};
const DOWN_STUB: Shape = { halfW: 1, halfH: 1, fixed: { in: place(0, 1, "down") } };

/** Ways out of a manifold: above, then below. */
const manifoldWays = Object.fromEntries(
  [1, 2, 3, 4, 5, 6, 7, 8].map((n) => {
    const dx = [-4, -1, 2, 5][(n - 1) % 4] ?? 0;
    return [`out${n}`, n <= 4 ? place(dx, -1, "up") : place(dx, 1, "down")];
  }),
);

const SHAPES: Readonly<Record<string, Shape>> = {
  tee: { halfW: 0, halfH: 0 },
  elbow: { halfW: 0, halfH: 0 },
  tank: {
    halfW: 3,
    halfH: 2,
    fixed: {
      fill: { dx: -2, dy: -2, side: "up" },
      outlet: { dx: 1, dy: 2, side: "down" },
      outlet2: { dx: 2, dy: 2, side: "down" },
      drain: { dx: -2, dy: 2, side: "down" },
      out: { dx: 0, dy: 2, side: "down" },
      link: { dx: 3, dy: 1, side: "right" },
      link2: { dx: -3, dy: 1, side: "left" },
      overflow: { dx: 2, dy: -2, side: "up" },
      air: { dx: 3, dy: -1, side: "right" },
      in: { dx: -2, dy: -2, side: "up" },
      in2: { dx: -1, dy: -2, side: "up" },
      in3: { dx: 1, dy: -2, side: "up" },
      in4: { dx: 2, dy: -2, side: "up" },
    },
  },
  heater: {
    halfW: 2,
    halfH: 2,
    fixed: { cold: { dx: 0, dy: 2, side: "down" }, hot: { dx: 0, dy: -2, side: "up" } },
  },
  tap: OUTLET,
  shower: OUTLET,
  toilet: OUTLET,
  trap: {
    halfW: 1,
    halfH: 1,
    fixed: { in: { dx: 0, dy: -1, side: "up" }, out: { dx: 0, dy: 1, side: "down" } },
  },
  appliance: OUTLET,
  drain: UP_STUB,
  overboard: UP_STUB,
  pickup: UP_STUB,
  seacock: UP_STUB,
  vent: DOWN_STUB,
  accumulator: DOWN_STUB,
  panel: {
    halfW: 3,
    halfH: 2,
    fixed: {
      supply: place(-3, -1, "left"),
      tank: place(-3, 1, "left"),
      jug: place(-1, 2, "down"),
      pump: place(1, 2, "down"),
      house: place(3, 0, "right"),
    },
  },
  manifold: {
    halfW: 6,
    halfH: 1,
    fixed: { in: place(-6, 0, "left"), in2: place(6, 0, "right"), ...manifoldWays },
  },
  unknown: {
    halfW: 1,
    halfH: 1,
    fixed: {
      a: place(-1, 0, "left"),
      b: place(1, 0, "right"),
      c: place(0, -1, "up"),
      d: place(0, 1, "down"),
    },
  },
};

const IN_LINE: Shape = { halfW: 1, halfH: 1 };

export const symbolOf = (part: Part): string => PART_KINDS.get(part.kind)?.symbol ?? "box";
export const shapeOf = (part: Part): Shape => SHAPES[symbolOf(part)] ?? IN_LINE;

const portNames = (part: Part): string[] =>
  PART_KINDS.get(part.kind)
    ?.anatomy(paramsOf(part))
    .ports.map((p) => p.name) ?? [];

const FREE_SIDES: readonly Side[] = ["down", "left", "right", "up"];

/**
 * The places of a part's ports.
 * @param wanted sides asked for by the pipe, by port; the rest take what is free
 */
export const placePorts = (
  part: Part,
  wanted: Readonly<Record<string, Side>>,
): Record<string, PortPlace> => {
  const shape = shapeOf(part);
  const names = portNames(part);
  if (shape.fixed) {
    const single = shape.fixed.cold ?? shape.fixed.in;
    return Object.fromEntries(
      names.map((name) => {
        const side = wanted[name];
        // A link between tanks leaves toward the other tank.
        if (name.startsWith("link") && (side === "left" || side === "right"))
          return [name, place(STEP[side].x * shape.halfW, 1, side)];
        return [
          name,
          shape.fixed?.[name] ?? single ?? { dx: 0, dy: shape.halfH, side: "down" as const },
        ];
      }),
    );
  }
  if (shape.halfW === 0) return Object.fromEntries(names.map((name) => [name, { dx: 0, dy: 0 }]));
  const taken = new Set(Object.values(wanted));
  return Object.fromEntries(
    names.map((name) => {
      const side = wanted[name] ?? FREE_SIDES.find((s) => !taken.has(s)) ?? "down";
      taken.add(side);
      return [name, { dx: STEP[side].x * shape.halfW, dy: STEP[side].y * shape.halfH, side }];
    }),
  );
};

export interface Box {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

export const boxAt = (at: Point, shape: Shape, margin = 0): Box => ({
  left: at.x - shape.halfW - margin,
  right: at.x + shape.halfW + margin,
  top: at.y - shape.halfH - margin,
  bottom: at.y + shape.halfH + margin,
});

export const overlaps = (a: Box, b: Box): boolean =>
  a.left <= b.right && b.left <= a.right && a.top <= b.bottom && b.top <= a.bottom;
