/** Pipe and hose systems: name → bore. Volume of a run is bore area × length. */
export interface PipeSystem {
  readonly pipe: string;
  readonly label: string;
  readonly boreM: number;
  /** Outside diameter, m; for hose the figure is nominal. */
  readonly outsideM: number;
  /** Gravity waste pipe: never runs full, keeps only a film. */
  readonly waste?: boolean;
}

const inch = 0.0254;

const ALL: readonly PipeSystem[] = [
  // Source: ASTM F876/F877, PEX SDR-9, copper tube size: outside diameter, mean inside diameter (PPI design guide).
  { pipe: "pex-3/8", label: "3/8 in tube", boreM: 0.35 * inch, outsideM: 0.5 * inch },
  { pipe: "pex-1/2", label: "1/2 in tube", boreM: 0.475 * inch, outsideM: 0.625 * inch },
  { pipe: "pex-3/4", label: "3/4 in tube", boreM: 0.671 * inch, outsideM: 0.875 * inch },
  // Source: BS 7291 / ISO 15875-2, metric push-fit.
  { pipe: "metric-15", label: "15 mm tube", boreM: 0.0117, outsideM: 0.015 },
  { pipe: "metric-22", label: "22 mm tube", boreM: 0.0177, outsideM: 0.022 },
  // Hose is sized by its bore.
  { pipe: "hose-10", label: "10 mm hose", boreM: 0.01, outsideM: 0.016 },
  { pipe: "hose-13", label: "13 mm hose", boreM: 0.0127, outsideM: 0.019 },
  { pipe: "hose-19", label: "19 mm hose", boreM: 0.019, outsideM: 0.027 },
  { pipe: "hose-38", label: "38 mm fill hose", boreM: 0.038, outsideM: 0.046 },
  { pipe: "waste-25", label: "25 mm waste hose", boreM: 0.025, outsideM: 0.032, waste: true },
  { pipe: "waste-32", label: "32 mm waste pipe", boreM: 0.032, outsideM: 0.036, waste: true },
  { pipe: "waste-40", label: "40 mm waste pipe", boreM: 0.036, outsideM: 0.04, waste: true },
  { pipe: "sanitation-38", label: "38 mm sanitation hose", boreM: 0.038, outsideM: 0.048, waste: true },
];

export const PIPE_SYSTEMS: ReadonlyMap<string, PipeSystem> = new Map(ALL.map((system) => [system.pipe, system]));

/** Volume of a length of pipe, m3. */
export const pipeVolumeM3 = (boreM: number, lengthM: number): number => (Math.PI / 4) * boreM * boreM * lengthM;
