import { keptAt, placeOwn, placeRows, stairPath } from "../src/figures/pareto/layout";
import { expect, studyAddress, test, verdict } from "./server";

test("kinds are ranked, the grip folds by key and by mouse, and a kind opens its rows", async ({ page, server }) => {
  await page.goto(await studyAddress(server, "Defect log, May", "pareto"));
  await expect(verdict(page)).toContainText(/of \d+ kinds make 80 % of [\d,]+ defects/);
  const grip = page.getByRole("slider", { name: "Kinds that stand by themselves" });
  const before = Number(await grip.getAttribute("aria-valuenow"));
  await grip.focus();
  await page.keyboard.press("ArrowUp");
  await expect(grip).toHaveAttribute("aria-valuenow", String(before - 1));
  await expect(
    page.getByRole("button", { name: `what is folded: all but the first ${before - 1} folded` }),
  ).toBeVisible();
  const box = await grip.boundingBox();
  if (!box) throw new Error("the grip has no place");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y - 60, { steps: 6 });
  await page.mouse.up();
  await expect.poll(async () => Number(await grip.getAttribute("aria-valuenow"))).toBeLessThan(before - 2);
  const kinds = page.getByRole("slider", { name: "Kinds of kind" });
  await kinds.focus();
  await page.keyboard.press("ArrowDown");
  await expect(kinds).toHaveAttribute("aria-valuetext", /^cold joint: \d+, \d+(\.\d)? %, /);
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Show its rows" }).click();
  await expect(page.getByText(/\d+ rows carried over from a study/)).toBeVisible();
});

test("two names are counted as one and apart again, and a kind is followed down to a bench and back", async ({
  page,
  server,
}) => {
  await page.goto(await studyAddress(server, "Defect log, May", "pareto"));
  await expect(verdict(page)).toContainText("of 41 kinds");
  await page.getByRole("button", { name: "Count “Gasket, loose” as “loose gasket”" }).click();
  await expect(verdict(page)).toContainText("of 40 kinds");
  await page.keyboard.press("Control+z");
  await expect(verdict(page)).toContainText("of 41 kinds");
  await page.keyboard.press("Control+Shift+z");
  await expect(verdict(page)).toContainText("of 40 kinds");

  const kinds = (of: string) => page.getByRole("slider", { name: `Kinds of ${of}` });
  const open = async (of: string, down: number) => {
    await kinds(of).focus();
    for (let step = 0; step < down; step++) await page.keyboard.press("ArrowDown");
    await page.keyboard.press("Enter");
  };
  await open("kind", 2);
  await page.getByRole("button", { name: "Which bench?" }).click();
  const path = page.getByRole("navigation", { name: "Narrowed to" });
  await expect(path).toContainText("kind: loose gasket or Gasket, loose");
  await kinds("bench").focus();
  await page.keyboard.press("ArrowDown");
  // Of both names, 94 in all, as the totals of the month have it.
  await expect(kinds("bench")).toHaveAttribute("aria-valuetext", /^bench C: 73, 78 %/);
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Which shift?" }).click();
  await expect(path).toContainText("bench: bench C");
  await expect(verdict(page)).toContainText("73 defects");
  await path.getByRole("button", { name: /^kind: / }).click();
  await expect(kinds("bench")).toBeVisible();
  await expect(verdict(page)).toContainText("94 defects");
  await open("bench", 1);
  await page.getByRole("button", { name: "Is it steady over day?" }).click();
  await expect(verdict(page)).toContainText(/lie beyond the control limits/);
  await page.getByRole("button", { name: "Which defects matter from 2026-05-19 to 2026-05-20?" }).click();
  await expect(path).toContainText(/points \d+ to \d+/);
  await path.getByRole("button", { name: "all rows" }).click();
  await expect(verdict(page)).toContainText("1,200 defects");
});

test("what became of each kind is told, and the number inspected of a log comes from another dataset", async ({
  page,
  server,
}) => {
  await page.goto(await studyAddress(server, "Defect log, May", "pareto", 2));
  await expect(verdict(page)).toContainText("no kind changed by more than chance");
  await page.getByRole("button", { name: "Count “Gasket, loose” as “loose gasket”" }).click();
  await expect(verdict(page)).toContainText(/more loose gasket, from \d\.\d % to 1\d\.\d % \(p = 0\.0/);
  await page.getByRole("textbox", { name: "before, to row" }).fill("300");
  await page.getByRole("textbox", { name: "after, to row" }).fill("900");
  await expect(page.getByText("rows 1 to 300").first()).toBeVisible();

  const lots = { day: ["2026-05-04", "2026-05-05", "2026-05-05", "2026-05-06"], inspected: [400, 150, 250, 410] };
  const text = `day,inspected\n${lots.day.map((day, row) => `${day},${lots.inspected[row]}`).join("\n")}\n`;
  await page.goto(`${server.address}/data`);
  await page
    .getByLabel("File to bring in")
    .setInputFiles({ name: "inspected.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await page.getByRole("button", { name: /^Bring in/ }).click();
  await expect(page.getByRole("grid")).toBeVisible();
  await page.goto(await studyAddress(server, "Defect log, May", "control-chart"));
  await page.getByRole("button", { name: /^kind of chart:/ }).click();
  await page.getByRole("radio", { name: /^defects per unit \(u\)/ }).click();
  await page.getByRole("button", { name: /^Say more/ }).click();
  await page.getByRole("button", { name: /^number inspected of each point/ }).click();
  await page.getByLabel("Take them from").selectOption({ label: "Inspected" });
  await page.getByLabel("its day, shift or lot").selectOption("day");
  await page.getByLabel("its number inspected").selectOption("inspected");
  await page.getByRole("button", { name: "Take them", exact: true }).click();
  await expect(page.getByRole("button", { name: "number inspected of each point: 3 of their own" })).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(verdict(page)).toContainText("3 subgroups");
});

test("a bench with a leader of its own is named, and the leader in money need not lead in number", async ({
  page,
  server,
}) => {
  await page.goto(await studyAddress(server, "Defect log, May", "pareto", 1));
  await expect(page.getByText(/Bench C has a leader of its own: loose gasket, \d+ %/)).toBeVisible();
  await page.goto(await studyAddress(server, "Defect summary, May", "pareto"));
  const kinds = page.getByRole("slider", { name: "Kinds of kind" });
  await kinds.focus();
  await page.keyboard.press("ArrowDown");
  await expect(kinds).toHaveAttribute("aria-valuetext", /EUR/);
});

type Numbers = Parameters<typeof placeRows>[0];
const ranking = (counts: number[], kept: number, label = "") => {
  const total = counts.reduce((sum, count) => sum + count, 0);
  let so = 0;
  const bars = counts.slice(0, kept).map((count, k) => {
    so += count;
    return { category: `K${k}`, count, share: count / total, cumulative: so / total };
  });
  const rest = total - so;
  return {
    label,
    total,
    kinds: counts.length,
    bars,
    other: kept < counts.length ? { categories: counts.length - kept, count: rest, share: rest / total } : null,
    aligned: [...counts.slice(0, kept), rest],
  };
};

test("rows stand under each other, what is folded is always among them, and groups share the rows of the whole", () => {
  const counts = Array.from({ length: 300 }, (_, k) => 300 - k);
  for (const kept of [1, 5, 30, 299, 300]) {
    const numbers = { overall: ranking(counts, kept), groups: [] } as unknown as Numbers;
    const layout = placeRows(numbers, 820, 640);
    expect(layout.top + layout.high * layout.rows.length).toBeLessThanOrEqual(640);
    expect(layout.rows.length + layout.unseen).toBe(kept < 300 ? kept + 1 : 300);
    expect(layout.rows.some(({ folded }) => folded)).toBe(kept < 300);
    const [whole] = layout.columns;
    expect(whole?.counts).toEqual(layout.rows.map(({ count }) => count));
    // The stair goes right and down only.
    const places = [...stairPath(layout).matchAll(/H([\d.]+)/g)].map(([, x]) => Number(x));
    expect(places).toEqual([...places].sort((a, b) => a - b));
  }
  const groups = [ranking([5, 50, 0], 2, "bench C"), ranking([9, 1, 1], 2, "bench D")];
  const grouped = placeRows({ overall: ranking([14, 51, 1], 2), groups } as unknown as Numbers, 820, 640);
  expect(grouped.stair).toBeNull();
  const weighed = {
    overall: ranking([90, 40, 6], 2),
    groups: [],
    unweighed: { aligned: [3, 40, 9], total: 52, leader: "K1" },
    alike: [60, 45, 31],
  };
  const beside = placeRows(weighed as unknown as Numbers, 820, 640, { number: true, alike: true });
  expect([beside.columns.map(({ counts }) => counts), beside.columns[1]?.leader]).toEqual([
    [
      [90, 40, 6],
      [3, 40, 9],
    ],
    1,
  ]);
  expect([beside.alike, beside.stair === null]).toEqual([[60, 45, 31], false]);
  expect(grouped.columns.map(({ counts }) => counts)).toEqual([
    [14, 51, 1],
    [5, 50, 0],
    [9, 1, 1],
  ]);
  // In its own order the first row is the group's own leader, and shares of all groups are on one scale.
  const own = placeOwn(groups as unknown as Parameters<typeof placeOwn>[0], 820, 640);
  expect(own.map(({ rows }) => rows[0]?.row.share)).toEqual([5 / 55, 9 / 11]);
  expect(own[0]?.x(0.5)).toBe(own[1]?.x(0.5));
  expect(own[0]?.box.right ?? 0).toBeLessThan(own[1]?.box.left ?? 0);
  for (const [one, other] of [grouped.columns.slice(0, 2), grouped.columns.slice(1, 3)])
    expect(one?.box.right ?? 0).toBeLessThan(other?.box.left ?? 0);
});

test("the grip stands between two rows wherever it is let go, and never folds all or nothing more than there is", () => {
  expect([100, 113, 114, 139, 140, 1e6, -50].map((y) => keptAt(y, 100, 26, 40))).toEqual([1, 1, 1, 2, 2, 40, 1]);
});
