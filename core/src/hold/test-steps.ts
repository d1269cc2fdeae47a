import {
  AIR_SAFE,
  isAir,
  isLevel,
  type TestPlan,
  type TestRequest,
  type TestStep,
} from "./test-plan.ts";
import { missingPorts } from "../survey/walk.ts";
import { jointsIn } from "./joints.ts";
import { hatchesOf, linkedTanks, partBy, plugsOf } from "./test-bound.ts";
import { aDay } from "./words.ts";

/** What is done in a test, step by step. */

const kj = (joules: number): string =>
  joules >= 100
    ? `${(joules / 1000).toFixed(1)} kJ`
    : joules >= 1
      ? `${joules.toFixed(0)} J`
      : `${joules.toFixed(2)} J`;

/** What is looked at by itself while it stands: the joint, or each hatch, that the test was asked for. */
const looksOf = ({ network, target }: TestRequest): string[] => {
  if (target.is === "hatches")
    return Array.from(
      { length: hatchesOf(partBy(network, target.part)) },
      (_, i) => `Hatch ${i + 1}: bolts crosswise, seal and bolt heads dry all round`,
    );
  const wanted = "joint" in target ? target.joint : undefined;
  const joint =
    wanted === undefined
      ? undefined
      : jointsIn(network, new Set(network.cells.keys())).find((j) => j.id === wanted);
  return joint ? [`${joint.label}: dry while it stands`] : [];
};

/** What is told of the other half of a divided tank: under one pressure a leak between them does not show. */
const otherHalves = ({ network, target }: TestRequest): string[] =>
  "part" in target
    ? linkedTanks(network, target.part).map(
        (t) =>
          `The way to the ${t.name.toLowerCase()} plugged, and it empty and open to the air: with both under one pressure, a leak between them does not show`,
      )
    : [];

/** Ends of what is built so far that have no pipe yet: plugged for the test, and the plugs are owed back. */
const builtSoFar = ({ network }: TestRequest, cells: readonly number[]): string[] => {
  const owners = new Set(cells.map((c) => network.cells[c]?.ownerId));
  return network.map.parts.flatMap((p) =>
    owners.has(p.id) ? missingPorts(network.map, p).map((port) => `${p.name}, ${port}`) : [],
  );
};

const lidOrBottom = ({ target }: TestRequest, pressurePa: number): string =>
  target.is === "hatches"
    ? `Water in the filler stands over the lid: the hatches bear {g:${Math.round(pressurePa)}}.`
    : `It loads the bottom by its depth, {g:${Math.round(pressurePa)}}, and the lid not at all.`;

/** The steps of a test, in the order in which hands are safe. */
export const stepsOf = (request: TestRequest, plan: Omit<TestPlan, "steps">): TestStep[] => {
  const { network, target } = request;
  const { by, turns, pressurePa, weakest, firstPa, held } = plan;
  const air = isAir(by);
  const plugs = by === "low-air" && "part" in target ? plugsOf(network, target.part) : [];
  const ends = builtSoFar(request, plan.cells);
  const looks = looksOf(request);
  const soaped = looks.map((l) => (held.medium === "air" ? `Soap: ${l}` : l));
  const open = request.holdPoints ?? [];
  const steps: TestStep[] = [];
  const step = (
    id: string,
    title: string,
    rows: readonly string[],
    why: string,
    cautions: readonly string[] = [],
  ): void => {
    steps.push({ id, title, rows, why, cautions });
  };
  step(
    "secure",
    "Make it ready",
    [
      "Heaters off at the breaker and the cock, and cool",
      "Every tap, drain, plug and cap shut, seen one by one",
      ...turns.map((t) => `${t.tag ? `${t.tag} ` : ""}${t.name}: ${t.toLabel}`),
      ...ends.map((e) => `${e}: no pipe there yet, plugged, and written down to be undone again`),
      ...otherHalves(request),
      ...open.map((o) => `${o}: open, and left open until this is signed as tight`),
    ],
    plan.leftOut.length > 0
      ? `This test says nothing of: ${plan.leftOut.slice(0, 8).join(", ").toLowerCase()}${plan.leftOut.length > 8 ? ` and ${plan.leftOut.length - 8} more` : ""}.`
      : "Everything that would let it out is shut.",
  );
  if (isLevel(by)) {
    step(
      "fill",
      by === "brim" ? "Fill to the brim and mark it" : "Fill to the mark with the gates shut",
      [
        "Filled slowly, vent seen to breathe",
        "Level marked with tape, the time beside it",
        "Every seam and fitting looked at, dry",
        ...looks,
      ],
      lidOrBottom(request, pressurePa),
    );
    step(
      "relook",
      "Look again",
      [
        "After half an hour: level at the mark, seams dry",
        "Next morning: level at the mark, seams dry",
        ...looks,
      ],
      "A weep of a drop every few seconds shows in half an hour only as a damp seam: too short is no proof.",
    );
    return steps;
  }
  if (air)
    step(
      AIR_SAFE,
      "What makes air safe",
      [
        by === "air"
          ? "Makers of pipe and fittings, and the local code, allow air here: read, not remembered"
          : `Relief in the rig that opens at {g:${Math.round(pressurePa)}}, tried`,
        ...(plugs.length > 0
          ? [`Plugged, each written down to be undone again: ${plugs.join(", ")}`]
          : []),
        "Source limited: regulator and a hand pump or a small bottle, never the compressor by itself",
        "Eye protection; nobody before a plug, a hatch or a joint; others told",
      ],
      `Water comes first: the same volume of water at this pressure stores ${kj(plan.waterJ)}, air ${kj(plan.airJ)}. Air only where water would freeze or do harm.`,
      [
        ...(plan.panelN === undefined
          ? []
          : [
              `On the largest panel it presses with {n:${Math.round(plan.panelN)}}: lids lift, flat sides bulge.`,
            ]),
        "The gauge reads zero before a plug or a hatch is undone.",
      ],
    );
  step(
    "rig",
    "Rig on, gauge read",
    [
      "Shut valve, then gauge, then what is tested",
      `Gauge: ${request.gauge.name}, at its zero with nothing on it`,
      "Thermometer on the pipe or tank that is tested, out of the sun; barometer at hand",
    ],
    plan.tooCoarse ?? "The gauge stays on the side that is tested.",
  );
  if (firstPa !== undefined)
    step(
      "first",
      `First pressure: {g:${Math.round(firstPa)}} only`,
      [
        "Somebody inside, a hand on the valve outside",
        "Every joint that can be seen looked at and listened to",
      ],
      "Nobody has pressed this system yet.",
    );
  step(
    "press",
    `Press to {g:${Math.round(pressurePa)}}`,
    [
      held.medium === "water"
        ? "Air bled at every outlet, the highest last; all shut again"
        : "Raised slowly, in three goes",
      `Gauge at {g:${Math.round(pressurePa)}}, not above`,
      "Source shut and taken off, or its valve seen to hold",
    ],
    by === "low-air"
      ? `${weakest.name}: {g:${Math.round(weakest.pa)}}; never above it, nor above the house's figure.`
      : `${weakest.name} bears {pa:${Math.round(weakest.pa)}}; pressed to no more than ${air ? "half of that" : "nine tenths of that"}, and the house's figure.`,
    [
      air
        ? "Eye protection on; stand to the side of plugs, lids and joints."
        : "A hand on the valve: shut it and let down at the first drip or sound.",
    ],
  );
  step(
    "hold",
    `Hold {s:${plan.holdS}}, a reading every {s:${plan.everyS}}`,
    ["First reading when the pressure has stood for a minute", ...soaped],
    `The leak that matters, ${aDay(plan.smallestM3S)}, would show by then on this gauge.`,
  );
  step(
    "down",
    "Let down",
    [
      "Let out at the rig, slowly",
      "Gauge reads zero; only then anything is undone",
      ...(plugs.length + ends.length > 0
        ? [`Plugs out, each ticked off: ${[...plugs, ...ends].join(", ")}`]
        : []),
    ],
    air
      ? "Whatever is undone under air flies."
      : "Nothing is undone under pressure, little as water stores.",
  );
  return steps;
};
