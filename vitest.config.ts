import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    // Both cores: the files do not know of each other.
    maxWorkers: 2,
    projects: [
      { test: { name: "core", root: "core", include: ["src/**/*.test.ts"], environment: "node" } },
      { test: { name: "contract", root: "contract", include: ["src/**/*.test.ts"], environment: "node" } },
      {
        test: {
          name: "server",
          root: "server",
          include: ["src/**/*.test.ts"],
          environment: "node",
          fileParallelism: false,
          testTimeout: 20_000,
          hookTimeout: 60_000,
          globalSetup: ["src/testing/global-setup.ts"],
        },
      },
      { test: { name: "web", root: "web", include: ["src/**/*.test.{ts,tsx}"], environment: "jsdom" } },
    ],
  },
});
