import type { Page } from "@playwright/test";
import { expect, type Server, test } from "./server";

const PICTURE = `data:image/svg+xml;base64,${Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"><rect width="40" height="30"/></svg>').toString("base64")}`;

const PLAN = {
  name: "Lens, press 4",
  pieces: 2,
  identifiers: [
    { column: "taken at", asked: "time" },
    { column: "sample", asked: "subgroup" },
    { column: "badge", asked: "text", required: true, remembered: true, person: true },
  ],
  measurements: [{ column: "thickness" }, { column: "haze" }],
  causes: ["worn punch"],
  reactions: [
    { on: "signal", words: "Look at the die." },
    { on: "signal", pattern: "beyond-limits", words: "Stop the press, then look at the die.", picture: PICTURE },
    { on: "beyond-specification", words: "Set the lens aside." },
  ],
};

type Made = { id: number; dataset_id: number; study_ids: number[]; stations: { id: number }[] };

async function send(server: Server, method: string, path: string, body: unknown) {
  const answer = await fetch(server.address + path, {
    method,
    headers: { "content-type": "application/json", origin: server.address },
    body: JSON.stringify(body),
  });
  expect(answer.ok, await answer.clone().text()).toBe(true);
  return answer.json();
}

/** A plan of two measurements with twenty subgroups that scatter a little. */
async function made(server: Server): Promise<Made> {
  const plan = await send(server, "POST", "/api/floor/plans", {
    plan: PLAN,
    infos: { haze: { rules: { lowest: 0, highest: 9 } } },
    station: "Press 4",
  });
  const entry = (at: number) => ({
    key: `k${at}`,
    at: 1_780_000_000_000 + at * 3_600_000,
    time: `2026-05-${String(4 + at).padStart(2, "0")} 06:00:00`,
    identifiers: { badge: "B-17" },
    pieces: [0, 1].map((piece) => ({
      thickness: 2.4 + ((at * 7 + piece * 3) % 5) / 1000,
      haze: 1 + ((at * 5 + piece * 2) % 7) / 10,
    })),
  });
  const entries = Array.from({ length: 20 }, (_, at) => entry(at));
  await send(server, "POST", `/api/floor/stations/${plan.stations[0].id}/entries`, { entries });
  return plan;
}

async function measure(page: Page, ...values: string[]) {
  for (const value of values) {
    const field = page.getByRole("textbox", { name: /^Measure/ });
    await expect(field).toBeFocused();
    await field.fill(value);
    await page.keyboard.press("Enter");
  }
}

test("every measurement has its chart at the station, and a signal on either asks for its cause with its own reaction", async ({
  page,
  server,
}) => {
  const plan = await made(server);
  expect(plan.study_ids).toHaveLength(2);
  await page.goto(`${server.address}/station/${plan.stations[0]?.id}`);
  await page.getByRole("textbox", { name: /badge/i }).fill("B-17");
  await page.keyboard.press("Enter");
  // The chart is that of what is asked for.
  const chart = page.getByRole("img", { name: /the last 20/ });
  await expect(page.getByRole("heading", { level: 1 })).toContainText("thickness");
  const first = await chart.getAttribute("aria-label");
  await measure(page, "2.402");
  await expect(chart).not.toHaveAttribute("aria-label", first ?? "");
  await measure(page, "1.2");
  await expect(chart).toHaveAttribute("aria-label", first ?? "");
  await measure(page, "2.401");
  // Beyond belief for haze, not for thickness.
  await measure(page, "90");
  await expect(page.getByRole("alert").first()).toContainText("90 is beyond belief. Above 9 nothing is believed");
  await page.getByRole("textbox", { name: /^Measure/ }).fill("8.5");
  await page.keyboard.press("Enter");
  const what = page.getByRole("main", { name: "What happened" });
  await expect(what.getByRole("heading", { level: 1 })).toContainText("Sample 21 lies above the upper control limit");
  const todo = what.getByRole("region", { name: "What to do" });
  await expect(todo.locator("p")).toHaveText(["Stop the press, then look at the die.", "Look at the die."]);
  // What is to be done is shown in a picture too.
  await expect.poll(() => todo.locator("img").evaluate((one) => (one as HTMLImageElement).naturalWidth)).toBe(40);
  await what.getByRole("button", { name: "worn punch" }).click();
  await expect(what.getByLabel("Who")).toHaveValue("B-17");
  await what.getByRole("button", { name: "Keep it" }).click();
  await expect(what).toHaveCount(0);
  const { signals } = await (await fetch(`${server.address}/api/studies/${plan.study_ids[1]}/signals`)).json();
  type Signal = { last: number; finding: { cause: string; owner: string } | null };
  const newest = (signals as Signal[]).filter(({ last }) => last === 20);
  expect(newest.length).toBeGreaterThan(0);
  expect(newest.every(({ finding }) => finding?.cause === "worn punch" && finding.owner === "B-17")).toBe(true);
});

test("a value that the desk corrects in the table is told beside its entry with what it was", async ({
  page,
  server,
}) => {
  const plan = await made(server);
  await page.goto(`${server.address}/floor/${plan.id}`);
  const row = page.getByRole("row", { name: /^20 / });
  await expect(row).not.toContainText(" to ");
  const dataset = await (await fetch(`${server.address}/api/datasets/${plan.dataset_id}`)).json();
  const column = dataset.columns.find(({ name }: { name: string }) => name === "haze");
  const edit = { column_id: column.id, row: 38, text: "1.9" };
  const before = await (await fetch(`${server.address}/api/datasets/${plan.dataset_id}/rows?first=38&count=1`)).json();
  const was = before.cells[dataset.columns.indexOf(column)][0];
  await send(server, "PATCH", `/api/datasets/${plan.dataset_id}/cells`, { revision: dataset.revision, ...edit });
  // The page hears of it, and Undo takes it back.
  await expect(row).toContainText(`haze ${was} to 1.9`);
  await send(server, "POST", `/api/datasets/${plan.dataset_id}/undo`, { revision: dataset.revision + 1 });
  await expect(row).not.toContainText(`haze ${was} to 1.9`);
});
