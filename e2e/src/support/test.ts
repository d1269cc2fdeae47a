import { test as base } from "@playwright/test";
import { openServer, type Server } from "./server.ts";
import { Technician } from "./technician.ts";

type Shared = Awaited<ReturnType<typeof openServer>>;

/** A test with the demo as it was just loaded, and a technician at a screen. */
export const test = base.extend<{ server: Server; tech: Technician }, { shared: Shared }>({
  shared: [
    // oxlint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const server = await openServer();
      await use(server);
      await server.close();
    },
    { scope: "worker" },
  ],
  server: async ({ shared }, use) => {
    await shared.fresh();
    await use(shared);
  },
  tech: async ({ page, server }, use) => {
    await use(new Technician(page, server));
  },
});

export { expect } from "@playwright/test";
