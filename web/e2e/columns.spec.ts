import { expect, openDataset, test } from "./server";

test("rows are narrowed and ordered, kept as a view, edited where they stand, and asked of", async ({
  page,
  server,
}) => {
  await openDataset(page, server, "Beam flux, final test");
  const grid = page.getByRole("grid");
  const by = async (column: string) => {
    await page
      .getByRole("columnheader", { name: new RegExp(`^${column}`) })
      .getByRole("button")
      .click();
    await page.getByRole("button", { name: `Rows by ${column}` }).click();
  };
  await by("bench");
  await page.getByRole("checkbox", { name: "bench B" }).check();
  await page.getByRole("button", { name: "Show these" }).click();
  await expect(page.getByText("40 rows of 120")).toBeVisible();
  await by("beam flux");
  await page.getByLabel("from", { exact: true }).fill("520");
  await page.getByRole("button", { name: "Show", exact: true }).click();
  await by("beam flux");
  await page.getByRole("button", { name: "Largest first" }).click();
  const flux = page.locator("[id^=cell-][id$='-3']");
  await expect(page.getByText("by beam flux, largest first")).toBeVisible();
  await expect(page.getByRole("status").filter({ hasText: "of 120" })).toHaveText(/^\d+ rows of 120$/);
  const shown = (await flux.allInnerTexts()).map(Number);
  expect(shown.length).toBeGreaterThan(3);
  expect(shown).toEqual([...shown].sort((a, b) => b - a));
  expect(shown.every((value) => value >= 520)).toBe(true);

  // What is typed comes into the row that is shown there, and the file holds what is shown.
  const first = Number(await page.getByRole("rowheader").first().innerText());
  await flux.first().click();
  await page.keyboard.type("600.5");
  await page.keyboard.press("Enter");
  await expect(flux.first()).toHaveText("600.5");
  await page.getByRole("button", { name: "History" }).click();
  await expect(page.getByText(`Row ${first}, beam flux:`).first()).toContainText("→ 600.5");
  await page.keyboard.press("Escape");
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Send out" }).click();
  await page.getByRole("menuitem", { name: /^CSV A text/ }).click();
  const file = await (await download).createReadStream();
  let text = "";
  for await (const piece of file) text += piece;
  expect(text.trim().split("\n").length).toBe(shown.length + 1);
  expect(text.split("\n")[1]).toContain(",bench B,600.5");

  await page.getByRole("button", { name: "Keep as a view" }).click();
  await page.getByLabel("name of the view").fill("Bright ones of B");
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await page.getByRole("button", { name: "All rows" }).click();
  await expect(grid).toHaveAttribute("aria-rowcount", "121");
  await page.getByRole("button", { name: "1 view" }).click();
  await page.getByRole("menuitem", { name: "Bright ones of B" }).first().click();
  await expect(grid).toHaveAttribute("aria-rowcount", String(shown.length + 1));

  await page.getByRole("button", { name: "Ask of these rows" }).click();
  await expect(page.getByText("Asked of some rows: bench: bench B › beam flux: from 520")).toBeVisible();
  await page.getByRole("button", { name: /^What does it look like/ }).click();
  await expect(page.getByRole("navigation", { name: "Narrowed to" })).toContainText("beam flux: from 520");
});

test("a formula column follows its cells, says why it has no value, and goes with Undo", async ({ page, server }) => {
  await openDataset(page, server, "Beam flux, final test");
  await page.getByRole("button", { name: "New column" }).click();
  await page.getByRole("dialog").getByLabel("name").fill("step");
  const formula = page.getByRole("dialog").getByLabel("formula");
  await formula.fill("difference(`beam fluks`)");
  await expect(page.getByText("nothing is called “beam fluks”; is “beam flux” meant?")).toBeVisible();
  await expect(page.getByRole("button", { name: "Add it" })).toBeDisabled();
  await formula.fill("round(10 * difference(`beam flux`)) / 10");
  await expect(page.getByText("1 row gets no value; row 1: no row stands above it.")).toBeVisible();
  await page.getByRole("button", { name: "Add it" }).click();
  const cell = (row: number, column: number) => page.locator(`#cell-${row}-${column}`);
  await cell(2, 3).click();
  await page.keyboard.type("600");
  await page.keyboard.press("Enter");
  await cell(3, 3).click();
  await page.keyboard.type("601.5");
  await page.keyboard.press("Enter");
  await expect(cell(3, 4)).toHaveText("1.5");
  await cell(0, 4).click();
  await expect(page.getByText("Row 1 has no step: no row stands above it.")).toBeVisible();
  await page.keyboard.type("7");
  await expect(page.getByText("step is worked out by its formula; change that in its properties.")).toBeVisible();
  // Another formula, then plain values that can be typed over.
  await page.getByRole("complementary").getByLabel("formula").fill("difference(`beam flux`) * 100");
  await page.getByRole("button", { name: "Keep it" }).click();
  await expect(cell(3, 4)).toHaveText("150");
  await page.getByRole("button", { name: "Turn into plain values" }).click();
  await expect(page.getByRole("button", { name: "Turn into plain values" })).toHaveCount(0);
  await cell(3, 4).click();
  await page.keyboard.type("7");
  await page.keyboard.press("Enter");
  await expect(cell(3, 4)).toHaveText(/^7/);
  for (let k = 0; k < 6; k++) {
    await page.getByRole("button", { name: "Undo" }).click();
    await expect(page.getByText("The last change is undone.").last()).toBeVisible();
    await expect(page.getByRole("button", { name: "Undo" })).toBeEnabled();
  }
  await expect(page.getByRole("grid")).toHaveAttribute("aria-colcount", "5");
});

test("columns are hidden, moved, doubled and deleted, and a block that is pasted over the end brings its rows", async ({
  page,
  server,
  context,
}) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await openDataset(page, server, "Beam flux, final test");
  const heads = page.getByRole("columnheader");
  await page.getByRole("button", { name: "Columns" }).click();
  await page.getByRole("checkbox", { name: "tested at" }).uncheck();
  await expect(heads).toHaveCount(4);
  await page.getByRole("button", { name: "Move bench up" }).click();
  await expect(page.getByRole("button", { name: "Move bench up" })).toBeEnabled();
  await page.getByRole("button", { name: "Move bench up" }).click();
  await expect(page.getByRole("button", { name: "Move bench up" })).toBeDisabled();
  await page.keyboard.press("Escape");
  await expect(heads.nth(1)).toContainText("bench");
  await heads.nth(3).getByRole("button").click();
  await page.getByRole("button", { name: "Duplicate column" }).click();
  await expect(heads.nth(4)).toContainText("beam flux again");
  await heads.nth(4).getByRole("button").click();
  await page.getByRole("button", { name: "Delete column" }).click();
  await expect(page.getByText("Deleted the column beam flux again; Undo brings it back.")).toBeVisible();
  await expect(heads).toHaveCount(4);

  await page.evaluate(() => navigator.clipboard.writeText("7001\t501.5\n7002\t502.5\n7003\t503.5"));
  const grid = page.getByRole("grid");
  await grid.focus();
  await page.keyboard.press("Control+End");
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("Control+v");
  await expect(page.getByText("Pasted 6 cells, 2 rows of them new.")).toBeVisible();
  await expect(grid).toHaveAttribute("aria-rowcount", "123");
  await page.keyboard.press("Control+End");
  await expect(page.locator("#cell-121-2")).toHaveText("503.5");
  await page.getByRole("button", { name: "History" }).click();
  await expect(page.getByText("Pasted 3 × 2 cells over rows 120 to 122")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(grid).toHaveAttribute("aria-rowcount", "121");
});

test("a text is found from cell to cell and replaced everywhere, and what is doubtful is shown", async ({
  page,
  server,
}) => {
  await openDataset(page, server, "Beam flux, final test");
  await page.getByRole("grid").focus();
  await page.keyboard.press("Control+f");
  const bar = page.getByRole("search", { name: "Find and replace" });
  await bar.getByLabel("Find", { exact: true }).fill("BENCH C");
  await expect(bar.getByRole("status")).toHaveText("40 cells");
  await bar.getByLabel("Find", { exact: true }).press("Enter");
  await bar.getByLabel("Find", { exact: true }).press("Enter");
  await expect(bar.getByRole("status")).toHaveText("2 of 40");
  await expect(page.locator("#cell-5-2")).toHaveAttribute("aria-selected", "true");
  await bar.getByLabel("Replace with").fill("bench D");
  await bar.getByRole("button", { name: "Replace all" }).click();
  await expect(page.getByText("Replaced in 40 cells.")).toBeVisible();
  await expect(page.locator("#cell-5-2")).toHaveText("bench D");
  await bar.getByRole("button", { name: "Close" }).click();

  await page
    .getByRole("columnheader", { name: /^beam flux/ })
    .getByRole("button")
    .click();
  await expect(page.getByText("1 value lies beyond a limit.")).toBeVisible();
  await page.getByRole("button", { name: "Show them" }).click();
  await expect(page.getByText("1 row of 120")).toBeVisible();
  await expect(page.locator("#cell-0-3")).toHaveText(/▼/);
});
