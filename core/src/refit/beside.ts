import type { Method } from "../procedure/index.ts";
import type { Audit } from "./audit.ts";

/** Two audits side by side: a line for each thing that is said of both, and whether the second is better. Quantities as marks for the reader's units. */

export interface BesideLine {
  readonly key: string;
  readonly about: string;
  readonly label: string;
  readonly before: string;
  readonly after: string;
  /** Nothing where more is neither better nor worse. */
  readonly change: "better" | "worse" | "same" | "other";
  /** What has changed, name by name, where it is a list. */
  readonly gone: readonly string[];
  readonly come: readonly string[];
}

type Way = "less" | "more" | "neither";

const NONE: readonly string[] = [];

// What nobody would see, or feel: a fiftieth of a figure; of a temperature half a degree.
const SEEN_SHARE = 0.02;
const SEEN_K = 0.5;

const changeOf = (
  before: number,
  after: number,
  better: Way,
  seen = SEEN_SHARE * Math.max(Math.abs(before), Math.abs(after)),
): BesideLine["change"] => {
  if (Math.abs(after - before) <= seen + 1e-12) return "same";
  if (better === "neither") return "other";
  return after < before === (better === "less") ? "better" : "worse";
};

const figure = (
  about: string,
  label: string,
  before: number | null | undefined,
  after: number | null | undefined,
  better: Way,
  say: (value: number) => string,
  none = "none",
  seen?: number,
): BesideLine => {
  const [b, a] = [before ?? undefined, after ?? undefined];
  return {
    key: `${about} ${label}`,
    about,
    label,
    before: b === undefined ? none : say(b),
    after: a === undefined ? none : say(a),
    change:
      b === undefined || a === undefined
        ? b === a
          ? "same"
          : "other"
        : changeOf(b, a, better, seen),
    gone: NONE,
    come: NONE,
  };
};

/** A list that is better shorter: told by its length, and by what came and went. */
const list = (
  about: string,
  label: string,
  before: readonly string[],
  after: readonly string[],
): BesideLine => ({
  key: `${about} ${label}`,
  about,
  label,
  before: String(before.length),
  after: String(after.length),
  change: changeOf(before.length, after.length, "less", 0),
  gone: before.filter((x) => !after.includes(x)),
  come: after.filter((x) => !before.includes(x)),
});

const m3 = (v: number): string => `{m3:${Number(v.toPrecision(3))}}`;
const plain = (v: number): string => String(Number(v.toPrecision(3)));
const seconds = (v: number): string =>
  Number.isFinite(v) ? (v < 100 ? `${Math.round(v)} s` : `{s:${Math.round(v)}}`) : "nothing comes";
const kg = (v: number): string => `${Math.round(v)} kg`;
const flow = (v: number): string => `${m3(v * 60)} a minute`;
const pressure = (v: number): string => `{pa:${Math.round(v)}}`;
const minutes = (v: number): string => `${Math.round(v)} min`;
const cold = (v: number): string => `{c:${v}}`;

const winter = (before: Audit, after: Audit): BesideLine[] =>
  after.methods.flatMap((now) => {
    const was = before.methods.find((m) => m.method === now.method);
    if (!was) return [];
    const about = now.label;
    return [
      figure(about, "holds to", was.holdsToC, now.holdsToC, "less", cold, "no limit", SEEN_K),
      list(
        about,
        "stays wet",
        was.wet.map((w) => w.name),
        now.wet.map((w) => w.name),
      ),
      figure(about, "antifreeze", was.antifreeze.medianM3, now.antifreeze.medianM3, "less", m3),
      figure(about, "jugs", was.antifreeze.jugs, now.antifreeze.jugs, "less", plain, "none", 0),
      figure(about, "time", was.minutes, now.minutes, "less", minutes),
      figure(about, "steps", was.steps, now.steps, "less", plain),
    ];
  });

const least = <T>(of: readonly T[], by: (x: T) => number): T | undefined =>
  of.toSorted((a, b) => by(a) - by(b))[0];

const inUseLines = (before: Audit, after: Audit): BesideLine[] => {
  const about = "In use";
  const worst = (a: Audit) => least(a.outlets, (o) => o.worstM3S);
  const [w, n] = [worst(before), worst(after)];
  const longest = (a: Audit) => a.hot[0];
  return [
    figure(
      about,
      n ? `least at an outlet, two running (${n.name})` : "least at an outlet, two running",
      w?.worstM3S,
      n?.worstM3S,
      "more",
      flow,
    ),
    ...after.outlets.flatMap((o) => {
      const was = before.outlets.find((x) => x.id === o.id);
      const label = `at ${o.name}${o.worstWith === undefined ? "" : `, with ${o.worstWith} running`}`;
      return [
        figure(about, label, was?.worstM3S, o.worstM3S, "more", flow),
        figure(about, `pressure ${label}`, was?.worstPa, o.worstPa, "more", pressure),
      ];
    }),
    ...(before.cushionM3 + after.cushionM3 > 0
      ? [
          figure(
            about,
            "accumulators give between two starts of the pump",
            before.cushionM3,
            after.cushionM3,
            "more",
            m3,
          ),
        ]
      : []),
    ...after.hot.map((h) => {
      const was = before.hot.find((x) => x.part === h.part);
      return figure(
        about,
        `cold before it is warm at ${h.name}`,
        was?.coldM3,
        h.coldM3,
        "less",
        m3,
      );
    }),
    ...(after.hot.length > 0
      ? [
          figure(
            about,
            "longest wait for warm water",
            longest(before)?.seconds,
            longest(after)?.seconds,
            "less",
            seconds,
            "none",
            1,
          ),
        ]
      : []),
  ];
};

const soundness = (before: Audit, after: Audit): BesideLine[] => {
  const about = "The system";
  const of = (a: Audit, severity: string): string[] =>
    a.problems.filter((p) => p.severity === severity).map((p) => p.message);
  const shut = (a: Audit): string[] =>
    a.expansions
      .filter((e) => e.closed && e.takenM3 < e.growsM3)
      .map((e) => `${e.name}: grows by ${m3(e.growsM3)}, an accumulator of ${m3(e.accumulatorM3)}`);
  return [
    list(about, "wrong on the map", of(before, "wrong"), of(after, "wrong")),
    list(about, "protections missing", of(before, "guard"), of(after, "guard")),
    list(about, "heaters without room to expand", shut(before), shut(after)),
    list(about, "not known", of(before, "unknown"), of(after, "unknown")),
    figure(
      about,
      "dead legs hold",
      before.deadLegs.volumeM3,
      after.deadLegs.volumeM3,
      "less",
      (v) => (v > 0 ? m3(v) : "nothing"),
    ),
    list(
      about,
      "nothing takes their water out",
      before.nothingClears.map((c) => c.name),
      after.nothingClears.map((c) => c.name),
    ),
    figure(about, "parted by valves into", before.sections, after.sections, "more", plain),
    list(
      about,
      "behind something fixed",
      before.buried.map((b) => b.name),
      after.buried.map((b) => b.name),
    ),
    figure(
      about,
      "valves, drains and hatches whose access is not written down",
      before.accessUnknown,
      after.accessUnknown,
      "less",
      plain,
    ),
    list(
      about,
      "waste pipes too flat",
      before.falls.filter((f) => f.fall !== null && !f.ok).map((f) => f.name),
      after.falls.filter((f) => f.fall !== null && !f.ok).map((f) => f.name),
    ),
    list(
      about,
      "holes through the hull that nothing shuts",
      before.hull.filter((h) => h.takesIn && h.valves.length === 0).map((h) => h.name),
      after.hull.filter((h) => h.takesIn && h.valves.length === 0).map((h) => h.name),
    ),
    list(
      about,
      "intakes whose pump has no strainer",
      before.hull.filter((h) => h.pumps.length > 0 && !h.strainer).map((h) => h.name),
      after.hull.filter((h) => h.pumps.length > 0 && !h.strainer).map((h) => h.name),
    ),
    list(about, "drain past no trap", before.withoutTrap, after.withoutTrap),
    figure(about, "water aboard in use", before.aboardM3, after.aboardM3, "neither", m3),
  ];
};

/** Places that carry water. */
const placesOf = (before: Audit, after: Audit): string[] => [
  ...new Set([...before.loads, ...after.loads].flatMap((l) => l.place || [])),
];

const loads = (before: Audit, after: Audit): BesideLine[] => {
  const about = "Weight and days";
  const full = (a: Audit, is: string): number =>
    a.loads.reduce((sum, l) => sum + (l.is === is ? l.fullKg : 0), 0);
  const days = (v: number): string => (v < 1.05 && v > 0.95 ? "a day" : `${plain(v)} days`);
  return [
    figure(about, "fresh water, full", full(before, "fresh"), full(after, "fresh"), "neither", kg),
    figure(about, "waste, full", full(before, "waste"), full(after, "waste"), "neither", kg),
    ...placesOf(before, after).map((place) => {
      const at = (a: Audit): number =>
        a.loads.reduce((sum, l) => sum + (l.place === place ? l.fullKg : 0), 0);
      return figure(about, `full, at ${place}`, at(before), at(after), "neither", (v) =>
        v > 0 ? `${kg(v)}, half of it ${kg(v / 2)}` : "nothing",
      );
    }),
    ...(after.afloat
      ? [
          figure(
            about,
            "slack tanks take of a boat's stability",
            before.loads.reduce((sum, l) => sum + (l.slackKgM ?? 0), 0),
            after.loads.reduce((sum, l) => sum + (l.slackKgM ?? 0), 0),
            "less",
            (v) => `${Math.round(v)} kg m over its displacement`,
          ),
        ]
      : []),
    list(
      about,
      "limits that full tanks overload",
      before.limits.filter((l) => l.over).map((l) => l.name),
      after.limits.filter((l) => l.over).map((l) => l.name),
    ),
    ...after.limits.map((l) =>
      figure(
        about,
        `${l.name}, of ${kg(l.leftKg)} left`,
        before.limits.find((x) => x.name === l.name)?.fullKg,
        l.fullKg,
        "less",
        kg,
      ),
    ),
    figure(about, "fresh lasts", before.days.fresh, after.days.fresh, "more", days),
    figure(about, "grey lasts", before.days.grey, after.days.grey, "more", days),
    figure(about, "black lasts", before.days.black, after.days.black, "more", days),
    list(
      about,
      "cannot take the next fresh fill",
      before.days.cannotTakeAFill,
      after.days.cannotTakeAFill,
    ),
  ];
};

/** Every line, in the order in which it is read. */
export const besideOf = (before: Audit, after: Audit): BesideLine[] => [
  ...winter(before, after),
  ...soundness(before, after),
  ...inUseLines(before, after),
  ...loads(before, after),
];

export interface Saving {
  readonly method: Method;
  readonly antifreezeM3: number;
  readonly jugs: number;
  readonly minutes: number;
  /** In the workshop's own money, each autumn; none where no price of a jug is known. */
  readonly money: number | null;
  /** Years until the cost is back; none where it never is, or no cost is known. */
  readonly paysBackYears: number | null;
}

/** The method that a saving is told of: the house's own where it protects what is proposed, else the quickest that does. */
export const methodFor = ({ methods }: Pick<Audit, "methods">, own: Method): Method =>
  [
    ...methods.filter((m) => m.method === own),
    ...methods.toSorted((a, b) => a.minutes - b.minutes),
  ].find((m) => m.protects)?.method ?? own;

/** What the change saves each autumn by a method; less than nothing where it costs. */
export const savingOf = (
  before: Audit,
  after: Audit,
  method: Method,
  prices: {
    readonly jug?: number | undefined;
    readonly hour?: number | undefined;
    readonly cost?: number | undefined;
  },
): Saving | undefined => {
  const [was, now] = [before, after].map((a) => a.methods.find((m) => m.method === method));
  if (!was || !now) return undefined;
  const jugs = was.antifreeze.jugs - now.antifreeze.jugs;
  const saved = was.minutes - now.minutes;
  const known = prices.jug !== undefined || jugs === 0;
  const money =
    known && (prices.jug !== undefined || prices.hour !== undefined)
      ? jugs * (prices.jug ?? 0) + (saved / 60) * (prices.hour ?? 0)
      : null;
  return {
    method,
    antifreezeM3: was.antifreeze.medianM3 - now.antifreeze.medianM3,
    jugs,
    minutes: saved,
    money,
    paysBackYears:
      money !== null && money > 0 && prices.cost !== undefined ? prices.cost / money : null,
  };
};
