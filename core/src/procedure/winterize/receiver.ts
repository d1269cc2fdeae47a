import { paramsOf, type Part } from "../../watermap/index.ts";
import { RECEIVER_BELOW_M3 } from "../house-settings.ts";
import { type AirPlace, limitsOf } from "./air-places.ts";
import { storedEnergyJ } from "../../fluid/index.ts";
import { pa } from "./air-rows.ts";
import { addStep, confirm, type Context, has, v } from "./context.ts";
import { heaterCells, hotCells } from "./secure.ts";

/** An empty heater in line behind a small compressor: more air behind the slug, and a vessel that can throw its plug. */

const BAR_PA = 1e5;

interface Vessel {
  readonly id: string;
  readonly name: string;
  readonly part: Part;
  readonly volumeM3: number;
}

const vessels = (context: Context): Vessel[] =>
  heaterCells(context).flatMap((h) => {
    const cell = context.network.cells[h.cell];
    return cell?.form === "vessel" && cell.part
      ? [{ id: h.id, name: h.name.toLowerCase(), part: cell.part, volumeM3: cell.capacityM3 }]
      : [];
  });

/** What its label says that it bears, Pa; undefined where nobody has read it. */
const ratingOf = (part: Part): number | undefined => {
  const bar = Number(paramsOf(part)["ratedBar"] ?? 0);
  return bar > 0 ? bar * BAR_PA : undefined;
};

/** Why a heater may not stand in line as a receiver at this pressure; undefined where it may. */
const refusedBecause = (context: Context, heater: Vessel, set: number): string | undefined => {
  const { compressorM3 } = limitsOf(context);
  const { network } = context;
  const cell = network.cells.findIndex((c) => c.ownerId === heater.id && c.form === "vessel");
  if (compressorM3 === undefined)
    return "the kit does not say how much the compressor's own vessel holds";
  if (compressorM3 >= RECEIVER_BELOW_M3)
    return `the compressor's own vessel, ${v(compressorM3)}, is large enough by itself`;
  const rating = ratingOf(heater.part);
  if (rating === undefined)
    return `nobody has read what pressure the ${heater.name}'s label allows`;
  if (rating < set) return `the ${heater.name} bears only ${pa(rating)} by its label`;
  if (!network.openings.some((o) => o.part.id === heater.id && o.use === "relief"))
    return `the ${heater.name} has no relief valve on this map`;
  if (context.blocked.has(heater.id) || hotCells(context).has(cell))
    return `the ${heater.name} is left as it is`;
  return undefined;
};

export interface Receiver {
  readonly inLine: boolean;
  /** What the step where the air goes on has to say of it. */
  readonly said: readonly string[];
}

/**
 * Whether the heaters stand in line as receivers while air is on: by the house's rule, and only where the rating is known and enough, the
 * relief is there and the compressor is small. Where a small compressor would gain by it and the house says otherwise, it is offered in words.
 */
export const receiverFor = (context: Context, place: AirPlace, set: number): Receiver => {
  const found = place.isFlush || place.isRaw ? [] : vessels(context);
  if (found.length === 0) return { inLine: false, said: [] };
  const refused = found.flatMap((h) => refusedBecause(context, h, set) ?? [])[0];
  const { heater, compressorM3 = 0 } = limitsOf(context);
  if (heater === "receiver")
    return refused === undefined
      ? { inLine: true, said: [] }
      : {
          inLine: false,
          said: [`House rule: heater as a receiver. Not here, since ${refused}.`],
        };
  if (refused !== undefined || compressorM3 <= 0) return { inLine: false, said: [] };
  const times = (found.reduce((sum, h) => sum + h.volumeM3, compressorM3) / compressorM3).toFixed(
    1,
  );
  return {
    inLine: false,
    said: [
      `The compressor's own vessel holds ${v(compressorM3)}. With the ${found[0]?.name ?? "heater"} in line as a receiver there would be ${times} times the volume at the regulator's pressure behind each slug; the house has it bypassed.`,
    ],
  };
};

/** Before air stands in a heater: its label read again and its relief felt. Says whether all of that may be done. */
export const receiverStep = (context: Context, place: AirPlace, set: number): boolean =>
  vessels(context).every((heater) => {
    const rating = ratingOf(heater.part) ?? 0;
    const id = `air:${place.id}:receiver:${heater.id}`;
    if (has(context, `relief-felt:${heater.id}`)) return true;
    addStep(context, {
      id,
      stage: "air",
      title: `${heater.name.charAt(0).toUpperCase()}${heater.name.slice(1)} as a receiver: label and relief first`,
      actions: [
        confirm(
          `rating-read:${heater.id}`,
          `Label read at the vessel: it allows ${pa(rating)} or more`,
        ),
        confirm(
          `relief-felt:${heater.id}`,
          "Relief lifted by hand: it moves freely and seats again",
        ),
      ],
      why: `A small compressor has too little air behind it; the empty vessel holds ${v(heater.volumeM3)} more, at ${pa(set)}. It comes out of the loop again before any antifreeze.`,
      cautions: [
        `At ${pa(set)} it stores about ${(storedEnergyJ(heater.volumeM3, set) / 1000).toFixed(1)} kJ, water at the same pressure nearly nothing: plug tight, nobody before it.`,
        "Either of the two not so: the heater is bypassed and the air goes to the branches alone.",
      ],
      expect: "Figure on the label at least what the map says; relief free.",
      needs: [`drain:${heater.id}`],
      parts: [heater.id],
      minutes: 2,
    });
    return !context.closed.has(id);
  });
