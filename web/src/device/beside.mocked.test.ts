import { beforeEach, describe, expect, it, vi } from "vitest";

const made = vi.hoisted(() => [] as { readonly asked: unknown[][] }[]);
vi.mock("comlink", () => ({
  wrap: () => {
    const worker = { asked: [] as unknown[][] };
    made.push(worker);
    return {
      ask: (...asked: unknown[]) => {
        worker.asked.push(asked);
        return Promise.resolve(`said of ${String(asked[1])}`);
      },
    };
  },
}));
vi.stubGlobal(
  "Worker",
  class {
    terminate = (): void => undefined;
  },
);
const { besideOf } = await import("./beside.ts");

interface Halves {
  readonly half: (of: number) => number;
  readonly third: (of: number, by: string) => string;
}

describe("what is worked out beside the screen", () => {
  beforeEach(() => {
    made.length = 0;
  });

  it("is asked for by subject, name and what is given, and no worker begins before", async () => {
    const beside = besideOf<Halves>("try");
    expect(made).toHaveLength(0);
    expect(await beside.half(4)).toBe("said of half");
    expect(await beside.third(9, "hand")).toBe("said of third");
    expect(made.map((w) => w.asked)).toEqual([
      [
        ["try", "half", [4]],
        ["try", "third", [9, "hand"]],
      ],
    ]);
  });

  it("has a worker of its own for each who asks: what takes long in one holds no other up", async () => {
    await besideOf<Halves>("try").half(1);
    await besideOf<Halves>("try").half(2);
    expect(made).toHaveLength(2);
  });

  it("is nothing to wait for by itself", async () => {
    const beside = besideOf<Halves>("try");
    expect(await Promise.resolve(beside)).toBe(beside);
    expect(made).toHaveLength(0);
  });
});
