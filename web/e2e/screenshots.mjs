// Takes the pictures in docs/screenshots from the demo data; started by `cargo xtask screenshots`.
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { createInterface } from "node:readline";
import { fileURLToPath } from "node:url";
import { chromium } from "@playwright/test";
import { launchOptions, viewport } from "./chromium.mjs";

const pictures = fileURLToPath(new URL("../../docs/screenshots", import.meta.url));
const folder = mkdtempSync(join(tmpdir(), "acorn-"));
const server = spawn(process.env.ACORN_DIAL, ["serve", "--demo", "--data", folder, "--listen", "127.0.0.1:0"]);
const lines = createInterface({ input: server.stdout })[Symbol.asyncIterator]();
const address = (await lines.next()).value.replace("Acorn Dial is at ", "");
const browser = await chromium.launch(launchOptions);
const page = await browser.newPage({ viewport });

async function take(name, path, ready) {
  if (path) await page.goto(address + path);
  await ready();
  await page.evaluate(() => document.fonts.ready);
  await page.mouse.move(5, 790);
  await page.waitForTimeout(400);
  await page.screenshot({ path: join(pictures, `${name}.png`) });
  console.log(`${name}.png`);
}

const seen = (text) => page.getByText(text).first().waitFor();
const study = async (name) => {
  await page.goto(address);
  await page.getByRole("link", { name }).click();
};

try {
  await take("wall", "/", () => seen("are not steady"));
  await take("data", "/data", () => seen("LED reels"));
  await page
    .getByLabel("File to bring in")
    .setInputFiles(fileURLToPath(new URL("../../demo/lens-thickness-press-2.csv", import.meta.url)));
  await take("bring-in", null, () => seen("Did we read it right?"));
  await take("table", "/data/1", () => page.locator("#cell-19-3").waitFor());
  await take("ask", "/ask?dataset=2", () => seen("Is it steady?"));
  await take("study-means-with-phases", "/study/1", () => page.getByTestId("verdict").waitFor());
  await take("study-baseline", "/study/2", () => page.getByTestId("verdict").waitFor());
  await take("look", "/study/4", () => page.getByTestId("verdict").waitFor());
  await take("look-by-group", "/study/13", () => page.getByTestId("verdict").waitFor());
  await take("line-up", "/study/12?figure=line-up", () => seen("believe this one"));
  await take("capability", "/study/8", () => page.getByTestId("verdict").waitFor());
  await take("shapes", "/study/6?figure=shapes", () => seen("Fitted shapes"));
  await take("sigma-level", "/study/11", () => page.getByTestId("verdict").waitFor());
  await take("indices", "/study/16", () => page.getByTestId("verdict").waitFor());
  await study(/Beam flux, final test/);
  await take("study", null, () => page.getByTestId("verdict").waitFor());
  await page.keyboard.press("]");
  await page.getByLabel("Cause", { exact: true }).fill("weak LED reel");
  await page.getByLabel("Cause", { exact: true }).press("Enter");
  await take("signal", null, () => page.getByTestId("flag").waitFor());
  await take("signals", "/signals", () => seen("for a cause"));
  await page.goto(`${address}/study/12`);
  await page.getByRole("button", { name: /kind of chart/ }).click();
  await page.getByRole("button", { name: "Help me choose" }).click();
  await take("advice", null, () => seen("Do you count bad pieces or blemishes?"));
  await study(/Beam flux, final test/);
  await page.getByRole("button", { name: /patterns to watch for/ }).click();
  await take("slot", null, () => seen("hugging the centre"));
} finally {
  await browser.close();
  server.kill();
  rmSync(folder, { recursive: true, force: true });
}
