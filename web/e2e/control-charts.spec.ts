import type { Page } from "@playwright/test";
import { dialOf, expect, type Server, test, verdict } from "./server";

/** Opens the study of a dataset and column that the demo data start with. */
async function openStudy(page: Page, server: Server, dataset: string, option?: string) {
  await page.goto(`${server.address}/ask`);
  await page.getByRole("button", { name: /▾/ }).click();
  await page.getByRole("menuitem", { name: dataset }).click();
  const asked = page.getByRole("region", { name: "Asked before" }).getByRole("link");
  await (option ? asked.filter({ hasText: option }) : asked).first().click();
  await expect(verdict(page)).toBeVisible();
}

const slot = (page: Page, name: RegExp | string) => page.getByRole("main").getByRole("button", { name });

/** Drags from one share of the width of the plot to another. */
async function dragOver(page: Page, from: number, to: number) {
  const box = await page.getByRole("img", { name: /Control chart/ }).boundingBox();
  if (!box) throw new Error("There is no figure.");
  const [left, wide] = [box.x + 62, box.width - 62 - 106];
  await page.mouse.move(box.x + 40, box.y + 150);
  await page.mouse.move(left + from * wide, box.y + 150);
  await page.mouse.down();
  await page.mouse.move(left + to * wide, box.y + 160, { steps: 5 });
  await page.mouse.up();
}

test("few questions lead to the right chart, and why not its neighbours", async ({ page, server }) => {
  await page.goto(`${server.address}/ask`);
  await page.getByRole("button", { name: /▾/ }).click();
  await page.getByRole("menuitem", { name: "LED reels" }).click();
  await page.getByRole("button", { name: /Is it steady\?/ }).click();
  // From the columns alone: counts that scatter more than counting explains.
  await expect(slot(page, "kind of chart: proportion defective, widened for scatter (p-prime)")).toBeVisible();
  await slot(page, /kind of chart/).click();
  await page.getByRole("button", { name: "Help me choose" }).click();
  await expect(page.getByText("Do you count defectives or defects?")).toBeVisible();
  await page.getByRole("button", { name: "Defects: a piece may have several" }).click();
  await expect(page.getByText(/so plain limits would flag nearly everything/)).toBeVisible();
  await expect(page.getByText(/Not defects per unit \(u\): Its limits are too tight/)).toBeVisible();
  await page.getByRole("button", { name: "Use this chart" }).click();
  await expect(slot(page, /kind of chart: defects per unit, widened for scatter/)).toBeVisible();
  await expect(verdict(page)).toContainText("subgroup");
});

test("a line-up shows three charts of one count, and choosing one changes the statement", async ({ page, server }) => {
  await openStudy(page, server, "LED reels");
  await expect(verdict(page)).toContainText(
    "2.6 times as widely as counting alone explains, so these limits are too tight",
  );
  await page.getByRole("button", { name: "See three charts side by side" }).click();
  await expect(verdict(page)).toHaveText("Reel R716 is a signal, the rest is ordinary scatter between subgroups.");
  await expect(page.getByRole("button", { name: /Plain p chart.*4 of 24 flagged/ })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await page.getByRole("button", { name: /p-prime chart.*1 of 24 flagged, the one to believe/ }).click();
  await expect(slot(page, "kind of chart: proportion defective, widened for scatter (p-prime)")).toBeVisible();
  await page.getByRole("button", { name: "Back to the chart" }).click();
  await expect(verdict(page)).toContainText("Look at reel R716 first.");
  await expect(page.getByText("Reel R716 lies above the upper control limit: 1.62 %.")).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(slot(page, "kind of chart: proportion defective (p)")).toBeVisible();
});

test("a stretch dragged on the figure becomes the limits, a phase, or rows", async ({ page, server }) => {
  await openStudy(page, server, "Lens thickness, press 2", "subgroups 1 to 18");
  await dragOver(page, 0.01, 0.49);
  const menu = page.getByRole("region", { name: "subgroups 1 to 15" });
  await menu.getByRole("button", { name: "Take the limits from these" }).click();
  await expect(slot(page, "where the limits come from: subgroups 1 to 15")).toBeVisible();
  await expect(page.getByText("limits from subgroups 1 to 15", { exact: true })).toBeVisible();

  await dragOver(page, 0.61, 0.99);
  await page.getByRole("button", { name: "Start a phase at 19…" }).click();
  await page.getByLabel("Name of the new phase").fill("new die");
  await page.keyboard.press("Enter");
  await expect(slot(page, "phases cut by hand: 2 phases cut by hand")).toBeVisible();
  await expect(page.getByText(/From phase 1 to new die the mean moved by −0\.0\d+ mm/)).toBeVisible();
  await page.getByRole("slider", { name: "Start of phase new die" }).focus();
  await page.keyboard.press("ArrowLeft");
  await expect(page.getByRole("slider", { name: "Start of phase new die" })).toHaveAttribute("aria-valuenow", "18");

  const points = page.getByRole("slider", { name: "Points of lens thickness" });
  await points.focus();
  await page.keyboard.press("Home");
  await page.keyboard.press("Shift+ArrowRight");
  await page.getByRole("region", { name: "subgroups 1 to 2" }).getByRole("button", { name: "Open their rows" }).click();
  await expect(page.getByText("10 rows carried over from a study")).toBeVisible();

  await page.goBack();
  await page.getByRole("button", { name: "Show" }).click();
  await expect(
    page.getByRole("menuitemcheckbox", { name: /Specification limits.*about single pieces/ }),
  ).toBeDisabled();
  await page.getByRole("menuitemcheckbox", { name: "Zones of 1 and 2 sd" }).click();
  await expect(page.getByTestId("zones").first()).toBeVisible();
});

test("a signal gets its cause, and only then may its points be left out", async ({ page, server }) => {
  await page.goto(server.address);
  const waiting = page.getByRole("link", { name: /signals wait for a cause/ });
  const before = Number((await waiting.textContent())?.split(" ")[0]);
  await waiting.click();
  await page
    .getByRole("region", { name: "Beam flux, final test" })
    .getByRole("link", { name: /Value 48 lies below/ })
    .click();
  const card = page.getByRole("region", { name: "Signal" });
  await expect(card).toContainText("Signal 1 of 3");
  await expect(card.getByRole("checkbox", { name: /Leave its points out/ })).toBeDisabled();
  await card.getByLabel("Cause", { exact: true }).fill("weak LED reel");
  await card.getByLabel("Cause", { exact: true }).press("Enter");
  // Typed one after the other without waiting: nothing gets lost.
  await card.getByLabel("Action", { exact: true }).fill("sort the reel");
  // The server is away for one text: it stays, says so, and is sent when the field is left again.
  await page.route(/\/signals\//, (route) => route.abort(), { times: 1 });
  await card.getByLabel("Action", { exact: true }).press("Enter");
  await expect(card.getByLabel("Action", { exact: true })).toHaveAttribute("aria-invalid", "true");
  await expect(card.getByLabel("Action", { exact: true })).toHaveValue("sort the reel");
  await card.getByLabel("Action", { exact: true }).press("Enter");
  await expect(card.getByLabel("Action", { exact: true })).toHaveAttribute("aria-invalid", "false");
  await card.getByLabel("Owner").fill("Ida");
  await card.getByLabel("Due").fill("2026-05-20");
  await card.getByLabel("In words").fill("bins were mixed");
  await card.getByLabel("In words").press("Enter");
  await expect(page.getByTestId("flag")).toHaveCount(1);
  await card.getByRole("checkbox", { name: /Leave its points out/ }).click();
  await expect(verdict(page)).toHaveText("One run of 11 sits below the centre.");
  await expect(page.locator("circle[data-omitted]")).toHaveCount(1);
  await page.reload();
  await expect(card).toContainText("No longer a signal");
  await expect(card.getByLabel("Action", { exact: true })).toHaveValue("sort the reel");
  await expect(card.getByLabel("Owner")).toHaveValue("Ida");
  await expect(page.getByText(/left out of the limits\. Action: sort the reel, Ida\./)).toBeVisible();

  await page.getByRole("main").click({ position: { x: 300, y: 10 } });
  await page.keyboard.press("]");
  await expect(card).toContainText("Signal 1 of 1");
  await expect(card).toContainText("11 values in a row below the centre");
  await card.getByRole("radio", { name: "weak LED reel" }).click();
  await expect(page.getByTestId("flag")).toHaveCount(2);
  await page.goto(`${server.address}/signals`);
  await expect(page.getByRole("heading", { name: new RegExp(`^${before - 3} signals wait`) })).toBeVisible();
  await expect(page.getByRole("region", { name: "Open actions" })).toContainText("sort the reel");
});

test("frozen limits go stale, are renewed, and the old ones stay in the history", async ({ page, server }) => {
  await openStudy(page, server, "Beam flux, final test");
  await slot(page, /where the limits come from/).click();
  await page.getByRole("radio", { name: /known values/ }).click();
  await page.getByLabel("centre").fill("520");
  await page.getByLabel("sd", { exact: true }).fill("7");
  await page.getByLabel("set by").fill("Jonas");
  await page.getByLabel("set on").fill("2025-11-03");
  await page.getByRole("button", { name: "Use", exact: true }).click();
  await expect(slot(page, /known values, centre 520 and sd 7, set by Jonas on 2025-11-03/)).toBeVisible();
  await expect(
    page.getByText(/The limits no longer describe the process: the newest 50 values lie \d+\.\d+ lm below/),
  ).toBeVisible();
  await page.getByRole("button", { name: "Renew the limits from values 71 to 120" }).click();
  await expect(slot(page, "where the limits come from: values 71 to 120")).toBeVisible();
  await expect(page.getByText(/no longer describe/)).toHaveCount(0);
  await page.getByRole("button", { name: "History" }).click();
  await expect(
    page.getByText(/limits from known values, centre 520 and sd 7, set by Jonas on 2025-11-03/),
  ).toBeVisible();
});

test("a new signal on live data shows on the Wall at once", async ({ page, server }) => {
  await page.goto(server.address);
  const card = dialOf(page, "Battery run time");
  await expect(card).toBeVisible();
  const waiting = page.getByRole("link", { name: /signals wait for a cause/ });
  const before = Number((await waiting.textContent())?.split(" ")[0]);
  const datasets = await (await page.request.get(`${server.address}/api/datasets`)).json();
  const dataset = datasets.find((dataset: { name: string }) => dataset.name === "Battery run time");
  const column = dataset.columns.find((column: { name: string }) => column.name === "run time");
  const edit = { revision: dataset.revision, column_id: column.id, row: 40, text: "3.9" };
  await page.request.patch(`${server.address}/api/datasets/${dataset.id}/cells`, { data: edit });
  await expect(waiting).not.toHaveText(new RegExp(`^${before} `), { timeout: 5000 });
  await expect(page.getByRole("heading", { name: /^4 of 10 are not steady, 3 need a look/ })).toBeVisible();
});
