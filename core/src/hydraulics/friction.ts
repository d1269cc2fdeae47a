/**
 * Pressure lost in a full pipe, Darcy-Weisbach. The friction factor is explicit and runs without a step from laminar to
 * turbulent, as in the EPANET 2.2 users manual (EPA/600/R-20/133, chapter 12): Hagen-Poiseuille under Reynolds 2,000,
 * Swamee-Jain above 4,000, and Dunlop's cubic through the Moody diagram between.
 */

/** A pressure loss and how it changes with flow, Pa and Pa·s/m3. */
export interface Loss {
  lossPa: number;
  slope: number;
}

// 2/ln 10: turns a natural logarithm into the 2·log10 of the friction law.
const TWO_LOG = 2 / Math.LN10;
const LAMINAR_BELOW = 2000;
const TURBULENT_FROM = 4000;
const SWAMEE_JAIN_AT_4000 = 5.74 / TURBULENT_FROM ** 0.9;

/** Friction factor and its change with the Reynolds number; filled in and read at once, for this runs in the innermost loop. */
const factor = new Float64Array(2);
const F = 0;
const BY_RE = 1;

/** Swamee-Jain. */
const turbulent = (re: number, roughness: number): void => {
  const smooth = 5.74 / re ** 0.9;
  const inside = roughness / 3.7 + smooth;
  const root = -TWO_LOG * Math.log(inside);
  factor[F] = 1 / (root * root);
  factor[BY_RE] = (-2 * factor[F] * TWO_LOG * 0.9 * smooth) / (root * re * inside);
};

type Cubic = readonly [number, number, number, number];

/** Dunlop's cubic between Reynolds 2,000 and 4,000, which meets both laws in value and slope: its coefficients, by re/2,000. */
const dunlop = (roughness: number): Cubic => {
  const inside = roughness / 3.7 + SWAMEE_JAIN_AT_4000;
  const root = -TWO_LOG * Math.log(inside);
  const fa = 1 / (root * root);
  // 0.00514215 in the manual: 2 · 0.9 · (2/ln 10) · 5.74/4000^0.9.
  const fb = fa * (2 - (1.8 * TWO_LOG * SWAMEE_JAIN_AT_4000) / (inside * root));
  return [
    7 * fa - fb,
    0.128 - 17 * fa + 2.5 * fb,
    -0.128 + 13 * fa - 2 * fb,
    0.032 - 3 * fa + 0.5 * fb,
  ];
};

const between = (re: number, [x1, x2, x3, x4]: Cubic): void => {
  const r = re / LAMINAR_BELOW;
  factor[F] = x1 + r * (x2 + r * (x3 + r * x4));
  factor[BY_RE] = (x2 + r * (2 * x3 + r * 3 * x4)) / LAMINAR_BELOW;
};

// A table goes from the octave in which Reynolds 4,000 lies to 2^28, each octave in so many pieces.
const FIRST_OCTAVE = 11;
const OCTAVES = 17;
const PIECES = 32;

/**
 * The friction factor of one wall roughness. Above Reynolds 4,000 it is read off cubics that meet the law in value and slope at both ends of
 * each piece, and so lie within 1e-8 of it: logarithm and power for every pipe at every step were half of a solve.
 */
class Friction {
  private readonly roughness: number;
  private readonly middle: Cubic;
  /** Four coefficients a piece, by the share of the piece; made when one is first asked for: no factor is 0. */
  private readonly cubics = new Float64Array(4 * PIECES * OCTAVES);

  constructor(roughness: number) {
    this.roughness = roughness;
    this.middle = dunlop(roughness);
  }

  /** Says the factor into `factor`. @param re from 2,000 */
  at(re: number): void {
    if (re < TURBULENT_FROM) return between(re, this.middle);
    if (re >= MOST_RE) return turbulent(re, this.roughness);
    const octave = 31 - Math.clz32(re);
    const perRe = PIECES / (1 << octave);
    const along = re * perRe - PIECES;
    // Whole pieces: no more than a table has, so that the bits serve.
    const piece = along | 0;
    const i = 4 * ((octave - FIRST_OCTAVE) * PIECES + piece);
    const { cubics } = this;
    if (cubics[i] === 0) this.make(i, (piece + PIECES) / perRe, 1 / perRe);
    const t = along - piece;
    const c1 = cubics[i + 1] as number;
    const c2 = cubics[i + 2] as number;
    const c3 = cubics[i + 3] as number;
    factor[F] = (cubics[i] as number) + t * (c1 + t * (c2 + t * c3));
    factor[BY_RE] = (c1 + t * (2 * c2 + t * 3 * c3)) * perRe;
  }

  /** Hermite's cubic over one piece. */
  private make(i: number, from: number, width: number): void {
    turbulent(from, this.roughness);
    const [f0, s0] = [factor[F] as number, (factor[BY_RE] as number) * width];
    turbulent(from + width, this.roughness);
    const [f1, s1] = [factor[F] as number, (factor[BY_RE] as number) * width];
    this.cubics.set([f0, s0, 3 * (f1 - f0) - 2 * s0 - s1, 2 * (f0 - f1) + s0 + s1], i);
  }
}
const MOST_RE = 2 ** (FIRST_OCTAVE + OCTAVES);

const MOST_ROUGHNESSES = 100;
const frictions = new Map<number, Friction>();
const frictionOf = (roughness: number): Friction => {
  const known = frictions.get(roughness);
  if (known) return known;
  if (frictions.size >= MOST_ROUGHNESSES) frictions.clear();
  const made = new Friction(roughness);
  frictions.set(roughness, made);
  return made;
};

/**
 * Darcy friction factor.
 * @param re Reynolds number, above 0
 * @param roughness wall roughness over bore, 0 to 0.05
 */
export const frictionFactor = (re: number, roughness: number): number => {
  if (re < LAMINAR_BELOW) return 64 / re;
  if (re < TURBULENT_FROM) between(re, dunlop(roughness));
  else turbulent(re, roughness);
  return factor[F] as number;
};

/** What a pipe needs to know of itself to say its loss; made once per solve. */
export interface PipeLaw {
  /** Reynolds number per m3/s. */
  readonly rePerFlow: number;
  /** Laminar loss per m3/s, Pa·s/m3. */
  readonly laminar: number;
  /** ρ/2·(1/area)²·L/d: loss over f·q². */
  readonly turbulent: number;
  /** ρ/2·(1/area)²·K: loss of fittings over q². */
  readonly fittings: number;
  readonly roughness: number;
  /** Of this roughness. */
  readonly friction: Friction;
}

/**
 * @param pipe length and bore, m; wall roughness, m; sum of the fittings' loss factors K, against the velocity head in this bore
 * @param liquid density, kg/m3, and dynamic viscosity, Pa·s
 */
export const pipeLaw = (
  pipe: { lengthM: number; boreM: number; roughnessM: number; lossK: number },
  liquid: { densityKgM3: number; viscosityPaS: number },
): PipeLaw => {
  const area = (Math.PI / 4) * pipe.boreM * pipe.boreM;
  const dynamic = liquid.densityKgM3 / (2 * area * area);
  return {
    rePerFlow: (liquid.densityKgM3 * pipe.boreM) / (area * liquid.viscosityPaS),
    laminar: (128 * liquid.viscosityPaS * pipe.lengthM) / (Math.PI * pipe.boreM ** 4),
    turbulent: (dynamic * pipe.lengthM) / pipe.boreM,
    fittings: dynamic * pipe.lossK,
    roughness: pipe.roughnessM / pipe.boreM,
    friction: frictionOf(pipe.roughnessM / pipe.boreM),
  };
};

/** Loss at a flow, m3/s, of the sign of the flow; written into `out`, for this runs in the innermost loop. */
export const pipeLoss = (law: PipeLaw, flow: number, out: Loss): Loss =>
  lossBy(law.rePerFlow, law.laminar, law.turbulent, law.fittings, law.friction, flow, out);

/** The same, of what a law says, one by one. */
const lossBy = (
  rePerFlow: number,
  laminar: number,
  turbulentPart: number,
  fittings: number,
  friction: Friction,
  flow: number,
  out: Loss,
): Loss => {
  const q = Math.abs(flow);
  const re = q * rePerFlow;
  if (re < LAMINAR_BELOW) {
    out.lossPa = laminar * flow + fittings * q * flow;
    out.slope = laminar + 2 * fittings * q;
    return out;
  }
  friction.at(re);
  const all = turbulentPart * (factor[F] as number) + fittings;
  out.lossPa = all * q * flow;
  out.slope = 2 * all * q + turbulentPart * (factor[BY_RE] as number) * rePerFlow * q * q;
  return out;
};

/** The laws of many pipes side by side, as a solver goes through them. */
export class PipeLaws {
  private readonly rePerFlow: Float64Array;
  private readonly laminar: Float64Array;
  private readonly turbulent: Float64Array;
  private readonly fittings: Float64Array;
  private readonly friction: readonly Friction[];

  constructor(laws: readonly PipeLaw[]) {
    const count = laws.length;
    this.rePerFlow = new Float64Array(count);
    this.laminar = new Float64Array(count);
    this.turbulent = new Float64Array(count);
    this.fittings = new Float64Array(count);
    for (let k = 0; k < count; k++) {
      const law = laws[k] as PipeLaw;
      this.rePerFlow[k] = law.rePerFlow;
      this.laminar[k] = law.laminar;
      this.turbulent[k] = law.turbulent;
      this.fittings[k] = law.fittings;
    }
    this.friction = laws.map((l) => l.friction);
  }

  /** What `pipeLoss` says of one of them. */
  loss(k: number, flow: number, out: Loss): Loss {
    return lossBy(
      this.rePerFlow[k] as number,
      this.laminar[k] as number,
      this.turbulent[k] as number,
      this.fittings[k] as number,
      this.friction[k] as Friction,
      flow,
      out,
    );
  }
}
