import {
  type Control,
  handleOf,
  kindOfPart,
  type Lineup,
  type Network,
  placeRank,
  positionLabel,
} from "../watermap/index.ts";

/** One control to turn on the way from one lineup to another. */
export interface Turn {
  readonly key: string;
  readonly part: string;
  readonly name: string;
  readonly tag: string;
  readonly place: string;
  readonly from: string;
  readonly to: string;
  readonly fromLabel: string;
  readonly toLabel: string;
  /** How the handle lies afterwards, or empty. */
  readonly handle: string;
}

/**
 * Order in which turning hurts nobody and spills nothing: what drives goes off first, ways out are shut before ways in are opened,
 * plugs come out last; what drives goes on at the very end.
 */
const STAGES = [
  "stop",
  "cap",
  "shut ways out",
  "shut valves",
  "select",
  "open valves",
  "open ways out",
  "others",
  "start",
] as const;
type Stage = (typeof STAGES)[number];

const stageOf = (control: Control, to: string): Stage => {
  const { role } = control.spec;
  if (role === "switch") return to === "on" ? "start" : "stop";
  if ((role === "cap" || role === "hose") && to !== "open" && to !== "in jug") return "cap";
  if (
    role === "outlet" ||
    role === "drain" ||
    role === "plug" ||
    role === "relief" ||
    role === "bowl"
  )
    return to === "open" ? "open ways out" : "shut ways out";
  if (role === "valve") return to === "shut" ? "shut valves" : "open valves";
  return role === "selector" ? "select" : "others";
};

/** The turns between two lineups, in the order in which they are made: by stage, then along the walk round the unit. */
export const turnsBetween = (network: Network, from: Lineup, to: Lineup): Turn[] => {
  const stage = (control: Control, to: string): number => STAGES.indexOf(stageOf(control, to));
  const rank = ({ part }: Control): number => placeRank(network.map, part.place);
  return network.controls
    .flatMap((control) => {
      const before = from[control.key] ?? control.spec.inUse;
      const after = to[control.key] ?? before;
      return before === after || control.spec.role === "check" ? [] : [{ control, before, after }];
    })
    .toSorted(
      (a, b) =>
        stage(a.control, a.after) - stage(b.control, b.after) ||
        rank(a.control) - rank(b.control) ||
        (a.control.key < b.control.key ? -1 : 1),
    )
    .map(({ control, before, after }) => ({
      key: control.key,
      part: control.part.id,
      name:
        control.spec.name === "main" || kindOfPart(control.part).controls.length === 1
          ? control.part.name
          : `${control.part.name}, ${control.spec.label.toLowerCase()}`,
      tag: control.part.tag ?? "",
      place: control.part.place ?? "",
      from: before,
      to: after,
      fromLabel: positionLabel(control, before),
      toLabel: positionLabel(control, after),
      handle: handleOf(control, after),
    }));
};
