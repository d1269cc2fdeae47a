import type { AirResult } from "@uppershed/core/simulation";
import type { Difference, Reach, Survey } from "@uppershed/core/survey";
import type { Network } from "@uppershed/core/watermap";
import type { Halo } from "../drawing/pipes.tsx";

/** What the drawing can show beside contents. */
export const SHOWN = ["contents", "sections", "standing water"] as const;
export type Shown = (typeof SHOWN)[number];

export const reachHalos = (reaches: readonly Reach[]): Map<string, Halo> =>
  new Map(reaches.flatMap((r) => r.owners.map((id) => [id, { tone: "reach" }] as const)));

/** What air has only pressed, and what it has not reached: both keep their water. */
export const airHalos = (network: Network, air: AirResult): Map<string, Halo> => {
  const owners = (cells: readonly number[]): string[] =>
    cells.map((c) => network.cells[c]?.ownerId ?? "");
  const swept = new Set(owners(air.swept));
  return new Map<string, Halo>([
    ...owners(air.notReached).map((id) => [id, { tone: "problem", text: "●" }] as const),
    ...owners(air.pressedOnly).map((id) => [id, { tone: "standing", text: "◐" }] as const),
    ...[...swept].map((id) => [id, { tone: "reach", text: "○" }] as const),
  ]);
};

/** Sections by number; standing water by what holds it: a dead leg, or what nothing clears. */
export const surveyHalos = (survey: Survey, shown: Shown): Map<string, Halo> => {
  if (shown === "sections")
    return new Map(
      survey.sections.flatMap((section, i) =>
        section.owners.map(
          (id) => [id, { tone: "section", text: String(i + 1), turn: i }] as const,
        ),
      ),
    );
  if (shown === "standing water")
    return new Map<string, Halo>([
      ...[...survey.clearing].flatMap<[string, Halo]>(([id, how]) =>
        how === "nothing clears it"
          ? [[id, { tone: "standing", text: "stays" }] as const]
          : how === "can be pushed through"
            ? [[id, { tone: "section", text: "push" }] as const]
            : [],
      ),
      ...survey.deadLegs.flatMap((leg) =>
        [...leg.parts, ...leg.runs].map<[string, Halo]>((id) => [
          id,
          { tone: "standing", text: "dead leg" },
        ]),
      ),
      ...survey.notReached.map<[string, Halo]>((id) => [id, { tone: "problem" }]),
    ]);
  return new Map();
};

/** What differs, on the drawing of the map before or after: what was put in shows after, what was taken out before. */
export const differenceHalos = (
  list: readonly Difference[],
  side: "before" | "after" = "after",
): Map<string, Halo> =>
  new Map(
    list.flatMap<[string, Halo]>((d) => {
      if (d.what !== "part" && d.what !== "run") return [];
      if (d.change === "changed") return [[d.id, { tone: "changed", text: "~" }]];
      const here = d.change === (side === "after" ? "added" : "removed");
      return here ? [[d.id, { tone: "added", text: side === "after" ? "+" : "−" }]] : [];
    }),
  );
