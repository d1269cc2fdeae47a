import { liquidIn, strengthOf } from "../../contents/index.ts";
import { inUseLineup, kindOfPart, paramsOf, roleOf } from "../../watermap/index.ts";
import type { Ask } from "../step.ts";
import { addStep, confirm, controlsOf, sortedByPlace, turn } from "../winterize/context.ts";
import { watchedBy } from "../winterize/watch.ts";
import { nameOfSide, outletsOf } from "./flush.ts";
import type { WaterContext } from "./request.ts";
import { sourcesOf } from "./source.ts";
import { turnedBack } from "./tank.ts";

/** What shows that all of it was done: no leak, a silent pump, flow everywhere, everything as in use. */

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Names of what was opened, undone or refitted on this sheet. */
const opened = (context: WaterContext): string[] => {
  const { network } = context;
  const parts = new Set(
    context.steps
      .filter((s) => s.stage === "close")
      .flatMap((s) =>
        s.actions.flatMap((a) => {
          if (a.type === "set-valve")
            return network.controls.find((c) => c.key === a.control)?.part.id ?? [];
          if (a.type === "reconnect") {
            const run = network.map.runs.find((r) => r.id === a.run);
            return run ? [run[a.end].part] : [];
          }
          return [];
        }),
      ),
  );
  return network.map.parts.filter((p) => parts.has(p.id)).map((p) => p.name.toLowerCase());
};

export const planPumpOn = (context: WaterContext): void => {
  for (const source of sourcesOf(context)) {
    if (!source.pump) continue;
    const on = turn(context, source.pump, "on");
    if (on.length === 0) continue;
    addStep(context, {
      id: `flush:on:${source.pump.key}`,
      stage: "flush",
      title: `${source.label}: every tap shut, then on, eyes on the joints`,
      actions: [
        ...on,
        confirm(`stops:${source.pump.key}`, "Draws, then stops by itself within a minute"),
        confirm(`first-look:${source.pump.key}`, "Every joint that was opened looked at, dry"),
      ],
      why: "The first pressure is the pump's and no more. If it does not stop: selector on the jug, tank empty, a drain or tap open, or air drawn at the suction, in this order.",
      expect: "Stops and stays silent while the joints are looked at.",
      minutes: 4,
    });
  }
};

export const planProve = (context: WaterContext): void => {
  const { water } = context.request;
  const { network } = context;
  const sources = sourcesOf(context);
  const pumps = sources.flatMap((s) => s.pump ?? []);
  const names = opened(context);
  const heated = context.steps.some((s) => s.id.startsWith("heater:") && s.id.endsWith(":fill"));
  const meshes = network.map.parts.filter(
    (p) =>
      roleOf(p).guard === "strainer" &&
      network.cells.some((c) => c.ownerId === p.id && c.side === "fresh"),
  );
  if (heated)
    addStep(context, {
      id: "prove:screens",
      stage: "prove",
      title: "Aerators and strainers cleaned",
      actions: [
        confirm("aerators", "Aerators and shower heads off, rinsed, back on"),
        ...meshes.map((p) => confirm(`mesh:${p.id}`, `${p.name}: mesh rinsed, bowl tight`)),
      ],
      why: "What settles in a heater goes with the first water and stops at the finest screen.",
      expect: "Full streams.",
      parts: meshes.map((p) => p.id),
      minutes: 4 + 2 * meshes.length,
    });
  const outlets = outletsOf(context);
  const asks: Ask[] = outlets.map((c) => ({
    key: `flow:${c.key}`,
    kind: "flow",
    label: `Flow at ${nameOfSide(c).toLowerCase()}`,
    required: false,
  }));
  if (outlets.length >= 3)
    addStep(context, {
      id: "prove:flow",
      stage: "prove",
      title: "Compare the flow at the outlets",
      actions: [confirm("flow-compared", "Each outlet run by itself, cold and hot, and compared")],
      why: "Weak at one outlet: its own screen, then its valve. Weak at all hot ones: the heater. Weak everywhere: strainer, selector, pump or supply.",
      expect: "None below half of what the middle one gives.",
      asks,
      minutes: 3 + outlets.length,
    });
  if (pumps.length > 0 || sources.length > 0)
    addStep(context, {
      id: "prove:silent",
      stage: "prove",
      title: pumps.length > 0 ? "Taps shut: the pump stays silent" : "Taps shut: nothing drips",
      actions: [
        ...(pumps.length > 0
          ? [confirm("silent", "The pump did not start by itself while it was watched")]
          : []),
        { type: "wait", seconds: water.silentS, label: "Watched, every tap shut" },
        confirm(
          "leak-look",
          names.length > 0
            ? `Looked at with a lamp and a dry cloth: ${names.slice(0, 12).join(", ")}${names.length > 12 ? ` and ${names.length - 12} more` : ""}`
            : "Looked along every line with a lamp and a dry cloth",
        ),
      ],
      why: "A pump that starts by itself has a leak behind it, or its own check passes: shut its outlet valve, and it tells which.",
      expect: "Silent; cloth dry everywhere.",
      minutes: 4 + water.silentS / 60,
    });
};

/** Cartridges in, when the water that comes is fit for them. */
export const planCartridges = (context: WaterContext): void => {
  const parts = context.network.map.parts.filter((p) => {
    const { holds } = paramsOf(p);
    return (
      typeof holds === "string" &&
      holds !== "none" &&
      kindOfPart(p).group === "conditioning" &&
      !context.blocked.has(p.id)
    );
  });
  if (parts.length === 0) return;
  addStep(context, {
    id: "prove:cartridges",
    stage: "prove",
    title: parts.length === 1 ? "Cartridge in" : "Cartridges in",
    actions: parts.map((p) =>
      confirm(
        `cartridge:${p.id}`,
        `${p.name}: new ${String(paramsOf(p)["holds"])} cartridge, today's date on it, seal greased, run until clear`,
      ),
    ),
    why: "They come last: carbon would take the chlorine, antifreeze and grit would spoil them.",
    cautions: ["Pressure off before a housing is opened."],
    expect: "Housing dry under pressure.",
    parts: parts.map((p) => p.id),
    minutes: 5 * parts.length,
  });
};

/** Raw-water heads and wash-downs that hold antifreeze: run from the sea, now that its seacock is open. */
const planRaw = (context: WaterContext): void => {
  const { network } = context;
  const { tasteAtMost } = context.request.water;
  const pumps = network.controls.filter(
    (c) =>
      c.spec.role === "switch" &&
      network.links.some((l) => l.drivenBy === c.key && network.cells[l.b]?.side === "raw"),
  );
  for (const control of sortedByPlace(context, controlsOf(context, "outlet"))) {
    const mine = network.openings.find(
      (o) => o.part.id === control.part.id && o.gate?.key === control.key,
    );
    if (!mine || strengthOf(liquidIn(context.physical.contents[mine.cell])) <= tasteAtMost)
      continue;
    const byPump = pumps.some((pump) =>
      watchedBy(context, control, { kind: "pump", switchKey: pump.key }),
    );
    if (!byPump && network.cells[mine.cell]?.side === "raw")
      addStep(context, {
        id: `prove:raw:${control.key}`,
        stage: "prove",
        title: `${nameOfSide(control)}: worked by its own pump until clear`,
        actions: [confirm(`raw-clear:${control.key}`, "Runs clear")],
        why: "It stands in antifreeze since autumn, and it is no part of the drinking water.",
        expect: "Colour at first, then the water that it floats in.",
        parts: [control.part.id],
        minutes: 2,
      });
    for (const pump of pumps) {
      const watched = watchedBy(context, control, { kind: "pump", switchKey: pump.key });
      if (!watched) continue;
      addStep(context, {
        id: `prove:raw:${control.key}`,
        stage: "prove",
        title: `${nameOfSide(control)}: raw water through it until clear`,
        actions: [
          ...turn(context, pump, "on"),
          ...turn(context, control, "open"),
          {
            type: "pump",
            switch: pump.key,
            watch: watched.watch,
            wants: { glycolAtMost: tasteAtMost },
            maxM3: watched.wayM3 * 10 + 0.01,
          },
          confirm(`raw-clear:${control.key}`, "Runs clear"),
          ...turnedBack(turn(context, control, "open")),
        ],
        why: "It stands in antifreeze since autumn, and it is no part of the drinking water.",
        cautions: ["Not overboard with the antifreeze: into a bucket until it is clear."],
        expect: "Colour at first, then the water that it floats in.",
        minutes: 3,
      });
      break;
    }
  }
};

/** The raw-water side last, and whatever else is not as in use yet. */
export const planInUse = (context: WaterContext): void => {
  const use = inUseLineup(context.network);
  const rest = sortedByPlace(
    context,
    context.network.controls.filter(
      (c) => !context.blocked.has(c.part.id) && roleOf(c.part).ashore !== true,
    ),
  ).flatMap((c) => turn(context, c, use[c.key] ?? c.spec.inUse));
  if (rest.length === 0) return;
  const raw = rest.some(
    (a) =>
      a.type === "set-valve" &&
      context.network.openings.some(
        (o) =>
          o.use === "raw" &&
          o.part.id === context.network.controls.find((c) => c.key === a.control)?.part.id,
      ),
  );
  addStep(context, {
    id: "prove:in-use",
    stage: "prove",
    title: raw ? "Seacock open, and everything else as in use" : "The rest as in use",
    actions: rest,
    why: "So that whoever comes aboard finds it as the map says it is used.",
    cautions: raw
      ? [
          "Open a seacock slowly with an eye on every hose behind it; it is never left out of sight the first time.",
        ]
      : [],
    expect: raw ? "Nothing runs but what should." : capital("handles as shown."),
    minutes: 1 + rest.length,
  });
  if (raw) planRaw(context);
};
