import { PART_KINDS, paramSchema } from "../watermap/index.ts";
import type { Draft, PartMore, WayMore } from "./draft.ts";
import { type Answers, perhaps, questionOf, UNKNOWN } from "./questions.ts";

/** Pieces of plumbing that patterns share: mains, the heater with its bypass, outlets on their rails, waste. */

export interface Pipes {
  readonly cold: WayMore;
  readonly hot: WayMore;
  readonly suction: WayMore;
}

export const pipesOf = (tube: string, hose = "hose-13"): Pipes => ({
  cold: { pipe: tube, service: "cold" },
  hot: { pipe: tube, service: "hot" },
  suction: { pipe: hose, service: "suction" },
});

export const FILL: WayMore = { pipe: "hose-38", service: "fill" };
export const RAW: WayMore = { pipe: "hose-19", service: "raw" };

/** An outlet, by the ports that it takes water from. */
export interface Outlet {
  readonly id: string;
  readonly kind: string;
  readonly name: string;
  readonly heightM: number;
  readonly cold?: string;
  readonly hot?: string;
  readonly more?: PartMore;
  /** Its waste: a trap, or straight into a tank. */
  readonly waste?: "trap" | "straight";
}

export const mixer = (id: string, name: string, place: string, heightM = 0.9): Outlet => ({
  id,
  kind: "mixer-tap",
  name,
  heightM,
  cold: "cold",
  hot: "hot",
  waste: "trap",
  more: { place },
});
export const shower = (id: string, name: string, place: string): Outlet => ({
  id,
  kind: "shower",
  name,
  heightM: 1.1,
  cold: "cold",
  hot: "hot",
  waste: "trap",
  more: { place },
});
export const outside = (id: string, name: string, place: string, more: PartMore = {}): Outlet => ({
  id,
  kind: "outside-shower",
  name,
  heightM: 0.6,
  cold: "cold",
  hot: "hot",
  more: { place, ...more },
});
export const toilet = (id: string, name: string, place: string): Outlet => ({
  id,
  kind: "toilet",
  name,
  heightM: 0.35,
  cold: "water",
  waste: "straight",
  more: { place },
});
export const single = (
  id: string,
  name: string,
  place: string,
  more: Partial<Outlet> = {},
): Outlet => ({
  id,
  kind: "single-tap",
  name,
  heightM: 0.9,
  cold: "in",
  waste: "trap",
  more: { place },
  ...more,
});
export const iceMaker = (id: string, place: string, more: PartMore = {}): Outlet => ({
  id,
  kind: "ice-maker",
  name: "Ice maker",
  heightM: 0.8,
  cold: "water",
  more: { place, ...more },
});

/** Tees along a main, one for each outlet but the last, whose pipe ends the main. Drains hang where they are asked for. */
export const rail = (
  b: Draft,
  root: string,
  outlets: readonly Outlet[],
  side: "cold" | "hot",
  pipes: Pipes,
  heightM: number,
  drain?: { id: string; name: string; more?: PartMore },
): void => {
  const served = outlets.filter((o) => o[side]);
  let at = root;
  if (drain && served.length > 0) {
    const tee = `t-${drain.id}`;
    b.add(tee, "tee", `Tee to ${drain.name.toLowerCase()}`, heightM - 0.05);
    b.add(drain.id, "low-point-drain", drain.name, heightM - 0.1, drain.more);
    b.way(`${at} ${tee}`, pipes[side]);
    b.way(`${tee} 0.1 ${drain.id}`, pipes[side]);
    at = tee;
  }
  served.forEach((outlet, i) => {
    const target = `${outlet.id}.${outlet[side]}`;
    if (i === served.length - 1) {
      b.way(`${at} 1.4 ${target}`, pipes[side]);
      return;
    }
    const tee = `t-${outlet.id}-${side === "cold" ? "c" : "h"}`;
    b.add(
      tee,
      "tee",
      `${outlet.name} tee, ${side}`,
      heightM,
      outlet.more?.place ? { place: outlet.more.place } : {},
    );
    b.way(`${at} 1 ${tee}`, pipes[side]);
    b.way(`${tee} 0.8 ${target}`, pipes[side]);
    at = tee;
  });
};

export interface HeaterWish {
  readonly kind: string;
  readonly bypass: string;
  readonly volumeL?: number;
  readonly place: string;
  readonly access?: string;
  readonly heightM?: number;
  readonly check?: "cold" | "hot" | "none" | "cold unknown" | "hot unknown";
  readonly params?: PartMore["params"];
}

const HEATER_KIND: Record<string, string> = {
  storage: "storage-heater",
  "on-demand": "on-demand-heater",
  "point-of-use": "point-of-use-heater",
  [UNKNOWN]: "storage-heater",
};

/**
 * The heater with its bypass between a part of the cold main and the beginning of the hot main.
 * @param from part of the cold main with a free port
 * @returns the part from which the hot main runs on, or nothing where there is no heater
 */
export const heater = (
  b: Draft,
  from: string,
  wish: HeaterWish,
  pipes: Pipes,
): string | undefined => {
  const kind = HEATER_KIND[wish.kind];
  if (!kind) return undefined;
  const h = wish.heightM ?? 0.2;
  const at = { place: wish.place, ...(wish.access ? { access: wish.access } : {}) };
  // Of what is usual for the family, what this kind of heater has.
  const usual: Record<string, number | string | boolean> = {
    ...(wish.volumeL === undefined || kind === "on-demand-heater" ? {} : { volumeL: wish.volumeL }),
    ...wish.params,
  };
  const params = Object.fromEntries(
    Object.entries(usual).filter(([name, value]) => {
      const spec = PART_KINDS.get(kind)?.params[name];
      return spec !== undefined && paramSchema(spec).safeParse(value).success;
    }),
  );
  b.add("heater", kind, "Heater", h, { ...at, ...perhaps(wish.kind, "heater"), params });
  const check = wish.check ?? "none";
  const [side = "none", doubtful] = check.split(" ");
  const guard = side === "none" ? "" : "heater-check";
  if (guard)
    b.add(guard, "check-valve", `Heater check, ${side}`, h + (side === "hot" ? 0.3 : 0.05), {
      ...at,
      ...(doubtful
        ? {
            unknown: {
              of: "fitted" as const,
              ask: "Look at the heater's fittings for a check, or feel the cold pipe after the heater has run.",
            },
          }
        : {}),
    });
  const cold = side === "cold" ? "heater-check heater.cold" : "heater.cold";
  const hot = side === "hot" ? "heater.hot heater-check" : "heater.hot";
  const short = { lengthM: 0.25 };
  const joinHot = (): void => b.add("jh", "tee", "Heater tee, hot", h + 0.3, at);
  switch (wish.bypass) {
    case "three valves":
    case UNKNOWN: {
      b.add("t-hc", "tee", "Heater tee, cold", h, at);
      b.add("vc", "ball-valve", "Heater cold in", h, { ...at, tag: "Vc" });
      b.add("vh", "ball-valve", "Heater hot out", h + 0.3, { ...at, tag: "Vh" });
      b.add("vx", "ball-valve", "Heater bypass", h + 0.15, {
        ...at,
        tag: "Vx",
        ...(wish.bypass === UNKNOWN
          ? { unknown: { of: "fitted" as const, ask: questionOf("bypass").ask } }
          : {}),
      });
      joinHot();
      b.way(`${from} t-hc`, { ...pipes.cold, ...short });
      b.way(`t-hc.b vc ${cold}`, { ...pipes.cold, ...short });
      b.way(`${hot} vh jh.a`, { ...pipes.hot, ...short });
      b.way("t-hc.c vx", { ...pipes.cold, ...short });
      b.way("vx jh.b", { ...pipes.hot, ...short });
      b.lineup({ vx: "shut" });
      return "jh";
    }
    case "two valves": {
      b.add("t-hc", "tee", "Heater tee, cold", h, at);
      b.add("vc", "ball-valve", "Heater cold in", h, { ...at, tag: "Vc" });
      b.add("vx", "ball-valve", "Heater bypass", h + 0.15, { ...at, tag: "Vx" });
      joinHot();
      b.way(`${from} t-hc`, { ...pipes.cold, ...short });
      b.way(`t-hc.b vc ${cold}`, { ...pipes.cold, ...short });
      b.way(`${hot} jh.a`, { ...pipes.hot, ...short });
      b.way("t-hc.c vx", { ...pipes.cold, ...short });
      b.way("vx jh.b", { ...pipes.hot, ...short });
      b.lineup({ vx: "shut" });
      return "jh";
    }
    case "one valve": {
      b.add("byp", "selector-valve", "Heater bypass lever", h, {
        ...at,
        tag: "Vb",
        params: { a: "heater", b: "bypass" },
      });
      joinHot();
      b.way(`${from} byp.common`, { ...pipes.cold, ...short });
      b.way(`byp.a ${cold}`, { ...pipes.cold, ...short });
      b.way("byp.b jh.b", { ...pipes.cold, ...short });
      b.way(`${hot} jh.a`, { ...pipes.hot, ...short });
      return "jh";
    }
    default: {
      b.way(`${from} ${cold}`, { ...pipes.cold, ...short });
      if (side === "hot") b.way(hot, { ...pipes.hot, ...short });
      return side === "hot" ? "heater-check" : "heater";
    }
  }
};

/** Adds outlets and joins them to the mains. The cold root needs a free port; the hot one too where there is one. */
export const house = (
  b: Draft,
  roots: { readonly cold: string; readonly hot: string | undefined },
  outlets: readonly Outlet[],
  pipes: Pipes,
  drains: { cold?: PartMore; hot?: PartMore } = {},
): void => {
  for (const o of outlets) b.add(o.id, o.kind, o.name, o.heightM, o.more);
  rail(
    b,
    roots.cold,
    outlets,
    "cold",
    pipes,
    0.15,
    drains.cold && { id: "lc", name: "Cold low-point drain", more: { tag: "Lc", ...drains.cold } },
  );
  if (roots.hot)
    rail(
      b,
      roots.hot,
      outlets,
      "hot",
      pipes,
      0.2,
      drains.hot && { id: "lh", name: "Hot low-point drain", more: { tag: "Lh", ...drains.hot } },
    );
};

/** Joins several wastes to one tank or discharge; where it has too few ports, the rest run together through tees. */
const gather = (
  b: Draft,
  ends: readonly string[],
  to: string,
  room: number,
  pipe: string,
): void => {
  const way = { pipe, service: "waste" as const };
  const direct = ends.length <= room ? ends : ends.slice(0, room - 1);
  for (const end of direct) b.way(`${end} 1.2 ${to}`, way);
  const rest = ends.slice(direct.length);
  let onward = to;
  rest.forEach((end, i) => {
    if (i === rest.length - 1) {
      b.way(`${end} 0.8 ${onward}`, way);
      return;
    }
    const tee = `t-w-${to}-${i + 1}`;
    b.add(tee, "tee", `Waste tee ${i + 1}`, 0.05);
    b.way(`${tee}.a 0.8 ${onward}`, way);
    b.way(`${end} 0.8 ${tee}.b`, way);
    onward = `${tee}.c`;
  });
};

/** Traps under what has a basin, and the way to a tank or overboard. */
export const waste = (
  b: Draft,
  outlets: readonly Outlet[],
  to: {
    readonly grey?: string;
    readonly greyRoom?: number;
    readonly black?: string;
    readonly pipe?: string;
  },
): void => {
  const pipe = to.pipe ?? "waste-40";
  const grey: string[] = [];
  for (const o of outlets) {
    if (o.waste === "trap" && to.grey) {
      b.add(
        `trap-${o.id}`,
        "trap",
        `${o.name} trap`,
        Math.max(0.1, o.heightM - 0.45),
        o.more?.place ? { place: o.more.place } : {},
      );
      b.way(`${o.id}.waste 0.3 trap-${o.id}.in`, { pipe, service: "waste" });
      grey.push(`trap-${o.id}.out`);
    }
    if (o.waste === "straight" && (to.black ?? to.grey))
      b.way(`${o.id}.waste 0.5 ${to.black ?? to.grey}`, {
        pipe: "sanitation-76",
        service: "waste",
      });
  }
  if (to.grey) gather(b, grey, to.grey, to.greyRoom ?? 4, pipe);
};

/** A grey and a black tank below, and every waste to its tank. */
export const greyAndBlack = (
  b: Draft,
  outlets: readonly Outlet[],
  {
    place,
    heightM,
    greyL,
    blackL,
  }: { place: string; heightM: number; greyL: number; blackL: number },
): void => {
  b.add("grey", "waste-tank", "Grey tank", heightM, { place, params: { volumeL: greyL } });
  b.add("black", "waste-tank", "Black tank", heightM, {
    place,
    params: { volumeL: blackL, holds: "black" },
  });
  waste(b, outlets, { grey: "grey", black: "black" });
};

/** Without a heater, what has two sides elsewhere has one: a single tap for a mixer, a hand spray for a shower. */
const coldOnly = ({ hot: _hot, ...o }: Outlet): Outlet => {
  if (o.kind === "mixer-tap") return { ...o, kind: "single-tap", cold: "in" };
  return o.kind === "shower" || o.kind === "outside-shower"
    ? { ...o, kind: "spray", cold: "in" }
    : o;
};

export const withHot = (outlets: readonly Outlet[], hot: string | undefined): readonly Outlet[] =>
  hot === undefined ? outlets.map(coldOnly) : outlets;

/** Outlets by the answers: taps named in the order of the list, then what is asked for beside them. */
export const outletsOf = (
  answers: Answers,
  taps: readonly [id: string, name: string, place: string][],
  more: readonly Outlet[] = [],
  outsidePlace = "outside, rear wall",
  icePlace = "behind the fridge",
): Outlet[] => {
  const count = answers.taps === UNKNOWN ? Math.min(2, taps.length) : Number(answers.taps);
  const named = Array.from(
    { length: count },
    (_, i) => taps[i] ?? ([`tap-${i + 1}`, `Tap ${i + 1}`, "inside"] as const),
  );
  return [
    ...named.map(([id, name, place]) => mixer(id, name, place)),
    ...more,
    ...(answers.iceMaker === "no"
      ? []
      : [iceMaker("ice", icePlace, perhaps(answers.iceMaker, "iceMaker"))]),
    ...(answers.outsideShower === "no"
      ? []
      : [
          outside(
            "outside",
            "Outside shower",
            outsidePlace,
            perhaps(answers.outsideShower, "outsideShower"),
          ),
        ]),
  ];
};
