import type { Lineup, Network } from "../../watermap/index.ts";
import type { Physical } from "../physical.ts";
import type { AskKind, Step } from "../step.ts";
import type { Cannot } from "../winterize/context.ts";
import type { RunBegins, RunEvent, RunSetup, UnreadEntry } from "./events.ts";
import type { KeptPlan } from "./kept-plan.ts";
import type { EndSaid, TurnSaid, UnitSaid } from "./said.ts";

export interface Signature {
  readonly name: string;
  readonly role: string;
  readonly at: string;
  /** A name that was given with it, where it is not that of the person signed in. */
  readonly dictated?: string;
}

/** A value measured in a run, with what it was read for. */
export interface RunReading {
  readonly event: string;
  readonly stepId: string;
  readonly ask: string;
  readonly kind: AskKind;
  readonly label: string;
  /** Cell it speaks of, where it speaks of one. */
  readonly cell?: string;
  readonly si: number;
  readonly typed: string;
  /** With which it was taken, by its name in the kit. */
  readonly instrument?: string;
  readonly by: Signature;
  /** What the engine expected, SI. */
  readonly expected?: number;
  /** What stood there before a correction, newest last. */
  readonly earlier: readonly { readonly typed: string; readonly reason: string }[];
}

interface DoneStep {
  readonly step: Step;
  readonly signed: Signature;
}

interface CannotEntry extends Cannot {
  readonly title: string;
  readonly by: Signature;
}

interface Noticed {
  readonly text: string;
  readonly by: Signature;
  readonly stepId?: string;
  readonly part?: string;
  readonly severity?: string;
}

export type RunPhase = "as-found" | "to-plan" | "steps" | "as-left" | "sign-off" | "closed";

/** What a run has come to: a fold of its entries over its map and setup. The server, the screens and the report use this one. */
export interface RunState {
  readonly network: Network;
  readonly setup: RunSetup;
  readonly begins: RunBegins | undefined;
  readonly phase: RunPhase;
  /** The unit as the engine takes it, from what was said of it. */
  readonly physical: Physical;
  /** What the engine said of the unit so far; nothing before it was found. */
  readonly unit: UnitSaid | undefined;
  /** The plan in force. */
  readonly plan: KeptPlan | undefined;
  /** The plan as the work began with it, for comparing. */
  readonly firstPlan: KeptPlan | undefined;
  /** Which planner made the plan in force. */
  readonly planner: string | undefined;
  /** Steps still to do, in order. */
  readonly todo: readonly Step[];
  readonly done: readonly DoneStep[];
  readonly cannot: readonly CannotEntry[];
  /** The newest entry after which a plan may be made: none other belongs to what has been done. */
  readonly planAfter: string | undefined;
  /** Ticked rows of the step in hand. */
  readonly ticked: readonly string[];
  readonly readings: readonly RunReading[];
  readonly notes: readonly Noticed[];
  readonly asFound?: {
    readonly lineup: Lineup;
    readonly by: Signature;
    readonly note?: string;
    readonly turns: readonly TurnSaid[];
  };
  readonly asLeft?: {
    readonly lineup: Lineup;
    readonly tagged: readonly { readonly id: string; readonly tag: string }[];
    readonly by: Signature;
    readonly note?: string;
    readonly turns: readonly TurnSaid[];
    readonly ends: readonly EndSaid[];
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
  | "pressure"
  | "too-much"
  | "too-soon"
  | "unknown-step"
  | "unknown-part"
  | "unknown-event"
  | "loose-end"
  | "closed"
  | "not-allowed"
  | "not-whole"
  | "unread";

export interface Refused {
  readonly ok: false;
  readonly code: Refusal;
  readonly problem: string;
}

export type Applied = { readonly ok: true; readonly state: RunState } | Refused;

/** An entry that is kept and has no effect, with the reason. It is shown on the record. */
export interface Astray {
  readonly entry: RunEvent | UnreadEntry;
  readonly code: Refusal;
  readonly problem: string;
}

/**
 * What a run's entries come to. Where some of them have no effect the state stands under another name, so that nobody can take it
 * without having met them.
 */
export type Replayed =
  | { readonly whole: true; readonly state: RunState }
  | {
      readonly whole: false;
      readonly stateWithout: RunState;
      readonly astray: readonly [Astray, ...Astray[]];
    };

export const refuse = (code: Refusal, problem: string): Refused => ({ ok: false, code, problem });
