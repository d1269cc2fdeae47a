import type { RegisteredPart } from "@uppershed/contract";
import { CONDITION_LABELS } from "@uppershed/core/formats";
import { monthsBetween } from "@uppershed/core/quantity";
import { capital, dayOf } from "../ui/words.ts";

/** What the register keeps of a part and its wearing pieces, as rows of its plate. */
export const lifeWords = (
  register: readonly RegisteredPart[],
  partId: string,
  today: string,
): { label: string; words: string }[] =>
  register
    .filter((p) => p.partId === partId)
    .flatMap(({ item, life, dueOn }) => {
      const age = life.fittedOn ? monthsBetween(life.fittedOn, today) : undefined;
      const words = [
        life.description,
        life.size,
        life.serial && `serial ${life.serial}`,
        life.fittedOn &&
          `fitted ${dayOf(life.fittedOn)}${age === undefined || age < 1 ? "" : `, ${age < 24 ? `${age} months` : `${Math.floor(age / 12)} years`} ago`}`,
        dueOn && (dueOn <= today ? `life over since ${dayOf(dueOn)}` : `life over ${dayOf(dueOn)}`),
        life.condition !== "not-looked-at" && CONDITION_LABELS[life.condition],
        life.lookedAt && `looked at ${dayOf(life.lookedAt)}`,
        life.note,
      ].filter(Boolean);
      return words.length > 0
        ? [{ label: item ? capital(item) : "Kept of it", words: words.join("; ") }]
        : [];
    });
