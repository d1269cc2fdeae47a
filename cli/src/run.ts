import { METHOD_NAMES, WATER_SETTINGS, type WaterSettings } from "@uppershed/core/procedure";
import { EXAMPLE_MAPS } from "@uppershed/core/examples";
import { mapJsonSchema, writeMapJson } from "@uppershed/core/formats";
import { walkRound } from "@uppershed/core/inspection";
import { PATTERNS, starterMap } from "@uppershed/core/patterns";
import { fillIn, parseQuantity, type UnitSystem } from "@uppershed/core/quantity";
import type { Solve } from "@uppershed/core/refit";
import { type WaterMap } from "@uppershed/core/watermap";
import { mkdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { isAbsolute, join } from "node:path";
import { parseArgs } from "node:util";
import {
  AFTER,
  methodsAnswer,
  planAnswer,
  verdictAnswer,
  waterPlanAnswer,
  winterLow,
} from "./answers.ts";
import { solveAnswer } from "./flows.ts";
import { holdAnswer } from "./hold.ts";
import { auditAnswer, partsAnswer } from "./refit.ts";
import { reckonAnswer, reckonList } from "./reckoner.ts";
import { readActions, simulateAnswer } from "./simulate.ts";
import { checkAnswer, convert, problemLine, readMapFile } from "./files.ts";

/** The command line for scripts: JSON on standard output; bad input is one line on standard error and exit code 2. */

const HELP = `shed plan winterize FILE.json [--method ${METHOD_NAMES.join("|")}|compare] [--winter-low -18C] [--margin 5] [--product 50%] [--jug 5L] [--basis by-part|burst|no-ice] [--units metric|us|imperial]
shed plan spring FILE.json [--after ${METHOD_NAMES.join("|")}|unknown]   from how that winterizing leaves it
shed plan sanitize FILE.json [--bleach 5.25%] [--bleach-age 60d] [--target 50mg/L] [--soak 4h]
shed verdict FILE.json [--basis by-part|burst|no-ice] [--night -8C] [--units metric|us|imperial]
shed solve FILE.json [--set V3=shut …] [--open galley:cold=1 …] [--supply 40psi] [--temperature 15C]   flows and pressures, SI
shed simulate FILE.json ACTIONS.json [--supply 40psi] [--trace]   what everything holds after each action, SI
shed hold FILE.csv --volume 60gal --medium air|water [--wall plastic|metal] [--step 0.05psi] [--smallest 1L]   a pressure test judged from a logger's file; --smallest is a day's leak that matters
shed reckon NAME [key=value …] | --list   a calculation that stands alone, with its working
shed audit A.json [B.json] [--winter-low -18C] [--product 50%] [--jug 5L]   every method, guards, flows, waits, weight and days of a map; of two, beside each other
shed refit parts A.json B.json                        pipe with its cut list, fittings, joints, tools from A to B
shed walk FILE.json                                   the walk-round of a unit: what to look at, place by place
shed check FILE.json [--units metric|us|imperial]     what is wrong with a map, what is missing, what is not known
shed convert A B [--onto MAP.json]                    by file ending: .json .csv .inp in, .json .csv .inp .svg out
shed schema             the JSON Schema of the map document
shed examples DIR       writes the demo maps as files, one a unit
shed families DIR       writes the starting maps of all families
shed workshop, shed person, shed backup, shed restore   on the database of the server: "shed workshop" says more`;

class BadInput extends Error {}

const file = (path: string): string =>
  isAbsolute(path) ? path : join(process.env["CALLED_FROM"] ?? process.cwd(), path);

const MOST_READ_BYTES = 50 * 1024 * 1024;

const bytesOf = (path: string | undefined): Uint8Array => {
  if (path === undefined) throw new BadInput("a map file is needed");
  try {
    // A file far too large is not even read.
    if (statSync(file(path)).size > MOST_READ_BYTES)
      throw new BadInput(`${path}: is far larger than any map`);
    return readFileSync(file(path));
  } catch (error) {
    if (error instanceof BadInput) throw error;
    throw new BadInput(`${path}: cannot be read`);
  }
};

const readMap = (path: string | undefined): WaterMap => {
  const read = readMapFile(path ?? "", bytesOf(path));
  if (read.ok) return read.map;
  const [first] = read.problems;
  const more = read.problems.length > 1 ? ` (and ${read.problems.length - 1} more)` : "";
  throw new BadInput(`${path}: ${first ? problemLine(first) : "not a water map"}${more}`);
};

const oneOf = <T extends string>(
  value: string | undefined,
  allowed: readonly T[],
  name: string,
  standard: T,
): T => {
  if (value === undefined) return standard;
  const found = allowed.find((a) => a === value);
  if (!found) throw new BadInput(`--${name} must be one of ${allowed.join(", ")}, not "${value}"`);
  return found;
};

/** A figure with its unit and between two bounds in SI, or nothing where it was not given. */
const figure = (
  text: string | undefined,
  dimension: "pressure" | "temperature",
  name: string,
  low: number,
  high: number,
  units: UnitSystem,
) => {
  if (text === undefined) return undefined;
  const read = parseQuantity(text, dimension, units);
  if (!read.ok) throw new BadInput(`${name}: ${read.problem}`);
  const { si } = read.quantity;
  if (si < low || si > high)
    throw new BadInput(
      `${name}: ${text} lies outside what can be reckoned with (${low} to ${high} in SI units)`,
    );
  return si;
};

/** Sets every text of an answer in the reader's units. */
const inUnits = (value: unknown, units: UnitSystem): unknown => {
  if (typeof value === "string") return fillIn(value, units);
  if (Array.isArray(value)) return value.map((v) => inUnits(v, units));
  if (value !== null && typeof value === "object")
    return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, inUnits(v, units)]));
  return value;
};

/** What a sanitizing goes by, from the command line's words. */
const waterOf = (
  values: {
    readonly bleach?: string | undefined;
    readonly target?: string | undefined;
    readonly soak?: string | undefined;
    readonly "bleach-age"?: string | undefined;
  },
  units: UnitSystem,
): WaterSettings => {
  const read = (
    text: string | undefined,
    dimension: "fraction" | "concentration" | "time",
    name: string,
    bounds: { readonly low: number; readonly high: number; readonly words: string },
    standard: number,
  ): number => {
    if (text === undefined) return standard;
    const found = parseQuantity(text, dimension, units);
    if (!found.ok) throw new BadInput(`--${name}: ${found.problem}`);
    if (!(found.quantity.si >= bounds.low && found.quantity.si <= bounds.high))
      throw new BadInput(`--${name}: ${text} lies outside ${bounds.words}.`);
    return found.quantity.si;
  };
  const { chlorine } = WATER_SETTINGS;
  const soakS = read(values.soak, "time", "soak", BOUNDS.soak, chlorine.soakS);
  const days = read(values["bleach-age"], "time", "bleach-age", BOUNDS.age, -1) / 86_400;
  const targetMgL = read(
    values.target,
    "concentration",
    "target",
    BOUNDS.target,
    chlorine.targetMgL,
  );
  return {
    ...WATER_SETTINGS,
    chlorine: {
      ...chlorine,
      targetMgL,
      soakS,
      latestS: Math.max(chlorine.latestS, soakS),
      bottle: {
        ...chlorine.bottle,
        strength: read(
          values.bleach,
          "fraction",
          "bleach",
          BOUNDS.bleach,
          chlorine.bottle.strength,
        ),
        ...(days >= 0 ? { days } : {}),
      },
    },
  };
};

const BOUNDS = {
  soak: { low: 300, high: 259_200, words: "5 min to 72 h" },
  age: { low: 0, high: 5000 * 86_400, words: "0 to 5000 days" },
  target: { low: 1, high: 300, words: "1 to 300 mg/L" },
  bleach: { low: 0.005, high: 0.15, words: "0.5 % to 15 %" },
} as const;

const OPTIONS = {
  after: { type: "string" },
  bleach: { type: "string" },
  "bleach-age": { type: "string" },
  target: { type: "string" },
  soak: { type: "string" },
  "winter-low": { type: "string" },
  margin: { type: "string" },
  product: { type: "string" },
  jug: { type: "string" },
  basis: { type: "string" },
  method: { type: "string" },
  units: { type: "string" },
  onto: { type: "string" },
  set: { type: "string", multiple: true },
  open: { type: "string", multiple: true },
  volume: { type: "string" },
  medium: { type: "string" },
  step: { type: "string" },
  smallest: { type: "string" },
  wall: { type: "string" },
  list: { type: "boolean" },
  trace: { type: "boolean" },
  night: { type: "string" },
  supply: { type: "string" },
  temperature: { type: "string" },
  help: { type: "boolean" },
} as const;

/** A negative value may follow its option after a space: "--winter-low -18C". */
const joined = (args: readonly string[]): string[] =>
  args.reduce<string[]>((all, arg) => {
    const last = all.at(-1);
    if (last?.startsWith("--") && !last.includes("=") && /^[-−]\d/u.test(arg))
      return [...all.slice(0, -1), `${last}=${arg}`];
    return [...all, arg];
  }, []);

const answer = (
  args: readonly string[],
  solve: Solve | undefined,
): { result: unknown; sound: boolean } => {
  let sound = true;
  const result = answerTo(args, () => (sound = false), solve);
  return { result, sound };
};

const answerTo = (
  args: readonly string[],
  unsound: () => void,
  solve: Solve | undefined,
): unknown => {
  let parsed;
  try {
    parsed = parseArgs({ args: joined(args), options: OPTIONS, allowPositionals: true });
  } catch (error) {
    throw new BadInput((error as Error).message);
  }
  const { values, positionals } = parsed;
  const [verb, ...rest] = positionals;
  if (values.help || verb === undefined) return HELP;
  const units = oneOf(values.units, ["metric", "us", "imperial"], "units", "metric");
  const basis = oneOf(values.basis, ["by-part", "burst", "no-ice"], "basis", "by-part");
  switch (verb) {
    case "plan": {
      if (rest[0] === "spring" || rest[0] === "sanitize") {
        const after = oneOf(values.after, AFTER, "after", "antifreeze");
        return inUnits(
          waterPlanAnswer(readMap(rest[1]), rest[0], after, waterOf(values, units)),
          units,
        );
      }
      if (rest[0] !== "winterize")
        throw new BadInput(`plan what? "shed plan winterize|spring|sanitize FILE.json"`);
      const quantity = winterLow(values, units);
      if (!quantity.ok) throw new BadInput(quantity.problem);
      const method = oneOf(values.method, [...METHOD_NAMES, "compare"], "method", "antifreeze");
      const settings = { ...quantity.settings, basis };
      const map = readMap(rest[1]);
      return inUnits(
        method === "compare"
          ? methodsAnswer(map, settings)
          : planAnswer(map, { ...settings, method }),
        units,
      );
    }
    case "solve": {
      const supply = figure(values.supply, "pressure", "--supply", 0, 1_500_000, units);
      const temperature = figure(values.temperature, "temperature", "--temperature", 0, 20, units);
      const found = solveAnswer(
        readMap(rest[0]),
        { set: values.set ?? [], open: values.open ?? [] },
        {
          ...(supply === undefined ? {} : { supplyPa: supply }),
          ...(temperature === undefined ? {} : { temperatureC: temperature }),
        },
      );
      if (!found.ok) throw new BadInput(found.problem);
      return found.value;
    }
    case "simulate": {
      const [map, actions] = [
        readMap(rest[0]),
        readActions(new TextDecoder().decode(bytesOf(rest[1]))),
      ];
      if (!actions.ok) throw new BadInput(`${rest[1]}: ${actions.problem}`);
      const supplyPa = figure(values.supply, "pressure", "--supply", 0, 1_500_000, units);
      const found = simulateAnswer(map, actions.value, {
        trace: values.trace === true,
        ...(supplyPa === undefined ? {} : { supplyPa }),
      });
      if (!found.ok) throw new BadInput(`${rest[1]}: ${fillIn(found.problem, units)}`);
      return inUnits(found.value, units);
    }
    case "hold": {
      const found = holdAnswer(new TextDecoder().decode(bytesOf(rest[0])), values, units);
      if (!found.ok) throw new BadInput(found.problem);
      return inUnits(found.value, units);
    }
    case "reckon": {
      if (values.list) return reckonList();
      const found = reckonAnswer(rest[0], rest.slice(1), units);
      if (!found.ok) throw new BadInput(found.problem);
      return found.value;
    }
    case "verdict":
      return inUnits(
        verdictAnswer(
          readMap(rest[0]),
          basis,
          figure(values.night, "temperature", "--night", -60, -0.1, units),
        ),
        units,
      );
    case "audit": {
      const quantity = winterLow(values, units);
      if (!quantity.ok) throw new BadInput(quantity.problem);
      const after = rest[1] === undefined ? undefined : readMap(rest[1]);
      return inUnits(auditAnswer(readMap(rest[0]), after, { ...quantity.settings, basis }), units);
    }
    case "refit":
      if (rest[0] !== "parts") throw new BadInput('refit what? "shed refit parts A.json B.json"');
      return inUnits(partsAnswer(readMap(rest[1]), readMap(rest[2]), solve), units);
    case "walk":
      return inUnits({ stops: walkRound(readMap(rest[0])) }, units);
    case "check": {
      const { answer: found, sound } = checkAnswer(rest[0] ?? "", bytesOf(rest[0]));
      if (!sound) unsound();
      return inUnits(found, units);
    }
    case "schema":
      return mapJsonSchema();
    case "convert": {
      const [from, to] = rest;
      if (from === undefined || to === undefined)
        throw new BadInput('two files are needed: "shed convert A.inp B.json"');
      const done = convert(
        from,
        bytesOf(from),
        to,
        values.onto === undefined ? undefined : readMap(values.onto),
      );
      if (!done.ok) throw new BadInput(done.problem);
      writeFileSync(file(to), done.text);
      return { from, to, parts: done.parts, report: done.report };
    }
    case "families":
      return writeMaps(rest[0], PATTERNS.map(starterMap));
    case "examples": {
      return writeMaps(rest[0], EXAMPLE_MAPS);
    }
    default:
      throw new BadInput(
        `"${verb}" is not known; try plan, verdict, solve, simulate, hold, reckon, audit, refit, walk, check, convert, schema, examples or families`,
      );
  }
};

const writeMaps = (folder: string | undefined, maps: readonly WaterMap[]): object => {
  if (folder === undefined) throw new BadInput("a folder is needed");
  mkdirSync(file(folder), { recursive: true });
  return {
    written: maps.map((map) => {
      const path = join(file(folder), `${map.id}.json`);
      writeFileSync(path, writeMapJson(map));
      return { file: path, name: map.name, parts: map.parts.length };
    }),
  };
};

/** What a command answers: as the process of its own it says this on its outputs. */
export interface Ran {
  readonly status: 0 | 1 | 2;
  readonly stdout: string;
  readonly stderr: string;
}

/** Runs a command; never throws. @param solve a solver for cut lists; first fit without one */
export const runShed = (args: readonly string[], solve?: Solve): Ran => {
  try {
    const { result, sound } = answer(args, solve);
    return {
      status: sound ? 0 : 1,
      stdout: typeof result === "string" ? `${result}\n` : `${JSON.stringify(result, null, 2)}\n`,
      stderr: "",
    };
  } catch (error) {
    const why =
      error instanceof BadInput
        ? error.message
        : `cannot do that (${(error as Error).message.split("\n")[0]})`;
    return { status: 2, stdout: "", stderr: `shed: ${why}\n` };
  }
};
