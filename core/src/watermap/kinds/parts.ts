import type { CellSpec, ControlSpec, OpeningSpec, ParamSpec, PortSpec } from "../kind.ts";

/** Pieces from which the kinds are put together. Volumes of small bodies are our own estimates, no source. */

export const litres = (value: number): number => value / 1000;

/** A small body of brass or plastic. Drains but for a film and what lies round its seat. */
export const body = (name: string, volumeL: number, more: Partial<CellSpec> = {}): CellSpec => ({
  name,
  form: "fitting",
  volumeM3: litres(volumeL),
  bottomM: 0,
  topM: 0,
  // Common practice, no source: a body that drains keeps about a tenth.
  drainRemainder: 0.1,
  sweepRemainder: 0.05,
  frostBasis: "burst",
  inUseFraction: 1,
  ...more,
});

/**
 * A body that frost breaks and that does not drain by itself: a cartridge, a flush valve.
 * Allowed remainder 0.25 and kept share 0.4: common practice, no source ("mist only" after air is safe, a drained tap is not).
 */
export const cartridge = (name: string, volumeL: number, more: Partial<CellSpec> = {}): CellSpec =>
  body(name, volumeL, {
    drainRemainder: 0.4,
    sweepRemainder: 0.15,
    allowedRemainder: 0.25,
    frostBasis: "no-ice",
    ...more,
  });

export const port = (name: string, cell: string, more: Partial<PortSpec> = {}): PortSpec => ({
  name,
  cell,
  heightM: 0,
  ...more,
});

export const openShut = (
  role: ControlSpec["role"],
  label: string,
  inUse: "open" | "shut",
  stored: "open" | "shut",
  more: Partial<ControlSpec> = {},
): ControlSpec => ({
  name: "main",
  label,
  role,
  positions: [
    { name: "open", label: "open" },
    { name: "shut", label: "shut" },
  ],
  inUse,
  stored,
  ...more,
});

export const numberParam = (
  label: string,
  standard: number,
  min: number,
  max: number,
  unit: string,
): ParamSpec => ({
  label,
  takes: { is: "number", least: min, most: max },
  standard,
  unit,
});

export const yesNo = (label: string, standard: boolean): ParamSpec => ({
  label,
  takes: { is: "yes or no" },
  standard,
});

/** The hot and cold handles of a tap with two sides. Left half open for winter: common practice, no source. */
export const handle = (name: string, label: string): ControlSpec =>
  openShut("outlet", label, "shut", "open", { name });

/** An opening that a handle opens, running to the waste side where there is one. */
export const spout = (
  name: string,
  cell: string,
  heightM: number,
  label: string,
  more: Partial<OpeningSpec> = {},
): OpeningSpec => ({
  name,
  cell,
  heightM,
  use: "outlet",
  label,
  ...more,
});
