import { findFlow, situationOf } from "../../contents/index.ts";
import { type Control, kindOfPart } from "../../watermap/index.ts";
import type { Action } from "../step.ts";
import { legSteps } from "./air-legs.ts";
import { type AirPlace, airPlaces, hosed, limitsOf, pressureFor } from "./air-places.ts";
import { blow, holdsProduct, onId, pa, seconds, vesselCaution } from "./air-rows.ts";
import { planBypass } from "./bypass.ts";
import {
  addStep,
  confirm,
  type Context,
  controlsOf,
  rehearse,
  setValve,
  turn,
  has,
} from "./context.ts";
import { afterMachine, beforeMachine, machineCautions } from "./programme.ts";
import { hotCells } from "./secure.ts";
import { receiverFor, receiverStep } from "./receiver.ts";
import { watchedBy } from "./watch.ts";
import { wetCells } from "./wet-cells.ts";

/** Air through the lines: out by one opening after another, once more round, then what lies behind shut valves. */

const ZERO_PA = 3500;
const HALF_MINUTE = 0.5;
const ALL_OF_IT = 0.995;

interface Exit {
  readonly control: Control;
  readonly position: string;
  readonly rest: string;
  readonly watch: string;
  readonly wayM3: number;
}

/** An opening by which, opened alone, nearly all of the air goes. */
const exitBy = (
  context: Context,
  place: AirPlace,
  control: Control,
  position = "open",
): Exit | undefined => {
  const found = watchedBy(context, control, { kind: "push", cell: place.cell }, position);
  const hot = hotCells(context);
  if (!found || found.order.some((c) => hot.has(c))) return undefined;
  const share = found.flow.opening.find((o) => o.at.id === found.watch)?.share ?? 0;
  if (share < ALL_OF_IT) return undefined;
  const rest = context.physical.lineup[control.key] ?? control.spec.inUse;
  return { control, position, rest, watch: found.watch, wayM3: found.wayM3 };
};

const exits = (context: Context, place: AirPlace): Exit[] => {
  const found = [
    ...controlsOf(context, "outlet"),
    ...controlsOf(context, "drain").filter((c) => !kindOfPart(c.part).role.vessel),
  ]
    .filter((c) => (context.physical.lineup[c.key] ?? c.spec.inUse) === "shut")
    .flatMap((c) => exitBy(context, place, c) ?? []);
  const farthest = new Map<string, number>();
  for (const e of found)
    farthest.set(e.control.part.id, Math.max(farthest.get(e.control.part.id) ?? 0, e.wayM3));
  const isDrain = (e: Exit): number => (e.control.spec.role === "drain" ? 1 : 0);
  return found.toSorted(
    (a, b) =>
      isDrain(a) - isDrain(b) ||
      (farthest.get(b.control.part.id) ?? 0) - (farthest.get(a.control.part.id) ?? 0) ||
      (a.control.key < b.control.key ? -1 : 1),
  );
};

const sideName = ({ control }: Exit): string =>
  control.spec.name === "main" || control.spec.name === "flush"
    ? control.part.name
    : `${control.part.name}, ${control.spec.name}`;

/** A seacock whose hose is off keeps water on its shut ball. */
const ballDried = (context: Context, place: AirPlace): Action[] => {
  if (!place.isRaw || !place.apart) return [];
  const { network } = context;
  const ball = (network.linksOf[place.cell] ?? [])
    .flatMap((l) => [network.links[l]?.a, network.links[l]?.b])
    .map((c) => (c === undefined ? undefined : network.cells[c]))
    .find((c) => c?.ownerId === place.id);
  return ball
    ? [{ type: "suck", cell: ball.id, label: "Dry out what stands on its shut ball" }]
    : [];
};

const connectStep = (
  context: Context,
  place: AirPlace,
  { pa: set, weakest }: NonNullable<ReturnType<typeof pressureFor>>,
  said: readonly string[],
): void => {
  const { ceilingPa } = limitsOf(context);
  const off: Action[] =
    place.apart && hosed(context, place) !== context
      ? [
          {
            type: "disconnect",
            run: place.apart.run,
            end: place.apart.end,
            jug: false,
            label: `Undo the ${place.name}`,
          },
          ...ballDried(context, place),
        ]
      : [];
  addStep(context, {
    id: `air:${place.id}:on`,
    stage: "air",
    title: `Air hose on the ${place.name}`,
    actions: [
      ...turn(context, place.cap, "shut"),
      ...off,
      confirm(
        `air-set:${place.id}`,
        `Regulator at the unit set to ${pa(set)} before coupling, its outlet shut`,
      ),
      confirm(
        `air-on:${place.id}`,
        `Adapter with a shut ball valve on the ${place.name}, hose coupled, ball valve still shut`,
      ),
    ],
    why: `At most ${pa(set)}: the house's figure, and never more than half of what ${weakest} bears. A compressor's own pressure tears parts.`,
    cautions: [
      "Air under pressure stores what water does not: eye protection, nobody before a plug or a joint that is being opened.",
      ...(place.isFlush ? ["Vent of the tank open: it is not to be pressed."] : []),
      ...said,
    ],
    expect: `Gauge at the unit reads ${pa(set)} at the most with nothing flowing, and does not creep.`,
    asks: [
      {
        key: `pressure:${place.id}`,
        kind: "pressure",
        label: "Gauge at the unit, nothing flowing",
        required: true,
        atMost: Math.min(ceilingPa, Math.round(set * 1.1)),
        expected: set,
      },
    ],
    needs: ["secure:pump-and-supply", "drain:lines"],
    parts: place.parts,
    minutes: 4,
  });
};

const rowsFor = (context: Context, place: AirPlace, side: Exit, set: number): Action[] => [
  ...turn(context, side.control, side.position),
  blow(place, side.watch, set, sideName(side)),
  setValve(side.control, side.position, side.rest),
];

// Less than this is the film that stays in any case.
const WORTH_M3 = 1e-6;

/** Whether air brings something out there, and no product that is meant to stay. */
const isWorth = (context: Context, place: AirPlace, side: Exit, set: number): boolean => {
  const [air] = rehearse(context, rowsFor(context, place, side, set)).effects.flatMap(
    (e) => e.air ?? [],
  );
  return air !== undefined && air.outM3 > WORTH_M3 && !holdsProduct(context, air.swept);
};

/** Each opening in turn, both sides of a part one after the other; then once more, that all give mist only. */
const roundSteps = (context: Context, place: AirPlace, set: number): Exit[] => {
  const all = exits(hosed(context, place), place);
  const byPart = new Map<string, Exit[]>();
  for (const e of all) byPart.set(e.control.part.id, [...(byPart.get(e.control.part.id) ?? []), e]);
  const done: Exit[] = [];
  for (const [part, sides] of byPart) {
    const open = sides.filter((side) => isWorth(context, place, side, set));
    const machine = open[0]?.control.part;
    const actions = [
      ...(machine ? beforeMachine(context, machine, "air") : []),
      ...open.flatMap((side) => rowsFor(context, place, side, set)),
      ...(machine ? afterMachine(context, machine, "air") : []),
    ];
    const name = sides[0]?.control.part.name ?? part;
    if (open.length === 0) continue;
    done.push(...open);
    addStep(context, {
      id: `air:${place.id}:${part}`,
      stage: "air",
      title: `${name}: blow out${open.length > 1 ? ` ${open.map((s) => s.control.spec.name).join(", then ")}` : ""}`,
      actions,
      why: "Only the way from the inlet to the one opening that stands open is swept: every other line is pressed and keeps its water.",
      cautions: [
        ...vesselCaution(
          context,
          place,
          set,
          rowsFor(context, place, open[0] as Exit, set).slice(0, 1),
        ),
        ...(machine ? machineCautions(machine) : []),
      ],
      expect:
        "Slugs, then spray, then only mist. The ball valve is opened slowly, one opening open first.",
      needs: [onId(place)],
      minutes: open.length * HALF_MINUTE + seconds(context, actions) / 60,
    });
  }
  return done;
};

const againStep = (
  context: Context,
  place: AirPlace,
  blown: readonly Exit[],
  under: boolean,
): void => {
  const { rounds } = limitsOf(context);
  // Those that the first round had nothing to bring out of are tried too: what was not opened proves nothing.
  const all = under || blown.length > 0 ? exits(context, place) : [];
  const done = all.filter((e) => !has(context, `mist:${place.id}:${e.control.key}`));
  if (done.length === 0 || rounds < 2) return;
  const times = rounds === 2 ? "Once more" : `${rounds - 1} times more`;
  addStep(context, {
    id: `air:${place.id}:again`,
    stage: "air",
    title: `${times} round every opening, until each gives only mist`,
    actions: done.map((e) =>
      confirm(`mist:${place.id}:${e.control.key}`, `${sideName(e)}: mist only`),
    ),
    why: "Water runs back into dips behind the air. Two rounds of mist one after the other say that it is out (house rule).",
    expect: "Mist only, everywhere. Where drops come, blow that one again and go round once more.",
    needs: [onId(place)],
    parts: [...new Set(done.map((e) => e.control.part.id))],
    minutes: done.length * HALF_MINUTE,
  });
};

const offStep = (context: Context, place: AirPlace): void => {
  const joint: Action[] = place.apart
    ? [
        {
          type: "reconnect",
          run: place.apart.run,
          end: place.apart.end,
          label: `${place.name.charAt(0).toUpperCase()}${place.name.slice(1)} made good, washer seen`,
        },
      ]
    : [];
  addStep(context, {
    id: `air:${place.id}:off`,
    stage: "air",
    title: "Air off, gauge at zero",
    actions: [
      confirm(`air-off:${place.id}`, "Ball valve shut, compressor off, one tap opened and shut"),
      confirm(`air-zero:${place.id}`, "Gauge at the unit reads zero; only then the hose comes off"),
      ...joint,
    ],
    why: "Whatever is opened next would fly: air pushes long after the hose is off.",
    cautions: ["Nothing is undone, no plug turned, before the gauge at the unit reads zero."],
    expect: "Gauge at zero, a tap gives nothing.",
    asks: [
      {
        key: `pressure-zero:${place.id}`,
        kind: "pressure",
        label: "Gauge at the unit, air off",
        required: true,
        atMost: ZERO_PA,
        expected: 0,
      },
    ],
    needs: [onId(place)],
    parts: place.parts,
    minutes: 2,
  });
};

/** The hose is on and nobody has said yet that it is off again. */
const isUnderAir = (context: Context, place: AirPlace): boolean =>
  has(context, `air-on:${place.id}`) && !has(context, `air-zero:${place.id}`);

/** Air at every place where it can come in and something wet lies behind it. */
export const planAir = (context: Context): void => {
  for (const place of airPlaces(context)) {
    if (wetCells(context, place.isRaw ? "raw" : "fresh").size === 0 && !isUnderAir(context, place))
      continue;
    const { physical } = context;
    const steps = context.steps.length;
    letIn(context, place);
    const isSwept = context.steps
      .slice(steps)
      .some((s) => s.actions.some((a) => a.type === "blow"));
    if (isSwept || isUnderAir({ ...context, physical }, place)) continue;
    // Nothing came of it: neither hose nor valves are touched.
    context.steps.length = steps;
    context.physical = physical;
  }
};

const letIn = (context: Context, place: AirPlace): void => {
  const wetBefore = wetCells(context, place.isRaw ? "raw" : "fresh");
  const planned = pressureFor(context, place);
  const receiver = receiverFor(context, place, planned?.pa ?? 0);
  const inLine = planned && receiver.inLine && receiverStep(context, place, planned.pa);
  if (!place.isFlush && !place.isRaw)
    planBypass(context, { start: place.cell, suctionControls: [] }, "air", inLine === true);
  const set = pressureFor(context, place);
  if (!set || (place.isFlush && !flushesSomething(context, place, set.pa, wetBefore))) return;
  const under = isUnderAir(context, place);
  if (!under) connectStep(context, place, set, receiver.said);
  if (context.closed.has(onId(place))) return;
  if (place.isFlush) flushStep(context, place, set.pa);
  else {
    const done = roundSteps(context, place, set.pa);
    legSteps(context, place, set.pa);
    againStep(context, place, done, under);
  }
  offStep(context, place);
};

const intoTank = (context: Context, place: AirPlace): string | undefined => {
  const { network, physical } = hosed(context, place);
  const found = findFlow(situationOf(network, physical), { kind: "push", cell: place.cell });
  if (!found.ok) return undefined;
  return found.flow.opening.find((o) => o.share > ALL_OF_IT)?.at.id;
};

const flushesSomething = (
  context: Context,
  place: AirPlace,
  set: number,
  wet: ReadonlySet<number>,
): boolean => {
  const watch = intoTank(context, place);
  if (!watch) return false;
  const after = wetCells({
    ...context,
    physical: rehearse(context, [blow(place, watch, set, "tank")]).physical,
  });
  return [...wet].some((c) => !after.has(c));
};

/** A line that runs into a tank of its own: a few seconds are enough, its vent lets the air out. */
const flushStep = (context: Context, place: AirPlace, set: number): void => {
  const watch = intoTank(context, place);
  if (!watch) return;
  const actions = [blow(place, watch, set, "line")];
  addStep(context, {
    id: `air:${place.id}:through`,
    stage: "air",
    title: `${place.name.charAt(0).toUpperCase()}${place.name.slice(1)}: a few seconds of air`,
    actions,
    why: "This line has an inlet of its own: nothing else sweeps it, nor its vacuum breaker.",
    expect: "It is heard to gurgle into the tank, then only air.",
    needs: [onId(place)],
    parts: place.parts,
    minutes: 1 + seconds(context, actions) / 60,
  });
};
