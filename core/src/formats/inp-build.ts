import { type End, freshId, MAP_VERSION, type PipeRun, slug } from "../watermap/index.ts";

export interface Line {
  readonly line: number;
  readonly words: readonly string[];
  readonly note: string;
}

export interface Node {
  readonly id: string;
  readonly kind: "junction" | "tank" | "reservoir";
  readonly heightM: number;
  readonly line: Line;
  readonly volumeL?: number;
  readonly depthM?: number;
}

export interface Joint {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  readonly line: Line;
  readonly lengthM: number;
  readonly pipe: string;
  readonly is: "pipe" | "check" | "shut" | "pump" | "regulator" | "valve";
  readonly setPa?: number;
}

type Params = Readonly<Record<string, number | string | boolean>>;

const STUB: Pick<Joint, "pipe"> = { pipe: "pex-3/4" };
const STUB_M = 0.05;

/** A new map while it is made from a file of somebody else's. */
class Draft {
  readonly parts: Record<string, unknown>[] = [];
  readonly runs: PipeRun[] = [];
  readonly lineup: Record<string, string> = {};

  #newId(wanted: string): string {
    return freshId({ parts: this.parts as never, runs: this.runs }, wanted);
  }

  part(wanted: string, kind: string, name: string, heightM: number, params: Params = {}): string {
    const id = this.#newId(wanted);
    this.parts.push({
      id,
      kind,
      name: name.slice(0, 60),
      heightM: Math.max(-10, Math.min(20, Number(heightM.toFixed(3)))),
      params,
      assumed: true,
    });
    return id;
  }

  run(from: End, to: End, wanted: string, { pipe }: Pick<Joint, "pipe">, lengthM: number): void {
    this.runs.push({
      id: this.#newId(`r-${wanted}`),
      from,
      to,
      pipe,
      lengthM: Math.max(0.01, Math.min(200, Number(lengthM.toFixed(4)))),
      service: "cold",
      heated: false,
      insulated: false,
      assumed: true,
    });
  }

  /** A chain of tees with as many ports as are needed. */
  tees(wanted: string, name: string, heightM: number, need: number, from?: End): End[] {
    const first = this.part(wanted, "tee", name, heightM);
    let open: End[] = ["a", "b", "c"].map((port) => ({ part: first, port }));
    if (from) this.run(from, open.shift() as End, `${wanted}-stub`, STUB, STUB_M);
    while (open.length < need) {
      const more = this.part(`${wanted}-more`, "tee", `${name}, more`, heightM);
      this.run(open.pop() as End, { part: more, port: "a" }, `${wanted}-stub`, STUB, STUB_M);
      open = [...open, { part: more, port: "b" }, { part: more, port: "c" }];
    }
    return open;
  }

  /** The one port of a part, or as many as are needed behind tees on it. */
  from(end: End, { id, heightM }: Node, what: string, need: number): End[] {
    return need === 1 ? [end] : this.tees(`${id}-tee`, `Tee at ${what} ${id}`, heightM, need, end);
  }
}

/** The part that a node of the file becomes, with its free ports. */
const placed = (draft: Draft, node: Node, need: number, isOutlet: boolean): End[] => {
  const { id, heightM } = node;
  if (node.kind === "tank") {
    const tank = draft.part(id, "fresh-tank", `Tank ${id}`, heightM, {
      volumeL: Math.max(5, Math.min(5000, Number((node.volumeL ?? 100).toFixed(1)))),
      depthM: Math.max(0.05, Math.min(2, Number((node.depthM ?? 0.4).toFixed(3)))),
    });
    return draft.from({ part: tank, port: "outlet" }, node, "tank", need);
  }
  if (node.kind === "reservoir") {
    const post = draft.part(id, "supply-post", `Supply ${id}`, heightM);
    draft.lineup[post] = "open";
    return draft.from({ part: post, port: "out" }, node, "supply", need);
  }
  if (isOutlet) {
    const tap = draft.part(id, "single-tap", `Outlet ${id}`, heightM);
    return draft.from({ part: tap, port: "in" }, node, "outlet", need);
  }
  if (need === 1) return [{ part: draft.part(id, "end-plug", `End ${id}`, heightM), port: "in" }];
  if (need > 2) return draft.tees(id, `Tee ${id}`, heightM, need);
  const joint = draft.part(id, "coupling", `Joint ${id}`, heightM);
  return ["a", "b"].map((port) => ({ part: joint, port }));
};

const KIND: Readonly<
  Record<Exclude<Joint["is"], "pipe">, readonly [kind: string, from: string, to: string]>
> = {
  check: ["check-valve", "in", "out"],
  shut: ["ball-valve", "a", "b"],
  pump: ["diaphragm-pump", "in", "out"],
  regulator: ["pressure-regulator", "in", "out"],
  valve: ["ball-valve", "a", "b"],
};

/** What the file has between two nodes: a pipe, or a part in the middle of one. */
const join = (draft: Draft, joint: Joint, from: End, to: End, heightM: number): void => {
  const { id, is, lengthM } = joint;
  if (is === "pipe") return draft.run(from, to, id, joint, lengthM);
  const [kind, a, b] = KIND[is];
  const setPa: Params =
    joint.setPa === undefined
      ? {}
      : { setPa: Math.max(100_000, Math.min(700_000, Math.round(joint.setPa))) };
  const part = draft.part(id, kind, `${kind.replaceAll("-", " ")} ${id}`, heightM, setPa);
  if (is === "shut") draft.lineup[part] = "shut";
  draft.run(from, { part, port: a }, id, joint, lengthM / 2);
  draft.run({ part, port: b }, to, id, joint, lengthM / 2);
};

/** A new map from a file of somebody else's. */
export const built = (
  nodes: ReadonlyMap<string, Node>,
  joints: readonly Joint[],
  emitters: ReadonlySet<string>,
  title: string,
  report: string[],
): unknown => {
  const draft = new Draft();
  const degree = new Map<string, number>();
  for (const j of joints) for (const n of [j.from, j.to]) degree.set(n, (degree.get(n) ?? 0) + 1);
  const free = new Map<string, End[]>();
  for (const node of nodes.values()) {
    const need = degree.get(node.id) ?? 0;
    if (need > 0) free.set(node.id, placed(draft, node, need, emitters.has(node.id)));
  }
  for (const joint of joints) {
    const [from, to] = [free.get(joint.from)?.shift(), free.get(joint.to)?.shift()];
    if (from && to) join(draft, joint, from, to, nodes.get(joint.from)?.heightM ?? 0);
  }
  if (joints.some((j) => j.is === "pipe"))
    report.push(
      "Which pipes are hot, which parts heaters or outlets with two sides: this format does not say, all is cold.",
    );
  const { parts, runs, lineup } = draft;
  return {
    format: "upper-shed/water-map",
    version: MAP_VERSION,
    id: slug(title || "imported"),
    name: (title || "Imported").slice(0, 80),
    craft: "imported",
    places: [],
    parts,
    runs,
    lineup,
    contents: {},
    modes: {},
  };
};
