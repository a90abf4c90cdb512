import { expect, openDataset, studyAddress, test, verdict } from "./server";

test("a gauge study says how much the gauge takes, who is off, and what would help", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Groove depth, gauge study", "gauge-crossed"));
  await expect(verdict(page)).toContainText(
    /The gauge takes 15\.0 % of the tolerance, likely .* tells 8 steps apart; Jonas reads 0\.0031 mm high/,
  );
  await expect(page.getByText("Jonas +0.0031 mm and Mei −0.0023 mm read off")).toBeVisible();
  await expect(page.getByText(/What would help: /)).toBeVisible();
  // Every reading by key, and the same readings about the mean of their part.
  const figure = page.getByRole("slider", { name: "Readings of groove depth" });
  await figure.focus();
  await page.keyboard.press("ArrowRight");
  await expect(figure).toHaveAttribute(
    "aria-valuetext",
    /^7 by Ida: 1\.1\d+ mm, [+−]0\.\d+ mm from the mean of the part$/,
  );
  await page.getByRole("button", { name: "Show", exact: true }).click();
  await page.getByRole("menuitemcheckbox", { name: "Readings less the mean of their part" }).press("Enter");
  await expect(page.getByText("Readings less the mean of their part (mm)")).toBeVisible();
  await page.getByRole("tab", { name: "Numbers" }).click();
  const gauge = page.getByRole("table", { name: "Components" }).getByRole("row", { name: /^gauge/ });
  await expect(gauge).toContainText("15.0 %");
  await gauge.getByRole("button", { name: "15.0 %" }).click();
  await expect(page.getByRole("dialog", { name: "%tolerance" })).toContainText("AIAG MSA");
});

test("a gauge study is asked of its readings, follows an edit, and names a cell that is short", async ({
  page,
  server,
}) => {
  await page.goto(`${server.address}/ask`);
  await page.getByRole("button", { name: /▾$/ }).click();
  await page.getByRole("menuitem", { name: "Groove depth, gauge study" }).click();
  await page.getByRole("button", { name: /^Can we trust the gauge\?/ }).click();
  await expect(page.getByRole("button", { name: "parts: housing" })).toBeVisible();
  await expect(page.getByRole("button", { name: "operators: inspector" })).toBeVisible();
  await expect(verdict(page)).toContainText("steps apart");
  await page.getByRole("button", { name: "method: both methods" }).click();
  await page.getByRole("radio", { name: /^ranges/ }).click();
  await expect(verdict(page)).toContainText(/The gauge takes 14\.\d % of the tolerance and tells/);
  const address = page.url();
  await openDataset(page, server, "Groove depth, gauge study");
  await page.locator("#cell-0-3").dblclick();
  await page.getByLabel("groove depth, row 1").fill("");
  await page.getByLabel("groove depth, row 1").press("Enter");
  await page.goto(address);
  await expect(page.getByRole("alert")).toContainText(/Ida has 2 readings of part 1 where others have 3/);
});
