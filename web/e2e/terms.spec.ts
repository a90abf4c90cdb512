import { readFileSync } from "node:fs";
import { expect, type Server, studyAddress, test, verdict } from "./server";

test("a term tells its meaning, formula and source when it is pointed at or focused", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Groove depth, housing", "capability"));
  const term = verdict(page).locator("dfn", { hasText: /^Ppk$/ });
  await term.hover();
  const told = page.getByRole("tooltip");
  await expect(told).toContainText("the spread of all values");
  await expect(told).toContainText("ISO 22514-2");
  await page.mouse.move(0, 0, { steps: 8 });
  await expect(told).toBeHidden();
  await page.getByRole("tab", { name: "Numbers" }).click();
  await page.getByRole("columnheader", { name: "short-term", exact: true }).locator("dfn").focus();
  await expect(told).toContainText("how neighbours differ");
  await page.keyboard.press("Escape");
  await expect(told).toBeHidden();
  // A slot opens on what fills it, not on the word that says what it is.
  await page.getByRole("button", { name: /^short-term spread:/ }).press("Enter");
  await expect(page.getByRole("radio", { name: /^pooled sds/ })).toBeFocused();
});

test("marks come and go one by one, stay with the study, and go out as shown whatever is pointed at", async ({
  page,
  server,
}) => {
  await page.goto(await studyAddress(server, "Groove depth, housing", "capability"));
  const turn = async (name: string) => {
    await page.getByRole("button", { name: "Show", exact: true }).click();
    await page.getByRole("menuitemcheckbox", { name }).click();
  };
  const lines = page.getByTestId("sigma-lines");
  await turn("Sigma lines at 1, 2 and 3 sd");
  await expect(lines).toContainText("+2 sd");
  await turn("Mean");
  await expect(page.getByText(/^mean 1\.\d+$/)).toBeHidden();
  await page.reload();
  await expect(lines).toBeVisible();
  await expect(page.getByText(/^mean 1\.\d+$/)).toBeHidden();
  const picture = async () => {
    const download = page.waitForEvent("download");
    await page.getByRole("button", { name: "Send out" }).click();
    await page.getByRole("menuitem", { name: "Figure as SVG" }).click();
    return readFileSync(await (await download).path(), "utf8");
  };
  const plain = await picture();
  expect(plain).toContain("−2 sd");
  expect(plain).not.toContain(">mean ");
  await page.getByRole("slider", { name: "Values of groove depth" }).focus();
  await page.keyboard.press("ArrowUp");
  await expect(page.getByTestId("lit")).toBeVisible();
  expect(await picture(), "what is pointed at stays on the page").toBe(plain);
  await page.keyboard.press("Control+z");
  await expect(page.getByText(/^mean 1\.\d+$/)).toBeVisible();
  await page.getByRole("button", { name: "History" }).click();
  await expect(page.getByText("Shown: sigma lines.")).toBeVisible();
});

test("a long computation is listed to everyone, stopped by anyone, and asked for again", async ({ page, server }) => {
  test.slow();
  const study = await bestFitOfManyValues(server);
  await page.goto(`${server.address}/study/${study}`);
  const jobs = page.getByRole("button", { name: "1 computation under way" });
  await jobs.click();
  const list = page.getByRole("dialog");
  await expect(list).toContainText("Can it meet the limits? Run time, all");
  await expect(list).toContainText(/\d+ % of what is known to be done, draws from seed 3/);
  await list.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByRole("alert")).toContainText("Stopped");
  await expect(jobs).toBeHidden();
  await page.getByRole("button", { name: "Ask again" }).click();
  await expect(jobs).toBeVisible();
});

/** A study that takes some seconds: many skewed values, all shapes fitted. */
async function bestFitOfManyValues(server: Server): Promise<number> {
  const value = (i: number) => Math.exp(1 + Math.sin(i * 12.9898) + Math.sin(i * 78.233) / 2).toFixed(4);
  const csv = `run time\n${Array.from({ length: 1_000_000 }, (_, i) => value(i)).join("\n")}\n`;
  const post = async (path: string, body: string) => {
    const headers = path.startsWith("/api/imports?") ? undefined : { "content-type": "application/json" };
    return (await fetch(server.address + path, { method: "POST", body, headers })).json();
  };
  const file = await post("/api/imports?name=run-time.csv", csv);
  const dataset = await post(`/api/imports/${file.id}/dataset`, JSON.stringify({ name: "Run time, all" }));
  const options = { shape: "best-fit", lsl: 0.5, usl: 20, seed: 3 };
  const spec = { method: "capability", roles: { measure: "run time" }, options, data: { dataset: dataset.id } };
  return (await post("/api/studies", JSON.stringify({ spec }))).id;
}
