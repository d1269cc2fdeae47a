import { COMMON_NIGHT, nightWatch, startingContents } from "../contents/index.ts";
import { cellName, type Network } from "../watermap/index.ts";

/** Staying in a unit while it freezes outside: what lies bare, what its own heat keeps, and what happens when the power goes. */

export interface Exposed {
  readonly id: string;
  readonly name: string;
  /** Bare, lagged, or kept by heat of its own: a heated hose, a cable. */
  readonly how: "bare" | "lagged" | "heated";
  /** Coldest air that its own heat is rated for, °C; nothing where it has none. */
  readonly ratedToC: number | null;
  /** Whether it is kept while the power is on. */
  readonly kept: boolean;
  /** Seconds from nightfall to the first ice, and until frozen through, with no heat of its own; nothing where the night does not freeze it. */
  readonly firstIceS: number | null;
  readonly throughS: number | null;
}

export interface Stay {
  readonly lowC: number;
  /** Outside the heated space, what is not kept first, the soonest of them first. */
  readonly outside: readonly Exposed[];
  /** The part that gives out first with the power on; nothing where everything outside is kept. */
  readonly weakest: Exposed | null;
  /** What the heated space keeps only while it is heated, the soonest first: how long it lasts once power or gas is gone. */
  readonly insideWithoutHeat: readonly {
    readonly id: string;
    readonly name: string;
    readonly throughS: number;
  }[];
  /** Heated hose and cable aboard, m. */
  readonly heatedM: number;
}

const bare = (network: Network): Network => ({
  ...network,
  cells: network.cells.map((c) => {
    if (!c.run || c.run.ratedToC === undefined) return c;
    const { ratedToC: _rated, ...run } = c.run;
    return { ...c, run };
  }),
});

const HEATED_INSIDE_K = 60;

/**
 * What a night does to a unit in use, full of water.
 * @param lowC air outside, °C, below 0
 */
export const stayInFrost = (network: Network, lowC: number): Stay => {
  const contents = startingContents(network);
  const cold = bare(network);
  // A heated space is far warmer than the night: what is listed then lies outside it.
  const outsideOnly = nightWatch(cold, contents, {
    ...COMMON_NIGHT,
    airC: lowC,
    insideK: HEATED_INSIDE_K,
  });
  const all = nightWatch(cold, contents, { ...COMMON_NIGHT, airC: lowC });
  const isOut = new Set(outsideOnly.map((w) => w.cell));
  const outside = outsideOnly
    .map<Exposed>((w) => {
      const cell = network.cells[w.cell];
      const rated = cell?.run?.ratedToC ?? null;
      return {
        id: w.id,
        name: cellName(network, w.cell),
        how: rated !== null ? "heated" : cell?.run?.insulated ? "lagged" : "bare",
        ratedToC: rated,
        kept: rated !== null && rated <= lowC,
        firstIceS: w.firstIceS,
        throughS: w.throughS,
      };
    })
    .toSorted(
      (a, b) =>
        Number(a.kept) - Number(b.kept) ||
        (a.throughS ?? 0) - (b.throughS ?? 0) ||
        (a.id < b.id ? -1 : 1),
    );
  return {
    lowC,
    outside,
    weakest: outside.find((e) => !e.kept) ?? null,
    insideWithoutHeat: all
      .filter((w) => !isOut.has(w.cell))
      .map(({ id, name, throughS }) => ({ id, name, throughS })),
    heatedM: network.map.runs.reduce(
      (sum, r) => sum + (r.ratedToC === undefined ? 0 : r.lengthM),
      0,
    ),
  };
};

export interface Circuit {
  readonly volts: number;
  readonly breakerA: number;
  /** Cable and heated hose on it, m, and what each metre takes, W/m. */
  readonly cableM: number;
  readonly wattsPerM: number;
  /** Everything else that runs through the night on it: heaters, chargers, W. */
  readonly otherW: number;
}

export interface CircuitLoad {
  readonly cableW: number;
  readonly totalW: number;
  readonly amps: number;
  /** What may run on it through the night, A. */
  readonly limitA: number;
  readonly verdict: "within" | "over the night's limit" | "over the breaker";
}

// A load of three hours and more is kept to four fifths of its breaker (National Electrical Code 210.20, from memory; local codes differ).
const CONTINUOUS_SHARE = 0.8;

/** What heat cable and the rest draw from one circuit through a night: I = P / U. */
export const circuitLoad = ({
  volts,
  breakerA,
  cableM,
  wattsPerM,
  otherW,
}: Circuit): CircuitLoad => {
  const cableW = cableM * wattsPerM;
  const totalW = cableW + otherW;
  const amps = totalW / volts;
  const limitA = breakerA * CONTINUOUS_SHARE;
  return {
    cableW,
    totalW,
    amps,
    limitA,
    verdict:
      amps > breakerA ? "over the breaker" : amps > limitA ? "over the night's limit" : "within",
  };
};
