import {
  kindOfPart,
  type Network,
  num,
  type Part,
  paramsOf,
  PIPE_SYSTEMS,
  roleOf,
  runsAt,
} from "../watermap/index.ts";
import { expansions } from "./expansion.ts";
import { type Isolation, isolationOf } from "./isolation.ts";

/** Cards for the common jobs, made from this unit's own map: what to shut, what runs out, the order, the check before and after. */

interface CardStep {
  readonly title: string;
  readonly rows: readonly string[];
  readonly caution?: string;
}

export interface JobCard {
  readonly part: string;
  readonly title: string;
  readonly isolation: Isolation;
  readonly steps: readonly CardStep[];
}

type Job = "pump" | "strainer" | "check" | "heater" | "tap" | "inlet" | "tank" | "gate" | "fitting";

const usesOf = (network: Network, part: Part): ReadonlySet<string> =>
  new Set(network.openings.flatMap((o) => (o.part.id === part.id ? [o.use] : [])));

const jobOf = (network: Network, part: Part): Job => {
  const role = roleOf(part);
  const uses = usesOf(network, part);
  if (role.pump) return "pump";
  if (role.guard === "strainer") return "strainer";
  if (role.guard === "check") return "check";
  if (role.energies || role.vessel === "heater") return "heater";
  if (role.vessel) return "tank";
  if (uses.has("supply")) return "inlet";
  if (uses.has("dump")) return "gate";
  if (uses.has("outlet")) return "tap";
  const side = network.cells.find((c) => c.ownerId === part.id)?.side;
  const valve = network.controls.some(
    (c) => c.part.id === part.id && (c.spec.role === "valve" || c.spec.role === "drain"),
  );
  return side === "waste" && valve ? "gate" : "fitting";
};

const TITLES: Readonly<Record<Job, string>> = {
  pump: "Pump out, pump in",
  strainer: "Strainer opened or exchanged",
  check: "Check valve in or out",
  heater: "Heater out, heater in",
  tap: "Tap exchanged",
  inlet: "Inlet box exchanged",
  tank: "Tank out, tank in",
  gate: "Waste gate and its actuator",
  fitting: "Part exchanged",
};

// What each job wants besides shutting off and looking for leaks. Common practice, no source, but where it is named.
const READ: Readonly<Record<Job, readonly string[]>> = {
  pump: ["Time to fill a litre at one cold tap", "Pressure at cut-out, with a gauge on a tap"],
  strainer: ["Flow at one tap, into a jug by the clock"],
  check: ["Which way it passes: arrow, or blown through by mouth before it is fitted"],
  heater: ["Its label: volume, watts, pressure of its relief; a picture of every joint and wire"],
  tap: ["Flow, hot and cold, into a jug by the clock"],
  inlet: ["Pressure at rest and with a tap running"],
  tank: ["Where each hole stands, from the pipe that goes to it, not from the old tank"],
  gate: ["Travel of the blade shut and open, and whether it weeps shut"],
  fitting: ["What it is joined with: measured, not guessed"],
};

const WORK: Readonly<Record<Job, readonly CardStep[]>> = {
  pump: [
    {
      title: "Wires",
      rows: [
        "Fuse out; which wire is which by meter, then marked",
        "Wires off before hoses: nothing drips onto what is live",
      ],
      caution:
        "Colour never says which wire is plus: meter only. The conventions contradict each other.",
    },
    {
      title: "Off and on",
      rows: [
        "Inlet side first, then outlet; ends capped at once",
        "Thread of the ports looked at: a washer seals parallel ones, tape never does",
        "Arrow from the tank to the taps; feet on rubber, not drawn flat",
        "Strainer bowl clean, seal in its groove",
      ],
    },
    {
      title: "Prime",
      rows: [
        "Fuse in, coldest tap open, pump on: water within half a minute, else off",
        "Every tap shut: it stops, and stays silent for ten minutes",
      ],
    },
  ],
  strainer: [
    {
      title: "Open it",
      rows: [
        "Bowl off by hand, screen out, rinsed against the stream",
        "Seal whole and in its groove; bowl hand tight, no spanner",
      ],
    },
  ],
  check: [
    {
      title: "In",
      rows: [
        "Ends square and clean, marked for their depth",
        "Arrow with the stream; it stands where it can be reached again",
        "Before a heater: room for what the water grows by is there, or comes with it",
      ],
    },
    { title: "Proof", rows: ["Pressed from behind: nothing comes through"] },
  ],
  heater: [
    {
      title: "Energy off",
      rows: [
        "Breaker off and tagged; gas cock shut; engine loop clamped or drained",
        "Gas and mains by whoever is licensed for them",
      ],
      caution:
        "No element and no burner before it is proved full: it burns out, or worse, in minutes.",
    },
    {
      title: "Out and in",
      rows: [
        "New one's envelope, holes and weight against the old one's, before anything is cut",
        "Pipes named before they are undone: cold below, hot above",
        "Check at its cold inlet, relief piped outside, both on the map",
        "Bedding and sealant cured as their maker says, before it gets wet",
      ],
    },
    {
      title: "Fill, then heat",
      rows: [
        "Filled with a hot tap open until it runs without air",
        "Relief lifted by hand once, still cold: it flows, and shuts dry",
        "Only then energy on",
      ],
    },
  ],
  tap: [
    {
      title: "Off and on",
      rows: [
        "Hot is on the left; hoses marked before they are undone",
        "Base dry and clean, seal under it, nut hand tight and a quarter turn",
        "Aerator off for the first run, back on after",
      ],
    },
  ],
  inlet: [
    {
      title: "Out and in",
      rows: [
        "Old sealant off to the bare skin, screw holes looked at for rot",
        "Bedded all round, a bead over the upper edge and sides, none under: water must get out",
        "Cured as the sealant's maker says at this temperature, before a hose hangs on it",
        "Its own check tried: pump on, no hose, nothing comes out",
      ],
    },
  ],
  tank: [
    {
      title: "Base",
      rows: [
        "Base flat, smooth and on its whole area; membrane on it",
        "Straps over its ribs, not its middle; full weight on the map and against the limits",
      ],
      caution: "Full, it weighs what the card says: lifted empty, never with water in it.",
    },
    {
      title: "Holes",
      rows: [
        "Marked from the pipes, cut clean, chips out before anything is fitted",
        "Fittings with a washer on each side, hand tight and half a turn",
        "Vent from its highest point, falling all the way back to it, as wide as its maker says",
        "Hatch reachable when the furniture stands",
      ],
    },
    { title: "Proof", rows: ["Filled to the brim, looked at after half an hour and next morning"] },
  ],
  gate: [
    {
      title: "Empty and clean",
      rows: [
        "Tank emptied and rinsed; gloves, eyes covered, fresh air",
        "What is left caught in a bucket under the gate",
      ],
      caution: "Sewage gas: open, blow, wait, nobody alone in a closed space.",
    },
    {
      title: "Assembly",
      rows: [
        "Seals greased and in their grooves, edges of the pipe broken: a sharp one cuts them",
        "Bolts crosswise, snug: drawn too tight the blade binds",
        "Actuator on with the blade shut, then its play set: free at both ends, pressing at neither",
      ],
    },
    {
      title: "Ten cycles",
      rows: [
        "Current of each stroke read: the same within a fifth, none rising",
        "Full travel seen each time, shut and open",
        "By hand once, with its fuse out: the release works, and goes back",
        "Shut, a foot of water over it for half an hour: dry below",
      ],
    },
  ],
  fitting: [
    {
      title: "Out and in",
      rows: [
        "Cut square, no more than must be; the old one kept until the new one is proved",
        "Every end measured: what goes in by hand and is the wrong system leaks",
      ],
    },
  ],
};

const joints = (network: Network, part: Part): string[] => [
  ...new Set(runsAt(network.map, part.id).map((r) => PIPE_SYSTEMS.get(r.pipe)?.label ?? r.pipe)),
];

/** What an isolation says, as rows of a step. */
const isolateStep = (card: Isolation, part: Part): CardStep => ({
  title: card.shut.length > 0 ? "Shut it off" : "No valve shuts it off",
  rows: [
    ...card.pressed.map((p) => `${p}: hose off, or its post shut`),
    "Pump off, one tap opened until nothing comes, shut again",
    ...card.shut.map((s) => `${s.name}: shut`),
    ...(card.still.length > 0
      ? [
          `${card.still.join(", ")} ${card.still.length === 1 ? "stands" : "stand"} on it all the same: emptied first, or what runs is caught`,
        ]
      : []),
    `Bucket and cloth: ${card.outM3 > 5e-6 ? `{m3:${Number(card.outM3.toPrecision(2))}} run out` : "next to nothing runs out"} with every tap shut${card.mostM3 > card.outM3 + 5e-6 ? `, up to {m3:${Number(card.mostM3.toPrecision(2))}} once air comes in by another` : ""} (worked out)`,
    `${part.name}: undone only when the gauge, or a tap beside it, says that nothing presses`,
  ],
  ...(card.isHot
    ? {
        caution:
          "Hot water stands on this line: heater off, cooled until a hand can stay on it, pressure gone, bucket below. Locked until then, like a plug.",
      }
    : {}),
});

const besides = (network: Network, part: Part, job: Job): CardStep[] => {
  if (job === "heater") {
    const grows = expansions(network).find((e) => e.heater === part.id);
    return grows
      ? [
          {
            title: "Room to expand",
            rows: [
              `From 10 to 60 °C its water grows by {m3:${Number(grows.growsM3.toPrecision(2))}}${grows.takenM3 >= grows.growsM3 ? ", and has room" : `: an accumulator of {m3:${Number(grows.accumulatorM3.toPrecision(2))}} on its side takes that, else the relief drips`}`,
            ],
          },
        ]
      : [];
  }
  if (job === "tank")
    return [
      {
        title: "Weight",
        rows: [`Full it weighs ${Math.round(num(paramsOf(part), "volumeL"))} kg more than empty`],
      },
    ];
  return [];
};

/** The card for the job that a part gives rise to. */
export const jobCard = (network: Network, part: Part): JobCard => {
  const job = jobOf(network, part);
  const isolation = isolationOf(network, part);
  const how = joints(network, part);
  return {
    part: part.id,
    title: `${TITLES[job]}: ${part.name}`,
    isolation,
    steps: [
      { title: "Read before", rows: READ[job] },
      ...(job === "heater" ? WORK.heater.slice(0, 1) : []),
      isolateStep(isolation, part),
      ...(how.length > 0
        ? [
            {
              title: "How it is joined",
              rows: [`${how.join(", ")}: measured before anything is bought`],
            },
          ]
        : []),
      ...besides(network, part, job),
      ...(job === "heater" ? WORK.heater.slice(1) : WORK[job]),
      {
        title: "Back in use",
        rows: [
          ...isolation.shut.map((s) => `${s.name}: as it was`),
          "First pressure low, somebody inside, a hand on the valve",
          "Every joint that was touched looked at dry, and once more after an hour",
          "The same reading as before, beside the one before",
          "What was changed put on the map and in the register",
        ],
      },
    ],
  };
};

/** Parts that a card can be made for: what is exchanged, not a tee or an elbow. */
export const cardParts = (network: Network): Part[] =>
  network.map.parts.filter((p) => {
    const kind = kindOfPart(p);
    return (
      !kind.role.joint &&
      !kind.role.mystery &&
      !kind.role.ashore &&
      runsAt(network.map, p.id).length > 0
    );
  });
