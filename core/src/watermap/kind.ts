/**
 * A part kind is data: what a part is made of (cells that hold liquid), where it joins pipes (ports), how its
 * cells join each other (links), where it can be opened (openings), what can be turned (controls). The engine and
 * the planners read only these facts and never ask for a kind by name.
 */

/** How liquid behaves in a cell. */
type CellForm =
  /** A small body: air leaves first when liquid comes. */
  | "fitting"
  /** Wide: liquid and air pass each other, contents are mixed, the level decides what a port gives. */
  | "vessel"
  /** A water seal: overflows, never drains by itself. */
  | "trap";

export interface CellSpec {
  readonly name: string;
  readonly form: CellForm;
  readonly volumeM3: number;
  /** Heights above the part's own datum, m. */
  readonly bottomM: number;
  readonly topM: number;
  /** Fraction of the volume that stays behind after a gravity drain with air let in. */
  readonly drainRemainder: number;
  /** Fraction that stays behind after air has swept through. */
  readonly sweepRemainder: number;
  /** Fraction that clings to it, taken off and tipped out; a fiftieth where nothing is said (common practice, no source). */
  readonly tippedRemainder?: number;
  /** For parts that frost breaks easily: the fraction of the volume that may be weak liquid without harm. */
  readonly allowedRemainder?: number;
  /** Which temperature counts for an antifreeze mixture: where it bursts pipe, or where the first ice forms. */
  readonly frostBasis: "burst" | "no-ice";
  /** What this piece is called when it is the weakest, e.g. "cold cartridge". Empty for a part with one cell. */
  readonly label?: string;
  /** Liquid in it when the unit is in use, as a fraction of the volume. */
  readonly inUseFraction: number;
  /** A hose: what comes in at its links goes along it to its opening without mixing, like a pipe's. */
  readonly lengthwise?: true;
}

/** Open only while a control stands in one of these positions. */
export interface Gate {
  readonly control: string;
  readonly in: readonly string[];
}

/** What a pump gives: its head against a shut pipe, Pa, and its flow against none, m3/s. */
export interface DriveSpec {
  readonly control: string;
  readonly shutOffPa: number;
  readonly mostM3PerS: number;
  /** Worked by hand: nobody switches it on for long. */
  readonly byHand?: boolean;
}

export interface PortSpec {
  readonly name: string;
  readonly cell: string;
  readonly heightM: number;
  readonly gate?: Gate;
  /** A check in the port: liquid passes only into the part ("in") or only out of it ("out"). */
  readonly check?: "in" | "out";
  /** Pressure needed to open the check, Pa. */
  readonly crackPa?: number;
  /** A pump in the port: it drives liquid inward while its switch (a control) is on. */
  readonly drives?: DriveSpec;
  /** A regulator in the port: lets no more than this through inward, Pa. */
  readonly regulatesPa?: number;
  /** May be left without a pipe. */
  readonly optional?: boolean;
}

interface LinkSpec {
  readonly from: string;
  readonly to: string;
  readonly heightM: number;
  readonly gate?: Gate;
  readonly check?: boolean;
  readonly crackPa?: number;
}

/** What an opening is for; planners choose by this. */
export type OpeningUse =
  | "outlet"
  | "low-point"
  | "plug"
  | "relief"
  | "vent"
  | "supply"
  | "fill"
  | "pickup"
  | "bowl"
  | "dump"
  | "overboard"
  /** A black tank's rinse: a way in of its own that joins nothing of the drinking side. */
  | "flush"
  /** Sea, lake or canal. */
  | "raw";

export interface OpeningSpec {
  readonly name: string;
  readonly cell: string;
  readonly heightM: number;
  readonly use: OpeningUse;
  readonly gate?: Gate;
  /** A supply that presses as soon as it is open: a post with its own tap. An inlet needs a hose on it besides. */
  readonly pressed?: boolean;
  /** Lets air in when the pressure falls and nothing out, ever: a vacuum breaker. */
  readonly airOnly?: boolean;
  /** Port of this part, or cell of this part, into which what comes out falls. Else it goes to ground or a bucket. */
  readonly fallsTo?: { readonly port: string } | { readonly cell: string };
  /** What comes out is counted under these controls, e.g. the cold side of a mixer. */
  readonly label: string;
}

type ControlRole =
  | "valve"
  | "selector"
  | "outlet"
  | "drain"
  | "plug"
  | "relief"
  | "switch"
  | "cap"
  | "hose"
  | "check"
  | "bowl";

interface PositionSpec {
  readonly name: string;
  readonly label: string;
  /** How the handle lies, where that can be seen. */
  readonly handle?: string;
}

export interface ControlSpec {
  /** "main" where a part has one control; the lineup then names the part alone. */
  readonly name: string;
  readonly label: string;
  readonly role: ControlRole;
  readonly positions: readonly PositionSpec[];
  /** Position for use on the tank. */
  readonly inUse: string;
  /** Position in which a winterized unit is left. */
  readonly stored: string;
}

type ParamValue = number | string | boolean;
export type Params = Readonly<Record<string, ParamValue>>;

/** What a parameter may be, as plain data: whoever only reckons with it needs no schema. */
export type ParamTakes =
  | { readonly is: "number"; readonly least: number; readonly most: number; readonly whole?: true }
  | { readonly is: "words"; readonly least: number; readonly most: number }
  | { readonly is: "one of"; readonly words: readonly string[] }
  | { readonly is: "yes or no" };

export interface ParamSpec {
  readonly label: string;
  readonly takes: ParamTakes;
  readonly standard: ParamValue;
  /** Unit of a number, as written beside the field. */
  readonly unit?: string;
}

export interface Anatomy {
  readonly cells: readonly CellSpec[];
  readonly ports: readonly PortSpec[];
  readonly links: readonly LinkSpec[];
  readonly openings: readonly OpeningSpec[];
}

/** What a part is to a planner, where its pipes alone do not say it. */
interface PartRole {
  readonly vessel?: "fresh" | "heater" | "waste" | undefined;
  /** Heats water, in a vessel or as it passes: must be off and cool before it is opened, and off while it may be empty. What heats it, by its parameters. */
  readonly energies?: ((params: Params) => readonly string[]) | undefined;
  /** Throws what it is given onwards under pressure: a pump. */
  readonly pump?: boolean | undefined;
  /** Worked by hand or foot: nobody switches it on. */
  readonly byHand?: boolean | undefined;
  /** Nothing but a branch: with two pipes left it is none. */
  readonly branch?: boolean | undefined;
  /** Carries traffic between kinds of pipe only: no plate worth opening. */
  readonly joint?: boolean | undefined;
  /** Must be flushed in short bursts. */
  readonly flushes?: boolean | undefined;
  /** Guards that validation looks for. */
  readonly guard?: "check" | "regulator" | "strainer" | "breaker" | "vent" | undefined;
  /** Takes chlorine out of the water: must not stand before a tank that stores it. */
  readonly takesChlorine?: ((params: Params) => boolean) | undefined;
  /** Emptied by hand by every method, product or not, and passed by where it can be; the words of the row that says it was done. */
  readonly emptied?: ((params: Params) => string) | undefined;
  /** Holds pressed air over its water: softens every pressure test, pushes water back after a blow-out. */
  readonly cushion?: boolean | undefined;
  /** Joins pipe systems that do not mate by themselves. */
  readonly adapts?: boolean | undefined;
  /** Stands ashore and belongs to the site: not the unit's to protect. */
  readonly ashore?: boolean | undefined;
  /** Opens its valves by a programme of its own, and pumps out what it took: an appliance. */
  readonly programme?: boolean | undefined;
  /** Nobody knows what this is. */
  readonly mystery?: boolean | undefined;
}

/** A piece that is renewed by itself: an anode, a cartridge. */
interface WearItem {
  readonly item: string;
  /** Usual life, months; common practice, no source. */
  readonly lifeMonths: number;
}

/** Where a kind stands in the palette. */
type KindGroup =
  | "ways in"
  | "tanks"
  | "movers"
  | "conditioning"
  | "control"
  | "heat"
  | "outlets"
  | "drains"
  | "waste"
  | "line";

export interface PartKind {
  readonly kind: string;
  readonly label: string;
  /** What it is and what is assumed about it, with the source or "common practice, no source". */
  readonly about: string;
  readonly symbol: string;
  readonly group: KindGroup;
  /** Other words by which the trade looks for it. */
  readonly also?: readonly string[] | undefined;
  /** How long it commonly serves, months; common practice, no source. */
  readonly lifeMonths?: number | undefined;
  readonly params: Readonly<Record<string, ParamSpec>>;
  readonly controls: readonly ControlSpec[];
  readonly role: PartRole;
  /** Ids of the points that are looked at on a walk-round; their words stand with the inspection. */
  readonly inspect: readonly string[];
  /** Pieces of it that wear out before it does, each with a life of its own in the register. */
  readonly wears?: ((params: Params) => readonly WearItem[]) | undefined;
  /** Which of the controls this very part has; all of them where it is not said. */
  readonly fitted?: ((params: Params, control: string) => boolean) | undefined;
  readonly anatomy: (params: Params) => Anatomy;
}

/** A number parameter; the schema has guarded it. */
export const num = (params: Params, name: string): number => {
  const value = params[name];
  if (typeof value !== "number") throw new Error(`Parameter ${name} is not a number.`);
  return value;
};

export const flag = (params: Params, name: string): boolean => params[name] === true;
