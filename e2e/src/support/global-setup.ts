import { makeTemplate } from "./server.ts";

/** The demo is loaded once; each test's server gets a copy of its database. */
export default async (): Promise<void> => makeTemplate();
