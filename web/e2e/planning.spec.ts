import { expect, openDataset, studyAddress, test, verdict } from "./server";

test("a gauge study is planned, its sheet typed and pasted, and its verdict appears and is recorded", async ({
  page,
  server,
}) => {
  await page.goto(`${server.address}/gauges`);
  await page.getByRole("button", { name: "Plan a gauge study" }).click();
  await page.getByLabel("what is read").fill("rib height");
  await expect(page.getByRole("status")).toContainText("operators");
  await page.getByLabel("operators, one a line").fill("Ida\nJonas");
  await page.getByLabel("unit").fill("mm");
  await page.getByLabel("LSL").fill("1.1");
  await page.getByLabel("USL").fill("1.3");
  await page.getByLabel("parts", { exact: true }).fill("5");
  await page.getByLabel("trials of each").fill("2");
  await page.getByLabel("seed of the order").fill("11");
  const tells = page.getByRole("complementary", { name: "What this plan can tell" });
  await expect(tells).toContainText("20 readings in a random order");
  await expect(tells).toContainText(/A gauge that takes 20 % of the study would be told as \d+ % to \d+ %/);
  await expect(tells).toContainText("bad ones too");
  await page.getByLabel("gauge", { exact: true }).selectOption({ label: "a new one" });
  await page.getByLabel("its name").fill("Height gauge");
  await page.getByLabel("its number").fill("H-03");
  await page.getByRole("button", { name: "Make the sheet" }).click();

  // Typing begins at the first empty cell, and Enter goes to the next one that is.
  const sheet = page.getByRole("region", { name: "Sheet" });
  await expect(sheet).toContainText("0 of 20 readings");
  const grid = page.getByRole("grid", { name: "Table of rib height, gauge study" });
  await grid.focus();
  const id = /\/data\/(\d+)/.exec(page.url())?.[1];
  const { cells } = await (await fetch(`${server.address}/api/datasets/${id}/rows?first=0&count=20`)).json();
  const height = (row: number) => (1.1 + 0.03 * Number(cells[2][row]) + (row % 4) * 0.002).toFixed(3);
  for (const row of [0, 1]) {
    await page.keyboard.type(height(row));
    await page.keyboard.press("Enter");
    await expect(grid).toHaveAttribute("aria-activedescendant", `cell-${row + 1}-4`);
  }
  // A block from a spreadsheet over the rest but one; what is larger than the table changes nothing.
  const paste = async (text: string) =>
    grid.evaluate((element, text) => {
      const data = new DataTransfer();
      data.setData("text/plain", text);
      element.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true }));
    }, text);
  await paste(Array.from({ length: 30 }, () => "1.2").join("\n"));
  await expect(
    page.getByText("Nothing was pasted: the block is 12 rows larger than the table from here."),
  ).toBeVisible();
  const block = Array.from({ length: 17 }, (_, k) => height(k + 2));
  await paste(block.join("\r\n"));
  await expect(sheet).toContainText("19 of 20 readings, 1 to go");
  await sheet.getByRole("button", { name: "Hide earlier readings" }).click();
  await expect(grid.getByText("read", { exact: true }).first()).toBeVisible();
  await sheet.getByRole("link", { name: "What it says so far" }).click();
  await expect(verdict(page)).toContainText(/19 of 20 readings, so far: the gauge takes \d/);
  await page.getByRole("button", { name: "Record with its gauge" }).click();
  await expect(page.getByText(/1 reading is still to come.*Fill the sheet first/)).toBeVisible();
  await page.goBack();
  await grid.focus();
  await expect(grid).toHaveAttribute("aria-activedescendant", "cell-19-4");
  await page.keyboard.type(height(19));
  await page.keyboard.press("Enter");
  await expect(sheet).toContainText("the sheet is full");
  await sheet.getByRole("link", { name: "What it says so far" }).click();
  await expect(verdict(page)).toContainText(/^The gauge takes \d/);
  await page.getByRole("button", { name: "Record with its gauge" }).click();
  await page.getByRole("link", { name: /^recorded 20/ }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/next study 20\d\d-/);
  await expect(page.getByRole("link", { name: "rib height in rib height, gauge study" })).toBeVisible();
});

test("a blank form has a page for each operator and hides what is known", async ({ page, server }) => {
  await openDataset(page, server, "Edge gap, gauge study");
  await page.goto(`${page.url().split("?")[0]}/print`);
  await expect(page.getByRole("region", { name: /^Form of / })).toHaveCount(3);
  const form = page.getByRole("region", { name: "Form of Mei" });
  await expect(form.getByRole("row")).toHaveCount(31);
  await expect(form).toContainText("gauge Feeler gauge F-11 · planned by Ruth");
  await expect(form).not.toContainText("2.28");
});

test("a capability study says how much of its spread is measuring, and a gauge in need of care is on the Wall", async ({
  page,
  server,
}) => {
  await page.goto(await studyAddress(server, "Groove depth, housing", "capability"));
  const share = page.getByText(
    "About 18.4 % of this spread is measuring (Depth gauge D-07); without it Ppk would be 0.89, not 0.87.",
  );
  await expect(share).toBeVisible();
  await page.getByRole("tab", { name: "Numbers" }).click();
  await page.getByRole("table", { name: "Measuring" }).getByRole("button", { name: "18.4 %" }).click();
  await expect(page.getByRole("dialog", { name: "Share of the gauge" })).toContainText("√(s² − s²gauge)");
  await page.goto(await studyAddress(server, "Groove depth, housing", "control-chart"));
  await expect(page.getByText(/of the short-term spread is measuring \(Depth gauge D-07\)/)).toBeVisible();
  // The column names its gauge: without it the margin says nothing of it.
  await openDataset(page, server, "Groove depth, housing");
  await page.getByLabel("gauge", { exact: true }).selectOption({ label: "none named" });
  await page.goto(await studyAddress(server, "Groove depth, housing", "capability"));
  await expect(verdict(page)).toBeVisible();
  await expect(page.getByText(/is measuring/)).toHaveCount(0);
  await page.goto(server.address);
  const care = page.getByRole("region", { name: "Gauges that want care" });
  await care.getByRole("link", { name: /^Solder inspection not usable as it is/ }).click();
  await expect(page.getByText("Lena misses 38 % of the bad")).toBeVisible();
});

test("the usual sheet with a row a part is unfolded and answered", async ({ page, server }) => {
  await page.goto(`${server.address}/data`);
  const rows = ["H1", "H2", "H3", "H4"].map((part, k) => [
    part,
    ...[0, 3, -2, 4].map((off) => (1.1 + 0.04 * k + off / 1000).toFixed(3)),
  ]);
  const text = [["housing", "Ida 1", "Ida 2", "Mei 1", "Mei 2"], ...rows].map((row) => row.join("\t")).join("\n");
  await page.getByLabel("Paste cells here").fill(text);
  await expect(page.getByRole("checkbox", { name: /Unfold into a row a reading/ })).toBeChecked();
  await page.getByRole("button", { name: "Bring in 16 rows" }).click();
  await page.getByRole("button", { name: "Ask of this data" }).click();
  await page.getByRole("button", { name: /^Can we trust the gauge\?/ }).click();
  await expect(page.getByRole("button", { name: "operators: operator" })).toBeVisible();
  await expect(verdict(page)).toContainText("The gauge takes");
});

test("a gauge is entered, described and named by a column; what is typed of it is kept", async ({ page, server }) => {
  await page.goto(`${server.address}/gauges`);
  await page.getByLabel("Name of the gauge").fill("Photometer");
  await page.getByLabel("Number of the gauge").fill("F-09");
  await page.getByRole("button", { name: "Enter a gauge" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Never studied");
  await page.getByLabel("measures", { exact: true }).fill("beam flux");
  await page.getByLabel("unit", { exact: true }).fill("lm");
  // One field after the other, faster than the server answers.
  await page.getByLabel("months", { exact: true }).fill("0");
  await page.getByLabel("months", { exact: true }).press("Enter");
  await expect(page.getByRole("alert")).toContainText("the months between studies lie from 1 to 1,200");
  await page.getByLabel("months", { exact: true }).fill("9");
  await page.getByLabel("months", { exact: true }).press("Enter");
  await expect(page.getByRole("alert")).toHaveCount(0);
  // At once: what was typed arrives though the page that sent it is gone.
  await page.reload();
  for (const [label, value] of [
    ["measures", "beam flux"],
    ["unit", "lm"],
    ["months", "9"],
  ] as const) {
    await expect(page.getByLabel(label, { exact: true })).toHaveValue(value);
  }
  await page.goto(`${server.address}/gauges`);
  await page.getByLabel("Name of the gauge").fill("Photometer");
  await page.getByLabel("Number of the gauge").fill("F-09");
  await page.getByRole("button", { name: "Enter a gauge" }).click();
  await expect(page.getByRole("alert")).toContainText("there is already a gauge “Photometer F-09”");
  await openDataset(page, server, "Battery run time");
  await page.getByRole("columnheader", { name: /^run time/ }).click();
  await page.getByLabel("gauge", { exact: true }).selectOption({ label: "Photometer F-09" });
  await expect(page.getByText("all changes kept")).toBeVisible();
  // Undone as any other change of the column.
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByLabel("gauge", { exact: true })).toHaveValue("");
});

test("a record is taken back, and a gauge is deleted without what it measured", async ({ page, server }) => {
  await page.goto(`${server.address}/gauges`);
  await page.getByRole("link", { name: "Depth gauge D-07" }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("overdue since 2026-11-20");
  await expect(page.getByRole("img", { name: "The gauge's share at 1 study, the last 15.0 %." })).toBeVisible();
  await page.getByRole("button", { name: "Take back" }).click();
  await page.getByRole("button", { name: /Really|again/ }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Never studied");
  await page.getByRole("button", { name: "Delete gauge" }).click();
  await page.getByRole("button", { name: /Really|again/ }).click();
  // The list opens when the server has deleted it.
  await expect(page).toHaveURL(/\/gauges$/);
  await expect(page.getByRole("link", { name: "Depth gauge D-07" })).toHaveCount(0);
  await openDataset(page, server, "Groove depth, housing");
  await expect(page.getByLabel("gauge", { exact: true })).toHaveValue("");
});

test("each kind of study answers in its own words", async ({ page, server }) => {
  for (const [dataset, method, words] of [
    [
      "Seal bond strength, gauge study",
      "gauge-nested",
      /The gauge takes 12\.1 % of the tolerance, likely .* tells 6 steps apart/,
    ],
    ["Flux meter, one reference lamp", "gauge-single", /Cg 2\.27, Cgk 1\.73 on this piece, it reads 0\.95 lm high/],
    [
      "Flux meter, five reference lamps",
      "gauge-linearity",
      /The bias changes over the range: \+1\.72 lm at 200 lm and −5\.68 lm at 1000 lm/,
    ],
  ] as const) {
    await page.goto(await studyAddress(server, dataset, method));
    await expect(verdict(page)).toContainText(words);
  }
  await page.goto(await studyAddress(server, "Flux meter, one reference lamp", "gauge-single"));
  await page.getByRole("button", { name: /^Does the gauge stay steady over time\?/ }).click();
  await expect(page.getByText(/a known centre|known values/).first()).toBeVisible();
});

test("every gauge study prints as one clean page with its figure, and goes out as a picture", async ({
  page,
  server,
}) => {
  for (const [dataset, method, figure] of [
    [
      "Groove depth, gauge study",
      "gauge-crossed",
      /^Gauge study of groove depth: 90 readings of 10 parts by 3 operators/,
    ],
    [
      "Seal bond strength, gauge study",
      "gauge-nested",
      /^Gauge study of bond strength: 54 readings of 18 parts by 3 operators/,
    ],
    [
      "Flux meter, one reference lamp",
      "gauge-single",
      /^50 readings of beam flux of one piece known to be 500\.0 lm; their mean is 500\.95 lm/,
    ],
    ["Flux meter, five reference lamps", "gauge-linearity", /^Bias of beam flux over 5 pieces of known value/],
    ["Solder joints, inspection study", "gauge-attribute", /^40 pieces judged by 3 operators/],
  ] as const) {
    const address = await studyAddress(server, dataset, method);
    await page.goto(`${address}/print`);
    await expect(page.getByRole("img", { name: figure })).toBeVisible();
    await expect(page.getByRole("table").first()).toBeVisible();
    await page.goto(address);
    await page.getByRole("button", { name: "Send out" }).click();
    const download = page.waitForEvent("download");
    await page.getByRole("menuitem", { name: /SVG/ }).click();
    expect((await download).suggestedFilename()).toMatch(/\.svg$/);
  }
});
