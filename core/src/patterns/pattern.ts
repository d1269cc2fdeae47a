import { kindOfPart, removePart, runsAt, type WaterMap } from "../watermap/index.ts";
import { draft, type Draft, type Head } from "./draft.ts";
import { type Answers, QUESTIONS, type QuestionId, UNKNOWN } from "./questions.ts";

/** A family of systems met in the field: a starting map, and the few questions that turn it into a unit. */
export interface Pattern {
  /** Number of the family, e.g. "P02". */
  readonly id: string;
  readonly label: string;
  readonly craft: string;
  /** What marks it, in a sentence or two. */
  readonly about: string;
  /** What to ask on the spot, and what has caught people out. */
  readonly trap: string;
  readonly questions: readonly QuestionId[];
  /** What is usual in the family; "unknown" where it cannot be seen without asking. */
  readonly usual: Answers;
  readonly build: (answers: Answers, head: Head) => WaterMap;
}

const NONE: Answers = {
  taps: "2",
  heater: "none",
  bypass: "none",
  outsideShower: "no",
  iceMaker: "no",
  pumpPlace: "beside the tank",
  pickup: "no",
  inletCheck: "no",
  lowPoints: "no",
  toilet: "none",
};

interface Family extends Omit<Pattern, "usual" | "questions" | "build"> {
  readonly usual: Partial<Answers>;
  readonly questions?: readonly QuestionId[];
  readonly lay: (b: Draft, answers: Answers) => void;
}

const STANDARD_QUESTIONS: readonly QuestionId[] = [
  "taps",
  "heater",
  "bypass",
  "outsideShower",
  "iceMaker",
  "pumpPlace",
];

/** Tees that an answer has left with two pipes are no tees. */
const withoutIdleTees = (map: WaterMap): WaterMap =>
  map.parts
    .filter((p) => kindOfPart(p).role.branch)
    .reduce((now, tee) => {
      const dissolved = runsAt(now, tee.id).length === 2 ? removePart(now, tee.id) : undefined;
      return dissolved?.ok ? dissolved.map : now;
    }, map);

/** Puts the name of the family to its rules; answers that a family does not ask stay as they are usual. */
export const family = ({
  usual,
  questions = STANDARD_QUESTIONS,
  lay,
  ...rest
}: Family): Pattern => ({
  ...rest,
  questions,
  usual: { ...NONE, ...usual },
  build: (answers, head) => {
    const b = draft(head);
    lay(b, answers);
    return withoutIdleTees(b.map());
  },
});

/** Answers fit to build from: what is missing or not an option is taken as usual, or as unknown where the family says so. */
export const completed = (pattern: Pattern, given: Partial<Record<QuestionId, string>>): Answers =>
  Object.fromEntries(
    QUESTIONS.map(({ id, options }) => {
      const answer = given[id];
      const allowed =
        answer !== undefined && (answer === UNKNOWN || options.some((o) => o.value === answer));
      return [id, allowed ? answer : pattern.usual[id]];
    }),
  ) as unknown as Answers;

/** The map of a pattern with the questions answered. Ids inside are the pattern's; the head is the unit's. */
export const mapFromPattern = (
  pattern: Pattern,
  given: Partial<Record<QuestionId, string>>,
  head: Head,
): WaterMap => pattern.build(completed(pattern, given), head);

/** The starting map of a pattern: everything as usual, what cannot be seen still unknown. */
export const starterMap = (pattern: Pattern): WaterMap =>
  mapFromPattern(
    pattern,
    {},
    { id: pattern.id.toLowerCase(), name: pattern.label, craft: pattern.craft },
  );
