import type { FindingOnFile, PointLook, RefitLine, RegisteredPart } from "@uppershed/contract";
import { heldOpenAt } from "@uppershed/core/hold";
import { staysOnSheets } from "@uppershed/core/inspection";
import type { Badge } from "../drawing/badges.tsx";
import { dayOf } from "../ui/words.ts";

/** Parts behind what may not be closed yet, by a pressure test or by a refit, each with what stays open before it. */
export const heldOpenBy = (
  tests: Parameters<typeof heldOpenAt>[0],
  refits: readonly Pick<RefitLine, "heldOpen">[],
): ReadonlyMap<string, string> => {
  const held = new Map(heldOpenAt(tests));
  for (const { what, at } of refits.flatMap((r) => r.heldOpen))
    for (const part of at) held.set(part, [held.get(part), what].filter(Boolean).join(", "));
  return held;
};

const WORST_FIRST = ["bad", "held", "watch", "due"] as const satisfies readonly Badge["sign"][];

/**
 * How each part stands, from the register, the newest looks, the open findings and what must stay open before it; the worst of them is its
 * sign.
 */
export const partBadges = (
  register: readonly RegisteredPart[],
  looks: readonly PointLook[],
  findings: readonly FindingOnFile[],
  today: string,
  heldOpen: ReadonlyMap<string, string> = new Map(),
): Map<string, Badge> => {
  const said = new Map<string, Record<Badge["sign"], string[]>>();
  const say = (partId: string | null, sign: Badge["sign"], words: string): void => {
    if (!partId) return;
    const of = said.get(partId) ?? { bad: [], held: [], watch: [], due: [] };
    of[sign].push(words);
    said.set(partId, of);
  };
  for (const f of findings.filter(staysOnSheets))
    say(
      f.partId,
      f.severity === "unsafe" || f.severity === "will-fail" ? "bad" : "watch",
      `finding, ${f.severity}: ${f.what}`,
    );
  for (const l of looks)
    if (l.mark === "bad" || l.mark === "watch")
      say(l.partId, l.mark, `${l.mark} on ${dayOf(l.at)}`);
  for (const p of register) {
    const piece = p.item ? `${p.item} ` : "";
    if (p.life.condition === "bad" || p.life.condition === "watch")
      say(p.partId, p.life.condition, `${piece}${p.life.condition} in the register`);
    if (p.dueOn && p.dueOn <= today)
      say(p.partId, "due", `${piece}life over since ${dayOf(p.dueOn)}`);
  }
  for (const [partId, what] of heldOpen)
    say(partId, "held", `stays open until its pressure test has passed: ${what}`);
  return new Map(
    [...said].map(([partId, of]) => {
      const sign = WORST_FIRST.find((s) => of[s].length > 0) ?? "due";
      return [partId, { sign, says: WORST_FIRST.flatMap((s) => of[s]).join("; ") }] as const;
    }),
  );
};
