import { spawn } from "node:child_process";
import { fileURLToPath } from "node:url";
import { PATTERNS, starterMap } from "../src/patterns/index.ts";
import { EXAMPLE_MAPS } from "../src/examples/index.ts";
import { disagreements } from "../src/testing/agreement.ts";
import { judgeByAll } from "../src/testing/safety.ts";

/**
 * Judges the plans of so many seeded hostile systems, by every method, by the checker and prints what came of it as one flat JSON object.
 * npm run --silent figures:safety -- [--systems 10000] [--seed 1]
 */

const PROCESSES = 2;
// Each clears up by itself and compiles less eagerly: help would come from the core that the other is on.
const ALONE = ["--single-threaded-gc", "--max-semi-space-size=64", "--interrupt-budget=400000"];

const option = (name: string, standard: number): number => {
  const at = process.argv.indexOf(`--${name}`);
  const value = at < 0 ? standard : Number(process.argv[at + 1]);
  if (!Number.isInteger(value) || value < 0) throw new Error(`--${name} needs a whole number.`);
  return value;
};

interface Part {
  plans: number;
  falseSeeds: string[];
  hazardSeeds: string[];
  failureSeeds: string[];
  shown: number;
  overCautious: number;
}

const nothing = (): Part => ({
  plans: 0,
  falseSeeds: [],
  hazardSeeds: [],
  failureSeeds: [],
  shown: 0,
  overCautious: 0,
});

const judge = (from: number, count: number, every: number): Part => {
  const part = nothing();
  for (let i = from; i < from + count; i += every) {
    for (const { method, judged, failure } of judgeByAll(i)) {
      part.plans++;
      if (failure) part.failureSeeds.push(`${i} ${method}`);
      if (!judged) continue;
      if (judged.falseProtected.length > 0) part.falseSeeds.push(`${i} ${method}`);
      if (judged.hazards.length > 0) part.hazardSeeds.push(`${i} ${method}`);
      part.shown += judged.shown;
      part.overCautious += judged.overCautious.length;
    }
  }
  return part;
};

/** A process of its own that judges every n-th system and prints its part. */
const inProcess = (from: number, count: number, every: number): Promise<Part> =>
  new Promise((resolve, reject) => {
    const child = spawn(
      process.execPath,
      [
        ...process.execArgv,
        ...ALONE,
        fileURLToPath(import.meta.url),
        "--part",
        String(every),
        "--systems",
        String(count),
        "--seed",
        String(from),
      ],
      { stdio: ["ignore", "pipe", "inherit"] },
    );
    let text = "";
    child.stdout.on("data", (chunk: Buffer) => (text += chunk.toString()));
    child.on("error", reject);
    child.on("close", (code) =>
      code === 0
        ? resolve(JSON.parse(text) as Part)
        : reject(new Error(`A part ended with ${code}.`)),
    );
  });

const systems = option("systems", 10_000);
const seed = option("seed", 1);
const part = option("part", 0);

if (part > 0) console.log(JSON.stringify(judge(seed, systems, part)));
else {
  const begun = Array.from({ length: PROCESSES }, (_, i) =>
    inProcess(seed + i, systems - i, PROCESSES),
  );
  const apart = [...EXAMPLE_MAPS, ...PATTERNS.map(starterMap)].flatMap((map) =>
    disagreements(map).map((d) => ({
      map: map.id,
      step: d.step,
      worst: Math.max(d.volumeShare, d.strengthPoints),
    })),
  );
  const parts = await Promise.all(begun);
  const all = (pick: (p: Part) => string[]): string[] =>
    parts.flatMap(pick).toSorted((a, b) => Number.parseInt(a, 10) - Number.parseInt(b, 10));
  const sum = (pick: (p: Part) => number): number => parts.reduce((total, p) => total + pick(p), 0);
  const worst = apart.reduce((a, b) => (b.worst > a.worst ? b : a));
  console.log(
    JSON.stringify(
      {
        randomSystems: systems,
        plansJudged: sum((p) => p.plans),
        falseProtected: all((p) => p.falseSeeds).length,
        hazardsPassed: all((p) => p.hazardSeeds).length,
        plannerFailures: all((p) => p.failureSeeds).length,
        overCautiousShare: Number(
          (
            sum((p) => p.overCautious) /
            Math.max(
              1,
              sum((p) => p.shown),
            )
          ).toFixed(5),
        ),
        engineAgreementWorst: Number(worst.worst.toFixed(4)),
        engineAgreementWorstAt: `${worst.map} ${worst.step}`,
        actionsCompared: apart.length,
        actionsApart: apart.filter((a) => a.worst > 0.01).length,
        falseProtectedSeeds: all((p) => p.falseSeeds).join(" "),
        hazardSeeds: all((p) => p.hazardSeeds).join(" "),
        failureSeeds: all((p) => p.failureSeeds).join(" "),
      },
      null,
      2,
    ),
  );
}
