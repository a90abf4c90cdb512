import { expect, studyAddress, test, verdict } from "./server";

test("a look tells centre, spread and shape, reads its bars and lets their width be dragged", async ({
  page,
  server,
}) => {
  await page.goto(await studyAddress(server, "Seal leak rate", "distribution"));
  await expect(verdict(page)).toHaveText(
    /100 values centre at 0\.659 mL\/min, .*long tail to the right \(p = 0\.006\)\./,
  );
  const figure = page.getByRole("slider", { name: "Bars of seal leak rate" });
  await figure.focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await expect(figure).toHaveAttribute("aria-valuetext", "9 values from 0.300 up to 0.400 mL/min (9.0 %)");
  await expect(page.getByTestId("bar")).toContainText("9 values from 0.300 up to 0.400");

  const bars = page.locator("[data-bar]");
  const before = await bars.count();
  const edge = await bars.nth(4).boundingBox();
  if (!edge) throw new Error("There is no bar.");
  const [x, y] = [edge.x + edge.width, edge.y + edge.height - 8];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - edge.width / 2, y, { steps: 4 });
  // Live, before it is let go.
  await expect.poll(() => bars.count()).toBeGreaterThan(before);
  await expect(page.getByRole("button", { name: "bars: found from the values" })).toBeVisible();
  await page.mouse.up();
  await expect(page.getByRole("button", { name: /bars: 0\.0(49|5|51) wide/ })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("button", { name: "bars: found from the values" })).toBeVisible();
  await expect.poll(() => bars.count()).toBe(before);

  await page.getByRole("button", { name: /^normal curve:/ }).click();
  await page.getByRole("radio", { name: "without a normal curve" }).click();
  await expect(page.getByRole("button", { name: "normal curve: without a normal curve" })).toBeVisible();
  await page.getByRole("button", { name: "Is it steady?" }).click();
  await expect(page.getByRole("button", { name: "measurement: seal leak rate" })).toBeVisible();
  await expect(page.getByRole("button", { name: /kind of chart: individuals and moving range/ })).toBeVisible();
});

test("groups compare on one scale, in any picture, and in a table under them", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Housing wall thickness", "distribution"));
  await expect(verdict(page)).toHaveText(
    /Gate at 1\.83\d+ mm is highest, rim at 1\.77\d+ mm lowest \(p below 0\.001\)\./,
  );
  await expect(page.getByText("No difference of the spreads can be shown")).toBeVisible();
  for (const picture of ["boxes", "probability plots", "individual values"]) {
    await page.getByRole("button", { name: /^picture:/ }).click();
    await page.getByRole("radio", { name: new RegExp(`^${picture}`) }).click();
    await expect(page.getByRole("button", { name: `picture: ${picture}` })).toBeVisible();
    await expect(page.getByRole("img", { name: /in 3 groups/ }).getByText("middle", { exact: true })).toBeVisible();
  }
  await expect(page.getByRole("button", { name: /^bars:/ })).toHaveCount(0);
  await page.getByRole("button", { name: /^groups:/ }).click();
  await page.getByRole("checkbox", { name: /mould/ }).click();
  await page.keyboard.press("Escape");
  await page.getByRole("tab", { name: "Numbers" }).click();
  await expect(page.getByRole("columnheader", { name: "A, gate" })).toBeVisible();
  await expect(page.getByRole("row", { name: /p of a normal/ })).toBeVisible();
});
