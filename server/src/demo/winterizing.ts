import {
  jobOf,
  type AskedBody,
  enter,
  looseEnds,
  rowsOf,
  type RunBegins,
  type RunEvent,
  type RunSetup,
  startRun,
} from "@uppershed/core/procedure";
import { buildNetwork, type WaterMap } from "@uppershed/core/watermap";
import { idFrom } from "../ids.ts";

/** Ids made from words, so that the demo is the same every time. */
export const demoId = idFrom;

const litres = (m3: number): string => `${(m3 * 1000).toFixed(1)} L`;

const OVERNIGHT_MINUTES = 9 * 60;

/** What a strip shows: near what is expected, in the steps that a strip has. */
const STRIP_STEP_MG_L = 5;
const stripNear = (expected: number, atMost: number | undefined): number =>
  atMost === undefined
    ? Math.max(STRIP_STEP_MG_L, Math.round((expected * 0.97) / STRIP_STEP_MG_L) * STRIP_STEP_MG_L)
    : Math.min(1, atMost);

/**
 * A run done from beginning to end as the engine expects it, with invented readings near what it expects.
 * @param begins what was known of the unit when it was begun
 */
export const demoWinterizing = (
  map: WaterMap,
  setup: RunSetup,
  runId: string,
  by: RunEvent["by"],
  startedAt: Date,
  begins?: RunBegins,
): RunEvent[] => {
  const network = buildNetwork(map);
  let state = startRun(network, setup, begins);
  const isWinter = jobOf(setup) === "winterize";
  let minute = 0;
  const events: RunEvent[] = [];
  const add = (body: AskedBody, minutes = 0): void => {
    minute += minutes;
    let made = events.length;
    const entered = enter(state, body, (entry, said) => ({
      id: demoId(`${runId} event ${++made}`),
      seq: made,
      at: new Date(startedAt.getTime() + minute * 60_000).toISOString(),
      body: entry,
      by,
      ...(said ? { said } : {}),
    }));
    if (!entered.ok) throw new Error(`demo: ${entered.problem}`);
    state = entered.state;
    events.push(...entered.events);
  };
  add(
    {
      type: "as-found",
      lineup: {},
      ...(isWinter ? { note: "As the owner left it on Sunday." } : {}),
    },
    4,
  );
  const jugsM3 = (state.plan?.antifreeze.jugs ?? 0) * setup.product.jugM3;
  let outlets = 0;
  for (let step = state.todo[0]; step; step = state.todo[0]) {
    // What stands, stands overnight.
    if (step.after) minute += step.after.seconds / 60 + OVERNIGHT_MINUTES;
    for (const ask of step.asks) {
      const reading = (si: number, typed: string): void =>
        add({ type: "reading", stepId: step.id, ask: ask.key, si, typed });
      if (ask.kind === "flow" || (ask.kind === "strength" && !isWinter)) continue;
      if (ask.kind === "chlorine") {
        const mgL = stripNear(ask.expected ?? 0, ask.atMost);
        reading(mgL, `${mgL} mg/L`);
      } else if (ask.kind === "strength") {
        // Every other outlet read, a little above and below what was worked out.
        if (outlets++ % 2 === 0) {
          const si =
            Math.round(((ask.expected ?? 0.4) + (outlets % 3 === 0 ? -0.01 : 0.01)) * 100) / 100;
          reading(si, `${Math.round(si * 100)} %`);
        }
      } else if (ask.kind === "temperature") reading(24, "24 °C");
      else if (ask.kind === "pressure") {
        const bar = Math.floor((ask.expected ?? 0) / 10_000) / 10;
        reading(bar * 100_000, `${bar} bar`);
      } else if (ask.kind === "antifreeze-in") reading(jugsM3, litres(jugsM3));
      else if (ask.kind === "antifreeze-left") {
        const left = Math.max(0, Math.round((jugsM3 - state.physical.drawnM3 * 1.09) * 1e4) / 1e4);
        reading(left, litres(left));
      } else {
        const si = Math.round((ask.expected ?? 0) * 0.98 * 1e4) / 1e4;
        reading(si, litres(si));
      }
    }
    for (const row of rowsOf(step))
      add({ type: "row-ticked", stepId: step.id, row: row.key, done: true });
    add({ type: "step-signed", stepId: step.id }, Math.max(1, Math.round(step.minutes)));
    if (step.id === "drain:lines")
      add({
        type: "note",
        stepId: step.id,
        text: "Head hose chafed at the bulkhead; told the owner.",
      });
  }
  const tagged = looseEnds(network, state.physical, state.physical.lineup)
    .filter((end) => end.mustTag)
    .map((end) => ({ id: end.id, tag: "Red tag at the switch" }));
  add({ type: "as-left", lineup: {}, tagged }, 5);
  add({ type: "closed", name: by.name }, 2);
  return events;
};
