import { type Numbers as Groups, placeGroups } from "../src/figures/compare/layout";
import { inside, type Numbers as Pairs, placeRelation } from "../src/figures/relation/layout";
import { rangesOf } from "../src/lib/row-ranges";
import { expect, studyAddress, test, verdict } from "./server";

test("groups are compared with the pairs that differ, and the next question has their column", async ({
  page,
  server,
}) => {
  const address = await studyAddress(server, "Housing wall thickness", "compare");
  await page.goto(address);
  await expect(verdict(page)).toContainText(/Gate is 0\.0\d+ mm higher than rim, the two farthest apart/);
  await expect(page.getByText("3 of 3 pairs differ")).toBeVisible();
  await page.getByRole("button", { name: "Can each position meet the limits?" }).click();
  await expect(page.getByText("Which of them can meet their limits?").first()).toBeVisible();
  await expect(page.getByRole("button", { name: "groups: position" })).toBeVisible();
  await page.goto(address);
  await page.getByRole("button", { name: /^what is compared/ }).click();
  await page.getByRole("radio", { name: /^against/ }).click();
  await page.getByRole("button", { name: /^value compared with/ }).click();
  await page.getByRole("textbox").fill("1.8");
  await page.keyboard.press("Enter");
  await expect(verdict(page)).toContainText(/he mean is 1\.80\d+ mm/);
});

test("a box dragged over points opens their rows, and the points are reached by key", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Converter efficiency, lab", "relation"));
  await expect(verdict(page)).toContainText(/Efficiency falls with temperature, correlation −0\.\d\d/);
  const figure = page.getByRole("slider", { name: "efficiency against temperature" });
  await figure.focus();
  await page.keyboard.press("ArrowRight");
  await expect(figure).toHaveAttribute("aria-valuetext", /^temperature \d+\.\d °C, efficiency \d+\.\d\d %$/);
  await page.getByRole("button", { name: /^fit/ }).click();
  await page.getByRole("radio", { name: /^a parabola/ }).click();
  await expect(page.getByRole("button", { name: "fit: a parabola" })).toBeVisible();
  const box = await figure.boundingBox();
  if (!box) throw new Error("the figure has no place");
  await page.mouse.move(box.x + box.width * 0.4, box.y + box.height * 0.35);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.7, box.y + box.height * 0.7, { steps: 5 });
  await expect(figure.getByText(/^\d+ rows$/)).toBeVisible();
  await page.mouse.up();
  await page.getByRole("button", { name: "Open their rows" }).click();
  await expect(page.getByText(/^\d+ rows carried over/)).toBeVisible();
});

test("a box holds the points inside whichever corner it is begun at, and rows are named in stretches", () => {
  const points = [0, 1, 2, 3].map((row) => ({ row, x: row, y: row * row, residual: 0, group: null }));
  const bars = [
    { low: 0, high: 3, counts: [1, 1, 1, 1] },
    { low: 0, high: 9, counts: [2, 1, 0, 1] },
  ];
  const layout = placeRelation({ points, bars, fit: null, cells: null } as unknown as Pairs, 800, 600);
  const at = (row: number): [number, number] => [layout.x(row), layout.y(row * row)];
  const [a, b] = [at(1), at(2)];
  const grown: [[number, number], [number, number]] = [
    [b[0] + 2, b[1] - 2],
    [a[0] - 2, a[1] + 2],
  ];
  expect(inside(points, layout, grown).map(({ row }) => row)).toEqual([1, 2]);
  expect(rangesOf([7, 3, 4, 5, 9, 8])).toEqual([
    [3, 5],
    [7, 9],
  ]);
  for (const bar of layout.over) expect(bar.top + bar.high).toBeLessThan(layout.box.top);
});

test("brackets stand over their columns, the surest nearest, and never more than there is room for", () => {
  const labels = Array.from({ length: 7 }, (_, place) => `G${place}`);
  const groups = labels.map((label, place) => ({
    label,
    n: 3,
    mean: place,
    sd: 1,
    ci95: [place - 1, place + 1],
    five: [place - 2, place - 1, place, place + 1, place + 2],
    values: [place, place],
  }));
  const tukey = labels.flatMap((a, i) => labels.slice(i + 1).map((b, j) => ({ a, b, p: 0.001 * (1 + i + j) })));
  const layout = placeGroups({ groups, tukey, games_howell: [], test: "anova" } as unknown as Groups, 820, 610);
  expect([layout.brackets.length, layout.untold]).toEqual([8, 13]);
  expect(layout.brackets.map(({ p }) => p)).toEqual([...layout.brackets.map(({ p }) => p)].sort((a, b) => a - b));
  for (const { y, from, to } of layout.brackets) {
    expect(y).toBeLessThan(layout.box.top);
    expect(y).toBeGreaterThan(30);
    expect(from).toBeLessThan(to);
  }
  for (const { dots, x, half } of layout.columns)
    for (const dot of dots) expect(Math.abs(dot.x - x)).toBeLessThanOrEqual(half);
});
