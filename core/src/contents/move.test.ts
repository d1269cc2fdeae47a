import { describe, expect, it } from "vitest";
import { compose, part, run } from "../examples/compose.ts";
import { networkOf } from "../testing/variants.ts";
import { cellAt, liveOpenings } from "../watermap/index.ts";
import {
  type Body,
  bodyOf,
  moveOn,
  type Packet,
  plus,
  product,
  type Station,
  strengthOf,
  sum,
  volumeOf,
  water,
} from "./index.ts";
import { NOTHING } from "./mixture.ts";
import { streamAlong } from "./move.ts";

const network = networkOf(
  compose(
    { id: "line", name: "Line", craft: "bench" },
    [part("in", "pressurised-inlet", "Inlet", 0), part("tap", "single-tap", "Tap", 0)],
    [run("in.out", "tap.in", "pex-1/2", 10, "cold")],
  ),
);
const [at = -1] = network.map.runs.map((r) => cellAt(network, r.id));
const cell = network.cells[at];
if (!cell) throw new Error("no cell");
const opening = liveOpenings({ network, lineup: { tap: "open" }, apart: [] }).find(
  (o) => o.use === "outlet",
);
if (!opening) throw new Error("no opening");

/** The pipe by itself: what comes by one opening goes by another. */
const way = { share: 1, heightM: 0, atFrom: true, opening };
const onward = { ...way, atFrom: false };
const alone: Station = {
  index: at,
  cell,
  in: [way],
  out: [onward],
  ahead: [],
  forced: 0,
  only: { in: way, out: onward },
};

const passed = (heldShare: number, packet: Packet): { out: Packet; heldM3: number } => {
  const held: Body[][] = network.cells.map(() => []);
  held[at] = [bodyOf(water(heldShare * cell.capacityM3))];
  let out: Packet | undefined;
  const carriers = { comes: () => packet, leaves: (p: Packet) => void (out = p) };
  moveOn([alone], held, volumeOf(packet.liquid) + packet.airM3, carriers);
  if (!out) throw new Error("nothing left");
  return { out, heldM3: volumeOf(sum(held[at] ?? [])) };
};

/** Pipes and bodies one after another, full of water; product comes in at the first and goes out at the last. */
const row = (bodies: readonly boolean[]): { stations: Station[]; held: Body[][] } => {
  const last = bodies.length - 1;
  const stations = bodies.map<Station>((isBody, i) => {
    const come = i === 0 ? way : { share: 1, heightM: 0, atFrom: true, link: i - 1 };
    const go = i === last ? onward : { share: 1, heightM: 0, atFrom: false, link: i };
    const { form, capacityM3, ...rest } = cell;
    return {
      index: i,
      cell: isBody
        ? { ...rest, form: "fitting", capacityM3: capacityM3 / 20 }
        : { ...rest, form, capacityM3 },
      in: [come],
      out: [go],
      ahead: [],
      forced: 0,
      only: { in: come, out: go },
    };
  });
  return { stations, held: stations.map((s) => [bodyOf(water(s.cell.capacityM3))]) };
};

describe("what stands full of just what comes", () => {
  const step = cell.capacityM3 / 150;
  const steps = 900;

  /** What came out of a row in all, and what it holds: every station looked at in every step, or only where something changes. */
  const run = (
    bodies: readonly boolean[],
    strengthAt: (n: number) => number,
    partAt: (n: number) => number,
    isRoused: boolean,
  ): number[] => {
    const { stations, held } = row(bodies);
    const stream = streamAlong(stations);
    let out = NOTHING;
    for (let n = 0; n < steps; n++) {
      if (isRoused) stream.rouse();
      // Steps of two sizes: whoever was still gives for each what it asks for.
      const amount = step * (n % 7 === 3 ? 0.5 : 1);
      stream.move(held, amount, {
        comes: (m3) => ({ liquid: product(m3 * partAt(n), strengthAt(n)), airM3: 0 }),
        leaves: ({ liquid }) => void (out = plus(out, liquid)),
      });
    }
    const all = [out, ...held.map(sum)];
    return all.flatMap((m) => [volumeOf(m) / cell.capacityM3, strengthOf(m)]);
  };

  it.each([
    ["product to the end", () => 0.5],
    ["product, then water, then product again", (n: number) => (n > 250 && n < 600 ? 0 : 0.5)],
    ["something a little stronger all the time", (n: number) => 0.3 + n * 2e-4],
    ["nothing but water", () => 0],
    [
      "water, for a while less of it than is asked for",
      () => 0,
      (n: number) => (n % 300 < 99 ? 0.5 : 1),
    ],
    ["product, for a while none at all", () => 0.5, (n: number) => (n % 400 > 350 ? 0 : 1)],
  ] as const)("is not looked at, and comes to the same: %s", (_, strengthAt, partAt = () => 1) => {
    for (const bodies of [
      [false, true, false, true, false],
      [true, true, false],
      [false, false],
    ]) {
      const whole = run(bodies, strengthAt, partAt, true);
      run(bodies, strengthAt, partAt, false).forEach((value, i) =>
        expect(value).toBeCloseTo(whole[i] ?? -1, 6),
      );
    }
  });
});

describe("a pipe that is passed", () => {
  const step = cell.capacityM3 / 100;

  it("gives as much as it takes, whatever of it is air", () => {
    for (const heldShare of [0.1, 0.5, 1])
      for (const air of [0, 0.3, 1]) {
        const { out, heldM3 } = passed(heldShare, {
          liquid: water((1 - air) * step),
          airM3: air * step,
        });
        expect(volumeOf(out.liquid) + out.airM3).toBeCloseTo(step, 12);
        expect(heldM3 + volumeOf(out.liquid)).toBeCloseTo(
          heldShare * cell.capacityM3 + (1 - air) * step,
          12,
        );
      }
  });

  it("gives liquid for air only as far as it is full: a fifth full, half of it air, a tenth of what comes out is liquid", () => {
    const { out } = passed(0.2, { liquid: water(step / 2), airM3: step / 2 });
    expect(volumeOf(out.liquid) / step).toBeGreaterThan(0.09);
    expect(volumeOf(out.liquid) / step).toBeLessThan(0.12);
  });

  it("gives all liquid where it is full", () => {
    expect(passed(1, { liquid: water(step / 2), airM3: step / 2 }).out.airM3).toBeCloseTo(0, 12);
  });

  it("keeps a film of what air sweeps out of it", () => {
    let heldShare = 1;
    for (let i = 0; i < 300; i++)
      heldShare = passed(heldShare, { liquid: water(0), airM3: step }).heldM3 / cell.capacityM3;
    expect(heldShare).toBeCloseTo(cell.sweepRemainder, 6);
    expect(heldShare).toBeGreaterThan(0);
  });
});
