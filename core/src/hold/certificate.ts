import { type HoldReading, KELVIN } from "./held.ts";
import type { HoldVerdict } from "./judge.ts";
import { judgedTest, type OutcomeName, outcomeOf, type PressureTest } from "./record.ts";
import { WAY_LABELS } from "./test-plan.ts";
import { aDay } from "./words.ts";

/** A pressure test on paper: what was tested, how, with what, every figure that the verdict rests on, and who signs. Quantities as marks for the reader's units. */

/** What a test came to, in a word or two. */
export const OUTCOME_WORDS: Readonly<Record<OutcomeName, string>> = {
  running: "running",
  tight: "tight",
  leaking: "leaking",
  settling: "settling",
  "cannot-tell": "cannot tell",
};

export interface Certificate {
  readonly outcome: OutcomeName;
  /** What must be read before anything else: simulated, opened since. */
  readonly warnings: readonly string[];
  readonly why: string;
  readonly rows: readonly (readonly [label: string, value: string])[];
  /** The arithmetic, so that the verdict can be worked out again. */
  readonly working: string;
  readonly readings: {
    readonly caption: string;
    readonly head: readonly string[];
    readonly lines: readonly (readonly string[])[];
    readonly note: string;
  };
  readonly signed: string;
  readonly foot: string;
}

export interface CertificateOf {
  readonly unit: string;
  readonly openedSince: string | null;
  /** A day as the reader writes it. */
  readonly day: (iso: string) => string;
}

const MOST_LINES = 40;

const mbar = (pa: number): string => `${(pa / 100).toFixed(1)} mbar`;
const gauge = (pa: number): string => `{g:${pa}}`;

const line = (r: HoldReading): string[] => [
  `{s:${Math.round(r.atS)}}`,
  gauge(r.pressurePa),
  r.temperatureC === undefined ? "not read" : `${r.temperatureC.toFixed(1)} °C`,
  r.barometerPa === undefined ? "not read" : mbar(r.barometerPa),
];

const workingOf = (test: PressureTest, verdict: HoldVerdict): string => {
  const { first, last, tightAtEndPa, storeM3PerPa } = verdict.figures;
  return test.plan.held.medium === "air"
    ? `If nothing had left: (${gauge(first.pressurePa)} + ${mbar(first.barometerPa)}) × ${(last.temperatureC + KELVIN).toFixed(2)} K ÷ ${(first.temperatureC + KELVIN).toFixed(2)} K − ${mbar(last.barometerPa)} = ${gauge(tightAtEndPa)}; read ${gauge(last.pressurePa)}. The leak is the slope of what was shut in over all readings, V · (p + B) / T; its uncertainty comes from the steps of the instruments, the scatter, and what was not read.`
    : `What was pressed in gives ${(storeM3PerPa * 1e5 * 1e6).toFixed(2)} mL for each bar, by pipe, trapped air (assumed) and accumulators; the leak is the slope of that over all readings, less what the water grew.`;
};

const instrument = (
  of: PressureTest["gauge"] | undefined,
  day: CertificateOf["day"],
): string | undefined =>
  of &&
  [
    of.name,
    of.certificate,
    of.calibratedUntil === undefined ? "" : `calibrated until ${day(of.calibratedUntil)}`,
  ]
    .filter(Boolean)
    .join(", ");

/** The paper of a test as it stands: what was signed, and the readings under it. */
export const certificateOf = (test: PressureTest, of: CertificateOf): Certificate => {
  const { plan, readings, ended } = test;
  const signed = ended?.concluded;
  const verdict = readings.length > 1 ? judgedTest(test) : undefined;
  const every = Math.max(1, Math.ceil(readings.length / MOST_LINES));
  const shown = readings.filter((_, i) => i % every === 0 || i === readings.length - 1);
  const isLevel = plan.by === "brim" || plan.by === "head";
  const rows: (readonly [string, string | undefined])[] = [
    ["Unit", of.unit],
    ["Tested", plan.title],
    ["With", `${WAY_LABELS[plan.by]}, ${plan.held.medium}`],
    ["Not tested", plan.leftOut.join(", ") || "nothing of it left out"],
    [
      isLevel ? "Loaded by" : "Pressed to",
      `${gauge(plan.pressurePa)}; ${plan.weakest.name} bears {pa:${Math.round(plan.weakest.pa)}}`,
    ],
    ["Gauge", isLevel ? undefined : instrument(test.gauge, of.day)],
    ["Thermometer", isLevel ? undefined : instrument(test.thermometer, of.day)],
    ["Barometer", isLevel ? undefined : instrument(test.barometer, of.day)],
    ["Begun", `${of.day(test.begunAt)}, ${test.begunBy}`],
    [
      "Held",
      verdict &&
        `{s:${Math.round(verdict.figures.seconds)}}; {s:${Math.round(plan.holdS)}} were planned`,
    ],
    [
      "Leak, 95 in 100",
      signed &&
        `${signed.leak.low > 0 ? aDay(signed.leak.low) : "nothing"} to ${aDay(signed.leak.high)}`,
    ],
    ["Smallest that would have shown", signed && aDay(signed.smallestDetectable)],
    ["Ended before its time", ended?.early || undefined],
    [
      "Stayed open until it passed",
      test.holdPoints.length > 0 ? test.holdPoints.join(", ") : undefined,
    ],
  ];
  return {
    outcome: outcomeOf(test),
    warnings: [
      ...(test.isSimulated ? ["Simulated readings: this is no proof of anything."] : []),
      ...(of.openedSince === null ? [] : [`Opened since: ${of.day(of.openedSince)}.`]),
    ],
    why: signed?.why ?? "",
    rows: rows.flatMap(([label, value]) => (value === undefined ? [] : [[label, value] as const])),
    working: verdict ? workingOf(test, verdict) : "",
    readings: {
      caption: `Readings${every > 1 ? `, one in ${every} of ${readings.length}` : ""}`,
      head: ["After", "Gauge", "Temperature", "Barometer"],
      lines: shown.map(line),
      note: `Volume {m3:${plan.held.volumeM3}}, gauge steps of ${gauge(test.instruments.gauge.stepPa)}, thermometer ${test.instruments.thermometerStepK} K, barometer ${mbar(test.instruments.barometerStepPa)}.`,
    },
    signed: ended ? `Signed ${ended.name}, ${of.day(ended.at)}` : "Not signed: running.",
    foot: "A pressure test proves what was pressed, at its pressure, on that day. Makers' instructions and local codes come first.",
  };
};
