import { isFound, wordsFound } from "../src/study/found-by";
import { expect, test } from "./server";

const card = {
  question: "Is it steady?",
  use_when: "Use it when values come one after the other.",
  found_by: ["I-MR", "x-bar", "control chart", "UCL"],
};

test("a word of the trade is found however it is written, and nothing is found by nothing", () => {
  expect(wordsFound(card, "imr")).toEqual(["I-MR"]);
  expect(wordsFound(card, "Xbar")).toEqual(["x-bar"]);
  expect(wordsFound(card, "  chart")).toEqual(["control chart"]);
  expect(wordsFound(card, "-")).toEqual([]);
  for (const [typed, found] of [
    ["steady", true],
    ["ONE AFTER", true],
    ["ucl", true],
    ["", true],
    ["Cpk", false],
  ] as const)
    expect(isFound(card, typed), typed).toBe(found);
});

test("every question answers to the words of the trade, on the Ask page and by Ctrl K", async ({ page, server }) => {
  await page.goto(`${server.address}/ask`);
  const field = page.getByRole("searchbox", { name: "Find a question" });
  const questions = page.getByRole("main").getByRole("button");
  for (const [word, question] of [
    ["histogram", "What does it look like?"],
    ["Cpk", "Can it meet the limits?"],
    ["x-bar", "Is it steady?"],
    ["I-MR", "Is it steady?"],
    ["DPMO", "How bad is it?"],
    ["Anderson-Darling", "What does it look like?"],
    ["Clopper", "Is the claim true?"],
  ] as const) {
    await field.fill(word);
    await expect(questions.filter({ hasText: question })).toContainText(new RegExp(word, "i"));
  }
  await field.fill("no such word");
  await expect(questions).toHaveCount(0);
  await expect(page.getByRole("status").filter({ hasText: "No question answers to that word." })).toBeVisible();
  await page.keyboard.press("Control+k");
  await page.getByPlaceholder(/a word of the trade/).fill("rolled throughput");
  await expect(page.getByRole("option", { name: /How bad is it\?.*rolled throughput yield/ }).first()).toBeVisible();
});

test("what could be a thousandfold is asked once, and the answer is what is stored", async ({ page, server }) => {
  const text = 'width,remark\nmm,\n2.401,\n2.405,"3,5"\n2.399,\n2.410,\n';
  const bring = async () => {
    await page.goto(`${server.address}/data`);
    const file = { name: "bench.csv", mimeType: "text/csv", buffer: Buffer.from(text) };
    await page.getByLabel("File to bring in").setInputFiles(file);
    await expect(page.getByText("width: “2.401” is read as 2.401. It could be 2401.")).toBeVisible();
  };
  await bring();
  await expect(page.getByText("Line 2 holds units: mm.")).toBeVisible();
  await page.getByRole("button", { name: "It is 2401" }).click();
  await expect(page.getByRole("cell", { name: "2401", exact: true })).toBeVisible();
  await expect(page.getByText(/It could be/)).toHaveCount(0);
  await bring();
  await page.getByRole("button", { name: "It is 2.401" }).click();
  await expect(page.getByText(/It could be/)).toHaveCount(0);
  await page.getByRole("button", { name: "Bring in 4 rows" }).click();
  await expect(page.getByRole("gridcell", { name: "2.401" })).toBeVisible();
});
