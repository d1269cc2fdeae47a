import {
  decodeText,
  type FileProblem,
  NO_LIFE,
  type PartLife,
  readInp,
  readMapJson,
  readPartsCsv,
} from "@uppershed/core/formats";
import { compareMaps, type Difference } from "@uppershed/core/survey";
import { type WaterMap } from "@uppershed/core/watermap";

/** What a file would change, worked out before anything is changed. */
export type FileReading =
  | {
      readonly ok: true;
      readonly map: WaterMap;
      readonly differences: readonly Difference[];
      /** Parts whose register entries would change. */
      readonly lives: Readonly<Record<string, PartLife>>;
      readonly report: readonly string[];
    }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

const LARGEST = 20 * 1024 * 1024;

/** Only the lives that differ from what the register has. */
const changedLives = (
  before: ReadonlyMap<string, PartLife>,
  after: ReadonlyMap<string, PartLife>,
): Record<string, PartLife> =>
  Object.fromEntries(
    [...after].filter(
      ([key, life]) => JSON.stringify(before.get(key) ?? NO_LIFE) !== JSON.stringify(life),
    ),
  );

/** Reads a file onto the map on the bench. The unit keeps its own id and name, whatever the file is called inside. */
export const readOnto = (
  name: string,
  bytes: Uint8Array,
  map: WaterMap,
  lives: ReadonlyMap<string, PartLife>,
): FileReading => {
  const decoded = decodeText(bytes);
  if (!decoded.ok) return decoded;
  const ending = name.toLowerCase().split(".").at(-1) ?? "";
  const own = (read: WaterMap): WaterMap => ({
    ...read,
    id: map.id,
    name: map.name,
    craft: map.craft,
  });
  const reading = (
    read: WaterMap,
    more: Partial<{ lives: Record<string, PartLife>; report: readonly string[] }> = {},
  ): FileReading => ({
    ok: true,
    map: own(read),
    differences: compareMaps(map, own(read)),
    lives: more.lives ?? {},
    report: more.report ?? [],
  });
  switch (ending) {
    case "json": {
      const read = readMapJson(decoded.text);
      return read.ok ? reading(read.map) : read;
    }
    case "csv": {
      const read = readPartsCsv(decoded.text, map, lives);
      return read.ok ? reading(read.map, { lives: changedLives(lives, read.lives) }) : read;
    }
    case "inp": {
      const read = readInp(decoded.text, map);
      return read.ok ? reading(read.map, { report: read.report }) : read;
    }
    default:
      return {
        ok: false,
        problems: [
          {
            where: "file",
            problem: `a file ending in .${ending} is not read here; .json, .csv and .inp are.`,
          },
        ],
      };
  }
};

export const readFileOnto = async (
  file: File,
  map: WaterMap,
  lives: ReadonlyMap<string, PartLife>,
): Promise<FileReading> => {
  if (file.size > LARGEST)
    return {
      ok: false,
      problems: [
        {
          where: "file",
          problem: `the file has ${Math.round(file.size / 1024 / 1024)} MB; a map has a fraction of one.`,
        },
      ],
    };
  return readOnto(file.name, new Uint8Array(await file.arrayBuffer()), map, lives);
};
