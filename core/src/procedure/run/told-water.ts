import { chlorineOf, liquidIn, strengthOf } from "../../contents/index.ts";
import { flowVerdict } from "../flow-verdict.ts";
import { heatersOf } from "../../watermap/index.ts";
import type { RunReading, RunState } from "./state.ts";

/** A de-winterizing or a sanitizing as its owner is told it; quantities are set in the reader's units when it is shown. */

const HOUR_MS = 3_600_000;
const litres = (m3: number): string => `{m3:${Number(m3.toPrecision(4))}}`;
const percent = (share: number): string =>
  `${share < 0.01 ? (share * 100).toFixed(2) : Math.round(share * 100)} %`;
const hours = (ms: number): string => `${(ms / HOUR_MS).toFixed(1)} h`;

interface Section {
  readonly title: string;
  readonly lines: readonly string[];
}

const doneTimes = (state: RunState, stem: string): string[] =>
  state.done.filter((d) => d.step.id.startsWith(stem)).map((d) => d.signed.at);

const isOutlet = (id: string): boolean => /^(?:flush|again):(?!on:|fill:)/u.test(id);
const nameOf = (title: string): string => title.split(":")[0] ?? title;

/** How long the dose stood each time, with what was read at both ends and their product. */
const stood = (state: RunState, readings: readonly RunReading[]): string[] => {
  const ends = doneTimes(state, "stand:end");
  return doneTimes(state, "stand:clock").flatMap((from, i) => {
    const until = ends[i];
    if (until === undefined) return [];
    const of = (which: string): RunReading | undefined =>
      readings.find((r) => r.ask === `chlorine-${which}:${i + 1}`);
    const [start, end] = [of("start"), of("end")];
    const ms = Date.parse(until) - Date.parse(from);
    const product =
      start && end
        ? `; strength by time, with the mean of both, ${Math.round(((start.si + end.si) / 2) * (ms / 60_000))} mg·min/L`
        : "";
    return [
      `It stood ${hours(ms)}: ${start ? `${start.typed} at the start` : "not read at the start"}, ${end ? `${end.typed} at the end` : "not read at the end"}${product}.`,
    ];
  });
};

const dosed = (state: RunState): string[] => {
  const doses = state.done.flatMap((d) => d.step.actions.filter((a) => a.type === "dose"));
  const bleachM3 = doses.reduce((s, a) => s + a.bottleM3, 0);
  const { bottle, targetMgL } = state.setup.water?.chlorine ?? {};
  return bleachM3 > 0 && bottle
    ? [
        `${litres(bleachM3)} of ${bottle.name.toLowerCase()} of ${percent(bottle.strength)}, for ${targetMgL} mg/L at the outlet that gets least.`,
      ]
    : [];
};

const work = (state: RunState, readings: readonly RunReading[]): string[] => {
  const spring = state.setup.job === "spring";
  const outlets = [
    ...new Set(state.done.filter((d) => isOutlet(d.step.id)).map((d) => nameOf(d.step.title))),
  ];
  const by = state.closed;
  return [
    ...(spring
      ? [`Closed up, filled, and run clear at ${outlets.length} places: ${outlets.join("; ")}.`]
      : [
          ...dosed(state),
          ...stood(state, readings),
          `Rinsed at: ${[...new Set(state.done.filter((d) => d.step.id.startsWith("rinse:") && !/^rinse:(?:empty|fill):/u.test(d.step.id)).map((d) => nameOf(d.step.title)))].join("; ")}.`,
        ]),
    ...heatersOf(state.network).flatMap(({ part }) =>
      state.done.some((d) => d.step.id.startsWith(`heater:${part.id}:fill`))
        ? [`${part.name}: filled and proved by a hot tap without air.`]
        : [],
    ),
    ...(by
      ? [
          `Done and signed by ${by.name}, ${by.role}${state.countersigned ? `; countersigned by ${state.countersigned.name}` : ""}.`,
        ]
      : []),
  ];
};

/** What the flows that were read say, by outlet. */
export const flowsSay = (readings: readonly RunReading[]): string[] =>
  flowVerdict(
    readings.flatMap((r) =>
      r.kind === "flow"
        ? [
            {
              name: r.label.replace(/^Flow at /u, ""),
              isHot: r.ask.endsWith(":hot"),
              m3PerS: r.si,
            },
          ]
        : [],
    ),
  );

const read = (state: RunState, readings: readonly RunReading[]): string[] => [
  ...readings.map((r) => {
    const title = state.done.find((d) => d.step.id === r.stepId)?.step.title ?? r.label;
    return r.kind === "flow" || r.kind === "chlorine"
      ? `${r.label}: ${r.typed}.`
      : `${nameOf(title)}: ${r.typed}${r.kind === "strength" ? " of antifreeze" : ""}.`;
  }),
  ...flowsSay(readings),
];

/** What was answered with "can't do this", and what the engine still finds in what comes. */
const notDone = (state: RunState, readings: readonly RunReading[]): string[] => {
  const { water } = state.setup;
  const limit = water?.chlorine.limitMgL ?? Number.POSITIVE_INFINITY;
  // One that was corrected afterwards may tell more than what was signed.
  const over = readings.filter(
    (r) => r.kind === "chlorine" && r.ask.startsWith("chlorine:") && r.si > limit,
  );
  const outlets = state.network.openings.filter(
    (o) => o.use === "outlet" && state.network.cells[o.cell]?.side === "fresh",
  );
  const tastes = outlets.filter(
    (o) => strengthOf(liquidIn(state.physical.contents[o.cell])) > (water?.tasteAtMost ?? 1),
  );
  const smells = outlets.filter(
    (o) =>
      chlorineOf(liquidIn(state.physical.contents[o.cell])) >
      (water?.chlorine.limitMgL ?? Number.POSITIVE_INFINITY),
  );
  const cold = heatersOf(state.network).filter(
    ({ part }) => !state.done.some((d) => d.step.id === `prove:${part.id}:heat`),
  );
  return [
    ...state.cannot.map((c) => `${c.title}: ${c.reason}.`),
    ...over.map((r) => `${r.label}: ${r.typed}, more than drinking water may have.`),
    ...tastes.map((o) => `Antifreeze may still come at ${o.part.name}.`),
    ...smells.map(
      (o) => `Chlorine may still come at ${o.part.name}, more than drinking water may have.`,
    ),
    ...cold.map(
      ({ part }) => `${part.name}: heat must not go on before it is proved full and rinsed.`,
    ),
  ];
};

const left = (state: RunState): string[] => {
  const turns = state.asLeft?.turns ?? [];
  return [
    ...(turns.length === 0 ? ["Every handle as in use on the tank."] : []),
    ...turns.map((t) => `${[t.tag, t.name].filter(Boolean).join(" ")}: ${t.now}.`),
    ...(state.asLeft?.ends ?? []).filter((e) => e.mustTag).map((e) => `${e.text}.`),
  ];
};

const next = (state: RunState): string[] =>
  state.setup.job === "spring"
    ? [
        state.setup.water?.sanitizeNext === true
          ? "Sanitizing is next: until then the water is for washing, not for drinking."
          : "Not sanitized on this visit.",
        "Winterize it before the first frost.",
      ]
    : ["Sanitize it again next spring, or when it has stood with water in it."];

export const waterTold = (state: RunState, readings: readonly RunReading[]): Section[] =>
  [
    { title: "What was done", lines: work(state, readings) },
    { title: "What was read", lines: read(state, readings) },
    { title: "What was not done", lines: notDone(state, readings) },
    { title: "How it was left", lines: left(state) },
    { title: "What is due next", lines: next(state) },
  ]
    .filter((s) => s.lines.length > 0)
    .map((s) => ({ ...s, lines: [...new Set(s.lines)] }));
