import { z } from "zod";
import { USUAL_BLOW } from "./usual-blow.ts";

/** What can be done to a unit in a simulation, as plain data: a list of these is a sequence that can be kept, sent and done again. SI units. */

const volumeM3 = z.number().min(0).max(20);
const strength = z.number().min(0).max(1);
const seconds = z.number().min(0).max(31_536_000);
const name = z.string().min(1).max(120);

/** Something seen at an opening that ends a wait. */
const until = z
  .strictObject({
    at: name,
    /** Liquid of at least this strength comes. */
    strength: z.optional(strength),
    /** It spits: at least this share of what comes is air. */
    air: z.number().min(0.01).max(1).optional(),
    /** So much has come out of it. */
    volumeM3: z.optional(volumeM3),
  })
  .refine((u) => u.strength !== undefined || u.air !== undefined || u.volumeM3 !== undefined, {
    message: "say what is waited for: strength, air or volumeM3",
  });

export const simAction = z.discriminatedUnion("do", [
  /** Turns a valve, tap, plug, cap, drain or switch. */
  z.strictObject({ do: z.literal("turn"), control: name, to: name }),
  /** Puts a pickup or a hose end into a jug; without a strength it hangs in the air. */
  z.strictObject({
    do: z.literal("jug"),
    at: name,
    strength: z.optional(strength),
    volumeM3: z.optional(volumeM3),
  }),
  /** Puts a hose under pressure on an inlet; 0 Pa takes it off. */
  z.strictObject({
    do: z.literal("hose"),
    at: name,
    pa: z.number().min(0).max(1_000_000).default(276_000),
    /** Free chlorine in what it brings, mg/L. */
    chlorineMgL: z.number().min(0).max(10_000).optional(),
  }),
  /** Undoes a pipe at one end. */
  z.strictObject({ do: z.literal("undo"), run: name, end: z.enum(["from", "to"]) }),
  z.strictObject({ do: z.literal("remake"), run: name, end: z.enum(["from", "to"]) }),
  /** Lets time pass: pumps run, supplies press, gravity works, heaters heat, chlorine fades. */
  z.strictObject({ do: z.literal("wait"), seconds, until: z.optional(until) }),
  /** Blows with air at an opening until nothing more is carried out, or for a time. */
  z.strictObject({
    do: z.literal("blow"),
    at: name,
    regulatorPa: z.number().min(5_000).max(900_000).default(USUAL_BLOW.regulatorPa),
    receiverM3: z.number().min(0).max(2).default(USUAL_BLOW.receiverM3),
    fullPa: z.number().min(10_000).max(1_500_000).default(USUAL_BLOW.fullPa),
    /** Free air that the compressor gives, m3/s. */
    deliveryM3PerS: z.number().min(1e-5).max(0.1).default(USUAL_BLOW.deliveryM3PerS),
    seconds: z.optional(seconds),
  }),
  /** Sucks a vessel out through a dip or a joint. */
  z.strictObject({ do: z.literal("suck"), from: name, volumeM3: z.optional(volumeM3) }),
  /** Fills a tank from above. */
  z.strictObject({
    do: z.literal("fill"),
    tank: name,
    volumeM3,
    strength: z.prefault(strength, 0),
  }),
  /** Pours into a trap, a bowl or a drain. */
  z.strictObject({
    do: z.literal("pour"),
    into: name,
    volumeM3,
    strength: z.prefault(strength, 0),
  }),
  /** Pushes liquid in at a part or a pipe's end with a hand pump. */
  z.strictObject({
    do: z.literal("push"),
    in: name,
    volumeM3,
    strength: z.prefault(strength, 0),
    until: z.strictObject({ at: name, strength }).optional(),
  }),
  /** Puts free chlorine into a vessel. */
  z.strictObject({ do: z.literal("dose"), into: name, chlorineMg: z.number().min(0).max(1e7) }),
  /** Runs an appliance through a fill and its pump-out. */
  z.strictObject({
    do: z.literal("cycle"),
    appliance: name,
    volumeM3: z.prefault(volumeM3, 0.004),
  }),
  /** Says what a part or pipe holds, whatever it held before: a fact of the trial, not a thing that happened. */
  z.strictObject({
    do: z.literal("hold"),
    in: name,
    share: z.number().min(0).max(1),
    strength: z.prefault(strength, 0),
  }),
  /** Heats a heater with so many watts up to a temperature; 0 W is off. */
  z.strictObject({
    do: z.literal("heat"),
    heater: name,
    watts: z.number().min(0).max(30_000),
    toC: z.number().min(20).max(95).default(60),
  }),
]);

export type SimAction = z.output<typeof simAction>;
/** As it is written, before standard values are put in. */
export type SimActionInput = z.input<typeof simAction>;

const MOST_ACTIONS = 500;
export const simActions = z.array(simAction).max(MOST_ACTIONS);
