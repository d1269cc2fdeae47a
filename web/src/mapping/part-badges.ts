import type { FindingOnFile, PointLook, RegisteredPart } from "@uppershed/contract";
import { staysOnSheets } from "@uppershed/core/inspection";
import type { Badge } from "../drawing/badges.tsx";
import { dayOf } from "../ui/words.ts";

/** How each part stands, from the register, the newest looks and the open findings; the worst of them is its sign. */
export const partBadges = (
  register: readonly RegisteredPart[],
  looks: readonly PointLook[],
  findings: readonly FindingOnFile[],
  today: string,
): Map<string, Badge> => {
  const said = new Map<string, { bad: string[]; watch: string[]; due: string[] }>();
  const say = (partId: string | null, sign: Badge["sign"], words: string): void => {
    if (!partId) return;
    const of = said.get(partId) ?? { bad: [], watch: [], due: [] };
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
  return new Map(
    [...said].map(([partId, of]) => {
      const sign = of.bad.length > 0 ? "bad" : of.watch.length > 0 ? "watch" : "due";
      return [partId, { sign, says: [...of.bad, ...of.watch, ...of.due].join("; ") }] as const;
    }),
  );
};
