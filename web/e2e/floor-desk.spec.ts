import { expect, test } from "./server";

test("a plan that counts is made with its list, followed at the station, and changed into a new version", async ({
  page,
  server,
}) => {
  await page.goto(`${server.address}/floor`);
  await page.getByRole("button", { name: "Plan a collection" }).click();
  await page.getByRole("button", { name: "Make this plan" }).isDisabled();
  await page.getByLabel("name of the plan").fill("Solder joints, line 3");
  const measured = page.getByRole("region", { name: "What is measured" });
  await measured.getByRole("button", { name: "Remove" }).click();
  const counted = page.getByRole("region", { name: "What is counted" });
  await counted.getByLabel("inspected").fill("boards");
  await counted.getByLabel("kinds of defects, a line each").fill("bridge\n\nvoid\n");
  const apart = page.getByRole("region", { name: "What tells entries apart" });
  await apart.getByRole("button", { name: "Lists to choose from" }).click();
  await apart.getByLabel("name of the list").fill("Line 3 people");
  await apart.getByLabel("choices, a line each").fill("Mara\nJonas");
  await apart.getByRole("button", { name: "Save the list" }).click();
  await apart.getByLabel("how it comes about").last().selectOption("choice");
  // What cannot be followed is refused, and what was typed stays.
  await page.getByRole("button", { name: "Make this plan" }).click();
  await expect(page.getByRole("alert")).toContainText("“operator” is chosen from a list, and no list is named");
  await apart.getByLabel("list", { exact: true }).selectOption("Line 3 people");
  await page.getByLabel("an entry is due").selectOption("by the clock");
  await page.getByLabel("minutes from one to the next").fill("30");
  await page.getByLabel("late after minutes").fill("5");
  await page.getByRole("button", { name: "Make this plan" }).click();
  await expect(page.getByRole("heading", { name: "boards, bridge, void, every 30 min" })).toBeVisible();

  await page.getByRole("link", { name: "Station 1" }).click();
  await expect(page.getByText("No value yet.")).toBeVisible();
  await page.getByRole("button", { name: "Jonas" }).click();
  await page.keyboard.type("2.5");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").first()).toHaveText("A count is a whole number.");
  await page.getByRole("textbox", { name: "How many: boards?" }).fill("50");
  await page.keyboard.press("Enter");
  for (let tap = 0; tap < 3; tap++) await page.getByRole("button", { name: "One more: void" }).click();
  await page.getByRole("button", { name: "One less: void" }).click();
  await expect(page.getByRole("button", { name: "One less: bridge" })).toBeDisabled();
  await page.getByRole("button", { name: "Store" }).click();
  await expect(page.getByText(/^last entry 1/)).toBeVisible();
  await expect(page.getByText("1 of 20 values: until then the limits still move.")).toBeVisible();

  await page.getByRole("link", { name: "desk" }).click();
  await expect(page.getByRole("row", { name: /^1 / })).toContainText("Station 1");
  await page.getByRole("button", { name: "Change it" }).click();
  await page.getByLabel("minutes from one to the next").fill("60");
  await page.getByRole("button", { name: "Follow this from now on" }).click();
  await expect(page.getByText("version 2", { exact: true })).toBeVisible();
  await expect(page.getByRole("listitem").filter({ hasText: "version 1" })).toContainText("every 30 min");
  // Its rows are those of its dataset.
  await page.getByRole("link", { name: "1", exact: true }).click();
  await expect(page.getByRole("gridcell", { name: "50", exact: true })).toBeVisible();
});

test("what is typed at a station outlives a reload, another version of the plan, and a refusal", async ({
  page,
  server,
}) => {
  const [standing] = await (await fetch(`${server.address}/api/floor`)).json();
  const { id, version, plan, stations } = standing.plan;
  await page.goto(`${server.address}/station/${stations[0].id}`);
  await page.getByRole("button", { name: "early" }).click();
  for (const value of ["2.401", "2.402"]) {
    await page.keyboard.type(value);
    await page.keyboard.press("Enter");
  }
  await expect(page.getByRole("textbox", { name: "Measure piece 3." })).toBeFocused();
  await page.reload();
  await expect(page.getByRole("textbox", { name: "Measure piece 3." })).toBeVisible();
  await expect(page.getByText("2.402", { exact: true })).toBeVisible();
  await fetch(`${server.address}/api/floor/plans/${id}`, {
    method: "PUT",
    headers: { "content-type": "application/json", origin: server.address },
    body: JSON.stringify({ version, plan: { ...plan, pieces: 3 } }),
  });
  await expect(page.getByText("piece 4", { exact: true })).toHaveCount(0);
  await expect(page.getByText("2.401", { exact: true })).toBeVisible();
  // The service refuses what the page could not know.
  await page.route("**/entries", async (route) => {
    const problem = {
      type: "/problems/entry-refused",
      title: "No",
      status: 422,
      detail: "“shift” is missing",
      advice: "Say it.",
    };
    await route.fulfill({ json: [{ entry: null, problem }] });
  });
  await page.getByRole("textbox", { name: "Measure piece 3." }).fill("2.403");
  await page.keyboard.press("Enter");
  const refused = page.getByRole("alert", { name: "Refused" });
  await expect(refused).toContainText("was not stored: “shift” is missing.");
  await expect(refused).toContainText("2.401, 2.402, 2.403");
  await page.reload();
  await expect(refused).toContainText("2.401, 2.402, 2.403");
  await refused.getByRole("button", { name: "I have read it" }).click();
  await expect(refused).toHaveCount(0);
});

test("the desk settles the limits of the chart that watches, and shows what waits for a cause", async ({
  page,
  server,
}) => {
  const [standing] = await (await fetch(`${server.address}/api/floor`)).json();
  await page.goto(`${server.address}/floor/${standing.plan.id}`);
  const watched = page.getByRole("region", { name: "Watched by" });
  await expect(watched.getByText("Limits settled on points 1 to 18.")).toBeVisible();
  await watched.getByText("signals wait for a cause").click();
  await expect(watched.getByRole("listitem").first()).toContainText(/Subgroup/);
  await watched.getByRole("button", { name: "Let them follow" }).click();
  await expect(watched.getByText("Limits that follow.")).toBeVisible();
  await watched.getByRole("button", { name: "Settle them on these 30" }).click();
  await expect(watched.getByText("Limits settled on points 1 to 30.")).toBeVisible();
  // Another chart watches too, and the first no longer.
  await watched.getByLabel("another chart").selectOption({ index: 1 });
  await expect(watched.getByRole("button", { name: /watches no longer$/ })).toHaveCount(2);
  await watched
    .getByRole("button", { name: /watches no longer$/ })
    .first()
    .click();
  await expect
    .poll(async () => (await (await fetch(`${server.address}/api/floor`)).json())[0].plan.study_ids)
    .not.toContain(standing.plan.study_ids[0]);
});
