/** The short set of questions that turns a pattern into a unit. "unknown" is an answer: it marks what stands on it as not known yet. */

export type QuestionId =
  | "taps"
  | "heater"
  | "bypass"
  | "outsideShower"
  | "iceMaker"
  | "pumpPlace"
  | "pickup"
  | "inletCheck"
  | "lowPoints"
  | "toilet";

export interface Question {
  readonly id: QuestionId;
  readonly text: string;
  /** The cheapest way to find out, shown where the answer is "don't know yet". */
  readonly ask: string;
  readonly options: readonly { readonly value: string; readonly label: string }[];
}

const yesNo = [
  { value: "yes", label: "Yes" },
  { value: "no", label: "No" },
];

export const QUESTIONS: readonly Question[] = [
  {
    id: "taps",
    text: "How many taps with a basin or sink?",
    ask: "Walk through and count; a tap without a bowl counts too.",
    options: ["1", "2", "3", "4", "5", "6"].map((value) => ({ value, label: value })),
  },
  {
    id: "heater",
    text: "Which heater?",
    ask: "Look for an outside door with a relief valve; trace the red pipe back from a tap.",
    options: [
      { value: "storage", label: "Storage, with a drain plug" },
      { value: "on-demand", label: "On-demand" },
      { value: "point-of-use", label: "Small, no drain" },
      { value: "none", label: "None" },
    ],
  },
  {
    id: "bypass",
    text: "How is the heater bypassed?",
    ask: "Open the panel behind the heater and photograph the valves; follow each pipe to its end.",
    options: [
      { value: "three valves", label: "Three valves" },
      { value: "two valves", label: "Two valves" },
      { value: "one valve", label: "One lever and a check" },
      { value: "none", label: "No bypass" },
    ],
  },
  {
    id: "outsideShower",
    text: "Outside shower?",
    ask: "Walk round outside and open every flap.",
    options: yesNo,
  },
  {
    id: "iceMaker",
    text: "Ice maker or cooled dispenser?",
    ask: "Look behind the fridge for a small plastic line.",
    options: yesNo,
  },
  {
    id: "pumpPlace",
    text: "Where is the pump?",
    ask: "Open a tap on tank water and go where it hums.",
    options: [
      "under the bed",
      "under the galley",
      "service bay",
      "engine space",
      "beside the tank",
    ].map((value) => ({
      value,
      label: value,
    })),
  },
  {
    id: "pickup",
    text: "Pickup hose before the pump?",
    ask: "Look at the pump's inlet for a short capped hose and a valve.",
    options: yesNo,
  },
  {
    id: "inletCheck",
    text: "Check valve at the supply inlet?",
    ask: "Pump on, inlet cap off: what comes out says there is none, or that it passes.",
    options: yesNo,
  },
  {
    id: "lowPoints",
    text: "Low-point drains, cold and hot?",
    ask: "Look underneath for a pair of stems, caps or levers.",
    options: yesNo,
  },
  {
    id: "toilet",
    text: "Toilet?",
    ask: "Look.",
    options: [
      { value: "fresh", label: "Fresh-water flush" },
      { value: "raw", label: "Raw-water flush" },
      { value: "none", label: "None, or a portable one" },
    ],
  },
];

export type Answers = Readonly<Record<QuestionId, string>>;
export const UNKNOWN = "unknown";

export const questionOf = (id: QuestionId): Question => {
  const found = QUESTIONS.find((q) => q.id === id);
  if (!found) throw new Error(`There is no question ${id}.`);
  return found;
};

/** The mark of a part that may or may not be there. */
export const perhaps = (
  answer: string,
  id: QuestionId,
): { unknown?: { of: "fitted"; ask: string } } =>
  answer === UNKNOWN ? { unknown: { of: "fitted", ask: questionOf(id).ask } } : {};

/** The mark of a part that cannot be seen without looking for it. */
export const doubt = (ask: string): { unknown: { of: "fitted"; ask: string } } => ({
  unknown: { of: "fitted", ask },
});
