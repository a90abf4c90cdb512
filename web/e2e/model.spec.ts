import { layoutOf } from "../src/figures/simulation/layout";
import { type Numbers, spreadBy } from "../src/figures/simulation/model";
import { moved } from "../src/screens/study/versions";
import { differences } from "../src/study/statement/differences";
import type { Card } from "../src/study/statement/words";
import { expect, type Server, studyAddress, test, verdict } from "./server";

/** The address of a demo model by its name. */
async function modelAddress(server: Server, name: string): Promise<string> {
  const studies: { id: number; name: string | null }[] = await (await fetch(`${server.address}/api/studies`)).json();
  return `${server.address}/study/${studies.find((study) => study.name === name)?.id}`;
}

const share = async (page: import("@playwright/test").Page) => {
  const label = await page.getByRole("group", { name: /inputs, .* draws/ }).getAttribute("aria-label");
  return Number(/ ([\d.]+) % out/.exec(label ?? "")?.[1] ?? Number.NaN);
};

test("a model is built from nothing, its formula mistyped and mended, its limits given", async ({ page, server }) => {
  await page.goto(`${server.address}/ask`);
  await page.getByRole("button", { name: /What if\?/ }).click();
  await page.getByRole("button", { name: "Begin with two inputs" }).click();
  await expect(verdict(page)).toContainText("Response averages 15.0");
  await page.getByRole("button", { name: /^Input input 2:/ }).click();
  await page.getByLabel("Input name").fill("seal");
  await page.getByLabel("Input name").press("Enter");
  // What names it goes on naming it.
  await page.getByRole("button", { name: /^Response response = input \+ seal$/ }).click();
  const formula = page.getByRole("combobox", { name: "response =" });
  await formula.fill("input + saal * 2");
  await expect(page.getByText("Nothing is called “saal”; is “seal” meant?")).toBeVisible();
  await expect(formula).toHaveAttribute("aria-invalid", "true");
  // The answer of before stands until it is mended; what was typed stays too, whatever else is looked at.
  await expect(verdict(page)).toContainText("Response averages 15.0");
  await page.getByRole("button", { name: /^Input seal:/ }).click();
  await page.getByRole("button", { name: /^Response response/ }).click();
  await expect(formula).toHaveValue("input + saal * 2");
  await formula.fill("2 * input + se");
  await page.getByRole("option", { name: "seal" }).click();
  await expect(formula).toHaveValue("2 * input + seal");
  await expect(page.locator("math mtext").first()).toHaveText("input");
  await expect(verdict(page)).toContainText("Response averages 25.0");
  await page.getByLabel("USL").fill("27");
  await expect(verdict(page)).toContainText(/About 1[67] % would have response above 27/);
  await expect(page.getByText(/a Ppk of 1.33 needs a mean of/)).toBeVisible();
  await page.reload();
  await expect(verdict(page)).toContainText(/About 1[67] % would have response above 27/);
  // Taken back as any change of a statement.
  await page.keyboard.press("Control+z");
  await expect(verdict(page)).toContainText("Response averages 25.0");
});

test("a spread is dragged and the share out follows", async ({ page, server }) => {
  await page.goto(await modelAddress(server, "Seal stack, cap on housing"));
  await expect(verdict(page)).toContainText("would have squeeze above 0.25 mm");
  const before = await share(page);
  const grip = page.getByRole("slider", { name: "Spread of seal thickness" });
  const box = await grip.boundingBox();
  if (!box) throw new Error("the curve has no foot");
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 40, y, { steps: 5 });
  // While it is dragged, before it is let go.
  await expect.poll(() => share(page)).toBeGreaterThan(before + 3);
  await page.mouse.up();
  await expect(page.getByRole("button", { name: /^Input seal thickness: triangular, 1\.9/ })).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect.poll(() => share(page)).toBe(before);
  await grip.focus();
  await page.keyboard.press("ArrowLeft");
  await expect.poll(() => share(page)).toBeLessThan(before);
});

test("settings are searched, used, and what tightening pays is read and taken", async ({ page, server }) => {
  await page.goto(await modelAddress(server, "Seal stack, cap on housing"));
  await page.getByRole("button", { name: "Search settings" }).click();
  await expect(page.getByText("Settings found", { exact: true })).toBeVisible();
  await expect(page.getByText(/^Shim 0\.100 mm would bring the Ppk of squeeze/)).toBeVisible();
  await page.getByRole("button", { name: "Use these settings" }).click();
  await expect(page.getByText("No settings in the ranges do better than the ones that are set.")).toBeVisible();
  await page.getByRole("button", { name: "See what tightening pays" }).click();
  await expect(page.getByText(/Halving the spread of seal thickness pays most/)).toBeVisible();
  const ring = page.getByRole("slider", { name: "Spread of seal thickness" });
  await ring.focus();
  for (let k = 0; k < 4; k++) await page.keyboard.press("ArrowLeft");
  await expect(ring).toHaveAttribute("aria-valuetext", /^50 %: /);
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Back to the chart" }).click();
  await expect(
    page.getByRole("button", { name: /^Input seal thickness: triangular, 2\.065 to 2\.135 mm/ }),
  ).toBeVisible();
  // The cheapest way to a goal, applied at once.
  await page.goto(`${page.url()}?figure=tightening`);
  await page.getByLabel("cheapest way to").fill("0.01");
  await page.getByRole("button", { name: "Find" }).click();
  await expect(page.getByText(/^The cheapest way found to .* costs \d+/)).toBeVisible();
  await page.getByRole("button", { name: "Tighten these" }).click();
  await expect(page.getByText(/^Nothing has to be tightened/)).toBeVisible();
});

test("an input is taken from data, with shapes drawn over them, and a model goes out and in", async ({
  page,
  server,
}) => {
  const address = await studyAddress(server, "Converter efficiency, lab", "simulation");
  await page.goto(address);
  await expect(verdict(page)).toContainText("would have run time below 5 h");
  await page.getByRole("button", { name: /^Input efficiency: from efficiency: 150 values/ }).click();
  const shapes = page.getByRole("group", { name: "Shapes of efficiency" });
  await expect(shapes.getByRole("button", { pressed: true })).toContainText("as the data are");
  await shapes.getByRole("button", { name: /^lognormal/ }).click();
  await expect(
    page.getByRole("button", { name: /^Input efficiency: accepted from efficiency: lognormal, 90\.60 ± 0\.7/ }),
  ).toBeVisible();
  // Parts are seen alone, with what flows between them.
  await page.getByRole("button", { name: "Close" }).click();
  await page.getByRole("group", { name: "Parts of the model" }).getByRole("button", { name: "cell" }).click();
  await expect(page.getByText("energy goes out to converter for run time")).toBeVisible();
  await expect(page.getByRole("button", { name: /^Input efficiency/ })).toHaveCount(0);
  const sent = async (item: string) => {
    await page.getByRole("button", { name: "Send out" }).click();
    const [file] = await Promise.all([
      page.waitForEvent("download"),
      page.getByRole("menuitem", { name: item }).click(),
    ]);
    return file;
  };
  const json = await (await sent("Statement as JSON")).path();
  const read = (path: string) => fetch(`${address.replace("/study/", "/api/studies/")}/${path}`);
  const draws = await (await read("tables/points.csv?")).text();
  expect(draws.split("\n", 1)[0]).toBe("draw,capacity,cell voltage,efficiency,power,energy,run time");
  expect(draws.trimEnd().split("\n")).toHaveLength(100_001);
  for (const [path, magic] of [
    ["tables/points.parquet", "PAR1"],
    ["summary.xlsx", "PK"],
  ] as const)
    expect((await (await read(path)).text()).slice(0, magic.length)).toBe(magic);
  // The same model, without its data, in another study: what needs the column is said and can be mended.
  await page.goto(`${server.address}/ask`);
  await page.getByRole("button", { name: /What if\?/ }).click();
  await page.getByLabel("Model file").setInputFiles(json);
  await expect(page.getByRole("alert")).toContainText(
    "“efficiency” is taken from “efficiency”, and there is no such column",
  );
  await page.getByRole("button", { name: "efficiency", exact: true }).click();
  await page.getByLabel("from column").selectOption("");
  // Accepted, it has its shape without the column; what was on the desk stays there.
  await expect(verdict(page)).toContainText("would have run time below 5 h");
  await expect(page.getByRole("region", { name: "Input efficiency" })).toBeVisible();
});

test("a table of names, means and sds becomes a model", async ({ page, server }) => {
  await page.goto(`${server.address}/ask`);
  await page.getByRole("button", { name: /What if\?/ }).click();
  await page
    .getByLabel("Name, mean and sd of each input")
    .fill("name\tmean\tsd\nlens edge\t2.4\t0.02\nseal\t1.1\t0.03");
  await page.getByRole("button", { name: "Take 2 inputs" }).click();
  await expect(verdict(page)).toContainText("Response averages 3.50");
  await expect(page.getByRole("button", { name: "Response response = lens edge + seal" })).toBeVisible();
});

test("a model of many pieces is laid out inside its room", () => {
  const piece = (name: string, part = "") => ({ name, unit: "", part, words: name, control: null });
  const response = (name: string, takes: string[], part = "", shares: number[] | null = null) => ({
    ...piece(name, part),
    takes,
    shares: shares?.map((total, place) => ({ name: `x${place}`, total })),
  });
  const inputs = Array.from({ length: 50 }, (_, place) => piece(`x${place}`, place < 3 ? "cap" : "housing"));
  const shares = inputs.map((_, place) => (place === 40 ? 0.9 : 0.002));
  const numbers = {
    inputs,
    controls: [piece("shim", "cap")],
    responses: [
      response(
        "room",
        inputs.slice(0, 40).map(({ name }) => name),
        "housing",
        shares,
      ),
      response("gap", ["room", "x40", "shim"], "cap", shares),
    ],
    parts: ["cap", "housing"],
  } as unknown as Numbers;
  const size = { width: 800, height: 560 };
  const all = layoutOf(numbers, undefined, size);
  expect(all.inputs.length + all.hidden).toBe(50);
  expect(all.inputs.some(({ place }) => place === 40)).toBe(true);
  const boxes = [...all.inputs, ...all.controls, ...all.responses].map(({ box }) => box);
  for (const { left, top, width, height } of boxes) {
    expect(left).toBeGreaterThanOrEqual(0);
    expect(left + width).toBeLessThanOrEqual(size.width);
    expect(top + height).toBeLessThanOrEqual(size.height + 1);
  }
  // What flows through a response stands to the right of it, the thicker the more.
  const [room, gap] = ["room", "gap"].map((name) => all.responses.find(({ response }) => response.name === name));
  expect(gap?.box.left).toBeGreaterThan((room?.box.left ?? 0) + (room?.box.width ?? 0));
  const thick = (key: string) => all.bands.find((band) => band.key === key)?.thick ?? 0;
  expect(thick("x40>gap")).toBeGreaterThan(10 * thick("shim>gap"));
  const cap = layoutOf(numbers, "cap", size);
  expect(cap.inputs).toHaveLength(3);
  expect(cap.borders).toContain("room comes in from housing for gap");
  expect(spreadBy({ name: "x", distribution: "normal", parameters: { mean: 1, sd: 0.2 } }, 0.5).parameters?.sd).toBe(
    0.1,
  );
  expect(spreadBy({ name: "x", distribution: "gamma", spread: 0.8 }, 0.5).spread).toBe(0.4);
});

test("inputs that go together are told so, and an older version is compared with now", async ({ page, server }) => {
  await page.goto(await modelAddress(server, "Seal stack, cap on housing"));
  await page.getByRole("button", { name: /^Input rim height/ }).click();
  await page.getByLabel("goes with", { exact: true }).selectOption("lens edge");
  await page.getByRole("textbox", { name: "correlation" }).fill("2");
  await expect(page.getByRole("button", { name: "Add", exact: true })).toBeDisabled();
  await page.getByRole("textbox", { name: "correlation" }).fill("0.8");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByText("goes with lens edge, r 0.8")).toBeVisible();
  await expect(page.getByText("Inputs that go together leave no shares of variance to part.")).toBeVisible();
  // What is in use is not removed.
  await page.getByRole("button", { name: "Remove", exact: true }).click();
  await expect(page.getByText("rim height is used by squeeze; change that formula first.")).toBeVisible();
  await page.getByRole("button", { name: "History" }).click();
  await page.getByRole("button", { name: "Compare with now" }).last().click();
  const changed = page.getByRole("region", { name: "What changed" });
  await expect(changed.getByRole("row", { name: /rim height with lens edge none → new/ })).toBeVisible();
  const did = page.getByRole("region", { name: "What it did" });
  await expect(did.getByRole("row", { name: /^squeeze: sd/ })).toBeVisible();
});

test("ten million draws are worked out", async ({ page, server }) => {
  await page.goto(await modelAddress(server, "Seal stack, cap on housing"));
  await page.getByRole("button", { name: /^draws: / }).click();
  await page.getByRole("button", { name: "10000000", exact: true }).click();
  await expect(page.getByText("What comes out of 10,000,000 draws")).toBeVisible({ timeout: 60_000 });
});

test("a model on paper has no tools, and names both sides of a difference", async ({ page, server }) => {
  await page.goto(`${await modelAddress(server, "Seal stack, cap on housing")}/print`);
  await expect(page.getByRole("group", { name: /5 inputs/ })).toBeVisible();
  await expect(page.getByRole("button", { name: "an input" })).toHaveCount(0);
  await expect(page.getByRole("slider")).toHaveCount(0);
  const built = (name: string, one: string) => ({
    name,
    at: name,
    label: one,
    shows: [],
    kind: "built",
    one,
    many: `${one}s`,
    unset: "none",
    required: false,
    choices: [],
  });
  const card = {
    method: "simulation",
    statement: "",
    slots: [built("inputs", "input"), built("search", "search")],
  } as unknown as Card;
  const shown = (slot: number) => ({ slot, text: "", waits: false, filled: true, offered: false });
  const spec = (options: Record<string, unknown>) =>
    ({
      spec: { method: "simulation", options },
      statement: { parts: [], slots: [shown(0), shown(1)], complete: true },
    }) as never;
  const input = (name: string, sd: number, more = {}) => ({
    name,
    distribution: "normal",
    parameters: { mean: -1, sd },
    ...more,
  });
  expect(
    differences(
      card,
      spec({ inputs: [input("a", 1), input("b", 2)] }),
      spec({ inputs: [input("a", 3, { unit: "mm" }), input("c", 2)], search: { goal: "target" } }),
    ),
  ).toEqual([
    { what: "a, sd", was: "1", is: "3" },
    { what: "a, unit", was: "none", is: "mm" },
    { what: "b", was: "there", is: "removed" },
    { what: "c", was: "none", is: "new" },
    { what: "search", was: "none", is: "goal target" },
  ]);
  const table = (mean: number) =>
    ({
      id: "t",
      title: "t",
      columns: [
        { label: "response", cells: ["gap", "room"] },
        { label: "mean", cells: [mean, 2], format: { factor: 1, decimals: 2, computed_decimals: 3, unit: "" } },
      ],
    }) as never;
  expect(moved(table(1), table(1.004))).toEqual([]);
  expect(moved(table(1), table(1.5))).toEqual([{ what: "gap: mean", was: "1.00", is: "1.50" }]);
});
