import { INCH_M, PSI_PA } from "../quantity/index.ts";
/** Pipe and hose systems: name → bore, outside diameter, rating. Volume of a run is bore area × length. */
type PipeFamily = "copper-size tube" | "metric tube" | "copper" | "hose" | "waste" | "sanitation";

export interface PipeSystem {
  readonly pipe: string;
  readonly label: string;
  readonly family: PipeFamily;
  readonly boreM: number;
  /** Outside diameter, m; for hose the figure is nominal. */
  readonly outsideM: number;
  /** Working pressure at about 23 °C, Pa; none for waste pipe. */
  readonly ratingPa?: number;
  /** Gravity waste pipe: never runs full, keeps only a film. */
  readonly waste?: boolean;
}

/** What a heated hose is commonly rated to keep from freezing in, °C (−20 °F; common practice, no source: its label says). */
export const HEATED_HOSE_C = -28.9;

const inch = INCH_M;
const psi = PSI_PA;
const bar = 100_000;

type Row = readonly [pipe: string, label: string, boreM: number, outsideM: number];

const family = (
  name: PipeFamily,
  ratingPa: number | undefined,
  rows: readonly Row[],
): PipeSystem[] =>
  rows.map(([pipe, label, boreM, outsideM]) => ({
    pipe,
    label,
    family: name,
    boreM,
    outsideM,
    ...(ratingPa === undefined ? {} : { ratingPa }),
    ...(name === "waste" || name === "sanitation" ? { waste: true } : {}),
  }));

const ALL: readonly PipeSystem[] = [
  // ASTM F876/F877, SDR-9, copper tube size: outside diameter, mean inside diameter (PPI design guide); 160 psi at 73 °F. From memory.
  ...family("copper-size tube", 160 * psi, [
    ["pex-3/8", "3/8 in tube", 0.35 * inch, 0.5 * inch],
    ["pex-1/2", "1/2 in tube", 0.475 * inch, 0.625 * inch],
    ["pex-3/4", "3/4 in tube", 0.671 * inch, 0.875 * inch],
    ["pex-1", "1 in tube", 0.863 * inch, 1.125 * inch],
  ]),
  // Polybutylene, c. 1978 to 1995, shares the outside with a larger bore; bore from memory, check before quoting.
  ...family("copper-size tube", 100 * psi, [
    ["pb-1/2", "1/2 in grey polybutylene", 0.505 * inch, 0.625 * inch],
  ]),
  // BS 7291 / ISO 15875-2, metric push-fit; 12 bar at 20 °C for class S. From memory; the 12 and 28 mm bores are the least sure.
  ...family("metric tube", 12 * bar, [
    ["metric-12", "12 mm tube", 0.009, 0.012],
    ["metric-15", "15 mm tube", 0.0117, 0.015],
    ["metric-16", "16 mm multilayer tube", 0.012, 0.016],
    ["metric-22", "22 mm tube", 0.0177, 0.022],
    ["metric-28", "28 mm tube", 0.0225, 0.028],
  ]),
  // ASTM B88 type L, nominal inside diameters. From memory. Rated far above anything aboard; 40 bar stands for "not the weak part".
  ...family("copper", 40 * bar, [
    ["copper-3/8", "3/8 in copper", 0.43 * inch, 0.5 * inch],
    ["copper-1/2", "1/2 in copper", 0.545 * inch, 0.625 * inch],
    ["copper-3/4", "3/4 in copper", 0.785 * inch, 0.875 * inch],
    // EN 1057, 15 and 22 mm with 0.7 and 0.9 mm wall. From memory.
    ["copper-15", "15 mm copper", 0.0136, 0.015],
    ["copper-22", "22 mm copper", 0.0202, 0.022],
  ]),
  // Hose is sized by its bore. Braided: about 150 psi at 70 °F, half of it hot; common practice, no source.
  ...family("hose", 150 * psi, [
    ["hose-6", "6 mm appliance line", 0.0043, 0.0064],
    ["hose-10", "10 mm braided hose", 0.01, 0.016],
    ["hose-13", "13 mm braided hose", 0.0127, 0.019],
    ["hose-16", "16 mm drinking-water hose", 0.0159, 0.022],
    ["hose-19", "19 mm braided hose", 0.019, 0.027],
  ]),
  // Ribbed vacuum and fill hose: no pressure to speak of; common practice, no source.
  ...family("hose", 1 * bar, [
    ["vacuum-13", "13 mm vacuum hose", 0.0127, 0.02],
    ["vacuum-19", "19 mm vacuum hose", 0.019, 0.028],
    ["hose-32", "32 mm fill hose", 0.032, 0.039],
    ["hose-38", "38 mm fill hose", 0.038, 0.046],
  ]),
  // Waste pipe and sanitation hose: nominal, walls from memory.
  ...family("waste", undefined, [
    ["waste-25", "25 mm waste hose", 0.025, 0.032],
    ["waste-32", "32 mm waste pipe", 0.032, 0.036],
    ["waste-40", "40 mm waste pipe", 0.036, 0.04],
    ["waste-1-1/2", "1-1/2 in waste pipe", 1.59 * inch, 1.9 * inch],
    ["waste-3", "3 in waste pipe", 3.04 * inch, 3.5 * inch],
  ]),
  ...family("sanitation", undefined, [
    ["sanitation-25", "25 mm sanitation hose", 0.025, 0.035],
    ["sanitation-38", "38 mm sanitation hose", 0.038, 0.048],
    ["sanitation-50", "50 mm sanitation hose", 0.05, 0.062],
    ["sanitation-76", "3 in sanitation hose", 0.076, 0.084],
  ]),
];

export const PIPE_SYSTEMS: ReadonlyMap<string, PipeSystem> = new Map(
  ALL.map((system) => [system.pipe, system]),
);

/** Volume of a length of pipe, m3. */
export const pipeVolumeM3 = (boreM: number, lengthM: number): number =>
  (Math.PI / 4) * boreM * boreM * lengthM;
