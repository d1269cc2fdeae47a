/** The short spring look at systems other than water: done or not done, nothing measured, nothing that enters the water record. */

export interface SpringItem {
  readonly id: string;
  readonly system: string;
  readonly look: string;
  /** Whom it belongs to where it is more than a look. */
  readonly defer?: string;
}

// Common practice, no source.
export const SPRING_LIST: readonly SpringItem[] = [
  { id: "battery", system: "Battery", look: "Charged, clean terminals, held down, vent clear." },
  { id: "lights", system: "Lights", look: "Every lamp inside and out, road lamps with a helper." },
  {
    id: "gas-bottle",
    system: "Gas bottle and regulator",
    look: "Bottle in its date, hose not cracked, shut while nothing burns.",
    defer: "A licensed gas fitter tests for tightness and changes hoses.",
  },
  {
    id: "stove",
    system: "Stove",
    look: "Lights, burns blue, flame failure shuts it.",
    defer: "Anything but blue is for a licensed gas fitter.",
  },
  {
    id: "furnace",
    system: "Furnace",
    look: "Flue clear of nests, starts, warm air within its time.",
    defer: "A licensed gas fitter or the maker's agent opens it.",
  },
  {
    id: "fridge",
    system: "Fridge",
    look: "Cools on each of its supplies, door seal whole, vents clear.",
  },
  {
    id: "alarms",
    system: "Gas and smoke alarms",
    look: "Test button sounds; date on the case not past.",
  },
  {
    id: "shore",
    system: "Shore power",
    look: "Cable whole, plug not browned, breaker trips by its button.",
    defer: "A licensed electrician for anything behind the cover.",
  },
  {
    id: "extinguisher",
    system: "Extinguisher",
    look: "Gauge in the green, date not past, at its place.",
  },
];
