import { test as base } from "@playwright/test";
import { openServer, type Server } from "./server.ts";
import { Technician } from "./technician.ts";

/** A test with a server of its own that has just been filled with the demo, and a technician at a screen. */
export const test = base.extend<{ server: Server; tech: Technician }>({
  // oxlint-disable-next-line no-empty-pattern
  server: async ({}, use) => {
    const server = await openServer();
    await use(server);
    await server.close();
  },
  tech: async ({ page, server }, use) => {
    await use(new Technician(page, server));
  },
});

export { expect } from "@playwright/test";
