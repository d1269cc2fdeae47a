import {
  emptyingTimeS,
  liquidIn,
  strengthOf,
  totalAboard,
  volumeOf,
} from "../../contents/index.ts";
import { type Control, kindOfPart, PIPE_SYSTEMS, roleOf } from "../../watermap/index.ts";
import { remainsFact } from "../physical.ts";
import { type Action, CAUGHT_AGAIN } from "../step.ts";
import {
  addStep,
  confirm,
  type Context,
  controlByKey,
  controlsOf,
  freshPumps,
  has,
  houseOf,
  heldIn,
  inletCaps,
  NEARLY_EMPTY,
  type Rehearsal,
  rehearse,
  seaIsShut,
  setValve,
  sortedByPlace,
  TAP_M3_PER_S,
  turn,
  turnedBack,
  v,
} from "./context.ts";
import {
  coolFact,
  heaterCells,
  hotCells,
  isApart,
  isOnHotSide,
  offFact,
  postEnds,
} from "./secure.ts";
import { planBowls } from "./bowls.ts";
import { planPickups } from "./pickups.ts";
import { planDeadEnds } from "./dead-ends.ts";
import { watchedBy } from "./watch.ts";

// Less than this is not worth a turn of the wrist.
const WORTH_M3 = 5e-6;
const LINES_DRAINED = "lines-drained";
const PUMPED_DRY = "pumped-dry";

/** Water out by gravity: waste tanks, fresh tanks, the suction line, heaters, then every line. */
export const planDrain = (context: Context): void => {
  emptyWaste(context);
  drainFresh(context);
  pumpDry(context);
  // A tank that had to be pumped out through a sink has filled the waste tank again.
  emptyWaste(context, "again", REFILLED_SHARE);
  for (const heater of heaterCells(context)) drainHeater(context, heater);
  planBowls(context);
  planPickups(context);
  drainLines(context);
};

const vessels = (
  context: Context,
  role: "fresh" | "waste",
): { cell: number; id: string; name: string }[] =>
  context.network.cells.flatMap((cell, i) =>
    cell.part &&
    cell.form === "vessel" &&
    roleOf(cell.part).vessel === role &&
    !context.blocked.has(cell.part.id)
      ? [{ cell: i, id: cell.part.id, name: cell.part.name }]
      : [],
  );

const idOf = (context: Context, cell: number): string => context.network.cells[cell]?.id ?? "";

const EMPTIED_SHARE = 0.05;
const REFILLED_SHARE = 0.3;
const PRODUCT_STRENGTH = 0.15;

const emptyWaste = (
  context: Context,
  time: "first" | "again" = "first",
  fromShare = EMPTIED_SHARE,
): void => {
  for (const tank of vessels(context, "waste")) {
    const fact = time === "first" ? `emptied:${tank.id}` : `emptied-again:${tank.id}`;
    const dump = context.network.openings.find((o) => o.part.id === tank.id && o.use === "dump");
    const control = dump?.gate && controlByKey(context, dump.gate.key);
    const holds = heldIn(context, tank.cell);
    if (
      !control ||
      has(context, fact) ||
      // Product that has run through to it is let stand: it does not freeze.
      (time === "again" &&
        strengthOf(liquidIn(context.physical.contents[tank.cell])) > PRODUCT_STRENGTH) ||
      holds < (context.network.cells[tank.cell]?.capacityM3 ?? 0) * fromShare
    )
      continue;
    addStep(context, {
      id: time === "first" ? `drain:${tank.id}` : `drain:${tank.id}:again`,
      stage: "drain",
      title: `Empty the ${tank.name.toLowerCase()}${time === "again" ? " again" : ""}`,
      actions: [
        ...turn(context, control, "open"),
        { type: "drain" },
        confirm(fact, "Emptied where that is allowed, rinsed"),
        shutAgain(control),
      ],
      why: "Nothing left to freeze, and room for what is flushed out later.",
      cautions: [
        "Sewage infects: gloves and eyes; never the drinking-water hose. Let it go only where that is allowed.",
      ],
      expect: `About ${v(holds)} out; level gauge or a look in says empty.`,
      asks: [],
      minutes: 10,
    });
  }
};

const shutAgain = (control: Control): Action => setValve(control, "open", "shut");

/** The drain that empties a vessel on its own, found by trying each on the map. */
const drainFor = (
  context: Context,
  cell: number,
): { control: Control; boreM: number } | undefined => {
  const before = heldIn(context, cell);
  for (const control of controlsOf(context, "drain")) {
    const turns = turn(context, control, "open");
    if (turns.length === 0 || kindOfPart(control.part).role.vessel) continue;
    const { physical } = rehearse(context, [...turns, { type: "drain" }]);
    if (volumeOf(liquidIn(physical.contents[cell])) < before * 0.5) {
      const run = context.network.map.runs.find(
        (r) => r.from.part === control.part.id || r.to.part === control.part.id,
      );
      return { control, boreM: PIPE_SYSTEMS.get(run?.pipe ?? "")?.boreM ?? 0.013 };
    }
  }
  return undefined;
};

const drainFresh = (context: Context): void => {
  for (const tank of vessels(context, "fresh")) {
    const cell = context.network.cells[tank.cell];
    const holds = heldIn(context, tank.cell);
    if (!cell || holds <= cell.drainRemainder * cell.capacityM3 * NEARLY_EMPTY) continue;
    const way = drainFor(context, tank.cell);
    if (!way) continue;
    const seconds = emptyingTimeS(
      cell.capacityM3,
      cell.topM - cell.bottomM,
      (holds / cell.capacityM3) * (cell.topM - cell.bottomM),
      way.boreM,
    );
    const actions: Action[] = [
      ...turn(context, way.control, "open"),
      { type: "wait", seconds: Math.round(seconds), label: "Runs until the stream breaks" },
      { type: "drain" },
    ];
    const after = rehearse(context, actions).physical;
    const out = holds - volumeOf(liquidIn(after.contents[tank.cell]));
    addStep(context, {
      id: `drain:${tank.id}`,
      stage: "drain",
      title: `Drain the ${tank.name.toLowerCase()}`,
      actions,
      why: "A drained tank has room for ice and thins no antifreeze. Its drain stays open for the winter.",
      expect: `About ${v(out)} in about ${Math.max(1, Math.round(seconds / 60))} min; done when the stream breaks. It goes on while you work.`,
      asks: [
        {
          key: `recovered:${tank.id}`,
          kind: "recovered",
          label: "How much came out",
          cell: idOf(context, tank.cell),
          required: false,
          expected: out,
        },
      ],
      parts: [tank.id, way.control.part.id],
      minutes: 3,
    });
  }
};

/** The outlet whose way from the pump holds least, with what opens it; one that runs to the ground where a whole tank is to go. */
const nearestOutlet = (
  context: Context,
  pump: Control,
  toGround: boolean,
): { control: Control; watch: string; wayM3: number } | undefined => {
  const found = controlsOf(context, "outlet").flatMap((control) => {
    const watched = watchedBy(context, control, { kind: "pump", switchKey: pump.key });
    return watched ? [{ control, ...watched }] : [];
  });
  const falls = (watch: string): number =>
    context.network.openings.find((o) => o.id === watch)?.fallsTo === undefined ? 0 : 1;
  return found.sort(
    (a, b) => (toGround ? falls(a.watch) - falls(b.watch) : 0) || a.wayM3 - b.wayM3,
  )[0];
};

interface Emptying {
  readonly actions: readonly Action[];
  /** What is turned for it and back again. */
  readonly kept: readonly Action[];
  readonly tryOut: Rehearsal;
}

/** The actions as they are where they empty something; else with the one valve turned that stops the pump from going round. */
const emptying = (
  context: Context,
  actionsWith: (kept: readonly Action[]) => Action[],
): Emptying => {
  const tried = (kept: readonly Action[]): Emptying => {
    const actions = actionsWith(kept);
    return { actions, kept, tryOut: rehearse(context, actions) };
  };
  const plain = tried([]);
  const empties = ({ tryOut }: Emptying): boolean =>
    tryOut.effects.some((e) => e.push?.outcome === "reached");
  if (empties(plain)) return plain;
  const valves = sortedByPlace(context, [
    ...controlsOf(context, "valve"),
    ...controlsOf(context, "selector"),
  ]);
  for (const control of valves) {
    const others = control.spec.positions.filter(
      (p) => p.name !== (context.physical.lineup[control.key] ?? control.spec.inUse),
    );
    for (const position of others) {
      const turned = tried(turn(context, control, position.name));
      if (empties(turned)) return turned;
    }
  }
  return plain;
};

/** Draws the tank's line, strainer and pump empty through the nearest tap; gravity cannot pass the pump. */
const pumpDry = (context: Context): void => {
  if (has(context, PUMPED_DRY)) return;
  for (const pump of freshPumps(context)) {
    // A tank without a drain of its own is emptied by the pump first.
    const inTanks = vessels(context, "fresh").reduce((sum, t) => {
      const spare =
        heldIn(context, t.cell) -
        (context.network.cells[t.cell]?.drainRemainder ?? 0) *
          (context.network.cells[t.cell]?.capacityM3 ?? 0) *
          NEARLY_EMPTY;
      return sum + Math.max(0, spare);
    }, 0);
    const near = nearestOutlet(context, pump, inTanks > 0);
    if (!near) continue;
    const open = turn(context, near.control, "open");
    const actionsWith = (kept: readonly Action[]): Action[] => [
      ...sortedByPlace(context, mayStandOpen(context)).flatMap((c) =>
        c.key === near.control.key ? [] : turn(context, c, "shut"),
      ),
      ...kept,
      ...open,
      ...turn(context, pump, "on"),
      {
        type: "pump",
        switch: pump.key,
        watch: near.watch,
        untilAir: 0.9,
        maxM3: Math.max(0.002, near.wayM3 * 3) + inTanks,
      },
      setValve(pump, "on", "off"),
      confirm(PUMPED_DRY, "Spat and ran dry"),
      // Where every tap is opened next it stays open.
      ...(open.length > 0 && has(context, LINES_DRAINED) ? [shutAgain(near.control)] : []),
      ...kept.flatMap((a) => turnedBack(context, a)),
    ];
    // Where the pump would send it back into a tank, the valve that lets it is shut meanwhile.
    const { actions, tryOut, kept } = emptying(context, actionsWith);
    const swept = tryOut.effects.find((e) => e.push)?.push?.swept ?? [];
    const suction = swept.filter((c) => heldIn(context, c) > 0 && !isVessel(context, c));
    if (suction.length === 0) continue;
    addStep(context, {
      id: `drain:${pump.part.id}:dry`,
      stage: "drain",
      title: `Run the ${pump.part.name.toLowerCase()} until it spits`,
      actions,
      where: [pump.part.place, near.control.part.place].filter(Boolean).join("; "),
      why: `${inTanks > 0 ? `The tank has no drain on this map: the pump takes out its ${v(inTanks)}. ` : ""}The tank's line, strainer and pump do not drain by gravity: the pump's valves hold them. Air drawn through takes most of it.${kept.length > 0 ? ` ${listed(kept.flatMap((a) => ("label" in a ? [a.label] : [])))} as shown meanwhile: else the pump sends it round, back into the tank.` : ""}`,
      cautions: ["Not longer than half a minute dry; the pump's maker may allow less."],
      expect: `${near.control.part.name} spits and gives only air.`,
      parts: [
        pump.part.id,
        near.control.part.id,
        ...kept.flatMap((a) =>
          a.type === "set-valve" ? (controlByKey(context, a.control)?.part.id ?? []) : [],
        ),
      ],
      minutes: 2 + inTanks / TAP_M3_PER_S / 60,
    });
  }
};

/** Taps, low points and inlets: open, the pump sends through them what is meant for elsewhere. The tank's own drain lies before it. */
const mayStandOpen = (context: Context): Control[] => [
  ...controlsOf(context, "outlet"),
  ...controlsOf(context, "drain").filter(
    (c) => !kindOfPart(c.part).role.vessel && !emptiesVessel(context, c),
  ),
  ...inletCaps(context),
];

const isVessel = (context: Context, cell: number): boolean =>
  context.network.cells[cell]?.form === "vessel";

/** Not for choice: what was caught says that most is still in it: blocked, sloping, or not all of it measured. Asked at once, and tried again, before anything else is done. */
const askAgain = (context: Context, heater: { id: string; name: string; cell: number }): void => {
  const cell = context.network.cells[heater.cell];
  const tried = `tried-again:${heater.id}`;
  const holds = heldIn(context, heater.cell);
  if (
    !cell ||
    !has(context, remainsFact(cell.id)) ||
    has(context, tried) ||
    holds <= cell.capacityM3 * (1 - houseOf(context).recoveredMin)
  )
    return;
  addStep(context, {
    id: `drain:${heater.id}:again`,
    stage: "drain",
    title: `${v(cell.capacityM3 - holds)} of ${v(cell.capacityM3)} came: blocked, sloping, or not measured?`,
    actions: [
      confirm(
        tried,
        "Hole probed, relief lifted again, unit tilted towards the plug; what came was caught",
      ),
    ],
    why: `About ${v(holds)} is still in the ${heater.name.toLowerCase()} by what was caught. Scale lies over the hole, the unit slopes away from it, no air comes in, or some ran past the bucket.`,
    cautions: [
      "Probe with a soft rod, face and hands out of the way: scale that lets go lets a jet out.",
    ],
    expect: `Up to ${v(holds)} more. What is not caught is taken as still there, and the heater as not protected.`,
    asks: [
      {
        key: `${CAUGHT_AGAIN}${heater.id}`,
        kind: "recovered",
        label: "How much more came out, with what had run past the bucket",
        cell: idOf(context, heater.cell),
        required: true,
        expected: holds,
      },
    ],
    needs: [`secure:${heater.id}:off`, `secure:${heater.id}:cool`],
    parts: [heater.id],
    minutes: 10,
  });
};

const drainHeater = (
  context: Context,
  heater: { id: string; name: string; cell: number },
): void => {
  askAgain(context, heater);
  const cell = context.network.cells[heater.cell];
  const holds = heldIn(context, heater.cell);
  const done =
    !cell ||
    holds <= cell.drainRemainder * cell.capacityM3 * NEARLY_EMPTY ||
    strengthOf(liquidIn(context.physical.contents[heater.cell])) > 0.05;
  if (done || context.blocked.has(heater.id)) return;
  // Not for choice: no plug is pulled before energy is off and the water has cooled.
  if (!has(context, offFact(heater.id)) || !has(context, coolFact(heater.id))) return;
  const control = (use: "plug" | "relief" | "low-point"): Control | undefined => {
    const opening = context.network.openings.find((o) => o.part.id === heater.id && o.use === use);
    return opening?.gate && controlByKey(context, opening.gate.key);
  };
  const relief = control("relief");
  const plug = control("plug") ?? control("low-point");
  if (!plug) return;
  const isLever = plug.spec.role === "drain";
  const actions: Action[] = [
    confirm(`pressure-off:${heater.id}`, "A hot tap opened: no pressure left"),
    ...turn(context, relief, "open"),
    ...turn(context, plug, "open"),
    { type: "drain" },
    ...(relief ? [shutAgain(relief)] : []),
  ];
  const after = rehearse(context, actions).physical;
  const out = holds - volumeOf(liquidIn(after.contents[heater.cell]));
  if (out <= 0) return;
  addStep(context, {
    id: `drain:${heater.id}`,
    stage: "drain",
    title: `Drain the ${heater.name.toLowerCase()}`,
    actions,
    why: isLever
      ? "A spoonful left in its tubes splits them."
      : "Isolated is not drained: a heater shut in full splits. The plug stays in the housing for the winter.",
    cautions: [
      `Scald and a jet of water: energy off, cooled, relief lifted first, then the ${isLever ? "lever" : "plug"}.`,
      "Tag it: heater empty, do not switch on.",
    ],
    expect: `About ${v(out)} of ${v(cell.capacityM3)} comes out; less means a dip, a slope or a valve.`,
    asks: [
      {
        key: `recovered:${heater.id}`,
        kind: "recovered",
        label: "How much came out",
        cell: idOf(context, heater.cell),
        required: !isLever,
        expected: out,
      },
    ],
    needs: [`secure:${heater.id}:off`, `secure:${heater.id}:cool`, "secure:pump-and-supply"],
    parts: [heater.id],
    minutes: 12,
  });
};

/** Every outlet, low point and inlet open at once, so that air enters and water leaves; then shut again. */
const drainLines = (context: Context): void => {
  if (!has(context, LINES_DRAINED)) {
    const low = controlsOf(context, "drain").filter((c) => !kindOfPart(c.part).role.vessel);
    // Hot water under a hand: taps and low points of a heater that is not off and cool stay shut.
    const scalds = hotCells(context).size > 0;
    const all = sortedByPlace(context, [
      ...controlsOf(context, "outlet"),
      ...inletCaps(context),
      ...low,
    ]).filter(
      (c) => !(scalds && isOnHotSide(context, c)) && (seaIsShut(context) || !isRaw(context, c)),
    );
    const turns = all.flatMap((c) => turn(context, c, "open"));
    const off = postEnds(context)
      .filter((e) => !isApart(context, e))
      .map<Action>(({ run, end, name }) => ({
        type: "disconnect",
        run,
        end,
        jug: false,
        label: `Line off at the ${name}`,
      }));
    const actions: Action[] = [
      ...turns,
      ...off,
      { type: "drain" },
      confirm(LINES_DRAINED, "Drains have stopped running; unit rocked or tilted once"),
    ];
    const { effects } = rehearse(context, actions);
    const result = effects.find((e) => e.out.size > 0 || e.drained.length > 0);
    const out = [...(result?.out ?? [])].reduce((sum, [, m]) => sum + volumeOf(m), 0);
    const stays = [
      ...new Set(
        (result?.keptWet ?? [])
          .map((c) => context.network.cells[c])
          .filter((c) => c?.part && c.form !== "vessel"),
      ),
    ];
    addStep(context, {
      id: "drain:lines",
      stage: "drain",
      title: "Open every tap, drain and inlet",
      actions,
      why: `Air must enter for water to leave: a shut tap holds its line like a straw.${
        stays.length
          ? ` Still wet afterwards: ${listed(stays.map((c) => c?.part?.name ?? "")).toLowerCase()}.`
          : ""
      }`,
      expect:
        out < WORTH_M3
          ? "Drops at the most: the lines have run out already."
          : `About ${v(out)} runs out of the drains.`,
      needs: ["secure:pump-and-supply"],
      minutes: 8 + turns.length,
    });
  }
  turnThrough(context);
  planDeadEnds(context);
  const capped = postEnds(context)
    .filter((e) => isApart(context, e))
    .map<Action>(({ run, end, name }) => ({
      type: "reconnect",
      run,
      end,
      label: `Cap on the line that was taken off the ${name}`,
    }));
  const shut = [
    ...sortedByPlace(context, mayStandOpen(context)).flatMap((c) => turn(context, c, "shut")),
    ...capped,
  ];
  const caps = new Set(inletCaps(context).map((c) => c.key));
  if (shut.length > 0)
    addStep(context, {
      id: "drain:shut",
      stage: "drain",
      title: shut.some((a) => a.type === "set-valve" && caps.has(a.control))
        ? "Shut every tap, low point and inlet"
        : "Shut every tap and low point",
      actions: shut,
      why: "An open tap, low point or inlet empties the jug unseen as soon as the pump starts.",
      expect: "Each handle shut; the tank's own drain stays open.",
      minutes: 3 + shut.length / 2,
    });
};

const isRaw = ({ network }: Context, control: Control): boolean =>
  network.openings.some(
    (o) => o.gate?.key === control.key && network.cells[o.cell]?.side === "raw",
  );

const TURNED = "valves-turned-through";

/** With everything open, each valve and selector through its positions: what it shuts off runs out too. */
const turnThrough = (context: Context): void => {
  // Not for choice: with a heater that is not off and cool no valve about it is turned, not for a moment.
  if (!has(context, LINES_DRAINED) || has(context, TURNED) || hotCells(context).size > 0) return;
  // Shut again, or filled since: then nothing runs out of the lines, and what would is to stay.
  if (!mayStandOpen(context).some((c) => context.physical.lineup[c.key] === "open")) return;
  const aboard = (physical: Context["physical"]): number =>
    volumeOf(totalAboard(physical.contents));
  const actions: Action[] = [];
  let now = context.physical;
  const raws = new Set(
    context.network.openings.filter((o) => o.use === "raw").map((o) => o.part.id),
  );
  const valves = sortedByPlace(context, [
    ...controlsOf(context, "selector"),
    ...controlsOf(context, "valve"),
  ]);
  for (const control of valves) {
    if (raws.has(control.part.id)) continue;
    const from = now.lineup[control.key] ?? control.spec.inUse;
    const through = control.spec.positions
      .filter((p) => p.name !== from)
      .flatMap<Action>((p) => {
        const there: Action[] = [
          setValve(control, from, p.name),
          { type: "drain" },
          setValve(control, p.name, from),
        ];
        const tried = rehearse({ ...context, physical: now }, there).physical;
        if (aboard(now) - aboard(tried) < WORTH_M3) return [];
        now = tried;
        return there;
      });
    actions.push(...through);
  }
  if (actions.length === 0) return;
  const out = aboard(context.physical) - aboard(now);
  addStep(context, {
    id: "drain:turn-through",
    stage: "drain",
    title: "Turn these valves through their positions",
    actions: [...actions, confirm(TURNED, "Each turned through while everything stood open")],
    why: "What a valve shuts off keeps its water until it is turned: a fill line, the house side of a selector, a bypass.",
    expect: `About ${v(out)} more runs out.`,
    needs: ["drain:lines"],
    minutes: 2 + actions.length / 3,
  });
};

/** A drain on a fresh tank: it stays open. */
const emptiesVessel = (context: Context, control: Control): boolean => {
  const run = context.network.map.runs.find(
    (r) => r.from.part === control.part.id || r.to.part === control.part.id,
  );
  const other = run && (run.from.part === control.part.id ? run.to.part : run.from.part);
  const part = context.network.map.parts.find((p) => p.id === other);
  return part !== undefined && roleOf(part).vessel === "fresh";
};

const listed = (names: readonly string[]): string => {
  const text = [...new Set(names)].map((n) => n.toLowerCase()).join(", ");
  return text.charAt(0).toUpperCase() + text.slice(1);
};
