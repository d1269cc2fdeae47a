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
const factor = { f: 0, byRe: 0 };

/** Swamee-Jain. */
const turbulent = (re: number, roughness: number): void => {
  const smooth = 5.74 / re ** 0.9;
  const inside = roughness / 3.7 + smooth;
  const root = -TWO_LOG * Math.log(inside);
  factor.f = 1 / (root * root);
  factor.byRe = (-2 * factor.f * TWO_LOG * 0.9 * smooth) / (root * re * inside);
};

/** Dunlop's cubic between Reynolds 2,000 and 4,000, which meets both laws in value and slope. */
const between = (re: number, roughness: number): void => {
  const inside = roughness / 3.7 + SWAMEE_JAIN_AT_4000;
  const root = -TWO_LOG * Math.log(inside);
  const fa = 1 / (root * root);
  // 0.00514215 in the manual: 2 · 0.9 · (2/ln 10) · 5.74/4000^0.9.
  const fb = fa * (2 - (1.8 * TWO_LOG * SWAMEE_JAIN_AT_4000) / (inside * root));
  const r = re / LAMINAR_BELOW;
  const x1 = 7 * fa - fb;
  const x2 = 0.128 - 17 * fa + 2.5 * fb;
  const x3 = -0.128 + 13 * fa - 2 * fb;
  const x4 = 0.032 - 3 * fa + 0.5 * fb;
  factor.f = x1 + r * (x2 + r * (x3 + r * x4));
  factor.byRe = (x2 + r * (2 * x3 + r * 3 * x4)) / LAMINAR_BELOW;
};

/**
 * Darcy friction factor.
 * @param re Reynolds number, above 0
 * @param roughness wall roughness over bore, 0 to 0.05
 */
export const frictionFactor = (re: number, roughness: number): number => {
  if (re < LAMINAR_BELOW) return 64 / re;
  if (re < TURBULENT_FROM) between(re, roughness);
  else turbulent(re, roughness);
  return factor.f;
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
  };
};

/** Loss at a flow, m3/s, of the sign of the flow; written into `out`, for this runs in the innermost loop. */
export const pipeLoss = (law: PipeLaw, flow: number, out: Loss): Loss => {
  const q = Math.abs(flow);
  const re = q * law.rePerFlow;
  if (re < LAMINAR_BELOW) {
    out.lossPa = law.laminar * flow + law.fittings * q * flow;
    out.slope = law.laminar + 2 * law.fittings * q;
    return out;
  }
  if (re < TURBULENT_FROM) between(re, law.roughness);
  else turbulent(re, law.roughness);
  const all = law.turbulent * factor.f + law.fittings;
  out.lossPa = all * q * flow;
  out.slope = 2 * all * q + law.turbulent * factor.byRe * law.rePerFlow * q * q;
  return out;
};
