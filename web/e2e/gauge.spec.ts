import { expect, openDataset, studyAddress, test, verdict } from "./server";

test("a gauge study says how much the gauge takes, who is off, and what would help", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Groove depth, gauge study", "gauge-crossed"));
  await expect(verdict(page)).toContainText(
    /The gauge takes 15\.0 % of the tolerance, likely .* tells 8 steps apart; Jonas reads 0\.0047 mm high/,
  );
  await expect(page.getByText("Jonas +0.0047 mm reads off")).toBeVisible();
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
  await expect(page.getByRole("alert")).toContainText("ranges need equally many readings");
  await page.getByRole("button", { name: "method: ranges" }).click();
  await page.getByRole("radio", { name: /^both methods/ }).click();
  await expect(verdict(page)).toContainText(/89 of 90 readings, so far: the gauge takes 15\.\d % of the tolerance/);
  await expect(page.getByText("Ida has 2 readings of part 1 where others have 3.")).toBeVisible();
});

test("every view of a gauge study is reached by keyboard and left again", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Groove depth, gauge study", "gauge-crossed"));
  await expect(verdict(page)).toBeVisible();
  for (const [item, label] of [
    ["In the order measured", /^90 readings of groove depth in the order measured/],
    ["Part means by operator", /^Mean of each part of groove depth by operator/],
    ["Operators in pairs", /two operators at a time/],
    [
      "Components of variation",
      /repeatability 1\.8 %, operators 0\.8 %, part × operator 0\.3 %, parts 97\.1 % of the variance/,
    ],
  ] as const) {
    const show = page.getByRole("button", { name: "Show", exact: true });
    await show.focus();
    await page.keyboard.press("Enter");
    await page.getByRole("menuitemcheckbox", { name: item }).press("Enter");
    await expect(page.getByRole("img", { name: label })).toBeVisible();
    await page.getByRole("button", { name: "Back to the chart" }).press("Enter");
    await expect(page.getByRole("slider", { name: "Readings of groove depth" })).toBeVisible();
  }
});

test("inspection is judged piece by piece, and the rows of a piece that divides people are opened", async ({
  page,
  server,
}) => {
  await page.goto(await studyAddress(server, "Solder joints, inspection study", "gauge-attribute"));
  await expect(verdict(page)).toContainText(
    /All agree with the reference on 22 of 40 pieces .* Lena misses 38 % of the bad/,
  );
  const grid = page.getByRole("slider", { name: "Judgements of judgement" });
  await grid.focus();
  await page.keyboard.press("ArrowRight");
  await expect(grid).toHaveAttribute("aria-valuetext", /^J17, reject by the reference: Hanna accept, accept; Lena /);
  await page.keyboard.press("Enter");
  await expect(page.getByText("6 rows carried over from a study")).toBeVisible();
  await page.goBack();
  await page.getByRole("tab", { name: "Numbers" }).click();
  await expect(page.getByRole("table", { name: "Wrong judgements" }).getByRole("row", { name: /^Lena/ })).toContainText(
    "37.5 %",
  );
  // Without its known states the study tells agreement alone.
  await page.getByRole("button", { name: "reference: true state" }).click();
  await page.getByRole("radio", { name: /^no reference/ }).click();
  await expect(verdict(page)).toContainText("All judgements agree on 22 of 40 pieces");
});
