import { readFile } from "node:fs/promises";
import type { Page } from "@playwright/test";
import { dialOf, expect, type Server, studyAddress, test, verdict } from "./server";

const open = async (page: Page, server: Server, dataset: string, method: string) =>
  page.goto(await studyAddress(server, dataset, method));
const take = async (page: Page, slot: RegExp, choice: RegExp) => {
  await page.getByRole("button", { name: slot }).click();
  await page.getByRole("radio", { name: choice }).click();
};

test("limits live with the column: changed in the statement, the verdict, the Wall and the history follow", async ({
  page,
  server,
}) => {
  await page.goto(server.address);
  const dial = dialOf(page, "Groove depth, housing");
  await expect(dial).toContainText("Ppk 0.87");
  await open(page, server, "Groove depth, housing", "capability");
  await expect(verdict(page)).toHaveText(/^Move the mean down by 0\.0289 mm .* Ppk 0\.87, likely 0\.75 to 0\.99\.$/);
  await page.getByRole("button", { name: "limits: 1.1 to 1.3 mm" }).click();
  await page.getByRole("textbox", { name: "USL" }).fill("1,35");
  await page.getByRole("textbox", { name: "USL" }).press("Enter");
  await expect(page.getByRole("button", { name: "limits: 1.1 to 1.35 mm" })).toBeVisible();
  // A limit below the lower one is refused in words, and nothing changes.
  await page.getByRole("textbox", { name: "USL" }).fill("1.05");
  await page.getByRole("textbox", { name: "USL" }).press("Enter");
  await expect(page.getByRole("alert")).toContainText("limit");
  await page.keyboard.press("Escape");
  // The index is met, its interval reaches below: no calm yet, and how many values would settle it.
  await expect(page.getByText("May meet the limits")).toBeVisible();
  await expect(verdict(page)).toContainText(/Ppk 1\.48, likely .* cannot tell; \d+ more would/);
  await expect(
    page.getByRole("img", { name: /groove depth: mean 1\.2289 mm, .* USL 1\.350 mm, steady/ }),
  ).toBeVisible();
  await page.getByRole("button", { name: "History" }).click();
  await expect(page.getByText("USL of groove depth: 1.3 → 1.35")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("link", { name: "Wall" }).click();
  await expect(dial).toContainText("Ppk 1.48");
});

test("a value lights up in order, histogram and plot; the spread opens underneath", async ({ page, server }) => {
  await open(page, server, "Groove depth, housing", "capability");
  await expect(verdict(page)).toBeVisible();
  const figure = page.getByRole("slider", { name: "Values of groove depth" });
  await figure.focus();
  await page.keyboard.press("ArrowUp");
  await expect(figure).toHaveAttribute("aria-valuetext", /^1\.\d+ mm · \d+ from 1\.\d+ to 1\.\d+/);
  await expect(page.locator("[data-lit]")).toHaveCount(1);
  await expect(page.getByTestId("lit")).toBeVisible();
  await page.getByRole("button", { name: "Show" }).click();
  await page.getByRole("menuitemcheckbox", { name: "Spread underneath" }).click();
  await expect(page.getByTestId("spread")).toContainText("Standard deviation (s) of 5");
  await page.getByRole("tab", { name: "Numbers" }).click();
  await expect(page.getByRole("row", { name: /worse side/ })).toHaveText("worse side (Cpk, Ppk)0.880.87");
  await expect(page.getByRole("row", { name: /^95.00 %/ })).toContainText("1.1690 mm1.2888 mm");
});

test("a skewed measurement: the misfit is said first, shapes are compared and one is taken", async ({
  page,
  server,
}) => {
  await open(page, server, "Seal leak rate", "capability");
  await take(page, /^shape:/, /^normal The usual/);
  await expect(page.getByText("The shape does not fit", { exact: true })).toBeVisible();
  await expect(verdict(page)).toContainText("misleads. Choose a distribution that fits.");
  await expect(page.getByText(/The curve puts about .* below 0\.00 mL\/min, where nothing can be\./)).toBeVisible();
  await page.getByRole("button", { name: "Take a power (Box and Cox)" }).click();
  await expect(page.getByRole("button", { name: "shape: normal after a power" })).toBeVisible();
  await expect(page.getByText("May meet the limits")).toBeVisible();
  await take(page, /^shape:/, /^the best of those fitted/);
  await page.getByRole("button", { name: "Compare the shapes" }).click();
  const cards = page.getByRole("button", { name: /^Take the / });
  await expect(cards).toHaveCount(14);
  // Shapes that fit as well disagree about the goal: the verdict spans them.
  await expect(page.getByText("Depends on the shape")).toBeVisible();
  await expect(cards.first()).toHaveAttribute("aria-pressed", "true");
  await cards.filter({ hasText: "" }).nth(3).click();
  await expect(page.getByRole("button", { name: "shape: lognormal" })).toBeVisible();
  await expect(page.getByRole("img", { name: /against a lognormal/ })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("button", { name: "shape: the best of those fitted" })).toBeVisible();
  await expect(verdict(page), "the answer of the shape before is replaced").toContainText("give Ppk 0.99 to 2.04");

  await page.getByRole("button", { name: "Show", exact: true }).click();
  await page.getByRole("menuitemcheckbox", { name: "How many values are needed" }).click();
  await page.getByLabel("Ppk within ±").fill("0.2");
  const takes = async () =>
    Number(
      /takes ([\d,]+) values/.exec((await page.getByRole("status").last().textContent()) ?? "")?.[1]?.replace(",", ""),
    );
  const before = await takes();
  await page.getByLabel("Ppk within ±").press("Enter");
  // Twice the width takes a quarter of the values.
  await expect.poll(takes).toBe(Math.ceil(before / 4));
});

test("many measurements stand side by side, sort, and open on a click", async ({ page, server }) => {
  await open(page, server, "Lens dimensions, receiving", "indices");
  await expect(page.getByText("4 of 7 meet their limits")).toBeVisible();
  const rows = page.getByRole("region", { name: "Indices" }).getByRole("rowheader");
  await expect(rows.first()).toContainText("diameter");
  await page
    .getByRole("button", { name: /^values/ })
    .first()
    .click();
  await page.getByRole("button", { name: /^what/ }).click();
  await expect(rows.first()).toContainText("diameter");
  await page.getByRole("button", { name: /^what/ }).click();
  await expect(rows.first()).toContainText("transmission");
  const saved = page.waitForEvent("download");
  await page.getByRole("button", { name: "Send out" }).click();
  await page.getByRole("menuitem", { name: "Figure as SVG" }).click();
  const picture = await readFile(await (await saved).path(), "utf8");
  expect(picture.match(/>(rib height|haze|diameter)</g)).toHaveLength(3);
  await page.getByRole("button", { name: "rib height" }).click();
  await expect(page.getByRole("button", { name: "measurement: rib height" })).toBeVisible();
  await expect(page.getByText("Not steady", { exact: true })).toBeVisible();
  // Cavity by cavity, and one of them alone.
  await page.goBack();
  await expect(page.getByRole("region", { name: "Indices" })).toBeVisible();
  await page.getByRole("button", { name: /^Say more/ }).click();
  await page.getByRole("button", { name: /^groups/ }).click();
  await page.getByRole("radio", { name: /cavity/ }).click();
  await page.getByRole("button", { name: "rib height, 3" }).click();
  await expect(page.getByRole("button", { name: "which one: 3" })).toBeVisible();
  await expect(page.getByText("30 values", { exact: true })).toBeVisible();
});

test("an answer that takes its time says so, can be stopped and asked for again", async ({ page, server }) => {
  let held = true;
  await page.route(/\/outcome/, async (route) => {
    if (held) await new Promise((resolve) => setTimeout(resolve, 5000));
    // A request that was stopped meanwhile cannot go on.
    await route.continue().catch(() => undefined);
  });
  await open(page, server, "Seal leak rate", "capability");
  await expect(page.getByText(/^Working on the answer, \d+ s$/)).toBeVisible();
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByText("Stopped", { exact: true })).toBeVisible();
  await expect(verdict(page)).toHaveCount(0);
  held = false;
  await page.getByRole("button", { name: "Ask again" }).click();
  await expect(verdict(page)).toContainText("give Ppk 0.99 to 2.04");
});
