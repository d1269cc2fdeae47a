import { runShed } from "./run.ts";

/** The command line as a process of its own. */
const { status, stdout, stderr } = runShed(process.argv.slice(2));
process.stdout.write(stdout);
process.stderr.write(stderr);
process.exitCode = status;
