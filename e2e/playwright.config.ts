import { defineConfig } from "@playwright/test";

export default defineConfig({
  testDir: "./src",
  globalSetup: "./src/support/global-setup.ts",
  // A whole winterizing is some two hundred clicks; a busy machine takes several times the usual half minute.
  timeout: 300_000,
  expect: { timeout: 20_000 },
  workers: 1,
  fullyParallel: false,
  forbidOnly: true,
  reporter: [["list"], ["json", { outputFile: ".results/results.json" }]],
  outputDir: ".results/artifacts",
  use: {
    viewport: { width: 1280, height: 800 },
    locale: "en-GB",
    timezoneId: "UTC",
    // Only the tests of work without a signal want it; elsewhere each page comes from the server.
    serviceWorkers: "block",
    contextOptions: { reducedMotion: "reduce" },
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: process.env["CHROMIUM"] ?? "/usr/bin/chromium",
      args: [
        "--headless",
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
});
