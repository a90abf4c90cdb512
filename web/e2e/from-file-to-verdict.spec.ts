import { dialOf, expect, test, verdict } from "./server";

/** Thirty lamps, the last third dimmer; a letter O in row 12; as a spreadsheet in a decimal-comma country exports it. */
function messyExport(): string {
  const rows = Array.from({ length: 30 }, (_, i) => {
    const flux = (512 + ((i * 7) % 5) - (i >= 20 ? 9 : 0)).toFixed(1).replace(".", ",");
    return `${String(4 + Math.floor(i / 10)).padStart(2, "0")}.05.2026 ${String(6 + (i % 10)).padStart(2, "0")}:00;${i + 1};${i === 11 ? flux.replace("0", "O") : flux}`;
  });
  return ["Fennel Hollow Lamp Works;;", "", "tested at;lamp;beam flux", ...rows, "Total;30;"].join("\r\n");
}

test("a messy file becomes a typed table, a study and a verdict that follows its statement", async ({
  page,
  server,
}) => {
  await page.goto(`${server.address}/data`);
  await page
    .getByLabel("File to bring in")
    .setInputFiles({ name: "beam-flux_final.csv", mimeType: "text/csv", buffer: Buffer.from(messyExport(), "latin1") });

  await expect(page.getByText("Semicolons between columns, comma as decimal sign.")).toBeVisible();
  await expect(page.getByText("Line 34 is a total: left out.")).toBeVisible();
  await expect(page.getByLabel("Kind of tested at")).toHaveValue("date-time");
  await expect(page.getByLabel("Kind of beam flux")).toHaveValue("number");
  const store = page.getByRole("button", { name: "Bring in 30 rows" });
  await expect(store).toBeDisabled();
  await expect(page.getByText(/Row 12, beam flux: “.*O” is not a number/)).toBeVisible();
  await page.getByRole("button", { name: /^Take 5/ }).click();
  await page.getByLabel("Name of column 2").fill("lamp number");
  await page.getByLabel("Name of column 2").press("Enter");
  await expect(page.getByLabel("Kind of lamp number")).toHaveValue("whole-number");
  await store.click();

  await expect(page.getByRole("heading", { name: "30 rows, 3 columns" })).toBeVisible();
  await page
    .getByRole("columnheader", { name: /beam flux/ })
    .getByRole("button")
    .click();
  await page.getByLabel("unit").fill("lm");
  await page.getByLabel("LSL").fill("480");
  await page.getByLabel("LSL").press("Enter");
  await expect(page.getByRole("columnheader", { name: /beam flux, lm number · from 480/ })).toBeVisible();
  await page.getByLabel("USL").fill("470");
  await page.getByLabel("USL").press("Enter");
  await expect(page.getByRole("alert")).toContainText("LSL 480 is not below USL 470");
  await expect(page.getByLabel("USL")).toHaveValue("470");
  await page.getByLabel("USL").fill("");
  await page.getByLabel("USL").press("Enter");

  await page.getByRole("button", { name: "Ask of this data" }).click();
  await page.getByRole("button", { name: /Is it steady\?/ }).click();
  await expect(page.getByRole("button", { name: "measurement: beam flux" })).toBeVisible();
  await expect(page.getByRole("button", { name: "order: tested at" })).toBeVisible();
  await expect(verdict(page)).toContainText("one side of the centre");
  await expect(page.getByText("LSL 480")).toHaveCount(0); // out of reach of the values: it would flatten them

  await page.getByRole("button", { name: /where the limits come from/ }).click();
  await page.getByRole("radio", { name: /values … to …/ }).click();
  await page.getByLabel("first value").fill("1");
  await page.getByLabel("last value").fill("20");
  await page.getByRole("button", { name: "Use", exact: true }).click();
  await expect(page.getByRole("button", { name: /limits come from: values 1 to 20/ })).toBeVisible();
  await expect(verdict(page)).toContainText("one run of 10 sits below the centre");
  await expect(page.getByText("limits from values 1 to 20", { exact: true })).toBeVisible();

  await page.getByRole("button", { name: /patterns to watch for/ }).click();
  await page.getByLabel("length of run on one side").fill("11");
  for (const pattern of ["beyond the limits", "trend", "outer, near a limit"]) {
    await page.getByRole("checkbox", { name: pattern }).click();
  }
  await page.keyboard.press("Escape");
  await expect(verdict(page)).toHaveText("1 moving range is too large.");

  await page.getByRole("button", { name: "Is it steady?" }).click();
  await page.getByLabel("Name of the study").fill("Dim lamps in May");
  await page.getByLabel("Name of the study").press("Enter");
  await expect(page.getByRole("button", { name: "Dim lamps in May" })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("button", { name: "Dim lamps in May" })).toBeVisible();
  await expect(page.getByRole("button", { name: /1 pattern$/ })).toBeVisible();
  await expect(verdict(page)).toHaveText("1 moving range is too large.");

  await page.keyboard.press("Control+z");
  await expect(page.getByRole("button", { name: "Is it steady?" })).toBeVisible();

  await page.getByRole("link", { name: "Wall" }).click();
  await dialOf(page, /Beam flux final/).click();
  await expect(verdict(page)).toHaveText("1 moving range is too large.");
});

test("what is no table is refused in words and nothing is stored", async ({ page, server }) => {
  await page.goto(`${server.address}/data`);
  await expect(page.getByRole("row")).toHaveCount(20);
  const bring = (name: string, bytes: string) =>
    page
      .getByLabel("File to bring in")
      .setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(bytes, "latin1") });
  await bring("lamp.png", "\x89PNG\r\n\x1a\n\0\0");
  await expect(page.getByRole("alert")).toContainText("“lamp.png” is a picture, not a table");
  await bring("empty.csv", "");
  await expect(page.getByRole("alert")).toContainText("“empty.csv” is empty");
  await bring("book.xlsx", "PK\x03\x04broken");
  await expect(page.getByRole("alert")).toContainText("cannot be read");
  await page.getByLabel("Paste cells here").fill("lamp\tflux\n1\t512.5\n2\t513.5\n");
  await expect(page.getByText("Tabs between columns, point as decimal sign.")).toBeVisible();
  await page.getByRole("button", { name: "Leave it" }).click();
  await expect(page.getByRole("row")).toHaveCount(20);
  const dropped = await page.evaluateHandle(() => {
    const transfer = new DataTransfer();
    transfer.items.add(new File(["flux\n812.5\n813\n"], "dropped.csv"));
    return transfer;
  });
  await page.getByRole("region", { name: "Bring data in" }).dispatchEvent("drop", { dataTransfer: dropped });
  await expect(page.getByRole("button", { name: "Bring in 2 rows" })).toBeEnabled();
  await page.getByRole("link", { name: "Data", exact: true }).first().click();
  await expect(page.getByRole("row")).toHaveCount(20);
});
