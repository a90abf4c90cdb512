import { type ChildProcess, spawn } from "node:child_process";
import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect, type Server, test } from "./server";

type Plan = { id: number; dataset_id: number; study_ids: number[]; stations: { id: number; key: string }[] };

const floor = async (server: Server): Promise<{ plan: Plan; waiting: number }[]> =>
  (await fetch(`${server.address}/api/floor`)).json();

async function lensStation(server: Server) {
  const [found] = await floor(server);
  const id = found?.plan.stations[0]?.id;
  return { address: `${server.address}/station/${id}`, plan: found?.plan as Plan };
}

const rowsOf = async (server: Server, plan: Plan): Promise<number> =>
  (await (await fetch(`${server.address}/api/datasets/${plan.dataset_id}`)).json()).row_count;

async function typed(page: Page, ...values: string[]) {
  for (const value of values) {
    const field = page.getByRole("textbox", { name: /^Measure/ });
    await expect(field).toBeFocused();
    await page.keyboard.type(value);
    await page.keyboard.press("Enter");
  }
}

test("a subgroup is typed by keys alone, a value beyond belief is refused, and a mistake is taken back", async ({
  page,
  server,
}) => {
  const { address, plan } = await lensStation(server);
  const before = await rowsOf(server, plan);
  await page.goto(address);
  await page.getByRole("button", { name: "early" }).click();
  await expect(page.getByText("all entries stored")).toBeVisible();
  await typed(page, "2.401", "2,399", "24.01");
  await expect(page.getByRole("alert").first()).toHaveText(/24.01 is beyond belief. Above 2.6 nothing is believed/);
  // Measured again; a slip of the piece before is taken back.
  await page.getByRole("textbox", { name: /^Measure piece 3/ }).fill("2.404");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "take back 2.404" }).click();
  await typed(page, "2.403", "2.4", "2.402");
  await expect(page.getByText(/^last entry 31/)).toBeVisible();
  expect(await rowsOf(server, plan)).toBe(before + 5);
  // What is remembered is not asked again.
  await expect(page.getByRole("textbox", { name: "Measure piece 1." })).toBeFocused();
  await page.getByRole("button", { name: "take back the last entry" }).click();
  await expect(page.getByText(/^entry 31 of .* was taken back/)).toBeVisible();
  expect(await rowsOf(server, plan)).toBe(before);
});

test("a value beyond belief is confirmed with a remark, and asks for its cause there and then", async ({
  page,
  server,
}) => {
  const { address } = await lensStation(server);
  await page.goto(address);
  await page.getByRole("button", { name: "late" }).click();
  await typed(page, "2.9");
  await expect(page.getByRole("button", { name: "It is so: 2.9" })).toBeDisabled();
  await page.getByLabel("Remark on why it is so").fill("double shot");
  await page.getByRole("button", { name: "It is so: 2.9" }).click();
  await typed(page, "2.4", "2.4", "2.4", "2.4");
  const what = page.getByRole("main", { name: "What happened" });
  await expect(what.getByRole("heading", { level: 1 })).toHaveText("Piece 1: lens thickness 2.9 lies above USL 2.46.");
  await expect(what.getByText("stop the press and call the setter")).toBeVisible();
  await what.getByRole("button", { name: "worn punch" }).click();
  await what.getByLabel("What was done").fill("changed it");
  await what.getByRole("button", { name: "Keep it" }).click();
  // The chart has something to say as well; it is left for later and stays on the list.
  await expect(what.getByRole("heading", { level: 1 })).toHaveText(/control limit/);
  await what.getByRole("button", { name: "Later" }).click();
  await expect(what).toHaveCount(0);
  await page.getByRole("link", { name: "desk" }).click();
  const row = page.getByRole("row", { name: /worn punch/ });
  await expect(row).toContainText("lens thickness 2.9 of piece 1, above 2.46");
  await expect(row).toContainText("double shot");
  await expect(row).toContainText("beyond belief, confirmed");
  await page.goto(`${server.address}/signals`);
  await expect(page.getByText("Lens thickness, press 2").first()).toBeVisible();
});

test("entries wait on the device while the server is gone, and arrive once and in order", async ({ page, server }) => {
  const { address, plan } = await lensStation(server);
  const before = await rowsOf(server, plan);
  await page.goto(address);
  await page.getByRole("button", { name: "night" }).click();
  const isKept = async (path: string) => (await caches.open("acorn-dial-station")).match(path).then(Boolean);
  for (const path of ["/station/", "/api/floor", `/api/datasets/${plan.dataset_id}`])
    await expect.poll(() => page.evaluate(isKept, path)).toBe(true);
  await server.kill();
  await typed(page, ...Array(5).fill("2.401"));
  await expect(page.getByText("1 entry waits for the connection")).toBeVisible();
  // The station opens without the service, with what it knew last.
  await page.reload();
  await expect(page.getByText("1 entry waits for the connection")).toBeVisible();
  await typed(page, ...Array(5).fill("2.402"));
  await expect(page.getByText("2 entries wait for the connection")).toBeVisible();
  await server.start();
  await expect(page.getByText("all entries stored")).toBeVisible({ timeout: 15_000 });
  expect(await rowsOf(server, plan)).toBe(before + 10);
  const entries: { subgroup: number; arrived_at: number; at: number }[] = await (
    await fetch(`${server.address}/api/floor/plans/${plan.id}/entries`)
  ).json();
  expect(entries.map(({ subgroup }) => subgroup)).toEqual([32, 31]);
  // Each has the time at which it was made, not that at which it arrived.
  expect(entries.every(({ at, arrived_at }) => at < arrived_at)).toBe(true);
  expect((entries[0]?.at ?? 0) > (entries[1]?.at ?? 0)).toBe(true);
});

test("two stations on one dataset never mix, and the desk and the Wall follow", async ({ page, server, context }) => {
  const { address, plan } = await lensStation(server);
  await page.goto(`${server.address}/floor/${plan.id}`);
  await page.getByLabel("another station").fill("Press 2, bench");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByRole("link", { name: "Press 2, bench" })).toBeVisible();
  const second = (await floor(server))[0]?.plan.stations[1]?.id;
  const [one, other] = [await context.newPage(), await context.newPage()];
  await one.goto(address);
  await other.goto(`${server.address}/station/${second}`);
  for (const [at, words] of [
    [one, "early"],
    [other, "late"],
  ] as const) {
    await at.bringToFront();
    await at.getByRole("button", { name: words }).click();
  }
  for (let piece = 1; piece <= 5; piece++)
    for (const [at, value] of [
      [one, "2.41"],
      [other, "2.39"],
    ] as const) {
      await at.bringToFront();
      await at.getByRole("textbox", { name: `Measure piece ${piece}.` }).fill(value);
      await at.keyboard.press("Enter");
    }
  await expect(page.getByRole("row", { name: /^(31|32) / })).toHaveCount(2);
  const window = await (
    await fetch(`${server.address}/api/datasets/${plan.dataset_id}/rows?first=150&count=10`)
  ).json();
  const [, sample = [], shift = [], thickness = []]: string[][] = window.cells;
  const subgroups = new Map<string, Set<string>>();
  sample.forEach((name, at) => {
    subgroups.set(name, (subgroups.get(name) ?? new Set()).add(`${shift[at]} ${thickness[at]}`));
  });
  expect([...subgroups.values()].flatMap((all) => [...all]).sort()).toEqual(["early 2.41", "late 2.39"]);
});

/** The gauge that ships, at a station. */
function gauge(server: Server, station: string, ...more: string[]): ChildProcess {
  const binary = process.env.ACORN_DIAL ?? "";
  return spawn(binary, ["gauge", "--to", server.gauges, "--station", station, ...more], {
    stdio: "ignore",
  });
}

const ended = (child: ChildProcess) => new Promise<number | null>((resolve) => child.once("exit", resolve));

test("a gauge fills the waiting fields, and a wrong unit is refused", async ({ page, server }) => {
  const { address, plan } = await lensStation(server);
  const before = await rowsOf(server, plan);
  const key = plan.stations[0]?.key ?? "";
  await page.goto(address);
  await page.getByRole("button", { name: "early" }).click();
  await expect(page.getByRole("textbox", { name: "Measure piece 1." })).toBeVisible();
  const wrong = await fetch(`${server.address}/api/readings`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ station: key, readings: [{ line: "0.0945 in" }] }),
  });
  expect((await wrong.json())[0].problem.detail).toContain("the gauge reads in in");
  const child = gauge(server, key, "--plain", "--count", "5", "--rate", "2", "--bounce", "3", "--sd", "0.004");
  const done = ended(child);
  await expect(page.getByText("gauge is heard")).toBeVisible();
  await expect(page.getByText(/^last entry 31/)).toBeVisible();
  expect(await done).toBe(0);
  // A key that bounces counts once.
  expect(await rowsOf(server, plan)).toBe(before + 5);
});

test("kills during a burst of a gauge lose nothing answered and repeat nothing", async ({ page, server }) => {
  test.setTimeout(120_000);
  await page.goto(`${server.address}/floor/new`);
  await page.getByLabel("name of the plan").fill("Beam flux, sphere 2");
  await page.getByRole("textbox", { name: "measurement" }).fill("flux");
  await page.getByLabel("pieces a subgroup").fill("1");
  await page.getByRole("checkbox", { name: /become entries by themselves/ }).check();
  for (let rows = 0; rows < 2; rows++) await page.getByRole("button", { name: "Remove" }).last().click();
  await page.getByRole("button", { name: "Make this plan" }).click();
  await expect(page.getByRole("heading", { name: "flux" })).toBeVisible();
  const plan = (await floor(server)).map(({ plan }) => plan).at(-1) as Plan;
  const child = gauge(server, plan.stations[0]?.key ?? "", "--rate", "0", "--count", "20000", "--unit", "");
  const done = ended(child);
  for (let kill = 0; kill < 12; kill++) {
    await new Promise((resolve) => setTimeout(resolve, 250));
    await server.kill();
    await server.start();
  }
  expect(await done).toBe(0);
  expect(await rowsOf(server, plan)).toBe(20_000);
  await expect(
    page
      .getByText("20000 entries so far")
      .or(page.getByText(/^version 1/))
      .first(),
  ).toBeVisible();
});

test("the floor is accessible, and everything at a station is large enough to be touched", async ({ page, server }) => {
  const { address, plan } = await lensStation(server);
  for (const [where, size] of [
    [`${server.address}/floor`, [1280, 800]],
    [`${server.address}/floor/${plan.id}`, [1280, 800]],
    [`${server.address}/floor/new`, [1280, 800]],
    [address, [1280, 800]],
    [address, [800, 1280]],
  ] as const) {
    await page.setViewportSize({ width: size[0], height: size[1] });
    await page.goto(where);
    await page.waitForLoadState("networkidle").catch(() => undefined);
    if (where === address) {
      // The second time it is remembered.
      if (size[0] === 1280) await page.getByRole("button", { name: "early" }).click();
      await page.getByRole("button", { name: "123" }).click();
      const small = await page.locator("button:visible, a:visible, input:visible").evaluateAll((all) =>
        all
          .map((one) => ({ box: one.getBoundingClientRect(), name: one.textContent || one.getAttribute("aria-label") }))
          .filter(({ box }) => box.height < 44 || box.width < 44)
          .map(({ name, box }) => `${name} ${box.width} x ${box.height}`),
      );
      expect(small).toEqual([]);
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(size[0]);
    }
    const found = await new AxeBuilder({ page }).analyze();
    expect(found.violations.filter(({ impact }) => impact === "serious" || impact === "critical")).toEqual([]);
  }
});

test("the Wall is searched, and hung up where nobody has a mouse", async ({ page, server }) => {
  await page.goto(server.address);
  const dials = page.getByRole("listitem");
  await expect(page.getByRole("region", { name: "Lens thickness, press 2" })).toBeVisible();
  const all = await dials.count();
  await page.getByLabel("Find on the Wall").fill("groove HOUSING");
  await expect(dials).toHaveCount(1);
  await page.getByLabel("Find on the Wall").fill("nothing like it");
  await expect(page.getByText("Nothing on the Wall is called so")).toBeVisible();
  await page.getByLabel("Find on the Wall").fill("");
  await page.getByRole("button", { name: "not steady only" }).click();
  await expect(dials).toHaveCount(3);
  await page.getByRole("link", { name: "hang it up" }).click();
  await expect(page.getByRole("navigation", { name: "Places" })).toHaveCount(0);
  await expect(dials).toHaveCount(3);
  await page.goto(`${server.address}/wall?seconds=2`);
  await expect(page.getByText("1 of 2")).toBeVisible();
  const first = await dials.count();
  await expect(page.getByText("2 of 2")).toBeVisible();
  await expect(dials).toHaveCount(all - first);
  await page.goto(`${server.address}/wall?show=beam%20flux`);
  await expect(dials).toHaveCount(1);
});
