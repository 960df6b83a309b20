import { defineConfig } from "@playwright/test";
import { ARGS, PATH } from "./chromium.mjs";

export default defineConfig({
  testDir: "tests",
  timeout: 300_000,
  expect: { timeout: 30_000 },
  // Two cores, and every test has a Steelk of its own (tests/common.ts).
  fullyParallel: true,
  workers: 2,
  reporter: "list",
  use: {
    viewport: { width: 1280, height: 800 },
    // A trace of every step costs a third of the time: `--trace on` where one is wanted.
    trace: "off",
    screenshot: "only-on-failure",
    launchOptions: { executablePath: PATH, args: ARGS },
  },
});
