import type { Lineup, Network } from "../../watermap/index.ts";
import type { Physical } from "../physical.ts";
import type { Step } from "../step.ts";
import type { Cannot, Plan, WinterizeRequest } from "../winterize/index.ts";
import type { RunEvent, RunSetup } from "./events.ts";

export interface Signature {
  readonly name: string;
  readonly role: string;
  readonly at: string;
}

export interface Reading {
  readonly event: string;
  readonly stepId: string;
  readonly ask: string;
  readonly kind: Step["asks"][number]["kind"];
  readonly label: string;
  readonly si: number;
  readonly typed: string;
  readonly by: Signature;
  /** What the engine expected, SI. */
  readonly expected?: number;
  /** What stood there before a correction, newest last. */
  readonly earlier: readonly { readonly typed: string; readonly reason: string }[];
}

export interface DoneStep {
  readonly step: Step;
  readonly signed: Signature;
}

export interface CannotEntry extends Cannot {
  readonly title: string;
  readonly by: Signature;
}

export interface Noticed {
  readonly text: string;
  readonly by: Signature;
  readonly stepId?: string;
  readonly part?: string;
  readonly severity?: string;
}

export type RunPhase = "as-found" | "steps" | "as-left" | "sign-off" | "closed";

/** What a run has come to: a fold of its events over its map and setup. The server, the screens and the report use this one. */
export interface RunState {
  readonly network: Network;
  readonly setup: RunSetup;
  readonly phase: RunPhase;
  readonly physical: Physical;
  readonly plan: Plan;
  /** The plan as the work began with it, for comparing. */
  readonly firstPlan: Plan;
  /** Steps still to do, in order. */
  readonly todo: readonly Step[];
  readonly done: readonly DoneStep[];
  readonly cannot: readonly CannotEntry[];
  /** Ticked rows of the step in hand. */
  readonly ticked: readonly string[];
  readonly readings: readonly Reading[];
  readonly notes: readonly Noticed[];
  readonly asFound?: { readonly lineup: Lineup; readonly by: Signature; readonly note?: string };
  readonly asLeft?: {
    readonly lineup: Lineup;
    readonly tagged: readonly { readonly id: string; readonly tag: string }[];
    readonly by: Signature;
    readonly note?: string;
  };
  readonly closed?: Signature;
  readonly countersigned?: Signature;
  /** Clocks that run on after their step was signed. */
  readonly clocks: readonly { readonly label: string; readonly endsAt: string }[];
  readonly events: readonly RunEvent[];
}

export type Refusal =
  | "out-of-order"
  | "already-signed"
  | "not-ticked"
  | "reading-missing"
  | "reading-impossible"
  | "too-hot"
  | "unknown-step"
  | "unknown-part"
  | "unknown-event"
  | "loose-end"
  | "closed"
  | "not-allowed";

export type Applied =
  | { readonly ok: true; readonly state: RunState }
  | { readonly ok: false; readonly code: Refusal; readonly problem: string };

export const requestOf = (network: Network, setup: RunSetup, start: Physical, cannot: readonly Cannot[]): WinterizeRequest => ({
  network,
  start,
  winterLowC: setup.winterLowC,
  marginC: setup.marginC,
  basis: setup.basis,
  product: setup.product,
  cannot,
  trapDoseM3: setup.trapDoseM3,
});
