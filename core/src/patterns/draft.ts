import {
  controlsOfPart,
  MAP_VERSION,
  type Part,
  portsOf,
  type PipeRun,
  type WaterMap,
} from "../watermap/index.ts";

/** A map in the making: parts are named, then joined by ways written as the eye follows a pipe. */

export interface Head {
  readonly id: string;
  readonly name: string;
  readonly craft: string;
  readonly note?: string;
  readonly places?: readonly string[];
}

export type PartMore = Partial<
  Pick<Part, "tag" | "place" | "access" | "params" | "unknown" | "ends">
> & {
  /** Its figures were looked at. */
  readonly seen?: boolean;
};

export interface WayMore {
  readonly pipe: string;
  readonly service: PipeRun["service"];
  /** Length of every hop that has none of its own, m. */
  readonly lengthM?: number;
  readonly name?: string;
  readonly sag?: PipeRun["sag"];
  readonly heated?: boolean;
  readonly insulated?: boolean;
  readonly ratedToC?: number;
}

export interface Draft {
  readonly add: (id: string, kind: string, name: string, heightM: number, more?: PartMore) => void;
  /**
   * Lays pipe from part to part: "tank.outlet 0.4 vt strainer pump jc". A number is the length of the hop before the next part;
   * a port is named where it matters, else the first free one serves.
   */
  readonly way: (text: string, more: WayMore) => void;
  readonly has: (id: string) => boolean;
  readonly change: (id: string, more: PartMore) => void;
  /** Positions in use that differ from the kind's. */
  readonly lineup: (positions: Record<string, string>) => void;
  readonly map: () => WaterMap;
}

const STANDARD_LENGTH_M: Record<PipeRun["service"], number> = {
  cold: 0.8,
  hot: 0.8,
  suction: 0.3,
  fill: 1,
  waste: 0.6,
  raw: 0.8,
};

const ENTER = ["in", "a", "common", "supply", "water", "cold"];
const LEAVE = ["out", "b", "c", "hot"];

/**
 * @param typical whether figures not marked as seen are typical ones, so that the map says "assumed" of them
 */
export const draft = (head: Head, typical = true): Draft => {
  const parts = new Map<string, Part>();
  const runs: PipeRun[] = [];
  const taken = new Set<string>();
  let lineup: Record<string, string> = {};

  const freePort = (id: string, wanted: readonly string[]): string => {
    const part = parts.get(id);
    if (!part) throw new Error(`${head.id}: there is no part ${id}`);
    const free = portsOf(part).filter((port) => !taken.has(`${id}.${port}`));
    const found =
      wanted.find((port) => free.includes(port)) ?? free.find((port) => port !== "waste");
    if (found === undefined) throw new Error(`${head.id}: ${id} has no free port`);
    return found;
  };
  const endOf = (token: string, wanted: readonly string[]): PipeRun["from"] => {
    const [part = "", named] = token.split(".");
    const port = named ?? freePort(part, wanted);
    if (taken.has(`${part}.${port}`)) throw new Error(`${head.id}: ${part}.${port} is taken`);
    taken.add(`${part}.${port}`);
    return { part, port };
  };

  return {
    add: (id, kind, name, heightM, { seen, ...more } = {}) => {
      if (parts.has(id)) throw new Error(`${head.id}: ${id} is there twice`);
      parts.set(id, {
        id,
        kind,
        name,
        heightM,
        params: {},
        ...more,
        ...(typical && !seen ? { assumed: true as const } : {}),
      });
    },
    way: (text, { pipe, service, lengthM, name, ...more }) => {
      const tokens = text.trim().split(/\s+/u);
      let before: string | undefined;
      let length = lengthM ?? STANDARD_LENGTH_M[service];
      for (const token of tokens) {
        if (/^[\d.]+$/u.test(token)) {
          length = Number(token);
          continue;
        }
        if (before !== undefined) {
          const from = endOf(before, LEAVE);
          const to = endOf(token, ENTER);
          runs.push({
            id: `r-${from.part}-${from.port}-${to.part}-${to.port}`,
            from,
            to,
            pipe,
            lengthM: length,
            service,
            heated: false,
            insulated: false,
            ...more,
            ...(name === undefined ? {} : { name }),
            ...(typical ? { assumed: true as const } : {}),
          });
        }
        // A part in the middle of a way is left by another port than the one by which it was met.
        before = before === undefined ? token : (token.split(".")[0] ?? token);
        length = lengthM ?? STANDARD_LENGTH_M[service];
      }
    },
    has: (id) => parts.has(id),
    change: (id, { seen: _seen, ...more }) => {
      const part = parts.get(id);
      if (!part) throw new Error(`${head.id}: there is no part ${id}`);
      parts.set(id, { ...part, ...more, params: { ...part.params, ...more.params } });
    },
    lineup: (positions) => void (lineup = { ...lineup, ...positions }),
    map: () => {
      const all = [...parts.values()];
      const walked = [...new Set(all.flatMap((p) => (p.place ? [p.place] : [])))];
      const places = [
        ...(head.places ?? []),
        ...walked.filter((place) => !head.places?.includes(place)),
      ];
      const controls = new Set(
        all.flatMap((p) =>
          controlsOfPart(p).map((c) => (c.name === "main" ? p.id : `${p.id}:${c.name}`)),
        ),
      );
      return {
        format: "upper-shed/water-map",
        version: MAP_VERSION,
        id: head.id,
        name: head.name,
        craft: head.craft,
        ...(head.note === undefined ? {} : { note: head.note }),
        places,
        parts: all,
        runs,
        lineup: Object.fromEntries(Object.entries(lineup).filter(([key]) => controls.has(key))),
        contents: {},
        modes: {},
      };
    },
  };
};
