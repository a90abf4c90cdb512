import { keptAt, placeRows, stairPath } from "../src/figures/pareto/layout";
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
  await expect(page.getByText(/\d+ rows carried over from a study/)).toBeVisible();
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
  expect(grouped.columns.map(({ counts }) => counts)).toEqual([
    [14, 51, 1],
    [5, 50, 0],
    [9, 1, 1],
  ]);
  for (const [one, other] of [grouped.columns.slice(0, 2), grouped.columns.slice(1, 3)])
    expect(one?.box.right ?? 0).toBeLessThan(other?.box.left ?? 0);
});

test("the grip stands between two rows wherever it is let go, and never folds all or nothing more than there is", () => {
  expect([100, 113, 114, 139, 140, 1e6, -50].map((y) => keptAt(y, 100, 26, 40))).toEqual([1, 1, 1, 2, 2, 40, 1]);
});
