import { burstPointC, freezingPointC } from "../../fluid/index.ts";
import { PART_KINDS, PIPE_SYSTEMS, type WaterMap } from "../../watermap/index.ts";
import { blowThrough, suckOut } from "./air.ts";
import { lowerLinked } from "./linked.ts";
import { drainAll } from "./gravity.ts";
import { type Edge, type Graph, graphOf, type Hole, type Node } from "./graph.ts";
import { pressCushions, relaxCushions } from "./cushions.ts";
import { carry, sourcesOf, spreadFrom } from "./pumping.ts";
import { AS_DRAWN, type Reading, refresh, type Unit, unitOf } from "./unit.ts";

/** What the checker reads of a plan: its steps, and what it says of every part and run. */
export interface Told {
  readonly steps: readonly {
    readonly id: string;
    readonly stage: string;
    readonly actions: readonly Readonly<Record<string, unknown>>[];
    readonly antifreezeM3: number;
  }[];
  readonly verdict: {
    readonly owners: readonly { readonly id: string; readonly holdsToC: number | null }[];
  };
  readonly cannotTell: readonly { readonly id: string }[];
}

export interface Judged {
  /** Parts that are called protected and of which the checker cannot show that they are. */
  readonly falseProtected: readonly {
    readonly owner: string;
    readonly node: string;
    readonly why: string;
  }[];
  readonly hazards: readonly { readonly step: string; readonly what: string }[];
  /** Parts that the checker shows to be protected, and those of them that the plan calls unprotected. */
  readonly shown: number;
  readonly overCautious: readonly string[];
}

const WARM_TOLERANCE_K = 0.5;

interface Walk {
  readonly graph: Graph;
  readonly unit: Unit;
  readonly strength: number;
  readonly hazards: { step: string; what: string }[];
  /** Air has been let in, and nobody has said since that the gauge is at zero. */
  underAir: boolean;
  /** Of the step that is being done: while product is drawn the pump runs on purpose. */
  stage: string;
}

const text = (a: Readonly<Record<string, unknown>>, key: string): string => {
  const value = a[key];
  return typeof value === "string" ? value : "";
};
const amount = (a: Readonly<Record<string, unknown>>, key: string): number => {
  const value = a[key];
  return typeof value === "number" ? value : 0;
};

const AIR_MOST_PA = 345_000;

const blown = (walk: Walk, step: string, a: Readonly<Record<string, unknown>>): void => {
  const { graph, unit } = walk;
  const pa = amount(a, "pa");
  const { exit, pressed } = blowThrough(graph, unit, text(a, "opening"), pa);
  walk.underAir = true;
  if (unit.reading !== AS_DRAWN) return;
  const say = (what: string): void => void walk.hazards.push({ step, what });
  if (!exit) say("air is let in and nothing, or more than one thing, stands open");
  if (exit && exit.id !== text(a, "watch") && !exit.id.startsWith("into"))
    say(`air leaves at ${exit.id}, not where it is watched`);
  if (pa > AIR_MOST_PA) say("more air than any unit is given");
  for (const run of graph.map.runs) {
    const rating = PIPE_SYSTEMS.get(run.pipe)?.ratingPa;
    const isPressed = graph.nodes.some((n, i) => n.owner === run.id && pressed.has(i));
    // Fill lines run into a tank that breathes.
    if (
      isPressed &&
      (run.service === "cold" || run.service === "hot") &&
      rating !== undefined &&
      pa > rating / 2 + 1
    )
      say(`${run.id} bears less`);
  }
  if (unit.live.some((h) => h.pressed && pressed.has(h.node))) say("air against a post");
  if (unit.live.some((h) => h.use === "raw" && pressed.has(h.node))) say("air into the sea");
  for (const n of graph.nodes.filter((x, i) => x.heats && pressed.has(i)))
    if (!unit.facts.has(`off:${n.owner}`)) say(`air presses ${n.owner}, which is not off`);
};

const heaters = ({ graph }: Walk): Set<string> =>
  new Set(graph.nodes.filter((n) => n.heats).map((n) => n.owner));

/** Cells joined to a hole, whatever checks hold back: what an open seacock may reach. */
const joinedTo = ({ graph, unit }: Walk, start: number): Set<number> => {
  const seen = new Set([start]);
  const todo = [start];
  for (let at = todo.pop(); at !== undefined; at = todo.pop())
    for (const i of graph.near[at] ?? []) {
      const e = graph.edges[i] as Edge;
      const next = e.a === at ? e.b : e.a;
      if (seen.has(next) || unit.open[i] !== 1) continue;
      seen.add(next);
      todo.push(next);
    }
  return seen;
};

const floods = (walk: Walk, hole: Hole): boolean =>
  hole.use !== "raw" &&
  hole.use !== "vent" &&
  walk.graph.nodes[hole.node]?.isTrap !== true &&
  walk.unit.live.some((sea) => sea.use === "raw" && joinedTo(walk, sea.node).has(hole.node));

const SERVICES_HOT = new Set(["hot"]);

const pumpRuns = ({ graph, unit }: Walk): boolean =>
  graph.edges.some((e) => e.pump !== undefined && unit.lineup[e.pump] === "on");

/** Hazards of one turn of a control. */
const turned = (walk: Walk, step: string, control: string, position: string): void => {
  const { graph, unit } = walk;
  const part = control.split(":")[0] ?? "";
  const say = (what: string): void => void walk.hazards.push({ step, what });
  const before = new Set(unit.live.map((h) => h.id));
  if (!(control in unit.reading.stuck)) unit.lineup[control] = position;
  unit.isStale = true;
  // Whether anybody is hurt is asked of the map as it is drawn.
  if (unit.reading !== AS_DRAWN) return;
  refresh(graph, unit);
  for (const hole of unit.live.filter((h) => !before.has(h.id))) {
    const isPressed =
      pumpRuns(walk) ||
      (graph.holes.some((h) => h.use === "supply" && !h.pressed) && !unit.facts.has("supply-off"));
    const wets = ["plug", "bowl", "low-point"].includes(hole.use) || walk.stage === "drain";
    if (wets && hole.use !== "dump" && walk.stage !== "fill" && isPressed)
      say(`${hole.id} is opened while a pump or the supply may press`);
    const relief = graph.holes.find((h) => h.part === part && h.use === "relief" && h.gate);
    if (
      hole.use === "plug" &&
      relief?.gate &&
      !relief.gate.in.includes(unit.lineup[relief.gate.key] ?? "")
    )
      say(`${hole.id} is opened before the relief is lifted`);
    if (walk.underAir && ["plug", "bowl", "relief"].includes(hole.use))
      say(`${hole.id} is opened before the gauge is at zero`);
    if (hole.pressed) say(`${hole.part}: a post that presses is opened`);
    if (floods(walk, hole)) say(`${hole.id} is opened behind an open seacock`);
    const isOff = (id: string): boolean =>
      unit.facts.has(`off:${id}`) && unit.facts.has(`cool:${id}`);
    if (heaters(walk).has(part) && !isOff(part))
      say(`${control} is opened before ${part} is off and cool`);
    const services = graph.map.runs
      .filter((r) => r.from.part === part || r.to.part === part)
      .map((r) => r.service);
    if (
      hole.use === "low-point" &&
      services.length > 0 &&
      services.every((s) => SERVICES_HOT.has(s))
    )
      for (const id of heaters(walk))
        if (!isOff(id)) say(`${control} lets hot water out before ${id} is off and cool`);
  }
};

const disconnected = (walk: Walk, step: string, a: Readonly<Record<string, unknown>>): void => {
  const { graph, unit } = walk;
  const id = `${text(a, "run")} ${text(a, "end")}`;
  refresh(graph, unit);
  const before = new Set(unit.live.map((h) => h.id));
  if (walk.underAir)
    walk.hazards.push({ step, what: `${id} is undone before the gauge is at zero` });
  // What is undone opens first; only then is it apart.
  const floodsBefore = graph.edges.find((e) => e.end === id);
  if (floodsBefore)
    for (const sea of unit.live.filter((h) => h.use === "raw"))
      if (
        joinedTo(walk, sea.node).has(floodsBefore.a) ||
        joinedTo(walk, sea.node).has(floodsBefore.b)
      )
        walk.hazards.push({ step, what: `${id} is undone behind an open seacock` });
  unit.apart.add(id);
  if (a["jug"] === true) unit.jugs.add(id);
  unit.isStale = true;
  refresh(graph, unit);
  for (const hole of unit.live.filter((h) => !before.has(h.id)))
    if (hole.pressed) walk.hazards.push({ step, what: `${id} opens a post` });
};

/** Anything that stands open and would let out what is pumped, besides what the step is about. */
const jets = (
  walk: Walk,
  watch: string,
  holes: readonly { hole: Hole; share: number }[],
): Hole[] => {
  const part = watch.split(":")[0];
  return holes
    .filter(
      ({ hole, share }) =>
        share > 0.02 &&
        hole.use !== "vent" &&
        hole.use !== "pickup" &&
        hole.part !== part &&
        hole.id !== watch &&
        !hole.id.startsWith(watch.split(":")[0] ?? " "),
    )
    .map(({ hole }) => hole);
};

const pumped = (
  walk: Walk,
  step: Told["steps"][number],
  a: Readonly<Record<string, unknown>>,
): void => {
  const { graph, unit } = walk;
  refresh(graph, unit);
  const byHand = a["type"] === "push-by-hand";
  const edge = byHand ? undefined : graph.edges.find((e) => e.pump === text(a, "switch"));
  const start = byHand ? nodeOf(graph, text(a, "cell")) : edge?.b;
  if (start === undefined || start < 0) return;
  const run = graph.nodes[start];
  if (byHand && run?.isRun && ![...unit.apart].some((id) => id.startsWith(`${run.owner} `))) {
    walk.hazards.push({ step: step.id, what: `${run.owner} is joined at both its ends` });
    return;
  }
  if (edge?.pump !== undefined && unit.lineup[edge.pump] !== "on")
    walk.hazards.push({ step: step.id, what: `${edge.pump} is to run and stands off` });
  const sources = edge ? sourcesOf(graph, unit, edge.a) : [];
  const stopped = new Set(
    byHand ? unit.live.filter((h) => h.node === start && h.use !== "outlet").map((h) => h.id) : [],
  );
  const flow = spreadFrom(graph, unit, start, stopped, byHand);
  if (!flow) return;
  if (edge && sources.length === 0) return;
  // What runs back into a tank goes round: it empties nothing.
  const round = flow.holes.some(
    ({ hole, share }) => share > 0.02 && graph.nodes[hole.node]?.vessel === "fresh",
  );
  if (round && amount(a, "untilAir") > 0) return;
  const kindOf = (h: Hole): "jug" | "water" | "air" | "sea" => {
    if (h.use === "raw") return "sea";
    if (h.use === "pickup") return "jug";
    const n = graph.nodes[h.node] as Node;
    return n.vessel === "fresh" && (unit.wetM3[h.node] ?? 0) > n.capM3 * n.drained * 1.3
      ? "water"
      : "air";
  };
  const kinds = byHand ? new Set(["jug"]) : new Set(sources.map((s) => kindOf(s.hole)));
  if (kinds.has("sea")) walk.hazards.push({ step: step.id, what: "a pump draws on the open sea" });
  // A plug hole that the step itself is about, an inlet whose cap it loosens: named by what is watched.
  if (step.stage === "fill")
    for (const hole of jets(walk, text(a, "watch"), flow.holes))
      walk.hazards.push({ step: step.id, what: `product jets out at ${hole.id}` });
  const lead = byHand ? [] : (sources[0]?.way ?? []);
  const volumeM3 = step.antifreezeM3;
  if (kinds.size === 1 && kinds.has("jug")) {
    const watched = unit.live.find((h) => h.id === text(a, "watch"))?.node;
    const wanted = amount(a, "untilStrength");
    carry(
      graph,
      unit,
      lead,
      flow,
      volumeM3,
      walk.strength,
      watched !== undefined && wanted > 0 && wanted < 1
        ? { node: watched, strength: wanted, mostM3: amount(a, "maxM3") }
        : undefined,
    );
    if (!byHand && start !== undefined) pressCushions(graph, unit, start);
    return;
  }
  // Air beside a jug: nobody knows how much of it comes, but no water does.
  if (kinds.has("jug") && kinds.has("air") && kinds.size === 2) return;
  const onAir = kinds.size === 1 && kinds.has("air");
  const dry = onAir || (amount(a, "untilAir") > 0 && !kinds.has("jug"));
  const all = new Map<number, number>(lead.map((c) => [c, sources.length === 1 || dry ? 1 : 0.5]));
  graph.edges.forEach((e, i) => {
    const q = Math.abs(flow.edge[i] ?? 0);
    if (q > 0.001) for (const c of [e.a, e.b]) all.set(c, Math.max(all.get(c) ?? 0, q));
  });
  for (const [c, share] of all) {
    const n = graph.nodes[c] as Node;
    if (n.isVessel) {
      if (dry && n.vessel === "fresh") {
        unit.wetM3[c] = Math.min(unit.wetM3[c] ?? 0, n.capM3 * n.drained);
        lowerLinked(graph, unit, c);
      }
      continue;
    }
    if (dry && share > 0.9)
      unit.wetM3[c] = Math.min(unit.wetM3[c] ?? 0, n.capM3 * n.swept + n.sagM3);
    else if (!dry) [unit.wetM3[c], unit.strength[c]] = [n.capM3, 0];
    else if (share > 0.02 && share <= 0.9)
      unit.strength[c] = (unit.wetM3[c] ?? 0) > 0 ? (unit.strength[c] ?? 0) : 0;
  }
};

const nodeOf = (graph: Graph, cell: string): number => {
  const direct = graph.at.get(cell);
  if (direct !== undefined) return direct;
  return graph.nodes.findIndex(
    (n) => n.isRun && (cell === n.owner || cell.endsWith(` ${n.owner}`)),
  );
};

/** Liquid poured in from above: each trap and dip on its way mixes and runs over. */
const poured = (walk: Walk, a: Readonly<Record<string, unknown>>): void => {
  const { graph, unit } = walk;
  refresh(graph, unit);
  const start = nodeOf(graph, text(a, "cell"));
  const by = new Map<number, number>([[start, -1]]);
  const todo = [start];
  let last = start;
  for (const at of todo) {
    const n = graph.nodes[at];
    if (!n) continue;
    if (
      at !== start &&
      (n.isVessel || graph.holes.some((h) => h.node === at && h.use === "overboard"))
    ) {
      last = at;
      break;
    }
    for (const i of graph.near[at] ?? []) {
      const e = graph.edges[i] as Edge;
      const next = e.a === at ? e.b : e.a;
      if (by.has(next) || unit.open[i] !== 1) continue;
      by.set(next, at);
      todo.push(next);
    }
  }
  const way: number[] = [];
  for (let at = last; at >= 0; at = by.get(at) ?? -1) way.unshift(at);
  const stations = way.filter((c) => graph.nodes[c]?.isTrap || (graph.nodes[c]?.sagM3 ?? 0) > 0);
  const PARTS = 40;
  const dose = amount(a, "volumeM3") / PARTS;
  for (let k = 0; k < PARTS; k++) {
    let [v, s] = [dose, walk.strength];
    for (const c of stations) {
      const n = graph.nodes[c] as Node;
      const room = n.isTrap ? n.capM3 : n.sagM3;
      const held = unit.wetM3[c] ?? 0;
      const mixed = (held * (unit.strength[c] ?? 0) + v * s) / Math.max(held + v, 1e-15);
      unit.wetM3[c] = Math.min(room, held + v);
      unit.strength[c] = mixed;
      [v, s] = [Math.max(0, held + v - room), mixed];
    }
  }
};

const act = (
  walk: Walk,
  step: Told["steps"][number],
  a: Readonly<Record<string, unknown>>,
): void => {
  const { graph, unit } = walk;
  switch (a["type"]) {
    case "set-valve":
      turned(walk, step.id, text(a, "control"), text(a, "position"));
      break;
    case "confirm":
      unit.facts.add(text(a, "fact"));
      if (text(a, "fact").startsWith("air-zero:")) walk.underAir = false;
      if (text(a, "fact").startsWith("fill-pressure-off")) relaxCushions(graph, unit);
      break;
    case "blow":
      blown(walk, step.id, a);
      break;
    case "suck":
      suckOut(graph, unit, nodeOf(graph, text(a, "cell")));
      break;
    case "drain":
      drainAll(graph, unit);
      break;
    case "disconnect":
      disconnected(walk, step.id, a);
      break;
    case "reconnect":
      unit.apart.delete(`${text(a, "run")} ${text(a, "end")}`);
      unit.jugs.delete(`${text(a, "run")} ${text(a, "end")}`);
      unit.isStale = true;
      break;
    case "pump":
    case "push-by-hand":
      pumped(walk, step, a);
      break;
    case "pour":
      poured(walk, a);
      break;
    default:
  }
};

/** Whether a node does no harm at a temperature, by what the checker can show. */
const isSafe = (graph: Graph, unit: Unit, i: number, lowC: number, burst: boolean): boolean => {
  const n = graph.nodes[i] as Node;
  const wet = unit.wetM3[i] ?? 0;
  if (n.ashore || n.falls || n.capM3 <= 0 || wet <= 1e-9) return true;
  const share = Math.max(wet / n.capM3, n.sagM3 > 0 ? Math.min(1, wet / n.sagM3) : 0);
  if (!n.isTrap && share <= n.allowed + 1e-9) return true;
  const s = Math.min(unit.strength[i] ?? 0, 0.6);
  if (s <= 1e-4) return lowC >= 0;
  const point = !n.noIce && burst && s >= 0.12 ? burstPointC(s) : freezingPointC(s);
  return point.ok && point.value <= lowC + WARM_TOLERANCE_K;
};

const walkThrough = (
  graph: Graph,
  lineup: Readonly<Record<string, string>>,
  told: Told,
  strength: number,
  reading: Reading,
): Walk => {
  const walk: Walk = {
    graph,
    unit: unitOf(graph, lineup, reading),
    strength,
    hazards: [],
    underAir: false,
    stage: "",
  };
  for (const step of told.steps) {
    walk.stage = step.stage;
    for (const a of step.actions) act(walk, step, a);
  }
  return walk;
};

/** What a pipe runs straight on without. */
const isInLine = (kind: string): boolean =>
  ["conditioning", "control", "line"].includes(PART_KINDS.get(kind)?.group ?? "");

/** The ways in which what is not known may really be, one at a time. */
const readingsOf = (map: WaterMap, graph: Graph): Reading[] =>
  map.parts
    .filter((p) => p.unknown || PART_KINDS.get(p.kind)?.role.mystery)
    .flatMap<Reading>((p) => {
      if (PART_KINDS.get(p.kind)?.role.mystery) return [{ ...AS_DRAWN, blocked: new Set([p.id]) }];
      const valves = Object.keys(graph.inUse).filter((k) => k === p.id || k.startsWith(`${p.id}:`));
      const gated = graph.edges.flatMap((e) =>
        e.gate && valves.includes(e.gate.key)
          ? e.gate.in.map((pos) => [e.gate?.key ?? "", pos] as const)
          : [],
      );
      // "There is none" of a valve may mean that its whole pipe is not there.
      const hasGate = gated.length > 0 && PART_KINDS.get(p.kind)?.group === "control";
      const stuck = gated.map(([key, pos]) => ({ ...AS_DRAWN, stuck: { [key]: pos } }));
      return [
        ...(p.unknown?.of === "fitted"
          ? isInLine(p.kind) &&
            map.runs.filter((r) => r.from.part === p.id || r.to.part === p.id).length === 2
            ? [{ ...AS_DRAWN, through: new Set([p.id]) }]
            : []
          : stuck),
        ...(hasGate ? [{ ...AS_DRAWN, blocked: new Set([p.id]) }] : []),
      ];
    });

/** A valve said to be stuck where it stands all the time anyway: that is the map as it is drawn. */
const isNeverTurned = (
  { stuck, through, blocked }: Reading,
  stood: Readonly<Record<string, string>>,
  told: Told,
): boolean =>
  through.size + blocked.size === 0 &&
  Object.entries(stuck).every(
    ([key, position]) =>
      stood[key] === position &&
      told.steps.every((s) =>
        s.actions.every(
          (a) =>
            a["type"] !== "set-valve" ||
            text(a, "control") !== key ||
            text(a, "position") === position,
        ),
      ),
  );

/**
 * Judges a plan from the map and plain physics.
 * @param lineup how the unit stood at the start, where it differs from in use
 */
export const judgePlan = (
  map: WaterMap,
  lineup: Readonly<Record<string, string>>,
  told: Told,
  settings: { readonly winterLowC: number; readonly strength: number; readonly burst: boolean },
): Judged => {
  const graph = graphOf(map);
  const asDrawn = walkThrough(graph, lineup, told, settings.strength, AS_DRAWN);
  const stood = { ...graph.inUse, ...lineup };
  const others = readingsOf(map, graph).filter((r) => !isNeverTurned(r, stood, told));
  const walks = [
    asDrawn,
    ...others.map((r) => walkThrough(graph, lineup, told, settings.strength, r)),
  ];
  const doubted = new Set(told.cannotTell.map((d) => d.id));
  const falseProtected: { owner: string; node: string; why: string }[] = [];
  const overCautious: string[] = [];
  let shown = 0;
  for (const owner of told.verdict.owners) {
    const mine = graph.nodes.flatMap((n, i) => (n.owner === owner.id ? [i] : []));
    const isCalled = owner.holdsToC === null || owner.holdsToC <= settings.winterLowC + 1e-9;
    const safe = (walk: Walk): boolean =>
      mine.every((i) => isSafe(graph, walk.unit, i, settings.winterLowC, settings.burst));
    if (isCalled && !doubted.has(owner.id)) {
      const bad = walks.find((w) => !safe(w));
      const node =
        bad && mine.find((i) => !isSafe(graph, bad.unit, i, settings.winterLowC, settings.burst));
      if (bad && node !== undefined)
        falseProtected.push({
          owner: owner.id,
          node: graph.nodes[node]?.id ?? "",
          why: `${((bad.unit.wetM3[node] ?? 0) * 1000).toFixed(3)} of ${((graph.nodes[node]?.capM3 ?? 0) * 1000).toFixed(3)} L at ${((bad.unit.strength[node] ?? 0) * 100).toFixed(1)} %${bad === asDrawn ? "" : `, where ${[...bad.unit.reading.through].map((x) => `${x} is not there`).join()}${[...bad.unit.reading.blocked].map((x) => `${x} leads nowhere`).join()}${JSON.stringify(bad.unit.reading.stuck)}`}`,
        });
    }
    if (walks.every(safe)) {
      shown++;
      if (!isCalled) overCautious.push(owner.id);
    }
  }
  return { falseProtected, hazards: asDrawn.hazards, shown, overCautious };
};
