import { findFlow, situationOf } from "../../contents/index.ts";
import { type Control, inUseLineup, kindOfPart, type Lineup } from "../../watermap/index.ts";
import { findFillLineup, forcedReach } from "../fill-lineup.ts";
import type { Action } from "../step.ts";
import { type AirPlace, hosed } from "./air-places.ts";
import { blow, holdsProduct, onId, seconds, vesselCaution } from "./air-rows.ts";
import { stands, wetCells } from "./wet-cells.ts";
import {
  addStep,
  confirm,
  type Context,
  controlByKey,
  controlsOf,
  rehearse,
  setValve,
  sortedByPlace,
  turn,
} from "./context.ts";
import { heaterCells, hotCells, offFact } from "./secure.ts";

/** Air for what a round leaves wet: valves are turned for it and back again. */

const MOST_LEGS = 20;

interface Leg {
  readonly turns: readonly { readonly control: Control; readonly to: string }[];
  readonly exit: Control | undefined;
  readonly watch: string;
  readonly at: string;
  readonly wet: readonly number[];
}

/** Heaters' plugs, levers and screens shut again, for air that is to pass a heater and not leave by its holes. */
const plugsIn = (context: Context): Leg["turns"] =>
  heaterCells(context).flatMap((h) => {
    const holes = context.network.openings.filter(
      (o) => o.part.id === h.id && ["plug", "low-point", "bowl", "relief"].includes(o.use),
    );
    const keys = new Set(holes.flatMap((o) => o.gate?.key ?? []));
    return [...keys].flatMap((key) => {
      const control = controlByKey(context, key);
      return control && stands(context, control) === "open" && !context.blocked.has(h.id)
        ? [{ control, to: "shut" }]
        : [];
    });
  });

/** What may be turned for a leg: nothing, one valve, or all that lead through the heaters, each with the heaters' plugs out or in. */
const choicesFor = (context: Context, place: AirPlace): Leg["turns"][] => {
  const valves = sortedByPlace(context, [
    ...controlsOf(context, "valve"),
    ...controlsOf(context, "selector"),
  ]);
  const singles = valves.flatMap((control) =>
    control.spec.positions
      .filter((p) => p.name !== stands(context, control))
      .map((p) => [{ control, to: p.name }]),
  );
  const through = findFillLineup(context.network, context.physical, place.cell, valves, true).turns;
  const inLine = valves.flatMap((control) =>
    (through[control.key] ?? stands(context, control)) === stands(context, control)
      ? []
      : [{ control, to: through[control.key] as string }],
  );
  // As the bypass stands in use: through the heater, and no way beside it.
  const usual = inUseLineup(context.network);
  const asInUse = valves.flatMap((control) => {
    const to = usual[control.key] ?? control.spec.inUse;
    return control.spec.role === "valve" && stands(context, control) !== to
      ? [{ control, to }]
      : [];
  });
  const ways = [
    [],
    ...singles,
    ...[inLine, asInUse].filter((w) => w.length > 1),
    ...(inLine.length > 0
      ? singles
          .filter(([s]) => inLine.every((t) => t.control !== s?.control))
          .map((s) => [...inLine, ...s])
      : []),
  ];
  const plugs = plugsIn(context);
  const heatersAreOff = heaterCells(context).every((h) =>
    context.physical.facts.includes(offFact(h.id)),
  );
  return plugs.length > 0 && heatersAreOff ? [...ways, ...ways.map((w) => [...w, ...plugs])] : ways;
};

/** The best leg: most of what is wet, by the fewest turns. */
const bestLeg = (
  context: Context,
  place: AirPlace,
  choices: readonly Leg["turns"][],
  wet: ReadonlySet<number>,
  passed: ReadonlySet<string>,
): Leg | undefined => {
  let best: Leg | undefined;
  const hot = hotCells(context);
  const { network } = context;
  const outs = [
    undefined,
    ...sortedByPlace(context, [
      ...controlsOf(context, "outlet"),
      ...controlsOf(context, "drain").filter((c) => !kindOfPart(c.part).role.vessel),
    ]).filter((c) => stands(context, c) === "shut"),
  ];
  const standing = hosed(context, place).physical;
  const allOpen = Object.fromEntries(outs.flatMap((o) => (o ? [[o.key, "open"] as const] : [])));
  for (const turns of choices) {
    const turned: Lineup = {
      ...standing.lineup,
      ...Object.fromEntries(turns.map((t) => [t.control.key, t.to])),
    };
    // Where air cannot come at all, or to less than is found already, no way out helps.
    const reached = forcedReach(
      { network, lineup: { ...turned, ...allOpen }, apart: standing.apart },
      place.cell,
    );
    const most = [...wet].filter((c) => reached.has(c)).length;
    if (most === 0 || (best && most < best.wet.length)) continue;
    for (const exit of outs) {
      if (turns.length === 0 && !exit) continue;
      if (passed.has(legName(turns, exit))) continue;
      const lineup: Lineup = { ...turned, ...(exit ? { [exit.key]: "open" } : {}) };
      const found = findFlow(situationOf(network, { ...standing, lineup }), {
        kind: "push",
        cell: place.cell,
      });
      if (!found.ok) continue;
      const [only, ...more] = found.flow.opening.filter((o) => o.share > 0.005);
      if (!only || more.length > 0 || found.flow.order.some((c) => hot.has(c))) continue;
      if (holdsProduct(context, found.flow.order)) continue;
      const swept = found.flow.order.filter((c) => wet.has(c));
      if (
        swept.length === 0 ||
        (best &&
          (swept.length < best.wet.length ||
            (swept.length === best.wet.length && turns.length >= best.turns.length)))
      )
        continue;
      best = {
        turns,
        exit,
        watch: only.at.id,
        at: only.at.opening?.part.name ?? "open end",
        wet: swept,
      };
    }
  }
  return best;
};

/** A valve as it stood; a heater's plug only after its relief has been lifted. */
const turnedBack = (context: Context, { control, to }: Leg["turns"][number]): Action[] => {
  const back = setValve(control, to, stands(context, control));
  const opening = context.network.openings.find(
    (o) => o.part.id === control.part.id && o.use === "relief" && o.gate?.key !== control.key,
  );
  const relief = opening?.gate && controlByKey(context, opening.gate.key);
  if (!relief || !isHeaterHole(context, control) || stands(context, relief) === "open")
    return [back];
  return [...turn(context, relief, "open"), back, setValve(relief, "open", "shut")];
};

const isHeaterHole = (context: Context, control: Control): boolean =>
  heaterCells(context).some((h) => h.id === control.part.id);

const legName = (turns: Leg["turns"], exit: Control | undefined): string =>
  [...turns.map((t) => `${t.control.key}=${t.to}`), exit?.key ?? ""].join(",");

/** What the round left wet: a leg behind a shut valve, before a check at a heater's outlet. */
export const legSteps = (context: Context, place: AirPlace, set: number): void => {
  const passed = new Set<string>();
  if (wetCells(context, place.isRaw ? "raw" : "fresh").size === 0) return;
  // Whatever is turned for a leg is turned back again.
  const choices = choicesFor(context, place);
  for (let n = 0; n < MOST_LEGS; n++) {
    const side = place.isRaw ? "raw" : "fresh";
    const wet = wetCells(context, side);
    const leg = wet.size > 0 ? bestLeg(context, place, choices, wet, passed) : undefined;
    if (!leg) return;
    passed.add(legName(leg.turns, leg.exit));
    const { exit, turns } = leg;
    const before = turns.map((t) => setValve(t.control, stands(context, t.control), t.to));
    const actions: Action[] = [
      ...before,
      ...(exit ? turn(context, exit, "open") : []),
      blow(place, leg.watch, set, leg.at),
      ...(turns.some((t) => t.to === "shut" && isHeaterHole(context, t.control))
        ? [
            confirm(
              `air-zero:${place.id}:leg:${n}`,
              "Ball valve shut, that opening still open: gauge at the unit reads zero",
            ),
          ]
        : []),
      ...(exit ? [setValve(exit, "open", "shut")] : []),
      ...turns.toReversed().flatMap((t) => turnedBack(context, t)),
    ];
    const after = wetCells({ ...context, physical: rehearse(context, actions).physical }, side);
    const gained = leg.wet.filter((c) => !after.has(c));
    if (gained.length === 0 || [...after].some((c) => !wet.has(c))) continue;
    const names = [
      ...new Set(gained.flatMap((c) => context.network.cells[c]?.part?.name.toLowerCase() ?? [])),
    ];
    const plug = turns.some((t) => isHeaterHole(context, t.control));
    addStep(context, {
      id: `air:${place.id}:leg:${legName(turns, exit)}`,
      stage: "air",
      title: `${turns[0]?.control.part.name ?? exit?.part.name ?? "The leg"}: blow what lies behind it out at the ${leg.at.toLowerCase()}`,
      actions,
      why: `A leg behind a shut valve, or before a check that nothing has passed, is pressed at the most.${names.length > 0 ? ` Still wet here: ${names.slice(0, 3).join(", ")}.` : ""}`,
      cautions: [
        ...vesselCaution(context, place, set, [
          ...before,
          ...(exit ? turn(context, exit, "open") : []),
        ]),
        ...(plug
          ? ["The plug goes in by hand first, and comes out again only with the gauge at zero."]
          : []),
      ],
      expect: `A slug at the ${leg.at.toLowerCase()}, then only mist.`,
      needs: [onId(place), ...(plug ? heaterCells(context).map((h) => `drain:${h.id}`) : [])],
      minutes: 2 + seconds(context, actions) / 60,
    });
  }
};
