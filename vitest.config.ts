import { defineConfig } from "vitest/config";

// A busy machine takes several times what a quiet one does; what hangs is still found.
const PATIENCE_MS = 60_000;

// The files of a workspace share their modules: to load them again for each file took longer than the tests did. Files that replace a
// module by another have modules of their own.
const MOCKED = ["src/**/*.mocked.test.{ts,tsx}"];
const patient = { testTimeout: PATIENCE_MS, hookTimeout: PATIENCE_MS };
const shared = { ...patient, include: ["src/**/*.test.{ts,tsx}"], exclude: MOCKED, isolate: false };
const alone = { ...patient, include: MOCKED };
const SERVER = { root: "server", globalSetup: ["src/testing/global-setup.ts"] };
const WEB = { root: "web", environment: "jsdom", setupFiles: ["src/testing/patience.ts"] };

export default defineConfig({
  test: {
    // Both cores: the files do not know of each other.
    maxWorkers: 2,
    projects: [
      { test: { ...shared, name: "core", root: "core" } },
      { test: { ...alone, name: "core-mocked", root: "core" } },
      { test: { ...shared, name: "contract", root: "contract" } },
      { test: { ...shared, name: "cli", root: "cli" } },
      { test: { ...shared, ...SERVER, name: "server" } },
      { test: { ...alone, ...SERVER, name: "server-mocked" } },
      { test: { ...shared, ...WEB, name: "web" } },
      { test: { ...alone, ...WEB, name: "web-mocked" } },
    ],
  },
});
