import { defineConfig } from "@playwright/test";
import { launchOptions, viewport } from "./e2e/chromium.mjs";

/** Cargo's test runner starts each spec; see crates/app/tests/browser.rs. */
export default defineConfig({
  testDir: "e2e",
  workers: 1,
  reporter: "line",
  // A busy machine may keep a page waiting once; what fails twice is broken. browser.rs tells which needed it.
  retries: 1,
  // Generous, because a busy machine is no defect; nothing here measures speed.
  timeout: 300_000,
  expect: { timeout: 30_000 },
  use: { viewport, acceptDownloads: true, launchOptions },
});
