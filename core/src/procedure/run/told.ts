import { jobOf } from "../job.ts";
import { unprotectedAt } from "../../contents/index.ts";
import { usesProduct } from "../method.ts";
import { waterTold } from "./told-water.ts";
import { antifreezeUse, verdictNow } from "./said-now.ts";
import { doubtsNow } from "./summary.ts";
import type { RunReading, RunState } from "./state.ts";

/** A winterizing as its owner is told it, in the words of its day; quantities are set in the reader's units when it is shown. */
export interface RunTold {
  /** When it was signed, ISO. */
  readonly at: string;
  readonly holdsToC: number | null;
  readonly sections: readonly { readonly title: string; readonly lines: readonly string[] }[];
}

const MOST_NAMED = 12;

const litres = (m3: number): string => `{m3:${Number(m3.toPrecision(4))}}`;
const degrees = (c: number): string => `{c:${Number(c.toFixed(1))}}`;
const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** What was done to the unit, by what was signed and not by what was planned. */
const howDone = (state: RunState): string => {
  const { method } = state.setup;
  const did = (type: string): boolean =>
    state.done.some((d) => d.step.actions.some((a) => a.type === type));
  const emptied = [
    "Drained by gravity",
    ...(did("suck") ? ["what has no drain sucked out"] : []),
    ...(did("blow") ? ["blown out with air"] : []),
  ].join(", ");
  if (usesProduct(method)) return `${emptied}, then filled with antifreeze`;
  return method === "dry"
    ? `${emptied} and left dry, antifreeze in the traps only`
    : `${emptied}, antifreeze in the traps only`;
};

const done = (state: RunState): string[] => {
  const { product, rules } = state.setup;
  const verdict = verdictNow(state);
  const use = antifreezeUse(state);
  const by = state.closed;
  return [
    `${howDone(state)}: ${product.name}, ${percent(product.strength)}${product.lot ? `, ${product.lot}` : ""}.`,
    use.usedM3 === undefined
      ? `${litres(use.workedOutM3)} of it were used, as worked out.`
      : `${litres(use.usedM3)} of it were used, measured.`,
    verdict.holdsToC === null
      ? "Nothing aboard has a limit now."
      : `It holds to ${degrees(verdict.holdsToC)}, reckoned with a winter low of ${degrees(state.setup.winterLowC)}${rules ? ` (${rules.winterLow.from})` : ""}.${verdict.weakest ? ` The weakest part is ${verdict.weakest.name}: ${verdict.weakest.evidence}.` : ""}`,
    ...(by
      ? [
          `Done and signed by ${by.name}, ${by.role}${state.countersigned ? `; countersigned by ${state.countersigned.name}` : ""}.`,
        ]
      : []),
  ];
};

const titleOf = (state: RunState, r: RunReading): string =>
  (state.done.find((d) => d.step.id === r.stepId)?.step.title ?? r.label).split(":")[0] ?? r.label;

/** The newest reading of each question only: what was read again stands, what was before it does not. */
const newest = (state: RunState): RunReading[] =>
  state.readings.filter(
    (r, i) =>
      !state.readings
        .slice(i + 1)
        .some((later) => later.stepId === r.stepId && later.ask === r.ask),
  );

const read = (state: RunState): string[] =>
  newest(state).flatMap((r) => {
    if (r.kind === "strength") return [`${titleOf(state, r)}: ${r.typed} of antifreeze.`];
    if (r.kind === "pressure") return [`${titleOf(state, r)}: ${r.typed}.`];
    if (r.kind === "recovered")
      return [
        `${titleOf(state, r)}: ${r.typed} came out${r.expected === undefined ? "" : ` of ${litres(r.expected)}`}.`,
      ];
    return [];
  });

const notDone = (state: RunState): string[] => {
  const nameOf = (id: string): string =>
    state.network.map.parts.find((p) => p.id === id)?.name ?? id;
  const open = unprotectedAt(verdictNow(state), state.setup.winterLowC);
  const unread = state.done.filter(
    (d) =>
      d.step.asks.some((a) => a.kind === "strength") &&
      !state.readings.some((r) => r.stepId === d.step.id),
  );
  return [
    ...state.cannot.map((c) => `${c.title}: ${c.parts.map(nameOf).join(", ")}; ${c.reason}.`),
    ...open
      .slice(0, MOST_NAMED)
      .map(
        (o) =>
          `Not protected: ${o.name}${o.holdsToC === null ? "" : `, holds to ${degrees(o.holdsToC)}`}; ${o.evidence}.`,
      ),
    ...(open.length > MOST_NAMED
      ? [`And ${open.length - MOST_NAMED} more parts and pipes are not protected.`]
      : []),
    ...doubtsNow(state)
      .slice(0, MOST_NAMED)
      .map((d) => `Cannot be told: it rests on ${d.becauseName}, of which nothing is known yet.`),
    ...(unread.length > 0
      ? [
          `Strength was worked out, not read, at: ${unread.map((d) => d.step.title.split(":")[0]).join("; ")}.`,
        ]
      : []),
  ];
};

const left = (state: RunState): string[] => {
  const tagged = state.asLeft?.tagged ?? [];
  return [
    ...(state.asLeft?.turns ?? []).map(
      (t) => `${[t.tag, t.name].filter(Boolean).join(" ")}: ${t.now}.`,
    ),
    ...(state.asLeft?.ends ?? [])
      .filter((e) => e.mustTag)
      .map((e) => `${e.text}; ${tagged.find((t) => t.id === e.id)?.tag ?? "not tagged"}.`),
  ];
};

const spring = (state: RunState): string[] => [
  "Do not switch the heater on before water runs from a hot tap without air.",
  ...(state.asLeft?.ends ?? []).filter((e) => e.mustTag).map((e) => `Make good: ${e.text}.`),
  ...(state.asLeft?.turns ?? []).map(
    (t) => `Turn back ${[t.tag, t.name].filter(Boolean).join(" ")}: ${t.inUse}.`,
  ),
  "Flush until every outlet runs clear, cold and hot.",
];

/** @returns nothing of a run that is not closed */
export const tellRun = (state: RunState): RunTold | undefined => {
  if (!state.closed) return undefined;
  if (jobOf(state.setup) !== "winterize")
    return { at: state.closed.at, holdsToC: null, sections: waterTold(state, newest(state)) };
  const sections = [
    { title: "What was done", lines: done(state) },
    { title: "What was read", lines: read(state) },
    { title: "What was not done", lines: notDone(state) },
    { title: "How it was left", lines: left(state) },
    { title: "What spring owes", lines: spring(state) },
  ];
  return {
    at: state.closed.at,
    holdsToC: verdictNow(state).holdsToC,
    sections: sections
      .filter((s) => s.lines.length > 0)
      .map((s) => ({ ...s, lines: [...new Set(s.lines)] })),
  };
};
