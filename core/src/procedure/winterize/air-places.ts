import { situationOf } from "../../contents/index.ts";
import { airVerdict, simStart, weakestPressed } from "../../simulation/index.ts";
import { type ApartEnd, type Control, pipeCellId, pipeEndOpeningId } from "../../watermap/index.ts";
import { AIR_LIMITS, type AirLimits } from "../house-settings.ts";
import { type Context, controlByKey, freshPumps, houseOf } from "./context.ts";
import { postEnds, rawEnds } from "./secure.ts";

/**
 * Air through the lines: let in where a supply comes in, at what the weakest pipe and the house allow, out by one opening after
 * another. Only the way from the inlet to the one opening that stands open is swept.
 */

/** Where the air hose goes on. */
export interface AirPlace {
  readonly id: string;
  readonly name: string;
  readonly cell: number;
  readonly opening: string;
  readonly cap?: Control | undefined;
  /** Joint that is undone for it. */
  readonly apart?: ApartEnd;
  readonly isFlush: boolean;
  /** On the side that carries sea or lake water. */
  readonly isRaw: boolean;
  readonly parts: readonly string[];
}

export const limitsOf = (context: Context): AirLimits => houseOf(context).air ?? AIR_LIMITS;

const inletPlaces = (context: Context): AirPlace[] =>
  context.network.openings.flatMap((o) =>
    (o.use === "supply" || o.use === "flush") && !o.pressed && !context.blocked.has(o.part.id)
      ? [
          {
            id: o.part.id,
            name: o.part.name.toLowerCase(),
            cell: o.cell,
            opening: o.id,
            cap: o.gate && controlByKey(context, o.gate.key),
            isFlush: o.use === "flush",
            isRaw: context.network.cells[o.cell]?.side === "raw",
            parts: [o.part.id],
          },
        ]
      : [],
  );

const atPipeEnd = (
  context: Context,
  end: Pick<ApartEnd, "run" | "end">,
  id: string,
  name: string,
): AirPlace[] => {
  const cell = context.network.cellIndex.get(pipeCellId(end.run));
  return cell === undefined || context.blocked.has(id)
    ? []
    : [
        {
          id,
          name,
          cell,
          opening: pipeEndOpeningId(end),
          apart: { ...end, jug: false },
          isFlush: false,
          isRaw: context.network.cells[cell]?.side === "raw",
          parts: [id],
        },
      ];
};

/** The pipe's end at a pump's outlet: where there is no inlet, air comes in there. */
const pumpPlaces = (context: Context): AirPlace[] =>
  freshPumps(context).flatMap((pump) => {
    const after = context.network.links.find((l) => l.drivenBy === pump.key)?.b;
    const run = context.network.map.runs.find(
      (r) =>
        (r.from.part === pump.part.id || r.to.part === pump.part.id) &&
        (context.network.linksOf[after ?? -1] ?? []).some((l) => {
          const link = context.network.links[l];
          const cell = context.network.cellIndex.get(pipeCellId(r.id));
          return link !== undefined && (link.a === cell || link.b === cell);
        }),
    );
    if (!run) return [];
    const end = run.from.part === pump.part.id ? "from" : "to";
    const name = `line undone at the ${pump.part.name.toLowerCase()}'s outlet`;
    return atPipeEnd(context, { run: run.id, end }, pump.part.id, name);
  });

/** Every place where air can be let in, by what it is for: inlets, lines off their post; a joint after the pump where there is neither. */
export const airPlaces = (context: Context): AirPlace[] => {
  const inlets = inletPlaces(context);
  const ends = postEnds(context).flatMap(({ run, end, id, name }) =>
    atPipeEnd(context, { run, end }, id, `line's end that was at the ${name}`),
  );
  const raws = rawEnds(context).flatMap(({ run, end, id, name }) =>
    atPipeEnd(context, { run, end }, id, name),
  );
  const all = [...inlets, ...ends];
  const house = all.some((p) => !p.isFlush) ? all : [...all, ...pumpPlaces(context)];
  return [...house, ...raws];
};

/** What the regulator is set to: the house's figure, or half of what the weakest pipe in reach bears. Nothing where air is refused. */
export const pressureFor = (
  context: Context,
  place: AirPlace,
): { pa: number; weakest: string } | undefined => {
  const { pa, ceilingPa } = limitsOf(context);
  const situation = situationOf(context.network, hosed(context, place).physical);
  const weakest = weakestPressed(situation, place.cell);
  const set = Math.min(pa, ceilingPa, weakest.pa / 2);
  const rounded = Math.floor(set / 5000) * 5000;
  if (rounded < 30_000) return undefined;
  const verdict = airVerdict(context.network, simStart(context.network, situation), {
    at: place.opening,
    regulatorPa: rounded,
  });
  return verdict.verdict === "refused" ? undefined : { pa: rounded, weakest: weakest.name };
};

/** The unit with the air hose on: its joint undone, everything else as it stands. */
export const hosed = (context: Context, place: AirPlace): Context => {
  if (!place.apart) return context;
  const { apart } = context.physical;
  const mine = place.apart;
  if (apart.some((e) => e.run === mine.run && e.end === mine.end)) return context;
  return { ...context, physical: { ...context.physical, apart: [...apart, mine] } };
};
