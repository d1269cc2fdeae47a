import { INCH_M } from "../quantity/index.ts";
import { PIPE_SYSTEMS } from "./pipes.ts";

/** Thread standards met aboard, and the rules by which ends of pipes and threads mate. */
export interface Thread {
  readonly thread: string;
  readonly label: string;
  readonly threadsPerInch: number;
  readonly majorM: number;
  /** Flank angle, degrees. */
  readonly angle: 55 | 60;
  readonly form: "tapered" | "parallel";
  /** Seals on a washer, not on its flanks. */
  readonly washer: boolean;
}

const inch = INCH_M;

// ASME B1.20.1 (NPT, NPSM), ISO 228-1 (G), ASME B1.20.7 (NH). From memory.
const ALL: readonly Thread[] = [
  {
    thread: "npt-1/2",
    label: "1/2 NPT",
    threadsPerInch: 14,
    majorM: 0.84 * inch,
    angle: 60,
    form: "tapered",
    washer: false,
  },
  {
    thread: "npt-3/4",
    label: "3/4 NPT",
    threadsPerInch: 14,
    majorM: 1.05 * inch,
    angle: 60,
    form: "tapered",
    washer: false,
  },
  {
    thread: "npsm-1/2",
    label: "1/2 NPSM",
    threadsPerInch: 14,
    majorM: 0.84 * inch,
    angle: 60,
    form: "parallel",
    washer: true,
  },
  {
    thread: "g-1/2",
    label: "G 1/2",
    threadsPerInch: 14,
    majorM: 0.020955,
    angle: 55,
    form: "parallel",
    washer: true,
  },
  {
    thread: "g-3/4",
    label: "G 3/4",
    threadsPerInch: 14,
    majorM: 0.026441,
    angle: 55,
    form: "parallel",
    washer: true,
  },
  {
    thread: "nh-3/4",
    label: "3/4-11.5 NH hose thread",
    threadsPerInch: 11.5,
    majorM: 1.0625 * inch,
    angle: 60,
    form: "parallel",
    washer: true,
  },
];

export const THREADS: ReadonlyMap<string, Thread> = new Map(
  ALL.map((thread) => [thread.thread, thread]),
);

/** Pitch of a thread, mm. */
export const pitchMm = (thread: Thread): number => 25.4 / thread.threadsPerInch;

export interface Mating {
  readonly answer: "fits" | "measure" | "adapter" | "never";
  readonly why: string;
}

const FITS: Mating = { answer: "fits", why: "" };

// Tube fittings grip within about 0.2 mm of their size (values of push-fit makers, from memory).
const GRIP_M = 0.0002;
// Two tubes closer than this look alike and go in by hand; calipers must tell.
const LOOK_ALIKE_M = 0.001;
const TOO_CLOSE_M = 0.0003;

const mm = (m: number): string => `${Number((m * 1000).toFixed(2))} mm`;

const matePipes = (a: string, b: string): Mating => {
  const [one, two] = [PIPE_SYSTEMS.get(a), PIPE_SYSTEMS.get(b)];
  if (!one || !two || a === b) return FITS;
  const tube = (family: string): boolean =>
    family === "copper-size tube" || family === "metric tube" || family === "copper";
  if (tube(one.family) !== tube(two.family))
    return { answer: "adapter", why: `${one.label} and ${two.label} need a tail or an adapter.` };
  if (!tube(one.family))
    return Math.abs(one.boreM - two.boreM) < GRIP_M
      ? FITS
      : { answer: "adapter", why: `${one.label} and ${two.label} differ in bore.` };
  const apart = Math.abs(one.outsideM - two.outsideM);
  if (one.pipe.startsWith("pb-") !== two.pipe.startsWith("pb-"))
    return {
      answer: "adapter",
      why: `${one.label} and ${two.label} share the outside but not the wall: a transition fitting is needed.`,
    };
  if (apart < 1e-6) return FITS;
  if (apart < TOO_CLOSE_M)
    return {
      answer: "measure",
      why: `${one.label} is ${mm(one.outsideM)} outside and ${two.label} ${mm(two.outsideM)}: only ${mm(apart)} apart. Measure it with calipers; from 22.05 to 22.15 mm neither can be told.`,
    };
  if (apart < LOOK_ALIKE_M)
    return {
      answer: "never",
      why: `${one.label} is ${mm(one.outsideM)} outside and ${two.label} ${mm(two.outsideM)}: they look alike and the wrong fitting leaks.`,
    };
  return {
    answer: "adapter",
    why: `${one.label} and ${two.label} differ in size: a reducer is needed.`,
  };
};

const mateThreads = (one: Thread, two: Thread): Mating => {
  if (one.thread === two.thread) return FITS;
  const size = Math.abs(one.majorM - two.majorM);
  if (one.threadsPerInch !== two.threadsPerInch && size < LOOK_ALIKE_M)
    return {
      answer: "never",
      why: `${one.label} and ${two.label} have different pitches (${pitchMm(one).toFixed(3)} and ${pitchMm(two).toFixed(3)} mm): they start and then cross.`,
    };
  if (one.angle !== two.angle && size < LOOK_ALIKE_M)
    return {
      answer: "never",
      why: `${one.label} and ${two.label} start together, then leak: their flanks are 55 and 60 degrees.`,
    };
  if (one.form !== two.form && size < LOOK_ALIKE_M)
    return {
      answer: "measure",
      why: `${one.label} is ${one.form} and ${two.label} ${two.form}: they go together only where the joint seals on its washer, never on tape.`,
    };
  return { answer: "adapter", why: `${one.label} and ${two.label} differ in size.` };
};

/**
 * Whether two ends mate: pipe systems ("pex-1/2", "metric-15") or threads ("npt-1/2").
 * Sources: the sizes of ASTM F876, BS 7291, ASME B1.20.1, ISO 228-1 and ASME B1.20.7 (from memory) and plain arithmetic on them.
 * @returns fits; measure (too close to tell by eye); adapter (one is needed); never (looks right, leaks)
 */
export const mate = (a: string, b: string): Mating => {
  const [one, two] = [THREADS.get(a), THREADS.get(b)];
  if (one && two) return mateThreads(one, two);
  if (one || two)
    return { answer: "adapter", why: "A pipe's end and a thread need a fitting between them." };
  return matePipes(a, b);
};

/** Every name that an end can carry. */
export const endLabel = (name: string): string =>
  PIPE_SYSTEMS.get(name)?.label ?? THREADS.get(name)?.label ?? name;
