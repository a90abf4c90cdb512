import { type Numbers as Matrix, pairsOf, placeCells, pointsOf } from "../src/figures/matrix/layout";
import { familyWords } from "../src/figures/multi-vari/families";
import { type Numbers as Levels, links, placeLevels } from "../src/figures/multi-vari/layout";
import { placeRows, type Numbers as Screen } from "../src/figures/screening/layout";
import { moved } from "../src/study/statement/ordered-slot";
import { expect, studyAddress, test, verdict } from "./server";

test("factors are put in order by dragging and by key, and a family is lit by key", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Housing wall thickness", "multi-vari"));
  await expect(verdict(page)).toContainText(
    /84 % of the variation, likely 2\d % to 9\d %, gate high and rim low everywhere/,
  );
  await expect(page.getByText(/Position is crossed with piece/)).toBeVisible();
  const factor = (name: string, place: number) =>
    page.getByRole("button", { name: `factors, outermost first: ${name}, number ${place} of 4` });
  await factor("hour", 2).focus();
  await page.keyboard.press("Alt+ArrowLeft");
  await expect(factor("hour", 1)).toBeFocused();
  await expect(page.getByText(/Mould is crossed with hour|labels of mould/)).toBeVisible();
  const [from, to] = [await factor("position", 4).boundingBox(), await factor("hour", 1).boundingBox()];
  if (!from || !to) throw new Error("the factors have no place");
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + 4, to.y + to.height / 2, { steps: 6 });
  await page.mouse.up();
  await expect(factor("position", 1)).toBeVisible();
  await expect(factor("hour", 2)).toBeVisible();
  // Undo takes one step back.
  await page.keyboard.press("Control+z");
  await expect(factor("position", 4)).toBeVisible();
  const family = page.getByRole("button", { name: /^position: \d+ % of the variation/ });
  // The answer of the order that Undo brought back may still put the families in another order.
  await expect(async () => {
    await family.blur();
    await family.focus();
    await expect(family).toHaveAttribute("aria-pressed", "true", { timeout: 500 });
    await expect(page.locator("svg [data-family='hour']")).toHaveAttribute("opacity", "0.13", { timeout: 500 });
  }).toPass();
  await expect(page.locator("svg [data-family='position']")).toHaveAttribute("opacity", "1");
  const figure = page.getByRole("slider", { name: /^wall thickness over/ });
  await figure.focus();
  await page.keyboard.press("ArrowRight");
  await expect(figure).toHaveAttribute("aria-valuetext", /^1, A, 1, gate: mean 1\.8\d+ mm of 1 value/);
});

test("a cell of the matrix opens its scatter, and points are left out with a reason", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Converter efficiency, lab", "matrix"));
  await expect(verdict(page)).toContainText(/Most closely temperature and efficiency, correlation −0\.\d\d/);
  const matrix = page.getByRole("slider", { name: "Pairs of columns" });
  await matrix.focus();
  for (let k = 0; k < 4; k++) await page.keyboard.press("ArrowRight");
  await expect(matrix).toHaveAttribute("aria-valuetext", /^efficiency and input voltage: r 0\.\d\d, likely/);
  await page.keyboard.press("Enter");
  const scatter = page.getByRole("slider", { name: "efficiency against input voltage" });
  await scatter.focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Leave it out, with a reason…" }).click();
  await page.getByRole("textbox", { name: "Why they are left out" }).fill("supply was unplugged");
  await page.keyboard.press("Enter");
  await expect(page.getByText("1 row is left out: supply was unplugged.")).toBeVisible();
  await page.getByRole("button", { name: "rows left out: 1 row" }).click();
  await page.getByRole("button", { name: "Take back" }).click();
  await expect(page.getByText("1 row is left out")).toHaveCount(0);
});

test("a screening is read and followed to the full study", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Housing wall thickness", "multi-vari"));
  await page.goto(await studyAddress(server, "Burn-in by bench", "screening"));
  const screen = page.getByRole("slider", { name: "What goes with result" });
  await screen.focus();
  await page.keyboard.press("ArrowDown");
  await expect(screen).toHaveAttribute("aria-valuetext", /^bench: explains \d+\.?\d* %/);
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/study\/\d+/);
  await expect(page.getByText("Does it depend on ...?").first()).toBeVisible();
});

test("rows of a signal are held against all others", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Lens thickness, press 2", "control-chart", 1));
  await page.getByRole("button", { name: /have in common\?$/ }).click();
  await expect(page.getByText("What goes with it?").first()).toBeVisible();
  await expect(page.getByRole("button", { name: /^rows to be explained: \d+ rows$/ })).toBeVisible();
  await expect(page.getByRole("slider", { name: "What goes with these rows" })).toBeVisible();
});

test("cells stand apart where an outer level begins, labels never crowd, and an order is changed one by one", () => {
  const cells = Array.from({ length: 24 }, (_, at) => ({
    at,
    levels: [`h${Math.floor(at / 8)}`, `p${Math.floor(at / 2) % 4}`, `position ${at % 2}`],
    n: 2,
    mean: at,
    sd: 1,
    low: at - 1,
    high: at + 1,
    values: [at - 1, at + 1],
  }));
  const group = (label: string, first: number, last: number, parent: number) => ({
    label,
    first,
    last,
    parent,
    mean: 1,
  });
  const groups = [
    [0, 1, 2].map((h) => group(`h${h}`, 8 * h, 8 * h + 7, 0)),
    Array.from({ length: 12 }, (_, p) => group(`p${p % 4}`, 2 * p, 2 * p + 1, Math.floor(p / 4))),
  ];
  const factors = ["hour", "piece", "position"].map((name) => ({ name }));
  const numbers = { cells, bands: [], groups, factors, families: [], extent: [-1, 25], widest: 2 };
  const layout = placeLevels(numbers as unknown as Levels, 820, 560);
  const gap = (at: number) => layout.x(at) - layout.x(at - 1);
  expect(gap(8)).toBeGreaterThan(gap(2) + 3);
  expect(gap(2)).toBeGreaterThan(gap(1) + 3);
  for (const { labels } of layout.tiers) {
    labels.slice(1).forEach((label, place) => {
      expect(label.x - (labels[place]?.x ?? 0)).toBeGreaterThan(Math.min(9, label.words.length) * 6);
    });
  }
  expect(layout.strip.top).toBeGreaterThan(layout.box.bottom);
  expect(moved(["a", "b", "c"], 0, 2)).toEqual(["b", "c", "a"]);
  expect(moved(["a", "b", "c"], 2, 0)).toEqual(["c", "a", "b"]);
});

test("bands take the place of cells when these are many, and means are linked within their parent only", () => {
  const bands = Array.from({ length: 100 }, (_, k) => ({
    first: 20 * k,
    last: 20 * k + 19,
    mean: k,
    low_mean: k - 1,
    high_mean: k + 1,
    low: k - 2,
    high: k + 2,
    widest: 1,
  }));
  const group = (first: number, parent: number) => ({
    label: "",
    first,
    last: first + 499,
    parent,
    mean: 3,
    low: 1,
    high: 5,
  });
  const groups = [[0, 500, 1000, 1500].map((first, place) => group(first, place < 2 ? 0 : 1))];
  const factors = [{ name: "line" }, { name: "piece" }];
  const numbers = {
    cells: [],
    bands,
    groups,
    factors,
    families: [],
    extent: [-2, 102],
    widest: 1,
  } as unknown as Levels;
  const layout = placeLevels(numbers, 820, 560);
  expect(layout.cells).toEqual([]);
  expect(layout.bands).toHaveLength(100);
  for (const { left, right } of layout.bands) {
    expect(left).toBeLessThan(right);
    expect(right).toBeLessThan(layout.families.left);
  }
  // Two parents, a line for each.
  expect(links(layout, 0)).toHaveLength(2);
  expect(links(layout, 1)).toEqual([]);
  // A stretch in the middle has the part of its groups that is in sight.
  const close = placeLevels({ ...numbers, bands: bands.slice(30, 60) } as Levels, 820, 560);
  for (const { left, right } of close.groups.flat()) {
    expect(left).toBeGreaterThanOrEqual(close.box.left - 1);
    expect(right).toBeLessThanOrEqual(close.box.right + 1);
  }
});

test("single values show the spread of what holds them, and a family that cannot be told says so", () => {
  const cells = [0, 1, 2, 3].map((at) => ({
    at,
    levels: [`p${at >> 1}`, `q${at % 2}`],
    n: 1,
    mean: at,
    low: at,
    high: at,
    values: [at],
  }));
  const group = (first: number) => ({
    label: "p",
    first,
    last: first + 1,
    parent: 0,
    mean: 1,
    low: first,
    high: first + 1,
  });
  const numbers = {
    cells,
    bands: [],
    groups: [[group(0), group(2)]],
    factors: [{ name: "piece" }, { name: "position" }],
    families: [],
    extent: [0, 3],
    widest: 1,
    single: true,
  } as unknown as Levels;
  expect(placeLevels(numbers, 800, 500).spreads.map(({ reach }) => reach)).toEqual([1, 1]);
  const many = placeLevels({ ...numbers, single: false } as Levels, 800, 500);
  expect(many.spreads.map(({ reach }) => reach)).toEqual([0, 0, 0, 0]);
  const family = { name: "within", df: 0, ss: 0, variance: 0, sd: 0, share: 0, share_ci95: null, p: null, largest: 0 };
  expect(familyWords(family)).toBe("within: cannot be told");
  expect(familyWords({ ...family, name: "hour", df: 4, share: 0.254, share_ci95: [0.1, 0.512] })).toBe(
    "hour: 25 % of the variation, likely 10 % to 51 %",
  );
});

test("a matrix has every pair once and its points on one scale each; missing ones are left out", () => {
  const column = (name: string, low: number, high: number) => ({ name, bars: { low, high, counts: [1] } });
  const numbers = {
    columns: [column("a", 0, 10), column("b", 5, 5), column("c", -1, 1)],
    sample: [
      [0, 5, 10, null],
      [5, 5, 5, 5],
      [1, null, -1, 0],
    ],
  } as unknown as Matrix;
  expect(pairsOf(numbers)).toEqual([
    [1, 0],
    [2, 0],
    [2, 1],
  ]);
  expect(pointsOf(numbers, 0, 2)).toEqual([
    [0, 1],
    [1, 0],
  ]);
  expect(pointsOf(numbers, 0, 1).map(([, y]) => y)).toEqual([0.5, 0.5, 0.5]);
  const wide = Array.from({ length: 20 }, (_, k) => column(`c${k}`, 0, 1));
  const { left, side, top, tall } = placeCells({ ...numbers, columns: wide } as Matrix, 820, 640);
  expect(left + 20 * side).toBeLessThanOrEqual(820);
  expect(top + 20 * tall).toBeLessThanOrEqual(640);
});

test("a screening draws as many columns as there is room for on a scale that the longest fills", () => {
  const found = (explained: number, k: number) => ({ column: `c${k}`, explained, adjusted: explained });
  const of = (explained: number[]) => ({ results: explained.map(found) }) as unknown as Screen;
  const few = placeRows(of([0.04, 0.01]), 820, 640);
  expect([few.rows.length, few.untold, few.whole]).toEqual([2, 0, 0.05]);
  const many = placeRows(of(Array.from({ length: 60 }, (_, k) => 0.9 - k / 100)), 820, 640);
  expect(many.rows.length + many.untold).toBe(60);
  expect(many.whole).toBe(1);
  const last = many.rows.at(-1);
  expect((last?.top ?? 0) + many.high).toBeLessThanOrEqual(640);
  expect(many.bars.right).toBeLessThan(many.picture.left);
});

test("a family is lit by pointing at it, a cell opens its rows, and marks are taken away", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Housing wall thickness", "multi-vari"));
  const within = page.locator("svg [data-family='within']");
  await page.getByRole("button", { name: /^mould: 5 % of the variation/ }).hover();
  await expect(page.locator("svg [data-family='mould']")).toHaveAttribute("opacity", "1");
  await expect(within).toHaveAttribute("opacity", "0.13");
  await page.getByText("Split the variation of").hover();
  await expect(within).toHaveAttribute("opacity", "1");
  const bars = within.locator("rect");
  expect(await bars.count()).toBe(90);
  await page.getByRole("button", { name: "Show", exact: true }).click();
  await page.getByRole("menuitemcheckbox", { name: "Spread below" }).click();
  await expect(bars).toHaveCount(0);
  // Closer shows fewer combinations, with the values of each.
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Closer" }).click();
  await expect(page.getByText(/^\d+ to \d+$/)).toBeVisible();
  const figure = page.getByRole("slider", { name: /^wall thickness over/ });
  const box = await figure.boundingBox();
  if (!box) throw new Error("the figure has no place");
  await page.mouse.move(box.x + box.width * 0.3, box.y + box.height * 0.5);
  await expect(figure).toHaveAttribute("aria-valuetext", /^[ABC], \d, \d, (gate|middle|rim): mean/);
  await page.mouse.down();
  await page.mouse.up();
  await expect(page.getByText(/^1 row carried over/)).toBeVisible();
});

test("several points of a box are left out for one reason, and Undo brings them back", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Converter efficiency, lab", "relation"));
  const figure = page.getByRole("slider", { name: "efficiency against temperature" });
  await expect(page.getByText("150", { exact: true })).toBeVisible();
  const box = await figure.boundingBox();
  if (!box) throw new Error("the figure has no place");
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.4);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.62, box.y + box.height * 0.6, { steps: 5 });
  await page.mouse.up();
  const menu = page.getByRole("region", { name: /^\d+ points$/ });
  await menu.getByRole("button", { name: "Leave them out, with a reason…" }).click();
  // No reason, nothing left out.
  await menu.getByRole("button", { name: "Leave out" }).click();
  await expect(menu).toBeVisible();
  await menu.getByRole("textbox").fill("thermometer was loose");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/^\d+ rows are left out: thermometer was loose\.$/)).toBeVisible();
  await expect(page.getByText("150", { exact: true })).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await expect(page.getByText("150", { exact: true })).toBeVisible();
  await expect(page.getByText(/thermometer was loose/)).toHaveCount(0);
});

test("a pair of the matrix is read and opened by pointing at either of its cells", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Converter efficiency, lab", "matrix"));
  const matrix = page.getByRole("slider", { name: "Pairs of columns" });
  const box = await matrix.boundingBox();
  if (!box) throw new Error("the matrix has no place");
  const { left, top, side, tall } = placeCells({ columns: [1, 2, 3, 4] } as unknown as Matrix, box.width, box.height);
  const at = (row: number, column: number) =>
    [box.x + left + side * (column + 0.5), box.y + top + tall * (row + 0.5)] as const;
  await page.mouse.move(...at(3, 1));
  await expect(matrix).toHaveAttribute("aria-valuetext", /^efficiency and temperature: r −0\.59/);
  await page.mouse.move(...at(2, 2));
  await expect(matrix).toHaveAttribute("aria-valuetext", /^6 pairs of 4 columns, 3 go together/);
  await page.mouse.move(...at(1, 3));
  await page.mouse.down();
  await page.mouse.up();
  // The study of this pair is there already.
  await expect(page.getByRole("slider", { name: "efficiency against temperature" })).toBeVisible();
});
