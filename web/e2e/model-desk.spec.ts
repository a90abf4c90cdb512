import type { Locator, Page } from "@playwright/test";
import { expect, type Server, test, verdict } from "./server";

async function openModel(page: Page, server: Server, name = "Seal stack, cap on housing") {
  const studies: { id: number; name: string | null }[] = await (await fetch(`${server.address}/api/studies`)).json();
  await page.goto(`${server.address}/study/${studies.find((study) => study.name === name)?.id}`);
}

const middleOf = async (mark: Locator) => {
  const box = await mark.boundingBox();
  if (!box) throw new Error("it is not to be seen");
  return { ...box, x: box.x + box.width / 2, y: box.y + box.height / 2 };
};

test("a formula is completed by key, and circles and names that are taken are said while typing", async ({
  page,
  server,
}) => {
  await openModel(page, server);
  await page.getByRole("button", { name: /^Response room =/ }).click();
  const formula = page.getByRole("combobox", { name: "room =" });
  await formula.fill("");
  await formula.pressSequentially("`groove depth` - sh");
  await expect(page.getByRole("option")).toHaveText(["shim"]);
  await formula.press("Tab");
  await expect(formula).toHaveValue("`groove depth` - shim");
  await formula.pressSequentially(" - l");
  // Two that fit: the second is chosen by arrow; an odd name comes with its back-ticks.
  await expect(page.getByRole("option")).toHaveText(["`lens edge`", "ln(", "log10("]);
  await formula.press("ArrowDown");
  await formula.press("ArrowUp");
  await formula.press("Enter");
  await expect(formula).toHaveValue("`groove depth` - shim - `lens edge`");
  await expect(verdict(page)).toContainText("would have squeeze");
  await expect(page.getByRole("button", { name: "Response room = groove depth − shim − lens edge" })).toBeVisible();
  await formula.pressSequentially(" + sq");
  await formula.press("Escape");
  await expect(page.getByRole("option")).toHaveCount(0);
  await formula.pressSequentially("ueeze");
  await expect(page.getByText("Goes in a circle: “room” needs “squeeze” needs “room”.")).toBeVisible();
  await expect(formula).toHaveAttribute("aria-invalid", "true");
  // Nothing was saved of it.
  await expect(page.getByRole("button", { name: "Response room = groove depth − shim − lens edge" })).toBeVisible();
  await page.getByRole("button", { name: /^Input boss height/ }).click();
  await page.getByLabel("Input name").fill("shim");
  await expect(page.getByText("Something else is called “shim”.")).toBeVisible();
  await page.getByLabel("Input name").press("Escape");
  await expect(page.getByText("Something else is called")).toHaveCount(0);
});

test("an input is taken from a column of another dataset, and follows it", async ({ page, server }) => {
  await openModel(page, server);
  await page.getByRole("button", { name: /^Input groove depth/ }).click();
  const column = page.getByLabel("from column");
  const group = column.locator("optgroup[label='Groove depth, housing']");
  await column.selectOption((await group.locator("option", { hasText: "groove depth" }).getAttribute("value")) ?? "");
  const shapes = page.getByRole("group", { name: "Shapes of groove depth" });
  await expect(shapes.getByRole("button", { pressed: true })).toContainText("as the data are");
  const followed = page.getByRole("button", { name: /^Input groove depth: from groove depth: \d+ values/ });
  await expect(followed).toBeVisible();
  // A value that is changed there moves the answer here.
  const study = page.url().replace("/study/", "/api/studies/");
  const source = async (): Promise<number | undefined> =>
    (await (await fetch(study)).json()).spec.options.inputs[0].dataset ?? undefined;
  await expect.poll(source).toBeDefined();
  const id = await source();
  const dataset = await (await fetch(`${server.address}/api/datasets/${id}`)).json();
  await page.getByRole("button", { name: "Close" }).click();
  const spread = page.getByRole("slider", { name: "Spread of groove depth" });
  const before = (await spread.getAttribute("aria-valuetext")) ?? "";
  const edits = [
    { column_id: dataset.columns.find((one: { name: string }) => one.name === "groove depth").id, row: 0, text: "9" },
  ];
  await fetch(`${server.address}/api/datasets/${id}/cells`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: server.address },
    body: JSON.stringify({ revision: dataset.revision, edits }),
  });
  await expect(spread).not.toHaveAttribute("aria-valuetext", before);
  // Typed again, it needs no data.
  await followed.click();
  await column.selectOption("");
  await expect(column).toHaveValue("");
});

test("percentiles show where the pointer is, and what is out is hatched", async ({ page, server }) => {
  await openModel(page, server, "Seal stack, cap on housing");
  const out = page.getByRole("button", { name: /^Response squeeze/ }).locator("..");
  await expect(out.locator("path[stroke-opacity='0.3']")).toHaveCount(2);
  const fences = await out
    .locator("path[stroke-opacity='0.3']")
    .evaluateAll((all) => all.map((one) => one.getAttribute("d")));
  // Strokes lean away from what is allowed: to the left of LSL, to the right of USL.
  expect(fences.map((d) => /l(-?)7 -7/.exec(d ?? "")?.[1])).toEqual(["-", ""]);
  const bars = out.locator("rect[fill='transparent']").last();
  const { x, y, width } = await middleOf(bars);
  await page.mouse.move(x, y);
  await expect(out.getByText(/^(25|50|75) % below 0\.\d+ mm$/)).toBeVisible();
  await page.mouse.move(x - 0.46 * width, y);
  await expect(out.getByText(/^0\.\d+ % below|^1 % below/)).toBeVisible();
  const input = page.getByRole("button", { name: /^Input groove depth/ }).locator("..");
  const curve = await middleOf(input.locator("rect[fill='transparent']").last());
  await page.mouse.move(curve.x, curve.y);
  await expect(page.getByText("50 % below 3.600 mm")).toBeVisible();
});

test("a ring is dragged to a smaller spread, and a click alone takes none", async ({ page, server }) => {
  await openModel(page, server);
  const address = page.url().replace("/study/", "/api/studies/");
  const { revision, spec } = await (await fetch(address)).json();
  await fetch(address, {
    method: "PATCH",
    headers: { "content-type": "application/json", origin: server.address },
    body: JSON.stringify({ revision, spec: { ...spec, options: { ...spec.options, tightening: {} } } }),
  });
  await page.goto(`${page.url()}?figure=tightening`);
  const ring = page.getByRole("slider", { name: "Spread of seal thickness" });
  const { x, y } = await middleOf(ring);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.up();
  await expect(page.getByText(/^saved/)).toHaveCount(1);
  const start = Number(await ring.getAttribute("aria-valuenow"));
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 60, y, { steps: 6 });
  // A busy page draws the last steps of the hand a little later.
  let lower = start;
  const settled = async () => {
    const before = lower;
    lower = Number(await ring.getAttribute("aria-valuenow"));
    return lower === before && lower < start - 5;
  };
  await expect.poll(settled).toBe(true);
  await page.mouse.up();
  await page.getByRole("button", { name: "Back to the chart" }).click();
  const tightened = page.getByRole("button", { name: /^Input seal thickness: triangular, 2\.0\d+ to/ });
  const low = Number(/triangular, ([\d.]+) to/.exec((await tightened.getAttribute("aria-label")) ?? "")?.[1]);
  expect(Math.abs(low - (2.1 - (0.07 * lower) / 100))).toBeLessThan(0.0015);
});

test("a search is about the responses that are chosen, by their weights and targets", async ({ page, server }) => {
  await openModel(page, server);
  await page.getByRole("button", { name: "Search settings" }).click();
  await page.getByRole("button", { name: "the target" }).click();
  await expect(page.getByText(/^Shim .* would bring the mean of squeeze/)).toBeVisible();
  await page.getByRole("button", { name: "Responses searched for: squeeze" }).click();
  const counts = page.getByRole("dialog", { name: "What counts in the search" });
  await counts.getByLabel("Target of room").fill("2.6");
  await counts.getByLabel("Target of room").press("Enter");
  await expect(counts.getByRole("checkbox", { name: "room" })).toBeChecked();
  await counts.getByLabel("Weight of room").fill("0");
  await expect(counts.getByLabel("Weight of room")).toHaveAttribute("aria-invalid", "true");
  await counts.getByLabel("Weight of room").fill("1e6");
  await counts.getByLabel("Weight of room").press("Enter");
  // The room weighs so much that its target alone is aimed at: 3.6 − 1.2 + 0.2.
  await expect(page.getByText("0.200 mm", { exact: false }).first()).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: "Responses searched for: room, squeeze" })).toBeVisible();
  // A goal that needs limits leaves out what has none.
  await page.getByRole("button", { name: "the fewest out" }).click();
  await expect(page.getByRole("button", { name: "Responses searched for: squeeze" })).toBeVisible();
});
