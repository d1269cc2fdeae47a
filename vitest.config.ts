import { defineConfig } from "vitest/config";

// A busy machine takes several times what a quiet one does; what hangs is still found.
const PATIENCE_MS = 60_000;

export default defineConfig({
  test: {
    // Both cores: the files do not know of each other.
    maxWorkers: 2,
    projects: [
      { test: { name: "core", root: "core", include: ["src/**/*.test.ts"], environment: "node", testTimeout: PATIENCE_MS } },
      { test: { name: "contract", root: "contract", include: ["src/**/*.test.ts"], environment: "node", testTimeout: PATIENCE_MS } },
      {
        test: {
          name: "server",
          root: "server",
          include: ["src/**/*.test.ts"],
          environment: "node",
          fileParallelism: false,
          testTimeout: PATIENCE_MS,
          hookTimeout: 60_000,
          globalSetup: ["src/testing/global-setup.ts"],
        },
      },
      { test: { name: "web", root: "web", include: ["src/**/*.test.{ts,tsx}"], environment: "jsdom", testTimeout: PATIENCE_MS } },
    ],
  },
});
