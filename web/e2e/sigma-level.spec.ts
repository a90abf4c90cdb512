import { expect, studyAddress, test, verdict } from "./server";

test("typed numbers answer with every key, are kept, and refuse what cannot be", async ({ page, server }) => {
  await page.goto(`${server.address}/ask`);
  await page.getByRole("button", { name: /How bad is it\?/ }).click();
  await page.getByRole("button", { name: /^where the numbers come from/ }).click();
  await page.getByRole("radio", { name: /^typed counts Units/ }).click();
  await page.getByRole("textbox", { name: "units inspected" }).fill("1250");
  await page.getByRole("textbox", { name: /^chances in each/ }).fill("14");
  await page.getByRole("textbox", { name: "defects found" }).pressSequentially("193");
  await expect(verdict(page)).toHaveText(
    "Sigma level 3.79 with the shift of 1.5: 11,029 defects in a million chances, likely 9,534 to 12,688.",
  );
  await expect(page.getByTestId("bad-squares")).toBeVisible();
  await page.reload();
  await expect(page.getByRole("textbox", { name: "defects found" })).toHaveValue("193");
  await page.getByRole("textbox", { name: "defects found" }).fill("19300");
  await expect(page.getByRole("alert")).toContainText("19300 are more than the 17500 chances there were");
  // Half typed, no old answer stands beside it.
  await page.getByRole("textbox", { name: "defects found" }).fill("");
  await expect(verdict(page)).toHaveCount(0);
  await page.getByRole("textbox", { name: "defects found" }).fill("0");
  await expect(verdict(page)).toContainText("There is no sigma level to such counts.");

  await page.getByRole("button", { name: /^where the numbers come from/ }).click();
  await page.getByRole("radio", { name: /several steps/ }).click();
  await page.getByRole("textbox", { name: /^step/ }).fill("moulding");
  await page.getByRole("textbox", { name: /^units inspected/ }).fill("1000");
  await page.getByRole("textbox", { name: /^defects found/ }).fill("50");
  await page.getByRole("button", { name: "another step" }).click();
  await page.getByLabel("step, row 2").fill("sealing");
  await page.getByLabel("units inspected, row 2").fill("950");
  await page.getByLabel("defects found, row 2").fill("95");
  // e^-0.05 e^-0.1
  await expect(verdict(page)).toContainText("86.1 % of units pass all steps");
  await expect(page.getByText("Sealing loses most")).toBeVisible();
  await page.getByRole("button", { name: /^shift/ }).click();
  await page.getByLabel("shift, from 0").fill("0");
  await page.getByRole("button", { name: "Use", exact: true }).click();
  await expect(verdict(page)).toContainText("without a shift");
});

test("a measurement is judged by its normal, and told when that does not hold", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Seal leak rate", "capability"));
  await page.getByRole("button", { name: "How bad is it?" }).click();
  await expect(page.getByText("Not normal", { exact: true })).toBeVisible();
  await expect(page.getByText("ask whether it can meet the limits, with another shape")).toBeVisible();
});
