import { solverOf } from "@uppershed/core/refit";
import loadHighs from "highs";
import { runShed } from "./run.ts";

/** The command line as a process of its own. */
const args = process.argv.slice(2);
// Only what cuts pipe waits for the solver.
const solve = args[0] === "refit" ? solverOf(await loadHighs()) : undefined;
const { status, stdout, stderr } = runShed(args, solve);
process.stdout.write(stdout);
process.stderr.write(stderr);
process.exitCode = status;
