import { readWaterMap, type WaterMap, waterMapSchema } from "../watermap/index.ts";
import { z } from "zod";
import { type FileProblem, lineAt, MOST_BYTES } from "./text.ts";

/** The map document as a JSON file. */

export type MapFile =
  | { readonly ok: true; readonly map: WaterMap }
  | { readonly ok: false; readonly problems: readonly FileProblem[] };

const DEEPEST = 12;
const FORBIDDEN_KEYS = /"(?:__proto__|constructor|prototype)"\s*:/u;
// So many problems are told; a file with more is told that there are more.
const MOST_PROBLEMS = 50;

const refuse = (problem: string, line?: number): MapFile => ({
  ok: false,
  problems: [{ where: "file", problem, ...(line === undefined ? {} : { line }) }],
});

/** Deepest nesting of brackets outside strings, found without parsing; stops where it is too deep. */
const tooDeepAt = (text: string): number | undefined => {
  let depth = 0;
  let inString = false;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    if (inString) {
      if (c === 92) i++;
      else if (c === 34) inString = false;
    } else if (c === 34) inString = true;
    else if (c === 123 || c === 91) {
      depth++;
      if (depth > DEEPEST) return i;
    } else if (c === 125 || c === 93) depth--;
  }
  return undefined;
};

/** Where a problem's path stands in the text: the line of its last key or, in a list, of the element with that number. */
const lineOfPath = (text: string, where: string): number | undefined => {
  const steps = where.match(/[^.[\]]+/gu);
  if (!steps) return undefined;
  let at = 0;
  for (const step of steps) {
    if (/^\d+$/u.test(step)) {
      at = elementAt(text, at, Number(step));
      if (at < 0) return undefined;
      continue;
    }
    const found = text.indexOf(`"${step}"`, at);
    if (found < 0) break;
    at = found + step.length + 2;
  }
  return lineAt(text, at);
};

/** Beginning of the n-th element of the next list. */
const elementAt = (text: string, from: number, n: number): number => {
  const open = text.indexOf("[", from);
  if (open < 0) return -1;
  let depth = 0;
  let inString = false;
  let seen = 0;
  for (let i = open; i < text.length; i++) {
    const c = text[i];
    if (inString) {
      if (c === "\\") i++;
      else if (c === '"') inString = false;
      continue;
    }
    if (c === '"') inString = true;
    else if (c === "{" || c === "[") {
      if (depth === 1 && seen === n) return i;
      depth++;
    } else if (c === "}" || c === "]") {
      depth--;
      if (depth === 0) return -1;
    } else if (c === "," && depth === 1) seen++;
  }
  return -1;
};

/** Reads a map file. Bounded in time and memory whatever the text is; every problem names its field, and its line where that can be found. */
export const readMapJson = (text: string): MapFile => {
  if (text.length > MOST_BYTES)
    return refuse(`the file is longer than ${MOST_BYTES / 1024 / 1024} MB.`);
  const deep = tooDeepAt(text);
  if (deep !== undefined)
    return refuse(
      `brackets are nested deeper than ${DEEPEST} levels; no water map is.`,
      lineAt(text, deep),
    );
  const forbidden = FORBIDDEN_KEYS.exec(text);
  if (forbidden)
    return refuse(
      `the key ${forbidden[0].replace(/\s*:$/u, "")} is not allowed.`,
      lineAt(text, forbidden.index),
    );
  let data: unknown;
  try {
    data = JSON.parse(text.replace(/^\uFEFF/u, ""));
  } catch (error) {
    const words = (error as Error).message;
    const position = /position (\d+)/u.exec(words);
    return refuse(`not JSON (${words}).`, position ? lineAt(text, Number(position[1])) : undefined);
  }
  const read = readWaterMap(data);
  if (read.ok) return read;
  const told = read.problems.slice(0, MOST_PROBLEMS).map<FileProblem>(({ where, problem }) => {
    const line = lineOfPath(text, where);
    return { where, problem, ...(line === undefined ? {} : { line }) };
  });
  const more = read.problems.length - told.length;
  return {
    ok: false,
    problems: more > 0 ? [...told, { where: "file", problem: `and ${more} more problems.` }] : told,
  };
};

/** A map as a file: the same map gives the same text. */
export const writeMapJson = (map: WaterMap): string => `${JSON.stringify(map, null, 2)}\n`;

/** The published JSON Schema of the map document (draft 2020-12). What a schema cannot say is checked on reading: ports, positions, parameters. */
export const mapJsonSchema = (): object => ({
  ...z.toJSONSchema(waterMapSchema, { io: "input" }),
  title: "Upper Shed water map",
  description:
    "One unit's water system as a graph. Heights are metres above any fixed level of the unit; lengths metres; volumes m3. Beyond this schema, reading checks that kinds, parameters, ports, pipes and positions exist and that no port carries two runs.",
});
