import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { valueOfExample, WORKED_EXAMPLES } from "../testing/worked-examples.ts";
import { CALCULATIONS, type Calculation, courseOf, reckon, type ReckonResult } from "./index.ts";

const named = (name: string): Calculation => {
  const found = CALCULATIONS.find((c) => c.name === name);
  if (!found) throw new Error(name);
  return found;
};
type Answered = Extract<ReckonResult, { ok: true }>;
const work = (name: string, given: Record<string, number>): Answered => {
  const result = reckon(named(name), given);
  if (!result.ok) throw new Error(result.problem);
  return result;
};
const figureOf = (result: Answered, label?: string): number =>
  label === undefined
    ? result.answer.value
    : (result.also.find((f) => f.label === label)?.value ?? Number.NaN);

describe("worked examples, each reckoned by hand from the formula named in the calculation's source", () => {
  it.each(WORKED_EXAMPLES.map((e) => [e.told, e] as const))("%s", (_, example) => {
    expect(Math.abs(valueOfExample(example) - example.expected)).toBeLessThanOrEqual(
      example.tolerance,
    );
  });

  it("a tap with no pipe to speak of passes what it is rated for at 2 bar; height and a long thin pipe take from it", () => {
    const easy = figureOf(
      work("tap-flow", { pressure: 200_000, rise: 0, bore: 0.05, length: 0.05, k: 0, rated: 1e-4 }),
    );
    expect(easy / 1e-4).toBeCloseTo(1, 3);
    expect(
      figureOf(
        work("tap-flow", {
          pressure: 200_000,
          rise: 5,
          bore: 0.05,
          length: 0.05,
          k: 0,
          rated: 1e-4,
        }),
      ) / 1e-4,
    ).toBeCloseTo(Math.sqrt(1 - (999.1 * 9.80665 * 5) / 200_000), 3);
    expect(
      figureOf(
        work("tap-flow", { pressure: 200_000, rise: 0, bore: 0.006, length: 20, rated: 1e-4 }),
      ),
    ).toBeLessThan(0.7e-4);
  });
});

describe("every calculation", () => {
  it.each(CALCULATIONS.map((c) => [c.name, c] as const))(
    "%s: any input in its range has a finite answer with working, or a reason",
    (_, calculation) => {
      const given = fc.record(
        Object.fromEntries(
          calculation.inputs.map((i) => [
            i.name,
            fc.double({ min: i.low, max: i.high, noNaN: true }),
          ]),
        ),
      );
      fc.assert(
        fc.property(given, (values) => {
          const result = reckon(calculation, values);
          if (!result.ok) {
            expect(result.problem.length).toBeGreaterThan(10);
            return;
          }
          expect(result.working.length).toBeGreaterThan(0);
          for (const figure of [result.answer, ...result.also, ...result.working])
            expect(Number.isFinite(figure.value), figure.label).toBe(true);
          for (const line of result.working)
            for (const put of Object.values(line.with)) expect(Number.isFinite(put)).toBe(true);
        }),
        { seed: 51, numRuns: 60 },
      );
    },
  );

  it("answers with what stands in its inputs by itself, and its standard values lie in their ranges", () => {
    for (const c of CALCULATIONS) {
      expect(reckon(c, {}).ok, c.name).toBe(true);
      expect(c.source.length, c.name).toBeGreaterThan(15);
      for (const i of c.inputs)
        expect(i.standard >= i.low && i.standard <= i.high, `${c.name}.${i.name}`).toBe(true);
    }
  });

  it.each([
    ["more left than there was", "tank-drain", { depth: 0.1, left: 0.2 }, "cannot be more"],
    [
      "a cut-out below the cut-in",
      "accumulator",
      { cutIn: 300_000, cutOut: 200_000 },
      "above the cut-in",
    ],
    [
      "stronger than the product",
      "glycol-mix",
      { product: 0.3, strength: 0.4 },
      "its own strength",
    ],
    ["air warmer than the pipe", "heat-cable", { air: 10 }, "colder"],
    ["a figure out of range", "brix", { brix: 55 }, "Reading"],
    ["a figure that is none", "brix", { brix: Number.NaN }, "Reading"],
    ["what is not asked for", "brix", { salt: 1 }, "salt"],
  ])("refuses %s", (_, name, given, words) => {
    const result = reckon(named(name), given);
    expect(result.ok ? "" : result.problem).toContain(words);
  });
});

describe("a tank that drains", () => {
  const calculation = CALCULATIONS.find((c) => c.name === "tank-drain");
  const time = (given: Record<string, number>): number => {
    const result = calculation && reckon(calculation, given);
    if (!result?.ok) throw new Error("no answer");
    return result.answer.value;
  };

  it("is quicker by the drop of its full drain pipe: Torricelli over the whole head (worked by hand)", () => {
    // √(0.2 + 0.6) − √0.6 against √0.2: 0.1198 of 0.4472.
    expect(time({ drop: 0.6 }) / time({})).toBeCloseTo(
      (Math.sqrt(0.8) - Math.sqrt(0.6)) / Math.sqrt(0.2),
      9,
    );
  });

  it("does not drain with its vent blocked, and that is said", () => {
    expect(calculation && reckon(calculation, { vent: 0 })).toMatchObject({
      ok: false,
      problem: expect.stringMatching(/vent blocked/u),
    });
  });
});

describe("the course of an answer", () => {
  const byName = (name: string): Calculation => {
    const found = CALCULATIONS.find((c) => c.name === name);
    if (!found) throw new Error(name);
    return found;
  };

  it("is a straight line for the time that a tank takes to fill, with what was asked on it", () => {
    const points = courseOf(byName("tank-fill"), { volume: 0.2, flow: 2e-4 }, "volume", reckon);
    expect(points[0]?.at).toBeCloseTo(0.05, 9);
    expect(points.at(-1)?.at).toBeCloseTo(0.8, 9);
    expect(points.map((p) => p.at)).toContain(0.2);
    for (const { at, answer } of points) expect((answer ?? 0) / at).toBeCloseTo(1 / 2e-4, 6);
  });

  it.each(CALCULATIONS.flatMap((c) => c.inputs.map((i) => [c.name, i.name, c, i] as const)))(
    "%s along %s stays within what may be asked, in order, and comes to what is asked",
    (_, __, calculation, input) => {
      const points = courseOf(calculation, {}, input.name, reckon);
      for (const { at } of points) expect(at >= input.low && at <= input.high).toBe(true);
      points
        .slice(1)
        .forEach((p, i) => expect(p.at).toBeGreaterThan(points[i]?.at ?? Number.POSITIVE_INFINITY));
      const own = reckon(calculation, {});
      expect(points.find((p) => p.at === input.standard)?.answer).toBe(
        own.ok ? own.answer.value : undefined,
      );
    },
  );

  it("has gaps where there is no answer, and nothing of an input that is not asked for", () => {
    expect(courseOf(byName("tank-fill"), {}, "colour", reckon)).toEqual([]);
    const refused = courseOf(byName("tank-fill"), {}, "volume", () => ({
      ok: false,
      problem: "none",
    }));
    expect(refused.every((p) => p.answer === undefined)).toBe(true);
  });
});
