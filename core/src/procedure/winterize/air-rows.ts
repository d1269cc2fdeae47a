import { findFlow, liquidIn, situationOf, strengthOf, volumeOf } from "../../contents/index.ts";
import { storedEnergyJ } from "../../fluid/index.ts";
import type { Action } from "../step.ts";
import { type AirPlace, hosed } from "./air-places.ts";
import { type Context, rehearse } from "./context.ts";
import { heaterCells } from "./secure.ts";

/** What every step with air is made of. */

export const blow = (place: AirPlace, watch: string, pa: number, at: string): Action => ({
  type: "blow",
  opening: place.opening,
  watch: watch,
  pa,
  label: `Air on until the ${at.toLowerCase()} gives only mist, then off`,
});

export const seconds = (context: Context, actions: readonly Action[]): number =>
  rehearse(context, actions).effects.reduce((s, e) => s + (e.air?.seconds ?? 0), 0);

export const pa = (value: number): string => `{pa:${Math.round(value)}}`;

/** A heater that is part of the way is a vessel full of air: what it stores is said, and that nobody stands before its plug. */
export const vesselCaution = (
  context: Context,
  place: AirPlace,
  set: number,
  open: readonly Action[] = [],
): string[] => {
  const standing = { ...context, physical: rehearse(context, open).physical };
  const situation = situationOf(context.network, hosed(standing, place).physical);
  const found = findFlow(situation, { kind: "push", cell: place.cell });
  const reached = new Set(found.ok ? found.flow.order : []);
  return heaterCells(context)
    .filter((h) => reached.has(h.cell) && context.network.cells[h.cell]?.form === "vessel")
    .map((h) => {
      const volume = context.network.cells[h.cell]?.capacityM3 ?? 0;
      const energy = storedEnergyJ(volume, set) / 1000;
      return `The ${h.name.toLowerCase()} becomes an air vessel: {m3:${volume}} at ${pa(set)} holds about ${energy.toFixed(1)} kJ, water at the same pressure nearly nothing. Its rating is read on its label first, its relief moves by hand; plug tight, nobody before it.`;
    });
};

export const onId = (place: AirPlace): string => `air:${place.id}:on`;

// What counts as product that is to stay, and not as a trace in water.
const PRODUCT_STRENGTH = 0.1;

/** Whether something on a way is full of product: it is not blown out again. */
export const holdsProduct = (context: Context, cells: readonly number[]): boolean =>
  cells.some((c) => {
    const held = liquidIn(context.physical.contents[c]);
    const cell = context.network.cells[c];
    return (
      cell !== undefined &&
      cell.form !== "vessel" &&
      cell.form !== "trap" &&
      volumeOf(held) > 0.5 * cell.capacityM3 &&
      strengthOf(held) > PRODUCT_STRENGTH
    );
  });
