import { expect, test } from "vitest";
import {
  begun,
  disbelief,
  entryOf,
  impossible,
  nextOf,
  stepsOf,
  withoutLast,
  withValue,
} from "../src/screens/station/steps";
import { linesOf } from "../src/screens/station/use-serial";

test("what is asked next follows the plan, and what is given becomes an entry", () => {
  const plan = {
    name: "x",
    pieces: 2,
    unattended: false,
    identifiers: [
      { column: "at", asked: "time", required: false, remembered: false, list: null, person: false },
      { column: "who", asked: "choice", required: true, remembered: true, list: 1, person: true },
      { column: "lot", asked: "text", required: false, remembered: false, list: null, person: false },
    ],
    measurements: [
      { column: "t", channel: null },
      { column: "h", channel: null },
    ],
    counts: { inspected: "n", defectives: null, defects: ["void"] },
    every: null,
    reactions: [],
    causes: [],
    shifts: [],
    told: [],
  } as Parameters<typeof stepsOf>[0];
  const words = stepsOf(plan).map((step) => `${step.column}${step.kind === "value" ? step.piece : ""}`);
  expect(words).toEqual(["who", "lot", "t0", "h0", "t1", "h1", "n", "void"]);
  let draft = begun(plan);
  for (const value of ["Mara", "", 2, 0.1, 2.5, 0.2, 50, 3]) {
    const step = nextOf(plan, draft);
    if (step) draft = withValue(draft, step, value);
  }
  expect(nextOf(plan, draft)).toBeUndefined();
  expect(entryOf(draft, "k", new Date(2026, 4, 4, 6, 5, 9))).toMatchObject({
    key: "k",
    time: "2026-05-04 06:05:09",
    identifiers: { who: "Mara" },
    pieces: [
      { t: 2, h: 0.1 },
      { t: 2.5, h: 0.2 },
    ],
    counts: { n: 50, void: 3 },
  });
  const back = withoutLast(plan, draft);
  expect([back?.step.column, nextOf(plan, back?.draft ?? draft)?.column]).toEqual(["void", "void"]);
  expect(begun(plan, draft).said).toEqual({ who: "Mara" });
  const rules = { lower_bound: 0, lowest: 1, highest: 3 };
  expect([disbelief(rules, 0.5), disbelief(rules, 3.5), disbelief(rules, 3), disbelief({}, 1e9)]).toEqual([
    "Below 1 nothing is believed.",
    "Above 3 nothing is believed.",
    undefined,
    undefined,
  ]);
  expect([impossible(rules, -1), impossible({ upper_bound: 5 }, 6), impossible(rules, 0)]).toEqual([
    "It cannot be below 0.",
    "It cannot be above 5.",
    undefined,
  ]);
});

test("bytes of a serial port become lines however they are cut", async () => {
  const bytes = new TextEncoder().encode(`2.401 mm\r\n\r-0,5 µm\n${"x".repeat(1500)}`);
  for (const size of [1, 2, 7, 5000]) {
    const stream = new ReadableStream<Uint8Array>({
      start(controller) {
        for (let at = 0; at < bytes.length; at += size) controller.enqueue(bytes.slice(at, at + size));
        controller.close();
      },
    });
    const lines: string[] = [];
    for await (const line of linesOf(stream)) lines.push(line);
    expect(lines).toEqual(["2.401 mm", "-0,5 µm"]);
  }
});
