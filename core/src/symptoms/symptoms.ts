/** What is complained of when a unit is used again, and what is known of it without reckoning. */

export const SYMPTOMS = [
  { symptom: "nothing-comes", label: "The pump runs, and nothing comes" },
  { symptom: "does-not-stop", label: "The pump does not stop" },
  { symptom: "starts-alone", label: "The pump starts by itself" },
  { symptom: "spits", label: "It spits air" },
  { symptom: "lukewarm", label: "The hot water is lukewarm" },
  { symptom: "weak-here", label: "Weak at one outlet" },
  { symptom: "weak-everywhere", label: "Weak everywhere" },
  { symptom: "pours", label: "Water where none should be" },
  { symptom: "smell-hot", label: "Smells, hot side only" },
  { symptom: "smell-both", label: "Smells, hot and cold" },
  { symptom: "brown", label: "Brown or with flakes" },
] as const;

export type Symptom = (typeof SYMPTOMS)[number]["symptom"];
export const SYMPTOM_NAMES = SYMPTOMS.map((s) => s.symptom);

/** Something that may be behind a complaint. */
export interface Cause {
  readonly id: string;
  /** "V4 Bypass stands open". */
  readonly what: string;
  readonly parts: readonly string[];
  /** Tried on this unit's map, or known of the trade and not to be worked out. */
  readonly from: "worked out" | "common practice";
  /** Why it is thought of before others, where there is a reason. */
  readonly because?: string;
}

/** One thing to do that parts the causes. */
export interface TellingTest {
  readonly ask: string;
  readonly parts: readonly string[];
  /** What is left where the answer is yes, and where it is no; by cause. */
  readonly yes: readonly string[];
  readonly no: readonly string[];
}

export interface Explained {
  /** The likeliest first. */
  readonly causes: readonly Cause[];
  readonly test?: TellingTest;
  /** By how the valves are written down it should be so: nothing need be broken. */
  readonly asWritten?: string;
}

type Known = readonly Omit<Cause, "from" | "parts">[];

/** What no map tells: the trade's own order (common practice, no source). */
export const KNOWN: Readonly<Partial<Record<Symptom, Known>>> = {
  "smell-hot": [
    {
      id: "sulphide",
      what: "Hydrogen sulphide: bacteria in the heater live on sulphate, and the rod helps them",
      because: "rotten eggs, and only hot",
    },
    { id: "rod", what: "The rod itself: another alloy, where its maker allows one" },
    { id: "stood", what: "Water that has stood warm: rinse and sanitize the heater" },
  ],
  "smell-both": [
    { id: "source", what: "The water that was filled in: smell it at the post" },
    { id: "tank", what: "The tank: it has stood, or was never sanitized" },
    { id: "hose", what: "The hose: not one for drinking water, or left full in the sun" },
    { id: "trap", what: "A trap that has dried: then it is the drain that smells, not the water" },
  ],
  brown: [
    { id: "sediment", what: "Sediment out of the heater: rinse it at the plug" },
    { id: "scale", what: "White flakes: scale; descale, rinse and prove, and only then chlorine" },
    { id: "rod-done", what: "The rod is used up and the vessel rusts: look at it" },
    { id: "tank-grit", what: "Grit from the tank: open it and clean it by hand" },
  ],
};
