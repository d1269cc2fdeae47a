import { OUTCOME_WORDS, type OutcomeName } from "@uppershed/core/hold";
import { gaugeText, type UnitSystem } from "@uppershed/core/quantity";
import { showFigure } from "@uppershed/core/reckon";

/** How what a test came to is said; the sign stands before the word, so that no colour is needed. */
export const OUTCOMES: Readonly<Record<OutcomeName, { sign: string; word: string; bad: boolean }>> =
  {
    running: { sign: "◔", word: OUTCOME_WORDS.running, bad: false },
    tight: { sign: "▣", word: OUTCOME_WORDS.tight, bad: false },
    leaking: { sign: "▼", word: OUTCOME_WORDS.leaking, bad: true },
    settling: { sign: "◡", word: OUTCOME_WORDS.settling, bad: false },
    "cannot-tell": { sign: "?", word: OUTCOME_WORDS["cannot-tell"], bad: true },
  };

const DAY_S = 86_400;

export const aDay = (m3S: number, system: UnitSystem): string =>
  `${showFigure({ value: m3S * DAY_S, is: "volume" }, system)} a day`;

export const gauge = (pa: number, system: UnitSystem): string => gaugeText(pa, system);

/** "12 min", "2 h 05 min" */
export const span = (seconds: number): string => {
  const minutes = Math.round(seconds / 60);
  return minutes < 100
    ? `${minutes} min`
    : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")} min`;
};
