import {
  kindOfPart,
  openPorts,
  type Part,
  roleOf,
  type PipeRun,
  runsAt,
  type WaterMap,
} from "../watermap/index.ts";
import type { Mend, Problem } from "./problem.ts";
import { isJoined, missingPorts, wetRuns } from "./walk.ts";

/** Ports without a pipe, parts without any, tags on two valves. */

const PORT_WORDS: Record<string, string> = {
  hot: "hot side",
  cold: "cold side",
  water: "water",
  in: "inlet",
  out: "outlet",
  waste: "waste",
};

/** The nearest open port that this one could be joined to: another part's missing port of the same side. */
const partner = (map: WaterMap, part: Part, port: string): Mend[] => {
  const candidates = map.parts
    .filter((p) => p.id !== part.id)
    .flatMap((p) => missingPorts(map, p).map((name) => ({ part: p, port: name })));
  const [only] = candidates;
  if (candidates.length !== 1 || !only) return [];
  return [
    {
      do: "join",
      label: `Pipe it to ${only.part.name}`,
      from: { part: only.part.id, port: only.port },
      to: { part: part.id, port },
    },
  ];
};

/** A pipe of the right side to tee into: one that leads to a neighbour of the same place, else the longest. */
const mainFor = (map: WaterMap, part: Part, service: PipeRun["service"]): PipeRun | undefined => {
  const near = (run: PipeRun): number => {
    const ends = [run.from.part, run.to.part].map((id) => map.parts.find((p) => p.id === id));
    const heater = ends.some((p) => p && kindOfPart(p).group === "heat") ? 2 : 0;
    const outlet = ends.some(
      (p) => p && kindOfPart(p).group === "outlets" && p.place === part.place,
    )
      ? -1
      : 0;
    return heater + outlet;
  };
  return map.runs
    .filter((r) => r.service === service && r.from.part !== part.id && r.to.part !== part.id)
    .toSorted((a, b) => near(a) - near(b) || b.lengthM - a.lengthM || (a.id < b.id ? -1 : 1))[0];
};

const mendsFor = (map: WaterMap, part: Part, port: string): Mend[] => {
  const kind = kindOfPart(part);
  const here = { part: part.id, port };
  if (kind.role.joint || kind.group === "control")
    return [
      ...partner(map, part, port),
      ...(wetRuns(map, part.id).length === 2 && kind.role.branch
        ? [{ do: "remove" as const, label: "Take the tee out", parts: [part.id] }]
        : []),
      { do: "attach", label: "Close it with a plug", at: here, kind: "end-plug" },
    ];
  const service = port === "hot" ? "hot" : "cold";
  const main =
    kind.group === "outlets" || kind.group === "heat" || kind.role.cushion
      ? mainFor(map, part, service)
      : undefined;
  return [
    ...partner(map, part, port),
    ...(main
      ? [
          {
            do: "join-run" as const,
            label: `Tee it into the ${service} line`,
            from: here,
            run: main.id,
          },
        ]
      : []),
    ...(kind.group === "outlets" || main
      ? []
      : [{ do: "attach" as const, label: "Close it with a plug", at: here, kind: "end-plug" }]),
  ];
};

const openPortProblems = (map: WaterMap, part: Part): Problem[] =>
  missingPorts(map, part).map((port) => ({
    code: "open-port",
    severity: "wrong",
    message: `${part.name}: its ${PORT_WORDS[port] ?? `port ${port}`} leads nowhere.`,
    parts: [part.id],
    mends: mendsFor(map, part, port),
  }));

const loose = (part: Part): Problem => ({
  code: "loose-part",
  severity: "wrong",
  message: `${part.name} joins nothing. Drag from one of its ports to another part, or take it away.`,
  parts: [part.id],
  mends: [{ do: "remove", label: "Take it away", parts: [part.id] }],
});

/** A tank that nothing draws from or fills, a waste tank without a way in: open although every port may be. */
const idleTanks = (map: WaterMap, part: Part): Problem[] => {
  const { vessel } = roleOf(part);
  const runs = runsAt(map, part.id);
  const uses = openPorts(map, part).map((p) => p.name);
  if (
    vessel === "fresh" &&
    runs.length > 0 &&
    ["outlet", "outlet2", "link", "link2"].every((port) => uses.includes(port))
  )
    return [
      {
        code: "open-port",
        severity: "wrong",
        message: `Nothing draws from ${part.name}: its outlet leads nowhere.`,
        parts: [part.id],
        mends: partner(map, part, "outlet"),
      },
    ];
  if (
    vessel === "waste" &&
    runs.length > 0 &&
    part.params["empties"] === "by its pipe" &&
    uses.includes("out")
  )
    return [
      {
        code: "open-port",
        severity: "wrong",
        message: `${part.name} empties by its pipe, and there is none.`,
        parts: [part.id],
        mends: [
          {
            do: "attach",
            label: "Put a waste outlet on it",
            at: { part: part.id, port: "out" },
            kind: "waste-outlet",
          },
        ],
      },
    ];
  return [];
};

const tagsTwice = (map: WaterMap): Problem[] => {
  const seen = new Map<string, Part>();
  return map.parts.flatMap((part) => {
    if (!part.tag) return [];
    const other = seen.get(part.tag.toUpperCase());
    seen.set(part.tag.toUpperCase(), part);
    return other
      ? [
          {
            code: "tag-twice" as const,
            severity: "wrong" as const,
            message: `Tag ${part.tag} hangs on ${other.name} and on ${part.name}. One of them will be turned by mistake.`,
            parts: [part.id, other.id],
            mends: [
              { do: "untag" as const, label: `Take the tag off ${part.name}`, part: part.id },
            ],
          },
        ]
      : [];
  });
};

export const endProblems = (map: WaterMap): Problem[] => [
  ...map.parts.flatMap((part) =>
    isJoined(map, part) ? [...openPortProblems(map, part), ...idleTanks(map, part)] : [loose(part)],
  ),
  ...tagsTwice(map),
];
