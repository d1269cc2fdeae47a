import { type PipeSystem, PIPE_SYSTEMS, type Thread, THREADS } from "../watermap/index.ts";

/** What the caliper and the thread gauge show, and which system that is; or that it cannot be told and must be measured again. */

export interface Measured {
  /** Outside diameter of a tube, or of a thread over its crests, m. */
  readonly outsideM?: number | undefined;
  /** Inside diameter of a hose, m. */
  readonly insideM?: number | undefined;
  /** Counted against a gauge. */
  readonly threadsPerInch?: number | undefined;
  readonly seal?: "washer" | "taper" | undefined;
}

export interface FitAnswer {
  readonly answer: "found" | "measure again" | "unknown";
  readonly systems: readonly {
    readonly name: string;
    readonly label: string;
    readonly offM: number;
  }[];
  readonly why: string;
  /** What looks like it, goes together by hand, and leaks. */
  readonly nearMiss: readonly string[];
}

// What a caliper in the hand is good for, and makers' own tolerance (ASTM F876: 0.1 mm on half inch, from memory), m.
const GRIP_M = 0.0002;
const SURE_M = 0.00005;
const CLEAR_M = 0.0001;
const LOOKS_LIKE_M = 0.001;
const mm = (m: number): string => `${(m * 1000).toFixed(2)} mm`;

// Hose gives: it is told by its bore to half a millimetre.
const HOSE_M = 0.0006;

const tubes = (): PipeSystem[] =>
  [...PIPE_SYSTEMS.values()].filter(
    (s) => s.family === "copper-size tube" || s.family === "metric tube" || s.family === "copper",
  );

const unknown = (why: string): FitAnswer => ({ answer: "unknown", systems: [], why, nearMiss: [] });

const byTube = (outsideM: number): FitAnswer => {
  const all = tubes()
    .map((s) => ({
      name: s.pipe,
      label: s.label,
      offM: Math.abs(s.outsideM - outsideM),
      at: s.outsideM,
    }))
    .toSorted((a, b) => a.offM - b.offM);
  const within = all.filter((s) => s.offM <= GRIP_M + 1e-9);
  // Dead on one size and clear of the next: half inch beside 16 mm multilayer, three quarter beside 22 mm.
  const best = all[0]?.offM ?? 0;
  const sure = best <= SURE_M;
  const fits = within.filter((s) => !sure || s.offM <= best + 1e-6 || s.offM < CLEAR_M);
  const near = all.filter((s) => !fits.includes(s) && s.offM <= LOOKS_LIKE_M);
  const sizes = new Set(fits.map((s) => s.at.toFixed(5)));
  const systems = fits.map(({ name, label, offM }) => ({ name, label, offM }));
  const nearMiss = near.map(
    (s) => `${s.label} is ${mm(s.at)}: it goes in by hand, and its fitting leaks`,
  );
  if (fits.length === 0)
    return {
      answer: near.length > 0 ? "measure again" : "unknown",
      systems: [],
      why:
        near.length > 0
          ? `${mm(outsideM)} is no tube that is sold; nearest is ${near[0]?.label}, ${mm(near[0]?.at ?? 0)}. Measure it again where it is round and clean.`
          : `No tube aboard is ${mm(outsideM)} outside.`,
      nearMiss,
    };
  if (sizes.size > 1)
    return {
      answer: "measure again",
      systems,
      why: `${mm(outsideM)} lies between ${fits.map((s) => `${s.label}, ${mm(s.at)}`).join(", and ")}: too close for a caliper in the hand. Read what is printed on it, or measure to a twentieth of a millimetre.`,
      nearMiss,
    };
  return {
    answer: "found",
    systems,
    why:
      fits.length > 1
        ? `${mm(outsideM)}: the same outside for all of these. The wall and what is printed on it tell them apart; grey polybutylene wants a transition fitting.`
        : `${mm(outsideM)}, ${mm(fits[0]?.offM ?? 0)} off.`,
    nearMiss,
  };
};

const describe = (t: Thread): string => `${t.label}, ${t.threadsPerInch} to the inch, ${t.angle}°`;

const byThread = (outsideM: number, tpi: number, seal: Measured["seal"]): FitAnswer => {
  const all = [...THREADS.values()].map((t) => ({ t, offM: Math.abs(t.majorM - outsideM) }));
  const near = all.filter((x) => x.offM <= LOOKS_LIKE_M);
  const fits = near.filter(
    (x) =>
      Math.abs(x.t.threadsPerInch - tpi) < 0.3 &&
      (seal === undefined || x.t.washer === (seal === "washer")),
  );
  const others = near.filter((x) => !fits.includes(x));
  const nearMiss = others.map((x) => `${describe(x.t)}: it starts, and then crosses or leaks`);
  const systems = fits.map(({ t, offM }) => ({ name: t.thread, label: t.label, offM }));
  if (fits.length === 0)
    return near.length > 0
      ? {
          answer: "measure again",
          systems: [],
          why: `The diameter is near ${near.map((x) => x.t.label).join(" and ")}, but ${tpi} threads to the inch${seal === undefined ? "" : ` with a ${seal}`} is neither. Count again.`,
          nearMiss,
        }
      : unknown(`No thread aboard is ${mm(outsideM)} over its crests.`);
  return fits.length === 1
    ? { answer: "found", systems, why: describe(fits[0]?.t as Thread), nearMiss }
    : {
        answer: "measure again",
        systems,
        why: `${fits.map((x) => describe(x.t)).join(", or ")}: the diameter and the count are too near to tell. Look at the flanks (55° or 60°) and how it seals, on a washer or by its taper.`,
        nearMiss,
      };
};

const byHose = (insideM: number): FitAnswer => {
  const fits = [...PIPE_SYSTEMS.values()]
    .filter((s) => s.family === "hose" || s.family === "sanitation")
    .map((s) => ({ name: s.pipe, label: s.label, offM: Math.abs(s.boreM - insideM) }))
    .filter((s) => s.offM <= HOSE_M)
    .toSorted((a, b) => a.offM - b.offM);
  return fits.length > 0
    ? {
        answer: "found",
        systems: fits,
        why: `${mm(insideM)} inside. Hose goes by its bore; ask for its drinking-water mark.`,
        nearMiss: [],
      }
    : unknown(`No hose aboard is ${mm(insideM)} inside.`);
};

/** Names what was measured. */
export const fitOf = (m: Measured): FitAnswer => {
  if (m.insideM !== undefined) return byHose(m.insideM);
  if (m.outsideM === undefined) return unknown("Measure the outside first, or a hose by its bore.");
  return m.threadsPerInch === undefined
    ? byTube(m.outsideM)
    : byThread(m.outsideM, m.threadsPerInch, m.seal);
};
