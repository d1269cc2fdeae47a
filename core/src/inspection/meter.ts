import { INCH_M } from "../quantity/index.ts";
/** What a meter and a spanner say of a heater's plug and a pump's wires. Colours and memory prove nothing. */

export interface MeterVerdict {
  readonly verdict: "right" | "crossed" | "low" | "cannot tell";
  readonly why: string;
}

// Under this a nominal 12 V pump is starved: flat battery, thin wire or bad joint (common practice, no source).
const LEAST_VOLTS = 11;
const NOTHING_VOLTS = 1;

/**
 * Polarity of a direct-current pump, by a meter at its plug while it is switched on, red probe on the lead taken for positive.
 * @param volts as the meter shows, with its sign; none where no meter was used
 */
export const polarityVerdict = (volts: number | undefined): MeterVerdict => {
  if (volts === undefined || !Number.isFinite(volts))
    return {
      verdict: "cannot tell",
      why: "Only a meter pairs wires: colour conventions contradict each other. Measure at the plug, pump on.",
    };
  if (Math.abs(volts) < NOTHING_VOLTS)
    return {
      verdict: "cannot tell",
      why: "Nothing there: look for the fuse and the switch, then measure again.",
    };
  if (volts < 0)
    return {
      verdict: "crossed",
      why: "The meter shows minus: the lead taken for positive is the negative one.",
    };
  if (volts < LEAST_VOLTS)
    return {
      verdict: "low",
      why: `Paired right, but ${volts.toFixed(1)} V is under ${LEAST_VOLTS} V running: battery, fuse holder or wire.`,
    };
  return {
    verdict: "right",
    why: `${volts.toFixed(1)} V running, plus on the lead taken for positive.`,
  };
};

type PlugKind = "plastic, no rod" | "steel, with a rod";

export interface PlugVerdict {
  readonly plug: PlugKind | undefined;
  /** Whether plug and vessel go together; none where it cannot be told. */
  readonly fits: boolean | undefined;
  readonly why: string;
}

// Sockets of heater plugs (common practice, no source): plastic 15/16 in, steel 1-1/16 in, which 27 mm fits too.
const PLASTIC_SOCKET_M = (15 / 16) * INCH_M;
const STEEL_SOCKET_M = (17 / 16) * INCH_M;
const SOCKET_SLACK_M = 0.0008;

/**
 * Which plug a heater has by the flats of its hexagon, and whether that goes with the metal of its vessel: an aluminium vessel has a
 * plastic plug and no rod, a steel one a steel plug that carries a rod.
 * @param hexM across the flats, m
 * @param metal of the vessel, as on the map
 */
export const plugVerdict = (hexM: number | undefined, metal: string): PlugVerdict => {
  if (hexM === undefined)
    return {
      plug: undefined,
      fits: undefined,
      why: "Measure the plug across its flats before a socket goes on it.",
    };
  const plug: PlugKind | undefined =
    Math.abs(hexM - PLASTIC_SOCKET_M) <= SOCKET_SLACK_M
      ? "plastic, no rod"
      : Math.abs(hexM - STEEL_SOCKET_M) <= SOCKET_SLACK_M
        ? "steel, with a rod"
        : undefined;
  if (!plug)
    return {
      plug,
      fits: undefined,
      why: "Neither 15/16 in (plastic, no rod) nor 1-1/16 in, 27 mm (steel, with a rod): measure again.",
    };
  const socket = plug === "plastic, no rod" ? "15/16 in socket" : "1-1/16 in or 27 mm socket";
  if (metal === "not looked at")
    return { plug, fits: undefined, why: `${socket}. Read the label for the vessel's metal.` };
  const wanted: PlugKind = metal === "aluminium" ? "plastic, no rod" : "steel, with a rod";
  if (metal === "stainless steel")
    return {
      plug,
      fits: undefined,
      why: `${socket}. Stainless steel: the maker's sheet says whether a rod belongs in it.`,
    };
  return {
    plug,
    fits: plug === wanted,
    why:
      plug === wanted
        ? `${socket}; goes with a vessel of ${metal}.`
        : `${socket}, but a vessel of ${metal} wants a plug: ${wanted}.`,
  };
};
