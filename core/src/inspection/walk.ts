import { surveyMap } from "../survey/index.ts";
import { buildNetwork, kindOfPart, type Part, type WaterMap } from "../watermap/index.ts";
import { type Look, lookFor } from "./looks.ts";

/** One thing to look at on a walk-round. */
export interface InspectionPoint {
  /** "part id/point"; stays the same while the part and its kind do. */
  readonly key: string;
  /** Part on the map; none for what the whole unit lacks. */
  readonly partId: string | undefined;
  readonly name: string;
  readonly tag: string | undefined;
  /** How one gets there: "four screws". */
  readonly access: string | undefined;
  /** Which point it is, whatever it is called: of a kind's points, or of the protections that a map lacks. */
  readonly pointId: string;
  /** What is to be so, in words. */
  readonly point: string;
  readonly look: Look;
  /** The part is not known yet: first find it. */
  readonly unknown: boolean;
}

/** What is looked at in one place, in the order of the walk. */
export interface InspectionStop {
  readonly place: string;
  readonly points: readonly InspectionPoint[];
}

const NOWHERE = "place not noted";
const WHOLE_UNIT = "the whole unit";

const pointsOf = (part: Part): InspectionPoint[] => {
  const kind = kindOfPart(part);
  // A joint is looked at with what it joins: only where it can be undone has it a life of its own.
  if (kind.role.joint) return [];
  return kind.inspect.map((pointId) => {
    const { point, ...look } = lookFor(pointId);
    return {
      key: `${part.id}/${pointId}`,
      partId: part.id,
      name: part.name,
      tag: part.tag,
      access: part.access,
      pointId,
      point,
      look,
      unknown: part.unknown !== undefined || kind.role.mystery === true,
    };
  });
};

/**
 * The walk-round of a unit, made from its map: the points of every part on board, by place in walking order, and at the end what
 * protections the map does not show. Parts that share a place stand beside each other, those behind the same panel too.
 */
export const walkRound = (map: WaterMap): InspectionStop[] => {
  const stops = new Map<string, Part[]>(map.places.map((place) => [place, []]));
  for (const part of map.parts) {
    const place = part.place ?? NOWHERE;
    stops.set(place, [...(stops.get(place) ?? []), part]);
  }
  // What has no place comes last.
  const ordered = [...stops].toSorted(([a], [b]) => Number(a === NOWHERE) - Number(b === NOWHERE));
  const byPlace = ordered.flatMap<InspectionStop>(([place, parts]) => {
    const points = parts
      .toSorted((a, b) => (a.access ?? "").localeCompare(b.access ?? "") || (a.id < b.id ? -1 : 1))
      .flatMap(pointsOf);
    return points.length > 0 ? [{ place, points }] : [];
  });
  const missing = surveyMap(map, buildNetwork(map)).problems.filter((p) => p.severity === "guard");
  const whole = missing.map<InspectionPoint>((problem) => ({
    key: `unit/${problem.code}/${problem.parts.join("+")}`,
    partId: problem.parts[0],
    name: map.parts.find((p) => p.id === problem.parts[0])?.name ?? "The unit",
    tag: undefined,
    access: undefined,
    pointId: `unit/${problem.code}`,
    point: problem.message,
    look: {
      how: "Look for it along the pipe; it may be there and not drawn.",
      passes: "Found, and put on the map.",
      fails: "Not there: a protection is missing.",
    },
    unknown: false,
  }));
  return whole.length > 0 ? [...byPlace, { place: WHOLE_UNIT, points: whole }] : byPlace;
};
