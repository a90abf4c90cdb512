import { readFileSync } from "node:fs";
import { dialOf, expect, test } from "./server";

test("points answer to pointer and key, notes light their place, and the figure goes out whole", async ({
  page,
  server,
}) => {
  await page.goto(server.address);
  await dialOf(page, "Beam flux, final test").click();
  const figure = page.getByRole("slider", { name: "Points of beam flux" });
  await expect(figure).toHaveAttribute("aria-valuetext", /120 points, \d+ signals/);

  await figure.focus();
  await page.keyboard.press("Home");
  await expect(figure).toHaveAttribute("aria-valuenow", "1");
  for (let i = 0; i < 47; i++) await page.keyboard.press("ArrowRight");
  await expect(figure).toHaveAttribute("aria-valuetext", /lm, signal: beyond limits/);
  await expect(page.getByText("48", { exact: true })).toBeVisible();
  await figure.hover({ position: { x: 300, y: 200 } });
  await expect(page.getByRole("region", { name: "Figure" }).getByText("limits", { exact: true })).toBeVisible();

  const bracket = page.locator("svg path[stroke='var(--plum)']").first();
  await expect(bracket).toHaveAttribute("stroke-width", "2");
  await page.getByText(/values in a row below the centre/).hover();
  await expect(bracket).toHaveAttribute("stroke-width", "3.4");

  const saved = async (item: string) => {
    const download = page.waitForEvent("download");
    await page.getByRole("button", { name: "Send out" }).click();
    await page.getByRole("menuitem", { name: item }).click();
    return readFileSync(await (await download).path());
  };
  const svg = (await saved("Figure as SVG")).toString();
  expect(svg).toContain("Chart beam flux as individuals and moving range (I-MR), in the order of tested at");
  expect(svg).not.toContain("var(--");
  // The shipped fonts travel with the picture.
  expect(svg).toContain("url(data:font/woff2;base64,");
  const png = await saved("Figure as PNG");
  expect([...png.subarray(1, 4)]).toEqual([0x50, 0x4e, 0x47]);
  const csv = (await saved("Points as CSV")).toString().trim().split("\n");
  expect(csv.length).toBe(121);
  expect(csv[48]).toContain("beyond limits");

  await page.getByRole("button", { name: "Closer" }).click();
  await expect(page.getByText("31 to 90")).toBeVisible();
  await page.getByRole("tab", { name: "Points" }).click();
  await page.getByRole("region", { name: "Points" }).hover();
  await page.mouse.wheel(0, 40 * 27);
  await expect(page.getByRole("table").getByText("beyond limits").first()).toBeVisible();
  await page.getByRole("tab", { name: "Method" }).click();
  await expect(
    page.getByText("x̄ ± 3 s, s = MR̄ / d₂(2) or median MR / 0.9539; moving range d₂ s, (d₂ ± 3 d₃) s"),
  ).toBeVisible();
});
