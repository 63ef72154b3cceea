import { defineConfig } from "@playwright/test";
import launchOptions from "./tests/chromium.json" with { type: "json" };

/** The built app in Debian's Chromium, each test file against a server and a database of its own. */
export default defineConfig({
  testDir: "tests/e2e",
  globalSetup: "./tests/support/scratch.mjs",
  fullyParallel: false,
  workers: 2,
  // A busy machine takes its time: what is waited for comes or never does.
  timeout: 600_000,
  expect: { timeout: 60_000 },
  forbidOnly: true,
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions,
  },
});
