import { createRequire } from "node:module";
import { pathToFileURL } from "node:url";
import { Piscina } from "piscina";

/** Heavy work is done beside the server, so that whoever asks for anything else does not wait for it. */

const MOST_AT_ONCE = 2;
const KEPT_IDLE_MS = 60_000;

export interface Beside<Task, Result> {
  readonly run: (task: Task) => Promise<Result>;
  /** Ends what is kept ready. */
  readonly end: () => Promise<void>;
}

/** @param worker the module whose default export does a task; what goes in and comes out is copied */
export const beside = <Task, Result>(worker: URL): Beside<Task, Result> => {
  let made: Piscina<Task, Result> | undefined;
  return {
    run: (task) =>
      (made ??= new Piscina<Task, Result>({
        filename: worker.href,
        minThreads: 0,
        maxThreads: MOST_AT_ONCE,
        idleTimeout: KEPT_IDLE_MS,
        // As the server itself is run.
        execArgv: ["--import", pathToFileURL(createRequire(import.meta.url).resolve("tsx")).href],
      })).run(task),
    end: async () => {
      const ending = made;
      made = undefined;
      await ending?.destroy();
    },
  };
};
