import { expect, openDataset, test } from "./server";

test("cells are edited by key, wrong text stays in its field, and every change can be undone", async ({
  page,
  server,
}) => {
  await openDataset(page, server, "Beam flux, final test");
  const cell = (row: number) => page.locator(`#cell-${row}-3`);
  await cell(1).click();
  const was = await cell(1).innerText();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("5O1");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText("“5O1” is not a number");
  await expect(page.getByLabel("beam flux, row 2")).toHaveValue("5O1");
  await page.getByLabel("beam flux, row 2").fill("470,5");
  await page.keyboard.press("Enter");
  await expect(cell(1)).toHaveText("470.5 ▼"); // below the lower limit
  await expect(cell(2)).toHaveAttribute("aria-selected", "true");
  await page.keyboard.press("Delete");
  await page.keyboard.press("Enter");
  await expect(cell(2)).toHaveText("missing");
  await expect(page.getByText("119 values, 1 missing")).toBeVisible();
  await expect(page.getByText("Row 2, beam flux:")).toContainText("→ 470,5");

  await page.getByRole("button", { name: "Undo" }).click();
  await expect(cell(2)).not.toHaveText("missing");
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+z");
  await expect(cell(1)).toHaveText(was);
});

test("what is typed is kept in its own cell when another is chosen, and nothing comes into that one", async ({
  page,
  server,
}) => {
  await openDataset(page, server, "Beam flux, final test");
  const cell = (row: number) => page.locator(`#cell-${row}-3`);
  await expect(cell(6)).toHaveText(/\d/);
  const other = await cell(6).innerText();
  await cell(3).click();
  await page.keyboard.type("512.5");
  await cell(6).click();
  await expect(cell(3)).toHaveText("512.5");
  await expect(cell(6)).toHaveText(other);
  // What is refused stays in its field.
  await cell(4).click();
  await page.keyboard.type("5O1");
  await cell(6).click();
  await expect(page.getByRole("alert")).toContainText("“5O1” is not a number");
  await expect(page.getByLabel("beam flux, row 5")).toHaveValue("5O1");
  await page.keyboard.press("Escape");
  await expect(cell(6)).toHaveText(other);
  await expect(page.getByText("Row 4, beam flux:")).toContainText("→ 512.5");
});

test("a million rows scroll to the end, and the export holds what the table shows", async ({ page, server }) => {
  const rows = Array.from({ length: 1_000_000 }, (_, i) => String(800 + (i % 97) / 10));
  await page.goto(`${server.address}/data`);
  await page.getByLabel("File to bring in").setInputFiles({
    name: "million.csv",
    mimeType: "text/csv",
    buffer: Buffer.from(`flux\n${rows.join("\n")}\n`),
  });
  await page.getByRole("button", { name: "Bring in 1,000,000 rows" }).click();
  const grid = page.getByRole("grid");
  await expect(grid).toHaveAttribute("aria-rowcount", "1000001");
  await grid.focus();
  await page.keyboard.press("Control+End");
  await expect(page.locator("#cell-999999-0")).toHaveText(Number(rows.at(-1)).toFixed(1));
  expect(await page.getByRole("gridcell").count()).toBeLessThan(60);
  await page.getByLabel("Go to row").fill("500,000");
  await page.keyboard.press("Enter");
  await expect(page.locator("#cell-499999-0")).toHaveText(Number(rows[499_999]).toFixed(1));

  await openDataset(page, server, "Groove depth, housing");
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Send out" }).click();
  await page.getByRole("menuitem", { name: /^CSV A text/ }).click();
  const file = await (await download).path();
  const lines = (await import("node:fs")).readFileSync(file, "utf8").trim().split("\n");
  expect(lines.length).toBe(126);
  expect(lines[0]).toBe("taken at,sample,groove depth");
  const shown = await page.locator("#cell-0-2").innerText();
  expect(lines[1]?.split(",")[2]).toBe(shown);
});

test("a dataset is renamed in place, and deleted only after asking twice", async ({ page, server }) => {
  await openDataset(page, server, "LED reels");
  await page.getByRole("button", { name: "LED reels" }).click();
  await page.getByLabel("Name of the dataset").fill("Reels of May");
  await page.getByLabel("Name of the dataset").press("Enter");
  await expect(page.getByRole("button", { name: "Reels of May" })).toBeVisible();
  await page.getByRole("button", { name: "Delete dataset" }).click();
  await expect(page.getByRole("grid")).toBeVisible();
  await page.getByRole("button", { name: "Really? This cannot be undone" }).click();
  await expect(page.getByRole("link", { name: "Beam flux, final test" })).toBeVisible();
  await expect(page.getByRole("link", { name: "Reels of May" })).toHaveCount(0);
});

test("the rows of a file meet the columns of a table, what has no place is said, and undoing takes them away", async ({
  page,
  server,
}) => {
  await openDataset(page, server, "Beam flux, final test");
  const grid = page.getByRole("grid");
  await expect(grid).toHaveAttribute("aria-rowcount", "121");
  // A file held over the table shows where it would go; anything else that is dragged does not.
  const main = page.getByRole("main");
  const drag = async (what: "dragover" | "dragleave", file: boolean) => {
    const dataTransfer = await page.evaluateHandle((file) => {
      const transfer = new DataTransfer();
      if (file) transfer.items.add(new File(["flux"], "a.csv"));
      else transfer.setData("text/plain", "flux");
      return transfer;
    }, file);
    await main.dispatchEvent(what, { dataTransfer });
  };
  await drag("dragover", false);
  await expect(main).toHaveCSS("outline-style", "none");
  await drag("dragover", true);
  await expect(main).toHaveCSS("outline-style", "dashed");
  await drag("dragleave", true);
  await expect(main).toHaveCSS("outline-style", "none");
  const text = "lamp;Beam Flux;humidity\n9001;512,5;40\n9002;bright;41\n";
  await page
    .getByLabel("File with rows to add")
    .setInputFiles({ name: "june.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await expect(page.getByText("because Beam flux, final test has no such column: humidity.")).toBeVisible();
  await expect(page.getByText("in the new rows: tested at, bench.")).toBeVisible();
  const add = page.getByRole("button", { name: "Add 2 rows" });
  await expect(add).toBeDisabled();
  // A reload asks the same again.
  await page.reload();
  await expect(page.getByText("Row 2, beam flux: “bright” is not a number.")).toBeVisible();
  await page.getByRole("button", { name: "Take it as missing" }).click();
  await page.getByRole("checkbox", { name: "add as a new column" }).check();
  await expect(page.getByText("missing in the rows that it has: humidity.")).toBeVisible();
  await add.click();
  await expect(grid).toHaveAttribute("aria-rowcount", "123");
  await expect(grid).toHaveAttribute("aria-colcount", "6");
  await expect(page.locator("#cell-120-4")).toHaveText("40");
  await expect(page.locator("#cell-120-3")).toHaveText("512.5");
  await expect(page.locator("#cell-121-3")).toHaveText("missing");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(grid).toHaveAttribute("aria-rowcount", "121");
  await expect(grid).toHaveAttribute("aria-colcount", "5");
});

test("a unit beside each number is taken as the unit, or the cells are kept as they are written", async ({
  page,
  server,
}) => {
  await page.goto(`${server.address}/data`);
  const file = (name: string, text: string) => ({ name, mimeType: "text/csv", buffer: Buffer.from(text) });
  // Two files of one layout become one table.
  await page
    .getByLabel("File to bring in")
    .setInputFiles([file("b.csv", "lot,gap\nC,12.5 mm\n"), file("a.csv", "lot,gap\nA,12.3 mm\nB,12.4 mm\n")]);
  await expect(page.getByText("2 files, one after the other: a.csv (2 rows), b.csv (1 row).")).toBeVisible();
  await expect(page.getByText("gap: “mm” beside the numbers is taken as their unit.")).toBeVisible();
  await page.getByRole("button", { name: "Keep the cells as they are written" }).click();
  await expect(page.getByRole("cell", { name: "12.3 mm" })).toBeVisible();
  await expect(page.getByText("is taken as their unit")).toHaveCount(0);
});

test("a block of cells is chosen by key and mouse, copied, filled down and cleared, each undone in one step", async ({
  page,
  server,
  context,
}) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await openDataset(page, server, "Beam flux, final test");
  const cell = (row: number, column = 3) => page.locator(`#cell-${row}-${column}`);
  await expect(cell(4)).toHaveText(/\d/);
  const was = await Promise.all([2, 3, 4].map((row) => cell(row).innerText()));
  await cell(2, 2).click();
  await page.keyboard.press("Shift+ArrowRight");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  const size = page.getByRole("status").filter({ hasText: "3 rows × 2 columns, 6 cells; mean" });
  await expect(size).toBeVisible();
  await expect(page.locator('[role="gridcell"][aria-selected="true"]')).toHaveCount(6);
  await page.keyboard.press("Control+c");
  await expect(page.getByText("Copied 6 cells.")).toBeVisible();
  const copied = (await page.evaluate(() => navigator.clipboard.readText())).split("\n");
  expect(copied.map((line) => Number(line.split("\t")[1]))).toEqual(was.map(Number));

  // The mouse drags a block; the first of its rows goes into the others.
  await cell(2).hover();
  await page.mouse.down();
  await cell(4).hover();
  await page.mouse.up();
  await page.keyboard.press("Control+d");
  await expect(page.getByText("Filled 2 cells.")).toBeVisible();
  await expect(cell(4)).toHaveText(was[0] ?? "");
  await page.keyboard.press("Delete");
  await expect(cell(3)).toHaveText("missing");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(cell(3)).toHaveText(was[0] ?? "");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(cell(4)).toHaveText(was[2] ?? "");

  // What was copied is put back elsewhere, from the first corner of the block on.
  await cell(10, 2).click();
  await page.keyboard.press("Control+v");
  await expect(page.getByText("Pasted 6 cells.")).toBeVisible();
  await expect(cell(12)).toHaveText(was[2] ?? "");

  // Cells far out of sight are read before they are copied, and Escape leaves one cell.
  await page.keyboard.press("Control+a");
  const chosen = (words: string) => page.getByRole("status").filter({ hasText: words });
  await expect(chosen("120 rows")).toBeVisible();
  await page.keyboard.press("Control+c");
  await expect(page.getByText("Copied 480 cells.")).toBeVisible();
  expect((await page.evaluate(() => navigator.clipboard.readText())).split("\n").length).toBe(120);
  await page.keyboard.press("Escape");
  await expect(chosen("120 rows")).toHaveCount(0);

  // Whole rows are put in, doubled and deleted.
  const grid = page.getByRole("grid");
  await page.keyboard.press("Control+Home");
  await page.getByRole("rowheader", { name: "3", exact: true }).click();
  await page.getByRole("rowheader", { name: "4", exact: true }).click({ modifiers: ["Shift"] });
  await page.getByRole("button", { name: "Insert above" }).click();
  await expect(grid).toHaveAttribute("aria-rowcount", "123");
  await expect(cell(3)).toHaveText("missing");
  await expect(cell(4)).toHaveText(was[0] ?? "");
  await page.getByRole("button", { name: "Delete rows" }).click();
  await expect(grid).toHaveAttribute("aria-rowcount", "121");
  await expect(cell(2)).toHaveText(was[0] ?? "");
  await page.getByRole("button", { name: "Duplicate rows" }).click();
  await expect(cell(5)).toHaveText(was[1] ?? "");
});
