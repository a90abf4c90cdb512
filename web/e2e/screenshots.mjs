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

const read = async (path) => (await fetch(address + path)).json();
const datasetOf = async (name) => (await read("/api/datasets")).find((one) => one.name === name);
/** The address of a study by its dataset and method, the oldest first. */
const studyOf = async (dataset, method, place, search) => {
  const { id } = await datasetOf(dataset);
  const own = (await read("/api/studies")).filter((one) => one.dataset_id === id && one.spec.method === method);
  return `/study/${own.sort((a, b) => a.id - b.id)[place].id}${search}`;
};

const seen = (text) => page.getByText(text).first().waitFor();
const study = async (dataset) => page.goto(address + (await studyOf(dataset, "control-chart", 0, "")));

try {
  await take("wall", "/", () => seen("are not steady"));
  await page.goto(`${address}/data`);
  await page
    .getByLabel("File to bring in")
    .setInputFiles(fileURLToPath(new URL("../../demo/lens-thickness-press-2.csv", import.meta.url)));
  await take("bring-in", null, () => seen("Did we read it right?"));
  await take("ask", `/ask?dataset=${(await datasetOf("Beam flux, final test")).id}`, () => seen("Is it steady?"));
  await take("gauge", await studyOf("Groove depth, gauge study", "gauge-crossed", 0, ""), () =>
    page.getByTestId("verdict").waitFor(),
  );
  await take("judgements", await studyOf("Solder joints, inspection study", "gauge-attribute", 0, ""), () =>
    page.getByTestId("judgements").waitFor(),
  );
  await page.goto(`${address}/plan`);
  await page.getByLabel("what is read").fill("groove depth");
  await page.getByLabel("unit").fill("mm");
  await page.getByLabel("LSL").fill("1.1");
  await page.getByLabel("USL").fill("1.3");
  await page.getByLabel("operators, one a line").fill("Ida\nJonas\nMei");
  await page.getByLabel("seed of the order").fill("2026");
  await take("plan", null, () => seen("90 readings"));
  const answered = () => page.getByTestId("verdict").waitFor();
  await take("pareto", await studyOf("Defect summary, May", "pareto", 0, ""), answered);
  await take("dependence", await studyOf("Burn-in by bench", "association", 0, ""), answered);
  await take("relation", await studyOf("Converter efficiency, lab", "relation", 0, ""), answered);
  await take("groups", await studyOf("Housing wall thickness", "compare", 0, ""), answered);
  await take("variation", await studyOf("Housing wall thickness", "multi-vari", 0, ""), answered);
  await take("model", await studyOf("Converter efficiency, lab", "simulation", 0, ""), answered);
  const flux = await datasetOf("Beam flux, final test");
  const column = { name: "step", formula: "difference(`beam flux`) / group_sd(`beam flux`, bench)" };
  const added = await fetch(`${address}/api/datasets/${flux.id}/columns`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ revision: flux.revision, column }),
  });
  const view = { only: [{ column: "step", between: [1, null] }], order: [{ column: "step", descending: true }] };
  const search = new URLSearchParams({ column: (await added.json()).column_id, view: JSON.stringify(view) });
  await take("table", `/data/${flux.id}?${search}`, () => seen("rows of 120"));
  await take("screening", await studyOf("Housing wall thickness", "screening", 0, ""), answered);
  const station = (await read("/api/floor"))[0].plan.stations[0].id;
  await page.goto(`${address}/station/${station}`);
  await page.getByRole("button", { name: "early" }).click();
  for (const value of ["2.404", "2.398", "2.409", "2.401"]) {
    await page.keyboard.type(value);
    await page.keyboard.press("Enter");
  }
  await take("station", null, () => seen("Measure piece 5."));
  await take("capability", await studyOf("Groove depth, housing", "capability", 0, ""), () =>
    page.getByTestId("verdict").waitFor(),
  );
  await take("indices", await studyOf("Lens dimensions, receiving", "indices", 0, ""), () =>
    page.getByTestId("verdict").waitFor(),
  );
  await study("Beam flux, final test");
  await take("study", null, () => page.getByTestId("verdict").waitFor());
  await page.keyboard.press("]");
  await page.getByLabel("Cause", { exact: true }).fill("weak LED reel");
  await page.getByLabel("Cause", { exact: true }).press("Enter");
  await take("signals", "/signals", () => seen("for a cause"));
} finally {
  await browser.close();
  server.kill();
  rmSync(folder, { recursive: true, force: true });
}
