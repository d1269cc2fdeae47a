import { type Control, handleOf, kindOfPart, type Lineup, type Network, positionLabel } from "../watermap/index.ts";

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
const stageOf = (control: Control, to: string): number => {
  const { role } = control.spec;
  if (role === "switch") return to === "on" ? 9 : 0;
  if ((role === "cap" || role === "hose") && to !== "open" && to !== "in jug") return 1;
  if (role === "outlet" || role === "drain" || role === "plug" || role === "relief" || role === "bowl") return to === "open" ? 6 : 2;
  if (role === "valve") return to === "shut" ? 3 : 5;
  if (role === "selector") return 4;
  return 7;
};

/** The turns between two lineups, in the order in which they are made: by stage, then along the walk round the unit. */
export const turnsBetween = (network: Network, from: Lineup, to: Lineup): Turn[] => {
  const rank = (place: string | undefined): number => {
    const at = network.map.places.indexOf(place ?? "");
    return at < 0 ? 999 : at;
  };
  return network.controls
    .flatMap((control) => {
      const before = from[control.key] ?? control.spec.inUse;
      const after = to[control.key] ?? before;
      return before === after || control.spec.role === "check" ? [] : [{ control, before, after }];
    })
    .toSorted(
      (a, b) =>
        stageOf(a.control, a.after) - stageOf(b.control, b.after) ||
        rank(a.control.part.place) - rank(b.control.part.place) ||
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
