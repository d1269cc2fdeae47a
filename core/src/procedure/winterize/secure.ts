import {
  type Control,
  heatersOf,
  paramsOf,
  type PartId,
  type PipeRunId,
  roleOf,
} from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import {
  addStep,
  confirm,
  type Context,
  controlsOf,
  has,
  houseOf,
  heldIn,
  isLeftUndone,
  sortedByPlace,
  t,
  turn,
} from "./context.ts";

/** Fact names that later steps lean on. */
export const offFact = (partId: string): string => `off:${partId}`;
export const coolFact = (partId: string): string => `cool:${partId}`;
const SUPPLY_OFF = "supply-off";
const PRESSURE_OFF = "pressure-off";

export const heaterCells = (context: Context): { id: string; name: string; cell: number }[] =>
  heatersOf(context.network).map(({ part, cell }) => ({ id: part.id, name: part.name, cell }));

/** Cells of heaters that could not be turned off or have not cooled: nothing on them is opened, shut in or filled. */
export const hotCells = (context: Context): ReadonlySet<number> =>
  new Set(
    heaterCells(context)
      .filter(
        (h) =>
          (!has(context, offFact(h.id)) && isLeftUndone(context, `secure:${h.id}:off`)) ||
          (!has(context, coolFact(h.id)) && isLeftUndone(context, `secure:${h.id}:cool`)),
      )
      .map((h) => h.cell),
  );

/** Whether what comes out by a control comes from the hot side. */
export const isOnHotSide = ({ network }: Context, { part, spec }: Control): boolean => {
  if (roleOf(part).energies) return true;
  const services = network.map.runs
    .filter((r) => r.from.part === part.id || r.to.part === part.id)
    .map((r) => r.service);
  return services.includes("hot") && (spec.name === "hot" || !services.includes("cold"));
};

/** Energy, pump and supply off; heaters cooled. Nothing is opened before these are signed. */
export const planSecure = (context: Context): void => {
  const heaters = heaterCells(context).filter((h) => !context.blocked.has(h.id));
  for (const heater of heaters) {
    if (has(context, offFact(heater.id))) continue;
    const part = context.network.map.parts.find((p) => p.id === heater.id);
    const energies = part ? (roleOf(part).energies?.(paramsOf(part)) ?? []) : [];
    if (energies.length === 0) {
      addStep(context, energyUnknown(heater));
      continue;
    }
    addStep(context, {
      id: `secure:${heater.id}:off`,
      stage: "secure",
      title: `Turn the ${heater.name.toLowerCase()} off`,
      actions: energies.map((energy, i) =>
        confirm(
          i === energies.length - 1 ? offFact(heater.id) : `${offFact(heater.id)}:${i}`,
          capital(energy),
        ),
      ),
      why: "An element burns out in seconds in an empty heater, and hot water scalds whoever pulls the plug.",
      cautions: ["Gas and mains belong to licensed people: switch off only, open nothing."],
      expect: "Switch, breaker and cock off; nobody can turn them on unseen.",
      parts: [heater.id],
      minutes: 3,
    });
  }
  const pumps = context.network.controls.filter((c) => c.spec.role === "switch");
  const inlets = context.network.openings.filter((o) => o.use === "supply");
  if (!has(context, PRESSURE_OFF) && pumps.length + inlets.length > 0)
    addStep(context, {
      id: "secure:pump-and-supply",
      stage: "secure",
      title:
        inlets.length === 0
          ? "Pump off"
          : pumps.length === 0
            ? "Supply hose off"
            : "Pump off, supply hose off",
      actions: [
        ...pumps.flatMap((p) => turn(context, p, "off")),
        ...(inlets.length > 0
          ? [confirm(SUPPLY_OFF, "Supply shut, hose and regulator off and drained")]
          : []),
        ...shutPosts(context),
        confirm(PRESSURE_OFF, "A cold tap opened and shut: no pressure left"),
      ],
      why: "Nothing may push water while the system is opened.",
      expect: "Opened tap runs down and stops.",
      parts: [...pumps.map((p) => p.part.id), ...inlets.map((o) => o.part.id)],
      minutes: 3,
    });
  shutSeacocks(context);
  const hot = heaters.filter((h) => !has(context, coolFact(h.id)) && heldIn(context, h.cell) > 0);
  const coolEnough = houseOf(context).openAtC;
  for (const heater of hot)
    addStep(context, {
      id: `secure:${heater.id}:cool`,
      stage: "secure",
      title: `Make sure the ${heater.name.toLowerCase()} has cooled`,
      actions: [confirm(coolFact(heater.id), `Water at the heater ${t(coolEnough)} or less`)],
      why: "Water above this scalds when the relief valve or the plug is opened.",
      cautions: ["Scald: let it cool; do not speed it up by opening the relief valve."],
      expect: `A thermometer in a hot tap's first water reads ${t(coolEnough)} or less.`,
      asks: [
        {
          key: `temperature:${heater.id}`,
          kind: "temperature",
          label: "Temperature at a hot tap",
          required: true,
          atMost: coolEnough,
        },
      ],
      needs: [`secure:${heater.id}:off`],
      parts: [heater.id],
      minutes: 5,
    });
};

/** The tap of every post that presses: shut, and never opened again on this visit. */
const shutPosts = (context: Context): Action[] =>
  context.network.openings
    .filter((o) => o.pressed)
    .flatMap(({ part }) => {
      const tap = controlsOf(context, "cap").find((c) => c.part.id === part.id);
      return turn(context, tap, "shut");
    });

/** Where a line ends at a post that presses. */
export const postEnds = ({
  network,
}: Context): { run: PipeRunId; end: "from" | "to"; id: PartId; name: string }[] =>
  network.openings
    .filter((o) => o.pressed)
    .flatMap(({ part }) =>
      network.map.runs.flatMap((run) =>
        (["from", "to"] as const).flatMap((end) =>
          run[end].part === part.id
            ? [{ run: run.id, end, id: part.id, name: part.name.toLowerCase() }]
            : [],
        ),
      ),
    );

/** Where an intake's hose ends at its seacock. */
export const rawEnds = ({
  network,
}: Context): { run: PipeRunId; end: "from" | "to"; id: PartId; name: string }[] =>
  network.openings
    .filter((o) => o.use === "raw")
    .flatMap(({ part }) =>
      network.map.runs.flatMap((run) =>
        (["from", "to"] as const).flatMap((end) =>
          run[end].part === part.id
            ? [
                {
                  run: run.id,
                  end,
                  id: part.id,
                  name: `intake hose off the ${part.name.toLowerCase()}`,
                },
              ]
            : [],
        ),
      ),
    );

export const isApart = (
  { physical }: Context,
  { run, end }: { run: string; end: "from" | "to" },
): boolean => physical.apart.some((e) => e.run === run && e.end === end);

/** Not for choice: nothing behind a seacock is opened while it is open, it would let the lake in. */
const shutSeacocks = (context: Context): void => {
  const cocks = context.network.openings
    .filter((o) => o.use === "raw")
    .flatMap((o) => controlsOf(context, "valve").filter((c) => c.part.id === o.part.id));
  const turns = sortedByPlace(context, cocks).flatMap((c) => turn(context, c, "shut"));
  if (turns.length === 0) return;
  addStep(context, {
    id: "secure:seacocks",
    stage: "secure",
    title: turns.length === 1 ? "Shut the seacock" : "Shut the seacocks",
    actions: turns,
    why: "They open below the water line: whatever is undone behind an open one floods the boat.",
    cautions: [
      "A seacock that will not turn is not forced: it breaks off. Leave everything behind it shut.",
    ],
    expect: "Each handle across; nothing runs when the first joint behind it is cracked.",
    minutes: 2 + turns.length,
  });
};

/** How a heater is heated is not written down: it is found out and switched off, never taken for cold. */
const energyUnknown = (heater: { id: string; name: string }): Parameters<typeof addStep>[1] => ({
  id: `secure:${heater.id}:off`,
  stage: "secure",
  title: `Find what heats the ${heater.name.toLowerCase()}, and turn it off`,
  actions: [
    confirm(offFact(heater.id), "Gas, mains element, engine loop: looked for all three, each off"),
  ],
  why: "The map does not say how it is heated. An element burns out in seconds in an empty heater, and hot water scalds whoever pulls the plug.",
  cautions: [
    "Gas and mains belong to licensed people: switch off only, open nothing.",
    "Write down what was found on the map.",
  ],
  expect: "Everything that could heat it is off; nobody can turn it on unseen.",
  parts: [heater.id],
  minutes: 5,
});

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
