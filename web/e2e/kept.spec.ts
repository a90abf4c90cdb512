import { dialOf, expect, openDataset, studyAddress, test, verdict } from "./server";

test("after a power cut every acknowledged edit is there", async ({ page, server }) => {
  await openDataset(page, server, "Battery run time");
  const cell = (row: number) => page.locator(`#cell-${row}-3`);
  await cell(0).click();
  for (let row = 0; row < 12; row++) {
    await page.keyboard.press("Enter");
    await page.keyboard.press("Control+a");
    await page.keyboard.type(`4.${10 + row}`);
    await page.keyboard.press("Enter");
    await expect(cell(row)).toHaveText(`4.${10 + row} ▼`);
  }
  await server.kill();
  await server.start();
  await page.reload();
  for (let row = 0; row < 12; row++) await expect(cell(row)).toHaveText(`4.${10 + row} ▼`);
});

test("what is typed while the server is away is kept and stored when it is back", async ({ page, server }) => {
  await openDataset(page, server, "Battery run time");
  await page.locator("#cell-4-3").click();
  await page.keyboard.press("Enter");
  await page.keyboard.press("Control+a");
  await server.kill();
  await page.keyboard.type("6.66");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText("The server does not answer");
  await expect(page.getByLabel("run time, row 5")).toHaveValue("6.66");
  await server.start();
  await page.getByLabel("run time, row 5").press("Enter");
  await expect(page.locator("#cell-4-3")).toHaveText("6.66");
});

test("two browsers agree: an edit in one is a signal in the other", async ({ page, server, browser }) => {
  await page.goto(server.address);
  await dialOf(page, "Battery run time").click();
  await expect(verdict(page)).toContainText("None of 80 values is a signal");

  const other = await browser.newPage();
  await openDataset(other, server, "Battery run time");
  await other.locator("#cell-10-3").click();
  await other.keyboard.type("9.9");
  await other.keyboard.press("Enter");
  await expect(verdict(page)).toContainText("1 of 80 values lies beyond the control limits");

  // Both change the statement; the second change is applied on top of the first.
  await other.goto(page.url());
  await page.getByRole("button", { name: /short-term spread/ }).click();
  await page.getByRole("radio", { name: /median moving range/ }).click();
  await other.getByRole("button", { name: /order: started at/ }).click();
  await other.getByRole("radio", { name: "the rows" }).click();
  for (const each of [page, other]) {
    await expect(each.getByRole("button", { name: /the median moving range/ })).toBeVisible();
    await expect(each.getByRole("button", { name: "order: the rows" })).toBeVisible();
  }
  await other.close();
});

test("a change that waits for another one while the page is left is there when it is opened again", async ({
  page,
  server,
}) => {
  await page.goto(await studyAddress(server, "Battery run time", "control-chart"));
  await expect(verdict(page)).toContainText("None of 80 values is a signal");
  // The first change arrives, its answer does not.
  let lost = true;
  await page.route("**/api/studies/*", async (route) => {
    if (route.request().method() !== "PATCH" || !lost) return route.continue();
    await route.fetch();
  });
  await page.getByRole("button", { name: /short-term spread/ }).click();
  await page.getByRole("radio", { name: /median moving range/ }).click();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /order: started at/ }).click();
  await page.getByRole("radio", { name: "the rows" }).click();
  lost = false;
  const address = page.url();
  const again = await page.context().newPage();
  await page.close({ runBeforeUnload: true });
  await again.goto(address);
  await expect(again.getByRole("button", { name: /the median moving range/ })).toBeVisible();
  await expect(again.getByRole("button", { name: "order: the rows" })).toBeVisible();
});

test("an answer that is being worked out anew is marked, until it is there", async ({ page, server }) => {
  const stale = async <Body>(address: string, mark: (body: Body) => void) => {
    await page.route(address, async (route) => {
      const answer = await route.fetch();
      const body: Body = await answer.json();
      mark(body);
      await route.fulfill({ response: answer, json: body });
    });
  };
  await stale("**/api/wall", (wall: { stale: boolean }[]) => {
    const [first] = wall;
    if (first) first.stale = true;
  });
  await stale("**/api/signals", (open: { stale: boolean }) => {
    open.stale = true;
  });
  await page.goto(server.address);
  await expect(page.getByText("being worked out anew")).toHaveCount(1);
  await page.goto(`${server.address}/signals`);
  await expect(page.getByRole("status")).toHaveText("Some are being worked out anew.");
  // It is looked at again by itself.
  await page.unroute("**/api/signals");
  await expect(page.getByText("Some are being worked out anew.")).toHaveCount(0);
});
