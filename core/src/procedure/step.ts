/** The step language: what a plan is made of. All of it is plain data, so that a plan can be stored, sent and compared. */

export type Stage = "secure" | "drain" | "bypass" | "fill" | "traps" | "button-up";

export const STAGES: readonly { stage: Stage; label: string }[] = [
  { stage: "secure", label: "Secure" },
  { stage: "drain", label: "Drain" },
  { stage: "bypass", label: "Bypass" },
  { stage: "fill", label: "Fill" },
  { stage: "traps", label: "Traps" },
  { stage: "button-up", label: "Button up" },
];

export type Action =
  /** Turn a control: valve, tap, plug, cap, switch. */
  | {
      readonly type: "set-valve";
      readonly control: string;
      readonly position: string;
      readonly from: string;
      readonly label: string;
      readonly tag: string;
      readonly handle: string;
    }
  /** Something only a person can vouch for; kept as a fact of the run. */
  | { readonly type: "confirm"; readonly fact: string; readonly label: string }
  /** Let gravity work through what stands open. */
  | { readonly type: "drain" }
  /** Run a pump until something is seen at an opening. */
  | {
      readonly type: "pump";
      readonly switch: string;
      readonly watch: string;
      readonly untilStrength?: number;
      readonly untilAir?: number;
      readonly maxM3: number;
    }
  /** Push product in at an inlet with a hand pump. */
  | {
      readonly type: "push-by-hand";
      readonly cell: string;
      readonly watch: string;
      readonly untilStrength: number;
      readonly maxM3: number;
      readonly label: string;
    }
  | { readonly type: "pour"; readonly cell: string; readonly volumeM3: number; readonly label: string }
  /** Undo a joint; with a jug the hose of the jug goes on the part's side. */
  | { readonly type: "disconnect"; readonly run: string; readonly end: "from" | "to"; readonly jug: boolean; readonly label: string }
  | { readonly type: "reconnect"; readonly run: string; readonly end: "from" | "to"; readonly label: string }
  | { readonly type: "wait"; readonly seconds: number; readonly label: string };

/** What the technician is asked to measure at a step. */
export interface Ask {
  readonly key: string;
  readonly kind: "strength" | "recovered" | "temperature" | "antifreeze-in" | "antifreeze-left";
  readonly label: string;
  /** Cell id the reading speaks of, where it speaks of one. */
  readonly cell?: string;
  /** Required before the step may be signed. */
  readonly required: boolean;
  /** Largest value that lets the step be signed, SI. */
  readonly atMost?: number;
  /** What the engine expects, SI. */
  readonly expected?: number;
}

export interface Step {
  readonly id: string;
  readonly stage: Stage;
  readonly title: string;
  readonly actions: readonly Action[];
  readonly where: string;
  readonly why: string;
  readonly cautions: readonly string[];
  /** A result that can be checked, in words; volumes are written as {m3:0.0087} and set in the reader's units when shown. */
  readonly expect: string;
  readonly asks: readonly Ask[];
  /** Steps that must be signed first. */
  readonly needs: readonly string[];
  /** Parts to light on the map. */
  readonly parts: readonly string[];
  /** Product drawn or poured, m3. */
  readonly antifreezeM3: number;
  /** Hands-on and waiting time, minutes. */
  readonly minutes: number;
}

/** A row to tick: an action that needs a hand. */
export interface Row {
  readonly key: string;
  readonly action: Action;
}

/** The rows of a step, each with a key that stays the same while the step does. */
export const rowsOf = (step: Step): Row[] =>
  step.actions.flatMap((action, i) => (action.type === "drain" ? [] : [{ key: `${i}:${action.type}`, action }]));
