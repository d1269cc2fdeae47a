import { type Remote, wrap } from "comlink";

export type Subject = "plan" | "run" | "audit" | "try" | "split";

/** What the worker beside the screen answers. */
export interface BesideWorker {
  readonly ask: (subject: Subject, name: string, args: readonly unknown[]) => Promise<unknown>;
}

/** The same functions, answered from beside the screen. */
export type Beside<T> = {
  readonly [K in keyof T]: T[K] extends (...args: infer A) => infer R
    ? (...args: A) => Promise<Awaited<R>>
    : never;
};

/** A worker of its own for a subject, begun when it is first asked something: what takes long in one holds no other up. */
export const besideOf = <T extends object>(subject: Subject): Beside<T> => {
  let worker: Remote<BesideWorker> | undefined;
  const ask = (name: string, args: readonly unknown[]): Promise<unknown> =>
    (worker ??= wrap<BesideWorker>(
      new Worker(new URL("../beside.worker.ts", import.meta.url), { type: "module" }),
    )).ask(subject, name, args);
  return new Proxy({} as Beside<T>, {
    // Not itself something to wait for.
    get: (_, name) =>
      name === "then" ? undefined : (...args: readonly unknown[]) => ask(String(name), args),
  });
};
