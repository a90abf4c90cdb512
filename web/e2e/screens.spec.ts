import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";
import { expect, openDataset, studyAddress, test } from "./server";

async function isAccessible(page: Page, what: string) {
  const { violations } = await new AxeBuilder({ page }).analyze();
  const grave = violations.filter(({ impact }) => impact === "serious" || impact === "critical");
  expect(grave.map(({ id, nodes }) => `${what}: ${id} ${nodes.map((node) => node.html).join(" ")}`)).toEqual([]);
}

for (const colorScheme of ["light", "dark"] as const) {
  test(`every screen is accessible, ${colorScheme}`, async ({ page, server }) => {
    await page.emulateMedia({ colorScheme });
    await page.goto(server.address);
    await expect(page.getByRole("heading", { name: /steady/ })).toBeVisible();
    await isAccessible(page, "Wall");
    await page.keyboard.press("g");
    await page.keyboard.press("d");
    await expect(page.getByRole("heading", { name: "Bring data in" })).toBeVisible();
    await isAccessible(page, "Data");
    await page.getByLabel("Paste cells here").fill("lamp;flux\n1;5l2,5\n2;513,5\n3;514\n");
    await expect(page.getByRole("heading", { name: "Did we read it right?" })).toBeVisible();
    await isAccessible(page, "import");
    await openDataset(page, server, "Lens thickness, press 2");
    await expect(page.locator("#cell-0-3")).toBeVisible();
    await isAccessible(page, "table");
    await page.keyboard.press("g");
    await page.keyboard.press("a");
    await expect(page.getByRole("button", { name: /Is it steady\?/ })).toBeVisible();
    await isAccessible(page, "Ask");
    await page.goto(await studyAddress(server, "Lens thickness, press 2", "control-chart"));
    await expect(page.getByTestId("verdict")).toBeVisible();
    await isAccessible(page, "Study");
    await page.keyboard.press("]");
    await expect(page.getByRole("region", { name: "Signal" })).toBeVisible();
    await isAccessible(page, "signal");
    await page.getByRole("button", { name: /kind of chart/ }).click();
    await page.getByRole("button", { name: "Help me choose" }).click();
    await expect(page.getByText("One value at a time or a few together?")).toBeVisible();
    await isAccessible(page, "slot");
    await page.keyboard.press("Escape");
    await page.getByRole("tab", { name: "Numbers" }).click();
    await isAccessible(page, "ledger");
    await page.goto(`${await studyAddress(server, "LED reels", "control-chart")}?figure=line-up`);
    await expect(page.getByRole("button", { name: /p-prime chart/ })).toBeVisible();
    await isAccessible(page, "line-up");
    await page.goto(await studyAddress(server, "Housing wall thickness", "distribution"));
    await expect(page.getByTestId("verdict")).toBeVisible();
    await isAccessible(page, "look");
    for (const [dataset, method, search] of [
      ["Seal leak rate", "capability", ""],
      ["Seal leak rate", "capability", "?figure=shapes"],
      ["Seal leak rate", "capability", "?figure=need"],
      ["Groove depth, housing", "capability", ""],
      ["Final check per shift", "sigma-level", ""],
      ["Groove depth, gauge study", "gauge-crossed", ""],
      ["Groove depth, gauge study", "gauge-crossed", "?figure=components"],
      ["Seal bond strength, gauge study", "gauge-nested", ""],
      ["Flux meter, one reference lamp", "gauge-single", ""],
      ["Flux meter, five reference lamps", "gauge-linearity", ""],
      ["Solder joints, inspection study", "gauge-attribute", ""],
      ["Housing wall thickness", "multi-vari", ""],
      ["Converter efficiency, lab", "matrix", ""],
      ["Burn-in by bench", "screening", ""],
      ["Converter efficiency, lab", "simulation", ""],
      ["Converter efficiency, lab", "simulation", "?figure=tightening"],
      ["Converter efficiency, lab", "simulation", "?figure=settings"],
      ["Lens dimensions, receiving", "indices", ""],
    ] as const) {
      await page.goto((await studyAddress(server, dataset, method)) + search);
      await expect(page.getByTestId("verdict")).toBeVisible();
      await isAccessible(page, `${method} of ${dataset}${search}`);
    }
    await page.getByRole("button", { name: /^shape: / }).click();
    await isAccessible(page, "choices");
    await page.keyboard.press("Escape");
    await page.goto(await studyAddress(server, "Converter efficiency, lab", "simulation"));
    for (const piece of [/^Input efficiency/, /^Input capacity/, /^Input power/, /^Response run time/]) {
      await page.getByRole("button", { name: piece }).click();
      await expect(page.getByRole("button", { name: "Close" })).toBeVisible();
      await isAccessible(page, `desk ${piece}`);
    }
    await page.keyboard.press("Escape");
    await page.goto(`${server.address}/gauges`);
    await expect(page.getByRole("heading", { name: "3 gauges want care." })).toBeVisible();
    await isAccessible(page, "gauges");
    await page.getByRole("link", { name: "Flux meter L-02" }).click();
    await expect(page.getByRole("heading", { name: "Studies" })).toBeVisible();
    await isAccessible(page, "gauge");
    await page.getByRole("button", { name: "Plan a gauge study" }).click();
    await page.getByLabel("what is read").fill("beam flux");
    await page.getByLabel("operators, one a line").fill("Ida\nMei");
    await expect(page.getByText("60 readings")).toBeVisible();
    await isAccessible(page, "plan");
    await openDataset(page, server, "Edge gap, gauge study");
    await expect(page.getByRole("region", { name: "Sheet" })).toContainText("41 of 90 readings");
    await isAccessible(page, "sheet");
    await page.goto(`${server.address}/signals`);
    await expect(page.getByRole("heading", { name: /wait for a cause/ })).toBeVisible();
    await isAccessible(page, "signals");
    await page.keyboard.press("Control+k");
    await page.getByPlaceholder("A dataset, a study").fill("leak");
    await isAccessible(page, "palette");
    await page.getByRole("option", { name: "Seal leak rate", exact: true }).click();
    await expect(page.getByRole("grid", { name: "Table of Seal leak rate" })).toBeVisible();
  });
}

test("what is not there, or not filled yet, is said in words", async ({ page, server }) => {
  await page.goto(`${server.address}/study/999`);
  await expect(page.getByRole("alert")).toContainText("there is no study 999");
  await page.goto(`${server.address}/nowhere`);
  await expect(page.getByRole("alert")).toContainText("There is no page at this address.");
  // A dataset without a single number leaves the slot empty, and nothing else blocks.
  await page.goto(`${server.address}/data`);
  await page.getByLabel("Paste cells here").fill("bench,kind\nA,crack\nB,scratch\nA,crack\n");
  await page.getByRole("button", { name: "Bring in 3 rows" }).click();
  await page.getByRole("button", { name: "Ask of this data" }).click();
  await page.getByRole("button", { name: /Is it steady\?/ }).click();
  await expect(page.getByRole("button", { name: "measurement: choose a measurement" })).toBeVisible();
  await expect(page.getByRole("heading", { name: "The statement has an empty slot" })).toBeVisible();
});

test("the API can be read where it is served", async ({ page, server }) => {
  await page.goto(`${server.address}/api/docs`);
  await expect(page.getByText("/api/studies/{id}/outcome")).toBeVisible();
});
