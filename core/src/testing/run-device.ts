import {
  applyEvent,
  type AskedBody,
  enter,
  looseEnds,
  type RunBegins,
  type RunEvent,
  type RunEventBody,
  type RunSetup,
  type RunState,
  startRun,
} from "../procedure/index.ts";
import { rowsOf, type Step } from "../procedure/step.ts";
import type { Network } from "../watermap/index.ts";

const START = Date.parse("2025-10-14T08:00:00Z");

/** One person of each role. */
const PEOPLE: Readonly<Record<string, { readonly id: string; readonly name: string }>> = {
  technician: { id: "00000000-0000-4000-8000-00000000a001", name: "R. Amadi" },
  lead: { id: "00000000-0000-4000-8000-00000000a002", name: "L. Voss" },
  apprentice: { id: "00000000-0000-4000-8000-00000000a003", name: "A. Prentice" },
};

/** A device that makes a run's entries, and the run that they make. */
export class RunDevice {
  state: RunState;
  events: RunEvent[] = [];
  #made: number;
  #laterMs = 0;
  /** @param made how many entries it has made before, so that two devices make different ids */
  constructor(network: Network, setup: RunSetup, made = 0, begins?: RunBegins) {
    this.state = startRun(network, setup, begins);
    this.#made = made;
  }
  make(body: RunEventBody, role = "technician"): RunEvent {
    const n = ++this.#made;
    const id = `00000000-0000-4000-8000-${String(n).padStart(12, "0")}`;
    return {
      id,
      seq: n,
      at: new Date(START + n * 60_000 + this.#laterMs).toISOString(),
      body,
      by: { id: "", name: "", ...PEOPLE[role], role },
    };
  }
  /** Lets so much time pass. */
  wait(seconds: number): void {
    this.#laterMs += seconds * 1000;
  }
  /** Enters something; returns the id of its own entry. */
  do(body: AskedBody, role?: string): string {
    const entered = enter(this.state, body, (made, said) => ({
      ...this.make(made, role),
      ...(said ? { said } : {}),
    }));
    if (!entered.ok) throw new Error(`${entered.code}: ${entered.problem}`);
    this.state = entered.state;
    this.events.push(...entered.events);
    return entered.events[0]?.id ?? "";
  }
  /** Tries to enter something that cannot be; returns why not. */
  refused(body: AskedBody, role?: string): string {
    const before = this.state;
    const entered = enter(before, body, (made, said) => ({
      ...this.make(made, role),
      ...(said ? { said } : {}),
    }));
    if (this.state !== before) throw new Error("a refusal changed the run");
    return entered.ok ? "taken" : entered.code;
  }
  /** Adds an entry as it came, without entering it. */
  apply(event: RunEvent): string {
    const applied = applyEvent(this.state, event);
    if (!applied.ok) return applied.code;
    this.state = applied.state;
    this.events.push(event);
    return "taken";
  }
  /** Ends that must be tagged before the work can be signed off. */
  looseEnds(): string[] {
    const { network, physical } = this.state;
    return looseEnds(network, physical, physical.lineup).flatMap((e) => (e.mustTag ? [e.id] : []));
  }
  get step(): Step {
    const step = this.state.todo[0];
    if (!step) throw new Error("nothing to do");
    return step;
  }
  tickAll(): void {
    for (const row of rowsOf(this.step))
      this.do({ type: "row-ticked", stepId: this.step.id, row: row.key, done: true });
  }
  /** Does the step in hand as the engine expects it. */
  doStep(): void {
    const { step } = this;
    for (const ask of step.asks)
      if (ask.required || ask.kind === "strength")
        this.do({
          type: "reading",
          stepId: step.id,
          ask: ask.key,
          si: ask.expected ?? 20,
          typed: "as expected",
        });
    this.tickAll();
    this.do({ type: "step-signed", stepId: step.id });
  }
  /** Reads one of the questions of the step in hand. */
  read(ask: string, si: number): void {
    this.do({ type: "reading", stepId: this.step.id, ask, si, typed: String(si) });
  }
  doUntil(stop: (step: Step) => boolean): void {
    while (this.state.todo[0] && !stop(this.step)) this.doStep();
  }
}
