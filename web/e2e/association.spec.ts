import { type Matrix, placeLayers, placeTiles, type Table } from "../src/figures/association/layout";
import { pasted } from "../src/study/statement/counts-form";
import { expect, studyAddress, test, verdict } from "./server";

test("a table is typed and pasted, and the answer moves with every key", async ({ page, server }) => {
  await page.goto(`${server.address}/ask`);
  await page.getByRole("button", { name: /^Does it depend on/ }).click();
  await page.getByRole("button", { name: /^where the counts come from/ }).click();
  await page.getByRole("radio", { name: /^a typed table/ }).click();
  const count = (row: number, column: number) =>
    page.getByLabel(`Count of row ${row}, column ${column}`, { exact: true });
  await count(1, 1).fill("30");
  await count(1, 2).fill("10");
  await count(2, 1).fill("12");
  await expect(page.getByText("A number is still missing")).toBeVisible();
  await count(2, 2).fill("33");
  await expect(verdict(page)).toContainText(/row 1 has more column 1 than expected: 30 against 19\.8/);
  await count(2, 1).fill("80");
  await expect(verdict(page)).toContainText("would spread about like this");
  await count(2, 1).fill("4.5");
  await expect(page.getByText("A number is still missing")).toBeVisible();
  await page.getByLabel("Paste a table here").focus();
  const block = "\thaze\tleak\tburr\nline 1\t31\t18\t12\nline 2\t22\t40\t9\nline 3\t17\t15\t28";
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.setData("text/plain", text);
    document.activeElement?.dispatchEvent(
      new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, block);
  await expect(verdict(page)).toContainText("line 3 has more burr than expected: 28 against 15.3");
  const tiles = page.getByRole("slider", { name: "Counts by row and column" });
  await tiles.focus();
  for (const key of ["ArrowDown", "ArrowRight", "ArrowDown", "ArrowDown"]) await page.keyboard.press(key);
  await expect(tiles).toHaveAttribute("aria-valuetext", /^line 3, leak: 15 seen; expected 60 × 73 \/ 192 = 22\.8/);
  await page.reload();
  await expect(page.getByLabel("Name of row 3")).toHaveValue("line 3");
});

test("which bench fails is told from a column, tile by tile, and for each shift", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Burn-in by bench", "association"));
  await expect(verdict(page)).toContainText("bench 3 has more fail than expected: 24 against 11.8");
  await expect(page.getByText(/With shift allowed for, it still depends/)).toBeVisible();
  await page.getByRole("button", { name: "Which rows are fail of bench 3?" }).click();
  await expect(page.getByText("24 rows carried over from a study")).toBeVisible();
  await page.goto(await studyAddress(server, "Defect log, May", "association"));
  await expect(verdict(page)).toContainText(/bench C has more loose gasket than expected/);
  await page.getByRole("button", { name: "Is loose gasket of bench C steady?" }).click();
  await expect(page.getByRole("navigation", { name: "Narrowed to" })).toContainText("kind: loose gasket");
  await expect(verdict(page)).toContainText(/beyond the control limits/);
  await page.goto(await studyAddress(server, "Burn-in by bench", "association"));
  await page.getByRole("button", { name: /^alpha/ }).click();
  await page.getByRole("button", { name: "0.01" }).click();
  await expect(page.getByRole("button", { name: "alpha: α = 0.01" })).toBeVisible();
});

test("a claim is judged from a column, two samples and a number to inspect while they are typed", async ({
  page,
  server,
}) => {
  await page.goto(await studyAddress(server, "Burn-in by bench", "proportion"));
  await expect(verdict(page)).toContainText("1,153 of 1,200 are pass, 96.1 %, likely 94.8 % to 97.1 %");
  await page.goto(`${server.address}/ask`);
  await page.getByRole("button", { name: /^Is the claim true/ }).click();
  const choose = async (slot: RegExp, choice: RegExp) => {
    await page.getByRole("button", { name: slot }).click();
    await page.getByRole("radio", { name: choice }).click();
  };
  await choose(/^where the numbers come from/, /^typed counts of two samples/);
  for (const [label, text] of [
    ["first, how many", "14"],
    ["first, out of", "120"],
    ["second, how many", "29"],
    ["second, out of", "130"],
  ] as const)
    await page.getByRole("textbox", { name: label }).fill(text);
  await expect(verdict(page)).toContainText(
    "has less than second, 11.7 % against 22.3 %, by 10.6 points, likely 1.2 to 19.8",
  );
  await choose(/^where the numbers come from/, /^how many must pass/);
  await page.getByRole("textbox", { name: "share at most" }).fill("0.05");
  await expect(verdict(page)).toContainText("Inspect 59 without a failure");
  await page.getByRole("textbox", { name: "failures allowed (if any)" }).fill("1");
  await expect(verdict(page)).toContainText("Inspect 93 with 1 failure at most");
});

const table = (rows: number, columns: number) =>
  ({
    rows: Array.from({ length: rows }, (_, row) => `R${row}`),
    columns: Array.from({ length: columns }, (_, column) => `C${column}`),
    stands_out: Array.from({ length: rows }, () => Array(columns).fill(0)),
    row_totals: Array(rows).fill(9),
    column_totals: Array(columns).fill(9),
  }) as unknown as Table;

test("tiles neither overlap nor leave their box, share one scale, and turn when there are many columns", () => {
  const box = { left: 0, right: 820, top: 0, bottom: 610 };
  for (const [rows, columns] of [
    [2, 2],
    [4, 12],
    [12, 12],
    [12, 3],
    [1, 1],
  ] as const) {
    const values = Array.from({ length: rows }, (_, row) =>
      Array.from({ length: columns }, (_, column) => row + column),
    );
    const matrix: Matrix = { values, ticks: values };
    const { tiles, grid } = placeTiles(table(rows, columns), matrix, box);
    expect(tiles.length).toBe(rows * columns);
    expect(grid.bottom).toBeLessThan(box.bottom);
    for (const { box: tile, bar, tick, row, column } of tiles) {
      expect(bar).toBeLessThanOrEqual(tile.right);
      expect([bar, tick]).toEqual([bar, bar]);
      const others = tiles.filter((other) => other.row !== row || other.column !== column);
      const overlaps = ({ box: other }: (typeof tiles)[number]) =>
        other.left < tile.right && other.right > tile.left && other.top < tile.bottom && other.bottom > tile.top;
      expect(others.some(overlaps)).toBe(false);
    }
    // As long bars mean as much in every tile.
    const unit = tiles
      .filter(({ row, column }) => row + column > 0)
      .map(({ box, bar, row, column }) => ((bar ?? 0) - box.left) / (row + column));
    if (columns > 2) expect(Math.max(...unit.slice(-3)) - Math.min(...unit.slice(-3))).toBeLessThan(9);
  }
  const wide = placeTiles(table(4, 12), { values: [], ticks: null }, box);
  expect([wide.rows.length, wide.columns.length]).toEqual([12, 4]);
  const boxes = placeLayers(5, 820, 610);
  expect(boxes.length).toBe(5);
  expect(Math.max(...boxes.map(({ right }) => right))).toBeLessThanOrEqual(820);
});

test("a block with heads is the whole table, and one of numbers goes where it is put", () => {
  const typed = { rows: ["a"], columns: ["x"], cells: [["1"]] };
  expect(
    pasted(
      typed,
      [
        ["", "p", "q"],
        ["u", "3", "4"],
      ],
      0,
      0,
    ),
  ).toEqual({ rows: ["u"], columns: ["p", "q"], cells: [["3", "4"]] });
  expect(
    pasted(
      typed,
      [
        ["5", "6"],
        ["7", "8"],
      ],
      0,
      1,
    ),
  ).toEqual({
    rows: ["a", ""],
    columns: ["x", "", ""],
    cells: [
      ["1", "5", "6"],
      ["", "7", "8"],
    ],
  });
});
