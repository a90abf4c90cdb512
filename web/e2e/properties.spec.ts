import { expect, openDataset, test } from "./server";

test("a specification list fills in the properties of many columns, and what a column cannot be is refused", async ({
  page,
  server,
}) => {
  await openDataset(page, server, "Lens dimensions, receiving");
  await page.getByRole("button", { name: "Columns", exact: true }).click();
  await page.getByRole("button", { name: "Properties of all columns" }).click();
  const list =
    "characteristic,unit,nominal,tolerance,USL,lower bound\nthickness,mm,2.4,0.05,,0\nhaze,%,,,1.0,0\nweight,g,12,1,,\n";
  const file = { name: "limits.csv", mimeType: "text/csv", buffer: Buffer.from(list) };
  await page.getByLabel("Read a specification list").setInputFiles(file);
  await expect(page.getByLabel("LSL of thickness")).toHaveValue("2.35");
  await expect(page.getByText("Not here:")).toBeVisible();
  // What is typed beside it outlasts closing.
  await page.getByLabel("highest believed of haze").fill("0.8");
  await page.getByRole("button", { name: "Close" }).click();
  await page.getByRole("button", { name: "Columns", exact: true }).click();
  await page.getByRole("button", { name: "Properties of all columns" }).click();
  await expect(page.getByLabel("highest believed of haze")).toHaveValue("0.8");
  await page.getByRole("button", { name: "Keep 2 changed columns" }).click();
  await expect(page.getByRole("columnheader", { name: /^thickness/ })).toContainText("2.35 to 2.45");

  const haze = page.getByRole("columnheader", { name: /^haze/ });
  await haze.getByRole("button").click();
  await expect(page.getByText("outside what is believed, from 0 to 0.8", { exact: false })).toBeVisible();
  const cell = page.locator("#cell-0-6");
  await cell.click();
  await page.keyboard.type("-1");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText("haze cannot be below 0; −1 is");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(page.getByRole("columnheader", { name: /^thickness/ })).not.toContainText("2.35 to 2.45");
  await page.getByRole("button", { name: "History" }).click();
  await expect(page.getByText("Properties of 2 columns changed")).toBeVisible();
});

test("limits of each product come from a list, are changed in place, and what they mean is told of each row and each answer", async ({
  page,
  server,
}) => {
  await openDataset(page, server, "Battery run time");
  const mark = (row: number) => page.locator(`#cell-${row}-3`);
  await expect(mark(1)).toHaveText("5.17");
  await page.getByRole("button", { name: "Columns", exact: true }).click();
  await page.getByRole("button", { name: "Properties of all columns" }).click();
  const list = "characteristic,cell maker,LSL,unit\nrun time,Brook,5.2,h\nrun time,Larch,5.4,h\n";
  const file = { name: "limits.csv", mimeType: "text/csv", buffer: Buffer.from(list) };
  await page.getByLabel("Read a specification list").setInputFiles(file);
  await expect(page.getByText("2 lines of limits by product or date")).toBeVisible();
  await page.getByRole("button", { name: "Keep 1 changed column" }).click();
  const head = page.getByRole("columnheader", { name: /^run time/ });
  await expect(head).toContainText("limits by product");
  await expect(mark(0)).toHaveText("5.30");
  await expect(mark(1)).toHaveText("5.17 ▼");

  await head.getByRole("button").click();
  await page.getByRole("button", { name: "Other limits: 2 lines by cell maker" }).click();
  await page.getByLabel("LSL, line 2").fill("5.1");
  await page.getByRole("button", { name: "Add a line" }).click();
  await page.getByLabel("cell maker, line 3").fill("Larch");
  await page.getByRole("button", { name: "Keep the limits" }).click();
  await expect(page.getByRole("alert")).toContainText("line 3 of the limits: line 2 is about the same rows");
  await page.getByRole("button", { name: "Take line 3 away" }).click();
  await page.getByRole("button", { name: "Keep the limits" }).click();
  await expect(mark(1)).toHaveText("5.17");
  await page.getByRole("link", { name: "Is it steady?" }).click();
  await expect(page.getByText("The limits of run time differ among these rows", { exact: false })).toBeVisible();
});

test("rows are put in an order for good, columns freeze, and a chosen block goes out by itself", async ({
  page,
  server,
}) => {
  await openDataset(page, server, "Lens dimensions, receiving");
  const thickness = page.locator("[id^=cell-][id$='-2']");
  await page
    .getByRole("columnheader", { name: /^thickness/ })
    .getByRole("button")
    .click();
  const before = await thickness.first().innerText();
  await page.getByRole("button", { name: "Rows by thickness" }).click();
  await page.getByRole("button", { name: "Smallest first" }).click();
  await page.getByRole("button", { name: "Keep the rows in this order" }).click();
  await expect(page.getByText("by thickness", { exact: true })).toBeHidden();
  const read = async () => (await thickness.allInnerTexts()).map((text) => Number(text.split(" ")[0]));
  const isOrdered = (values: number[]) =>
    values.every((value, place) => place === 0 || value >= (values[place - 1] ?? 0));
  await expect.poll(async () => isOrdered(await read())).toBe(true);
  const shown = await read();

  await page.getByRole("button", { name: "Freeze up to here" }).click();
  await page.getByRole("grid").evaluate((grid) => {
    grid.scrollLeft = 400;
  });
  const fromLeft = async () => {
    const [grid, held] = await Promise.all([page.getByRole("grid").boundingBox(), thickness.first().boundingBox()]);
    return (held?.x ?? 0) - (grid?.x ?? 0);
  };
  await expect.poll(fromLeft).toBeGreaterThan(0);
  expect(await fromLeft()).toBeLessThan(400);

  await thickness.nth(0).click();
  await page.keyboard.press("Shift+ArrowDown");
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Send out" }).last().click();
  await page.getByRole("menuitem", { name: /^CSV A text/ }).click();
  const file = await (await download).createReadStream();
  let text = "";
  for await (const piece of file) text += piece;
  expect(text.trim().split(/\r?\n/)).toEqual(["thickness", String(shown[0]), String(shown[1])]);

  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(thickness.first()).toHaveText(before);
});

test("tables are made of a table: summed up by group and stacked, seen before they are stored", async ({
  page,
  server,
}) => {
  await openDataset(page, server, "Lens dimensions, receiving");
  const begin = async () => {
    await page.getByRole("button", { name: "Columns", exact: true }).click();
    await page.getByRole("button", { name: "Make a table of this one" }).click();
  };
  await begin();
  await page.getByRole("button", { name: "Sum up" }).click();
  await page.getByRole("group", { name: "groups by" }).getByRole("checkbox", { name: "cavity" }).check();
  await page.getByRole("group", { name: "sum up" }).getByRole("checkbox", { name: "thickness" }).check();
  const sample = page.getByRole("region", { name: "First rows of it" });
  await expect(sample.getByRole("columnheader")).toHaveText([
    "cavity",
    "thickness count",
    "thickness mean",
    "thickness sd",
  ]);
  await expect(sample.getByRole("row")).toHaveCount(5);
  await page.getByLabel("called").fill("Lenses by cavity");
  await page.getByRole("button", { name: "Make 4 rows" }).click();
  await expect(page.getByRole("heading", { name: "4 rows, 4 columns" })).toBeVisible();
  await expect(page.getByText("summed up by cavity")).toBeVisible();
  // It follows what it was made of, until it is to stand by itself.
  await page.getByRole("link", { name: "Lens dimensions, receiving" }).click();
  await page.locator("#cell-0-2").click();
  await page.keyboard.type("3.6");
  await page.keyboard.press("Enter");
  await page.goBack();
  await expect(page.locator("#cell-0-2")).toHaveText(/^2\.4[34]/);
  await page.locator("#cell-0-2").click();
  await page.keyboard.type("5");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText("follows the table that it was made of");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Let it stand by itself" }).click();
  await expect(page.getByRole("region", { name: "What it follows" })).toBeHidden();

  await openDataset(page, server, "Lens dimensions, receiving");
  await begin();
  const stacked = page.getByRole("group", { name: "columns to stack" });
  await stacked.getByRole("checkbox", { name: "cavity" }).check();
  await stacked.getByRole("checkbox", { name: "received at" }).check();
  await expect(page.getByRole("alert")).toContainText("they cannot stand in one column");
  await stacked.getByRole("checkbox", { name: "received at" }).uncheck();
  await stacked.getByRole("checkbox", { name: "thickness" }).check();
  await expect(page.getByRole("button", { name: "Make 240 rows" })).toBeEnabled();
});
