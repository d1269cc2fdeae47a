import {
  decodeText,
  type FileProblem,
  type MapFile,
  readInp,
  readMapJson,
  readPartsCsv,
  writeInp,
  writeMapJson,
  writePartsCsv,
  writeSvg,
} from "@uppershed/core/formats";
import { surveyMap } from "@uppershed/core/survey";
import { buildNetwork, type WaterMap } from "@uppershed/core/watermap";

/** Files of the command line: what they say of a map, and one format from another. */

const endingOf = (path: string): string => path.toLowerCase().split(".").at(-1) ?? "";

/** A problem of a file in one line: where it stands and what it is. */
export const problemLine = ({ line, where, problem }: FileProblem): string =>
  `${line === undefined ? "" : `line ${line}, `}${where}: ${problem}`;

export const readMapFile = (_path: string, bytes: Uint8Array): MapFile => {
  const text = decodeText(bytes);
  return text.ok ? readMapJson(text.text) : text;
};

/** What is wrong with a map, what is missing and what is not known. A document that is not sound has only its own problems. */
export const checkAnswer = (
  path: string,
  bytes: Uint8Array,
): { answer: object; sound: boolean } => {
  const read = readMapFile(path, bytes);
  if (!read.ok)
    return {
      sound: false,
      answer: {
        map: null,
        problems: read.problems.map((p) => ({
          code: "not-sound",
          severity: "wrong",
          message: problemLine(p),
          parts: [],
          mends: [],
        })),
      },
    };
  const network = buildNetwork(read.map);
  const survey = surveyMap(read.map, network);
  return {
    sound: true,
    answer: {
      map: read.map.id,
      parts: read.map.parts.length,
      runs: read.map.runs.length,
      problems: survey.problems.map(({ mends, ...p }) => ({
        ...p,
        mends: mends.map((m) => m.label),
      })),
      sections: survey.sections.map(({ owners, bounds, volumeM3 }) => ({
        owners,
        bounds,
        volumeM3,
      })),
      deadLegs: survey.deadLegs,
      notReached: survey.notReached,
      nothingClears: [...survey.clearing].flatMap(([id, how]) =>
        how === "nothing clears it" ? [id] : [],
      ),
    },
  };
};

export type Converted =
  | {
      readonly ok: true;
      readonly text: string;
      readonly parts: number;
      readonly report: readonly string[];
    }
  | { readonly ok: false; readonly problem: string };

type In =
  | { readonly ok: true; readonly map: WaterMap; readonly report: readonly string[] }
  | { readonly ok: false; readonly problem: string };

const readIn = (path: string, bytes: Uint8Array, onto: WaterMap | undefined): In => {
  const fail = (problems: readonly FileProblem[]): In => ({
    ok: false,
    problem: `${path}: ${problems[0] ? problemLine(problems[0]) : "cannot be read"}${problems.length > 1 ? ` (and ${problems.length - 1} more)` : ""}`,
  });
  const text = decodeText(bytes);
  if (!text.ok) return fail(text.problems);
  switch (endingOf(path)) {
    case "json": {
      const read = readMapJson(text.text);
      return read.ok ? { ok: true, map: read.map, report: [] } : fail(read.problems);
    }
    case "inp": {
      const read = readInp(text.text, onto);
      return read.ok ? read : fail(read.problems);
    }
    case "csv": {
      if (!onto)
        return {
          ok: false,
          problem: `${path}: a parts list says nothing of pipes; name the map with --onto MAP.json`,
        };
      const read = readPartsCsv(text.text, onto);
      return read.ok
        ? {
            ok: true,
            map: read.map,
            report: ["What the register keeps of parts is not in a map file."],
          }
        : fail(read.problems);
    }
    default:
      return { ok: false, problem: `${path}: only .json, .csv and .inp are read` };
  }
};

/** One format from another, by the endings of the files' names. Nothing is written if anything is wrong. */
export const convert = (
  from: string,
  bytes: Uint8Array,
  to: string,
  onto: WaterMap | undefined,
): Converted => {
  const read = readIn(from, bytes, onto);
  if (!read.ok) return read;
  const { map, report } = read;
  const done = (text: string, more: readonly string[] = []): Converted => ({
    ok: true,
    text,
    parts: map.parts.length,
    report: [...report, ...more],
  });
  switch (endingOf(to)) {
    case "json":
      return done(writeMapJson(map));
    case "csv":
      return done(writePartsCsv(map), ["A parts list says nothing of pipes."]);
    case "inp": {
      const inp = writeInp(map);
      return done(inp.text, inp.report);
    }
    case "svg":
      return done(writeSvg(map));
    default:
      return { ok: false, problem: `${to}: only .json, .csv, .inp and .svg are written` };
  }
};
