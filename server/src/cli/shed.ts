import { EXAMPLE_MAPS, fillIn, formatQuantity, readWaterMap, type UnitSystem, type WaterMap } from "@uppershed/core";
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { isAbsolute, join } from "node:path";
import { parseArgs } from "node:util";
import { planAnswer, verdictAnswer, winterLow } from "./answers.ts";

/** The command line for scripts: JSON on standard output; bad input is one line on standard error and exit code 2. */

const HELP = `shed plan winterize FILE.json [--winter-low -18C] [--margin 5] [--product 50%] [--jug 5L] [--basis by-part|burst|no-ice] [--units metric|us|imperial]
shed verdict FILE.json [--basis by-part|burst|no-ice] [--units metric|us|imperial]
shed examples DIR       writes the demo maps as files, one a unit`;

class BadInput extends Error {}

const file = (path: string): string => (isAbsolute(path) ? path : join(process.env["CALLED_FROM"] ?? process.cwd(), path));

const readMap = (path: string | undefined): WaterMap => {
  if (path === undefined) throw new BadInput("a map file is needed");
  let text: string;
  try {
    text = readFileSync(file(path), "utf8");
  } catch {
    throw new BadInput(`${path}: cannot be read`);
  }
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    throw new BadInput(`${path}: not JSON (${(error as Error).message})`);
  }
  const read = readWaterMap(data);
  if (read.ok) return read.map;
  const [first] = read.problems;
  const more = read.problems.length > 1 ? ` (and ${read.problems.length - 1} more)` : "";
  throw new BadInput(`${path}: ${first?.where}: ${first?.problem}${more}`);
};

const oneOf = <T extends string>(value: string | undefined, allowed: readonly T[], name: string, standard: T): T => {
  if (value === undefined) return standard;
  const found = allowed.find((a) => a === value);
  if (!found) throw new BadInput(`--${name} must be one of ${allowed.join(", ")}, not "${value}"`);
  return found;
};

/** Sets every text of an answer in the reader's units. */
const inUnits = (value: unknown, units: UnitSystem): unknown => {
  if (typeof value === "string") return fillIn(value, units);
  if (Array.isArray(value)) return value.map((v) => inUnits(v, units));
  if (value !== null && typeof value === "object") return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, inUnits(v, units)]));
  return value;
};

const OPTIONS = {
  "winter-low": { type: "string" },
  margin: { type: "string" },
  product: { type: "string" },
  jug: { type: "string" },
  basis: { type: "string" },
  units: { type: "string" },
  help: { type: "boolean" },
} as const;

/** A negative value may follow its option after a space: "--winter-low -18C". */
const joined = (args: readonly string[]): string[] =>
  args.reduce<string[]>((all, arg) => {
    const last = all.at(-1);
    if (last?.startsWith("--") && !last.includes("=") && /^[-−]\d/u.test(arg)) return [...all.slice(0, -1), `${last}=${arg}`];
    return [...all, arg];
  }, []);

const answer = (args: string[]): unknown => {
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
      if (rest[0] !== "winterize") throw new BadInput(`plan what? "shed plan winterize FILE.json"`);
      const quantity = winterLow(values, units);
      if (!quantity.ok) throw new BadInput(quantity.problem);
      return inUnits(planAnswer(readMap(rest[1]), { ...quantity.settings, basis }), units);
    }
    case "verdict":
      return inUnits(verdictAnswer(readMap(rest[0]), basis), units);
    case "examples": {
      const [folder] = rest;
      if (folder === undefined) throw new BadInput("a folder is needed");
      mkdirSync(file(folder), { recursive: true });
      return {
        written: EXAMPLE_MAPS.map((map) => {
          const path = join(file(folder), `${map.id}.json`);
          writeFileSync(path, `${JSON.stringify(map, null, 2)}\n`);
          return { file: path, name: map.name, parts: map.parts.length, freshTank: formatQuantity(tankM3(map), "volume", units) };
        }),
      };
    }
    default:
      throw new BadInput(`"${verb}" is not known; try plan, verdict or examples`);
  }
};

const tankM3 = (map: WaterMap): number =>
  map.parts.filter((p) => p.kind === "fresh-tank").reduce((sum, p) => sum + Number(p.params["volumeL"] ?? 150) / 1000, 0);

try {
  const result = answer(process.argv.slice(2));
  process.stdout.write(typeof result === "string" ? `${result}\n` : `${JSON.stringify(result, null, 2)}\n`);
} catch (error) {
  process.stderr.write(
    `shed: ${error instanceof BadInput ? error.message : `cannot do that (${(error as Error).message.split("\n")[0]})`}\n`,
  );
  process.exitCode = 2;
}
