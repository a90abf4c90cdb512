import { defineConfig } from "@playwright/test";
import { launchOptions, viewport } from "./e2e/chromium.mjs";

/** Cargo's test runner starts one run of all specs; see crates/app/tests/browser.rs. */
export default defineConfig({
  testDir: "e2e",
  // A busy machine may keep a page waiting once; the list says which test needed it.
  retries: 1,
  globalSetup: "./e2e/seed.ts",
  // Each test drives a browser and a server of its own; two at a time keep the timing of the pages honest.
  workers: 2,
  reporter: "line",
  // Generous, because a busy machine is no defect; nothing here measures speed.
  timeout: 300_000,
  expect: { timeout: 30_000 },
  use: { viewport, acceptDownloads: true, launchOptions },
});
