import { spawn } from "node:child_process";
import { createHash } from "node:crypto";
import {
  cpSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import { parseAst } from "vite";

/**
 * Changes the code in small ways, one at a time, and sees whether a test notices. A seeded sample of all changes that could be made to
 * the engine, the planners and the survey; each in a copy of the tree. Prints one flat JSON object with `mutationScore`, per cent killed.
 * npm run --silent figures:mutation -- [--mutants 24] [--seed 1] [--in core/src/contents]
 */

const ROOT = join(dirname(fileURLToPath(import.meta.url)), "..");
const FOLDERS = ["contents", "procedure", "simulation", "flows", "hydraulics", "survey"].map(
  (f) => `core/src/${f}`,
);
// Notices any change of the demo plans, meant or not: it proves nothing of what is right.
const NOT_COUNTED = ["**/*.mocked.test.ts", "**/version.test.ts"];
const PROCESSES = 2;
const LONGEST_MS = 240_000;

const option = (name, standard) => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? standard : process.argv[at + 1];
};
const MUTANTS = Number(option("mutants", "24"));
const SEED = Number(option("seed", "1"));
const ONLY = option("in", undefined);

const filesIn = (folder) =>
  readdirSync(join(ROOT, folder), { withFileTypes: true }).flatMap((entry) => {
    const path = `${folder}/${entry.name}`;
    if (entry.isDirectory()) return filesIn(path);
    const isTried =
      entry.name.endsWith(".ts") &&
      ![".test.ts", "index.ts", "version.ts"].some((end) => entry.name.endsWith(end));
    return isTried ? [path] : [];
  });

const SWAPS = new Map(
  Object.entries({
    "<": ">=",
    "<=": ">",
    ">": "<=",
    ">=": "<",
    "+": "-",
    "-": "+",
    "*": "/",
    "/": "*",
    "&&": "||",
    "||": "&&",
    "===": "!==",
    "!==": "===",
  }),
);
// Figures that are our own guess may well be a tenth otherwise; none may be half as large again, no count one more.
const FACTOR = 1.5;
const LARGEST_COUNT = 10;
const otherFigure = (value) =>
  Number.isInteger(value) && Math.abs(value) <= LARGEST_COUNT
    ? value + 1
    : Number((value * FACTOR).toPrecision(8));

const isText = (node) =>
  node.type === "TemplateLiteral" || (node.type === "Literal" && typeof node.value === "string");

// Smaller figures only keep the rounding of a computer out.
const ROUNDING = 1e-5;
const isCap = ({ callee, arguments: given }) =>
  ["min", "max"].includes(callee.property?.name) &&
  callee.object.name !== "Math" &&
  given.every((a) => a.type === "Literal" || isText(a));
const isOrder = ({ consequent, alternate }) =>
  consequent.type === "UnaryExpression" && alternate.type === "Literal" && alternate.value === 1;

/** Every change that could be made to a file: one operator, figure, condition or bound at a time. */
const mutantsOf = (path) => {
  const text = readFileSync(join(ROOT, path), "utf8");
  const found = [];
  const lines = text.split("\n");
  const add = (start, end, to) => {
    const line = text.slice(0, start).split("\n").length;
    found.push({
      path,
      start,
      end,
      from: text.slice(start, end),
      to,
      line,
      text: lines[line - 1].trim(),
    });
  };
  const visit = (node) => {
    if (!node || typeof node !== "object") return;
    if (Array.isArray(node)) {
      node.forEach(visit);
      return;
    }
    // Types and the words of a sheet are not what is tried.
    if (
      typeof node.type !== "string" ||
      node.type.startsWith("TS") ||
      ["ImportDeclaration", "TemplateLiteral"].includes(node.type)
    ) {
      if (
        node.type === "TSAsExpression" ||
        node.type === "TSNonNullExpression" ||
        node.type === "TSSatisfiesExpression"
      )
        visit(node.expression);
      return;
    }
    if (node.type === "BinaryExpression" || node.type === "LogicalExpression") {
      const to = SWAPS.get(node.operator);
      const at = text.indexOf(node.operator, node.left.end);
      if (to && at >= 0 && at < node.right.start && !isText(node.left) && !isText(node.right))
        add(at, at + node.operator.length, to);
    }
    // How long a text or a list in a file may be.
    if (node.type === "CallExpression" && isCap(node)) return visit(node.callee);
    // The two ways of an order are no figures.
    if (node.type === "ConditionalExpression" && isOrder(node)) return visit(node.test);
    if (
      node.type === "Literal" &&
      typeof node.value === "number" &&
      Math.abs(node.value) > ROUNDING
    )
      add(node.start, node.end, String(otherFigure(node.value)));
    if (node.type === "IfStatement")
      add(node.test.start, node.test.end, `!(${text.slice(node.test.start, node.test.end)})`);
    if (
      node.type === "MemberExpression" &&
      node.object.name === "Math" &&
      ["min", "max"].includes(node.property.name)
    )
      add(node.property.start, node.property.end, node.property.name === "min" ? "max" : "min");
    for (const [key, child] of Object.entries(node))
      if (key !== "typeAnnotation" && key !== "typeArguments" && key !== "returnType") visit(child);
  };
  visit(parseAst(text, { lang: "ts" }).body);
  return found;
};

/**
 * A sample by lot: each change draws a number of its own, by the seed and by what it is, and the lowest are taken. So a change of the code
 * elsewhere leaves the sample as it was.
 */
const sample = (all) => {
  const times = new Map();
  const lots = all.map((mutant) => {
    const what = `${mutant.path} ${mutant.text} ${mutant.from} ${mutant.to}`;
    times.set(what, (times.get(what) ?? 0) + 1);
    const lot = createHash("sha256")
      .update(`${SEED} ${what} ${times.get(what)}`)
      .digest("hex");
    return { lot, mutant };
  });
  lots.sort((a, b) => (a.lot < b.lot ? -1 : 1));
  return lots.slice(0, MUTANTS).map(({ mutant }) => mutant);
};

// The tests beside a change notice it soonest; those that judge whole units take longest.
const CONFIG = `import { BaseSequencer } from "vitest/node";
import { basename, dirname } from "node:path";
import { statSync } from "node:fs";
const changed = process.env.CHANGED ?? "";
const SLOW = ["checker.test.ts", "families.test.ts", "interlocks.test.ts", "winterize.test.ts"];
const rank = ({ moduleId: id }) => {
  const own = basename(id).startsWith(basename(changed, ".ts") + ".");
  const beside = id.includes(dirname(changed).split("/").slice(0, 3).join("/") + "/");
  return [own ? 0 : beside ? 1 : 2, SLOW.indexOf(basename(id)), statSync(id).size];
};
class NearestFirst extends BaseSequencer {
  async sort(files) {
    const by = new Map(files.map((f) => [f, rank(f)]));
    const slow = (f) => Number(by.get(f)[1] >= 0 && by.get(f)[0] > 0);
    return files.toSorted((a, b) => slow(a) - slow(b) || by.get(a)[0] - by.get(b)[0] || by.get(a)[2] - by.get(b)[2]);
  }
}
export default { test: { ...TEST, sequence: { sequencer: NearestFirst } } };
`;

/** A copy of the tree to change, with the packages of the original. */
const copyOfTree = () => {
  const folder = mkdtempSync(join(tmpdir(), "uppershed-mutation-"));
  for (const name of ["core", "package.json", "tsconfig.base.json"])
    cpSync(join(ROOT, name), join(folder, name), {
      recursive: true,
      filter: (from) => !relative(ROOT, from).includes("node_modules"),
    });
  symlinkSync(join(ROOT, "node_modules"), join(folder, "node_modules"));
  const test = {
    root: "core",
    include: ["src/**/*.test.ts"],
    exclude: NOT_COUNTED,
    isolate: false,
    maxWorkers: 1,
    testTimeout: 60_000,
  };
  writeFileSync(join(folder, "vitest.config.mjs"), CONFIG.replace("TEST", JSON.stringify(test)));
  return folder;
};

/** Whether the tests that hang on a file pass in a folder; a run that takes too long counts as noticed. */
const passes = (folder, path) =>
  new Promise((resolve) => {
    const args = ["related", join(folder, path), "--run", "--bail", "1", "--reporter", "dot"];
    const child = spawn(process.execPath, [join(ROOT, "node_modules/vitest/vitest.mjs"), ...args], {
      cwd: folder,
      stdio: "ignore",
      env: { ...process.env, CHANGED: path },
    });
    const timer = setTimeout(() => child.kill("SIGKILL"), LONGEST_MS);
    child.on("close", (code) => {
      clearTimeout(timer);
      resolve(code === 0);
    });
  });

const judged = [];
const work = async (queue) => {
  const folder = copyOfTree();
  try {
    for (let next = queue.shift(); next; next = queue.shift()) {
      const file = join(folder, next.path);
      const text = readFileSync(file, "utf8");
      writeFileSync(file, text.slice(0, next.start) + next.to + text.slice(next.end));
      judged.push({ ...next, survived: await passes(folder, next.path) });
      writeFileSync(file, text);
      const { survived, line, from, to } = judged.at(-1);
      process.stderr.write(
        `${survived ? "survived" : "killed"} ${next.path}:${line} ${from.slice(0, 40)} → ${to.slice(0, 40)}\n`,
      );
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
};

const all = FOLDERS.filter((f) => ONLY === undefined || ONLY.startsWith(f) || f.startsWith(ONLY))
  .flatMap(filesIn)
  .flatMap(mutantsOf);
const queue = sample(ONLY ? all.filter((m) => m.path.startsWith(ONLY)) : all);
await Promise.all(Array.from({ length: PROCESSES }, () => work(queue)));
process.stderr.write("\n");
const survivors = judged
  .filter((m) => m.survived)
  .toSorted((a, b) => (a.path < b.path ? -1 : 1) || a.line - b.line);
console.log(
  JSON.stringify(
    {
      mutantsPossible: all.length,
      mutants: judged.length,
      killed: judged.length - survivors.length,
      mutationScore: Number(
        ((100 * (judged.length - survivors.length)) / Math.max(1, judged.length)).toFixed(1),
      ),
      seed: SEED,
      survivors: survivors
        .map((m) => `${m.path}:${m.line} ${m.from.slice(0, 40)} → ${m.to.slice(0, 40)}`)
        .join("; "),
    },
    null,
    2,
  ),
);
