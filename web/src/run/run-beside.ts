import { RunEngine } from "./run-engine.ts";

/** Plans and what is said of the unit are made beside the screen, so that it never stops. */
export const beside = new RunEngine();
