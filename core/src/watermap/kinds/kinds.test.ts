import { describe, expect, it } from "vitest";
import { SYMBOL_NAMES } from "../../drawing/index.ts";
import { controlsOfPart, PART_KINDS, paramSchema, paramsOf } from "../index.ts";

/** Every kind is data that the engine reads without asking what it is: these are the promises that it leans on. */

const kinds = [...PART_KINDS.values()].map((kind) => [kind.kind, kind] as const);

const anatomyOf = (name: string) => {
  const kind = PART_KINDS.get(name);
  if (!kind) throw new Error(name);
  return kind.anatomy(paramsOf({ id: "x", kind: name, name: "X", heightM: 0, params: {} }));
};

describe.each(kinds)("%s", (name, kind) => {
  const anatomy = anatomyOf(name);
  const cells = new Set(anatomy.cells.map((c) => c.name));

  it("says what it is, how it is drawn and what to look at", () => {
    expect(kind.label.length).toBeGreaterThan(2);
    expect(kind.about).toMatch(/\.$/u);
    expect(kind.symbol.length).toBeGreaterThan(2);
    expect(kind.inspect.length).toBeGreaterThan(0);
  });

  it("has standard parameters that its own schemas take, each with a name", () => {
    for (const spec of Object.values(kind.params)) {
      expect(paramSchema(spec).safeParse(spec.standard).success).toBe(true);
      expect(spec.label.length).toBeGreaterThan(0);
    }
  });

  it("has cells with a volume, a bottom not above its top, and shares between 0 and 1", () => {
    expect(anatomy.cells.length).toBeGreaterThan(0);
    expect(cells.size).toBe(anatomy.cells.length);
    for (const cell of anatomy.cells) {
      expect(cell.volumeM3, cell.name).toBeGreaterThan(0);
      expect(cell.bottomM).toBeLessThanOrEqual(cell.topM);
      for (const share of [
        cell.drainRemainder,
        cell.sweepRemainder,
        cell.inUseFraction,
        cell.allowedRemainder ?? 0,
      ]) {
        expect(share).toBeGreaterThanOrEqual(0);
        expect(share).toBeLessThanOrEqual(1);
      }
      expect(cell.sweepRemainder, "air takes at least what gravity takes").toBeLessThanOrEqual(
        cell.drainRemainder,
      );
    }
  });

  it("names in ports, links and openings only cells that it has", () => {
    const named = [
      ...anatomy.ports.map((p) => p.cell),
      ...anatomy.openings.map((o) => o.cell),
      ...anatomy.links.flatMap((l) => [l.from, l.to]),
      ...anatomy.openings.flatMap((o) =>
        o.fallsTo && "cell" in o.fallsTo ? [o.fallsTo.cell] : [],
      ),
    ];
    for (const cell of named) expect(cells).toContain(cell);
    expect(new Set(anatomy.ports.map((p) => p.name)).size).toBe(anatomy.ports.length);
    for (const o of anatomy.openings)
      if (o.fallsTo && "port" in o.fallsTo)
        expect(anatomy.ports.map((p) => p.name)).toContain(o.fallsTo.port);
  });

  it("has gates that some position of its own controls opens", () => {
    const gates = [...anatomy.ports, ...anatomy.links, ...anatomy.openings].flatMap((x) =>
      x.gate ? [x.gate] : [],
    );
    for (const gate of gates) {
      const control = kind.controls.find((c) => c.name === gate.control);
      expect(control, gate.control).toBeDefined();
      for (const position of gate.in)
        expect(control?.positions.map((p) => p.name)).toContain(position);
    }
    for (const control of kind.controls) {
      const names = control.positions.map((p) => p.name);
      expect(names).toContain(control.inUse);
      expect(names).toContain(control.stored);
      expect(new Set(names).size).toBe(names.length);
    }
  });
});

describe("the registry", () => {
  it("has every kind that the trade meets, in its group", () => {
    const of = (group: string): string[] =>
      [...PART_KINDS.values()]
        .filter((k) => k.group === group)
        .map((k) => k.kind)
        .toSorted();
    expect(of("ways in")).toEqual([
      "gravity-fill",
      "pressurised-inlet",
      "raw-intake",
      "supply-post",
      "tank-flush-inlet",
      "winterizing-pickup",
    ]);
    expect(of("tanks")).toEqual(["fresh-tank"]);
    expect(of("movers")).toEqual(["accumulator", "diaphragm-pump", "manual-pump"]);
    expect(of("conditioning")).toEqual([
      "check-valve",
      "filter-housing",
      "pressure-regulator",
      "softener",
      "strainer",
      "vacuum-breaker",
    ]);
    expect(of("control")).toEqual([
      "ball-valve",
      "diverter-panel",
      "manifold",
      "mixing-valve",
      "plug-valve",
      "selector-valve",
    ]);
    expect(of("heat")).toEqual(["on-demand-heater", "point-of-use-heater", "storage-heater"]);
    expect(of("outlets")).toEqual([
      "dishwasher",
      "ice-maker",
      "mixer-tap",
      "outside-shower",
      "raw-toilet",
      "shower",
      "single-tap",
      "spray",
      "toilet",
      "two-source-tap",
      "wash-down",
      "washing-machine",
    ]);
    expect(of("drains")).toEqual(["drain-plug", "low-point-drain", "tank-drain"]);
    expect(of("waste")).toEqual([
      "gate-valve",
      "motor-gate-valve",
      "overboard",
      "pump-out-fitting",
      "trap",
      "vent-filter",
      "waste-outlet",
      "waste-tank",
      "waste-vent",
    ]);
    expect(of("line")).toEqual([
      "adapter",
      "bulkhead",
      "coupling",
      "elbow",
      "end-plug",
      "tee",
      "unknown-part",
    ]);
  });

  it("says where its figures come from: a source, or that there is none", () => {
    const plain = new Set(["tee", "elbow", "adapter", "bulkhead", "end-plug", "unknown-part"]);
    const silent = [...PART_KINDS.values()].filter(
      (k) =>
        !plain.has(k.kind) && anatomyOf(k.kind).cells.some((c) => c.allowedRemainder !== undefined),
    );
    for (const k of silent) expect(k.about.length, k.kind).toBeGreaterThan(20);
  });

  it("has a symbol drawn for every kind, and no kind that is found by no word", () => {
    for (const k of PART_KINDS.values()) expect(SYMBOL_NAMES, k.kind).toContain(k.symbol);
  });

  it("has controls that come and go with what is fitted: ways of a manifold, a filter's bypass, a tank's own valve", () => {
    const controls = (kind: string, params: Record<string, number | string | boolean>): string[] =>
      controlsOfPart({ id: "x", kind, name: "X", heightM: 0, params }).map((c) => c.name);
    expect(controls("manifold", { ways: 3 })).toEqual(["way1", "way2", "way3"]);
    expect(controls("filter-housing", { bypass: true })).toEqual(["main", "bypass"]);
    expect(controls("filter-housing", {})).toEqual(["main"]);
    expect(controls("waste-tank", { empties: "by its pipe" })).toEqual([]);
    expect(controls("raw-intake", { rodOutCap: true })).toEqual(["main", "cap"]);
  });

  it("has exactly one port that drives on a pump, and nowhere else", () => {
    for (const [name] of kinds) {
      const driven = anatomyOf(name).ports.filter((p) => p.drives).length;
      expect(driven, name).toBe(PART_KINDS.get(name)?.role.pump ? 1 : 0);
    }
  });
});
