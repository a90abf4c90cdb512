import { chromium } from "@playwright/test";
import { launchOptions, viewport } from "./e2e/chromium.mjs";
const browser = await chromium.launch(launchOptions);
const page = await browser.newPage({ viewport });
page.on("pageerror", (e) => console.log("PAGEERROR", e.message));
page.on("console", (m) => m.type() === "error" && console.log("CONSOLE", m.text()));
const base = "http://127.0.0.1:7399";
for (const job of process.argv.slice(2)) {
  const [name, path, ...acts] = job.split("|");
  await page.goto(base + path);
  await page.waitForTimeout(1500);
  for (const act of acts) {
    if (act.startsWith("click:")) await page.getByRole("button", { name: new RegExp(act.slice(6)) }).first().click();
    if (act.startsWith("tab:")) await page.getByRole("tab", { name: act.slice(4) }).click();
    if (act.startsWith("text:")) await page.getByText(act.slice(5)).first().click();
    if (act.startsWith("cell:")) await page.locator("td button").nth(Number(act.slice(5))).click();
    if (act.startsWith("full")) { await page.screenshot({ path: `/tmp/shots/${name}.png`, fullPage: true }); }
    await page.waitForTimeout(700);
  }
  if (!acts.includes("full")) await page.screenshot({ path: `/tmp/shots/${name}.png` });
}
await browser.close();
