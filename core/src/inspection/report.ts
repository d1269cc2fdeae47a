import { formatQuantity, type UnitSystem } from "../quantity/index.ts";
import type { WaterMap } from "../watermap/index.ts";
import { byUrgency, type Finding, staysOnSheets } from "./finding.ts";
import type { UnitStateId } from "./lists.ts";
import { walkRound } from "./walk.ts";

/** What an owner is told after a visit: the same for the screen, for paper and for the owner's page. */

export interface ReportLook {
  readonly key: string;
  readonly point: string;
  readonly partId: string | null;
  readonly mark: string;
  readonly note: string;
  readonly at: string;
  readonly by: string;
}

export interface ReportFinding extends Finding {
  readonly id: string;
  readonly visitId: string | null;
}

interface ReportPlace {
  readonly place: string;
  readonly lines: readonly {
    readonly name: string;
    readonly point: string;
    readonly mark: string;
    readonly note: string;
  }[];
}

export interface Report {
  /** Points looked at on this visit, place by place. */
  readonly places: readonly ReportPlace[];
  readonly good: number;
  readonly seen: number;
  readonly inAll: number;
  /** Open, and what is unsafe and declined: most urgent first. */
  readonly open: readonly ReportFinding[];
  readonly declined: readonly ReportFinding[];
  readonly mended: readonly ReportFinding[];
  readonly accepted: readonly ReportFinding[];
  /** Points that could not be reached, and why. */
  readonly notReached: readonly {
    readonly name: string;
    readonly point: string;
    readonly why: string;
  }[];
  /** Points that nobody looked at on this visit, part by part. */
  readonly notLooked: readonly { readonly name: string; readonly points: readonly string[] }[];
  /** Parts to light on the small map. */
  readonly lit: readonly string[];
}

/**
 * @param looks of this visit
 * @param findings of the unit, all of them: what stays on sheets comes with every report, what was mended or accepted with its visit's
 */
export const buildReport = (
  map: WaterMap,
  visitId: string,
  looks: readonly ReportLook[],
  findings: readonly ReportFinding[],
): Report => {
  const newest = new Map<string, ReportLook>();
  for (const look of looks.toSorted((a, b) => (a.at < b.at ? -1 : 1))) newest.set(look.key, look);
  const stops = walkRound(map);
  const points = stops.flatMap((s) => s.points);
  const known = new Set(points.map((p) => p.key));
  const nameOf = new Map(map.parts.map((p) => [p.id, p.name]));
  const line = (name: string, point: string, look: ReportLook) => ({
    name,
    point,
    mark: look.mark,
    note: look.note,
  });
  const places: ReportPlace[] = stops.flatMap((stop) => {
    const lines = stop.points.flatMap((p) => {
      const look = newest.get(p.key);
      return look && look.mark !== "not-reached" ? [line(p.name, p.point, look)] : [];
    });
    return lines.length > 0 ? [{ place: stop.place, lines }] : [];
  });
  // A part that was marked "not-fitted" has left the map, and its look with it; it was looked at all the same.
  const gone = [...newest.values()].filter((l) => !known.has(l.key) && l.mark !== "not-reached");
  if (gone.length > 0)
    places.push({
      place: "no longer on the map",
      lines: gone.map((l) =>
        line(nameOf.get(l.partId ?? "") ?? l.partId ?? "the unit", l.point, l),
      ),
    });
  const unseen = new Map<string, string[]>();
  for (const p of points)
    if (!newest.has(p.key)) unseen.set(p.name, [...(unseen.get(p.name) ?? []), p.point]);
  const sorted = findings.map((f) => ({ ...f, at: f.foundAt })).toSorted(byUrgency);
  const open = sorted.filter((f) => staysOnSheets(f));
  const ofVisit = sorted.filter((f) => f.visitId === visitId && !staysOnSheets(f));
  return {
    places,
    good: [...newest.values()].filter((l) => l.mark === "good").length,
    seen: [...newest.values()].filter((l) => l.mark !== "not-reached").length,
    inAll: points.length,
    open,
    declined: open.filter((f) => f.severity === "unsafe" && f.answer?.answer === "no"),
    mended: ofVisit.filter((f) => f.state === "mended"),
    accepted: ofVisit.filter((f) => f.state === "accepted"),
    notReached: points.flatMap((p) => {
      const look = newest.get(p.key);
      return look?.mark === "not-reached"
        ? [{ name: p.name, point: p.point, why: look.note || "could not be reached" }]
        : [];
    }),
    notLooked: [...unseen].map(([name, of]) => ({ name, points: of })),
    lit: [...new Set(open.flatMap((f) => (f.partId ? [f.partId] : [])))],
  };
};

/** A report as it is kept: its words, with findings by id. */
export interface ReportKept extends Omit<Report, "open" | "declined" | "mended" | "accepted"> {
  readonly open: readonly string[];
  readonly declined: readonly string[];
  readonly mended: readonly string[];
  readonly accepted: readonly string[];
}

const ids = (of: readonly ReportFinding[]): string[] => of.map((f) => f.id);

export const keptReport = (report: Report): ReportKept => ({
  ...report,
  open: ids(report.open),
  declined: ids(report.declined),
  mended: ids(report.mended),
  accepted: ids(report.accepted),
});

/** A kept report with its findings, as they were kept with it. */
export const reportFrom = (kept: ReportKept, findings: readonly ReportFinding[]): Report => {
  const of = new Map(findings.map((f) => [f.id, f]));
  const all = (wanted: readonly string[]): ReportFinding[] =>
    wanted.flatMap((id) => of.get(id) ?? []);
  return {
    ...kept,
    open: all(kept.open),
    declined: all(kept.declined),
    mended: all(kept.mended),
    accepted: all(kept.accepted),
  };
};

/** How a unit stands, as a report says it: "holds to −24 °C; weakest part: Pump (worked out); map changed since: …". */
export const stateInWords = (
  state: {
    readonly kind: UnitStateId;
    readonly holdsToC: number | null;
    readonly weakestPart: string | null;
    readonly since: readonly string[];
    readonly cannotTell: readonly string[];
  },
  units: UnitSystem,
): string => {
  const holds =
    state.holdsToC === null ? "no limit" : formatQuantity(state.holdsToC, "temperature", units);
  const weakest = state.weakestPart ? `; weakest part: ${state.weakestPart}` : "";
  const how = state.kind === "in-use" ? "in use, full of water: assumed" : "worked out";
  const cannotTell =
    state.cannotTell.length > 0 ? [`cannot tell for ${state.cannotTell.join(", ")}`] : [];
  return [`holds to ${holds}${weakest} (${how})`, ...state.since, ...cannotTell].join("; ");
};
