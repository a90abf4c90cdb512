import { expect, test } from "vitest";
import { layoutOf } from "../src/figures/simulation/layout";
import {
  type Control,
  freeName,
  type Input,
  type Numbers,
  namesOf,
  newPiece,
  type Pieces,
  piecesOf,
  spreadBy,
  withPiece,
  written,
} from "../src/figures/simulation/model";
import { shareWords } from "../src/figures/simulation/response-card";

const NONE: Pieces = { inputs: [], controls: [], responses: [] };
const normal = (name: string, sd: number): Input => ({ name, distribution: "normal", parameters: { mean: 1, sd } });

/** Numbers that repeat, so that a failure can be looked at again. */
function sequence(seed: number) {
  let state = seed;
  return (below: number) => {
    state = (state * 1103515245 + 12345) % 2147483648;
    return Math.floor((state / 2147483648) * below);
  };
}

test("every model of a random make is laid out without overlaps, and every flow has its ends", () => {
  // Gathered and looked at once: a step of the runner for each would take minutes.
  const wrong: string[] = [];
  const holds = (fact: boolean, what: string) => {
    if (!fact) wrong.push(what);
  };
  for (let seed = 1; seed <= 60; seed++) {
    const next = sequence(seed);
    const inputs = Array.from({ length: 1 + next(30) }, (_, place) => ({
      name: `x${place}`,
      part: ["", "cap", "housing"][next(3)] as string,
      control: null as string | null,
    }));
    const controls = Array.from({ length: next(4) }, (_, place) => ({
      name: `k${place}`,
      part: ["", "cap"][next(2)],
      words: "",
    }));
    if (controls[0]) inputs.push({ name: "k0", part: "cap", control: "k0" });
    const responses = Array.from({ length: 1 + next(4) }, (_, place) => {
      const takes = [
        ...inputs.filter(() => next(3) === 0).map(({ name }) => name),
        ...controls.filter(() => next(3) === 0).map(({ name }) => name),
        ...(place > 0 && next(2) === 0 ? [`r${place - 1}`] : []),
      ];
      const shares = next(4) === 0 ? null : inputs.map(({ name }) => ({ name, total: next(100) / 100 }));
      return { name: `r${place}`, part: ["cap", "housing"][next(2)], takes, shares };
    });
    const numbers = { inputs, controls, responses, parts: ["cap", "housing"] } as unknown as Numbers;
    const size = { width: 620 + next(500), height: 300 + next(500) };
    for (const part of [undefined, "cap", "housing"]) {
      const layout = layoutOf(numbers, part, size);
      const boxes = [...layout.inputs, ...layout.controls, ...layout.responses].map(({ box }) => box);
      const where = `seed ${seed}, ${part}`;
      boxes.forEach((box, place) => {
        holds(box.width > 0 && box.height > 0, `${where}: a box without room`);
        for (const other of boxes.slice(place + 1)) {
          const apart =
            box.left + box.width <= other.left + 0.01 ||
            other.left + other.width <= box.left + 0.01 ||
            box.top + box.height <= other.top + 0.01 ||
            other.top + other.height <= box.top + 0.01;
          holds(apart, `${where}: ${JSON.stringify([box, other])}`);
        }
      });
      const all = new Map([
        ...layout.inputs.map(({ input, box }) => [input.name, box] as const),
        ...layout.controls.map(({ control, box }) => [control.name, box] as const),
        ...layout.responses.map(({ response, box }) => [response.name, box] as const),
      ]);
      for (const { key, path, thick } of layout.bands) {
        const [start, end] = key.split(">").map((name) => all.get(name));
        const [first, last] = [path[0], path.at(-1)];
        if (!start || !end || !first || !last) {
          wrong.push(`${where}: ${key} has no ends`);
          continue;
        }
        holds(
          thick > 0 && first[0] === start.left + start.width && last[0] === end.left,
          `${where}: ${key} does not reach`,
        );
        // It arrives inside its response, and never runs backwards.
        holds(last[1] >= end.top - 0.01 && last[1] <= end.top + end.height + 0.01, `${where}: ${key} misses its card`);
        holds(
          path.every(([x], step) => step === 0 || x >= (path[step - 1]?.[0] ?? 0)),
          `${where}: ${key} runs backwards`,
        );
      }
      // What begins higher arrives higher, among those that come straight from the column before.
      for (const { response, box } of layout.responses) {
        const straight = layout.bands
          .filter(({ key, path }) => key.endsWith(`>${response.name}`) && path.length === 2)
          .map(({ path }) => path.map(([, y]) => y));
        const sorted = [...straight].sort((a, b) => (a[0] ?? 0) - (b[0] ?? 0)).map((path) => path[1] ?? 0);
        holds(
          sorted.every((y, place) => place === 0 || y >= (sorted[place - 1] ?? 0)),
          `${where}: flows cross before ${response.name}`,
        );
        const thick = layout.bands.filter(({ key }) => key.endsWith(`>${response.name}`));
        holds(
          thick.reduce((sum, band) => sum + band.thick, 0) <= box.height + 40,
          `${where}: ${response.name} overflows`,
        );
      }
      // What is not shown is said.
      const mine = inputs.filter((input) => part === undefined || input.part === part);
      holds(layout.inputs.length + layout.hidden === mine.length, `${where}: inputs are lost`);
    }
  }
  expect(wrong).toEqual([]);
});

test("pieces are read, named, changed and scaled without touching others", () => {
  const spec = { method: "simulation", options: { inputs: [normal("a", 1)], responses: "odd" } } as never;
  expect(piecesOf(spec)).toEqual({ ...NONE, inputs: [normal("a", 1)] });
  const pieces: Pieces = {
    inputs: [normal("lens edge ", 1), normal("b", 2)],
    controls: [{ name: "shim", value: 1 } as Control],
    responses: [{ name: "gap", formula: "b" }],
  };
  expect(namesOf(pieces)).toEqual(["lens edge", "b", "shim", "gap"]);
  expect([freeName(pieces, "b"), freeName(pieces, "c")]).toEqual(["b 2", "c"]);
  expect(newPiece(pieces, "responses")).toEqual({ name: "response", formula: "`lens edge `" });
  expect(newPiece(NONE, "responses")).toEqual({ name: "response", formula: "1" });
  expect(withPiece(pieces, { kind: "inputs", place: 1 }, normal("c", 3))).toEqual({
    inputs: [pieces.inputs[0], normal("c", 3)],
  });
  expect(["a", "größe_2", "2a", "a b", ""].map(written)).toEqual(["a", "größe_2", "`2a`", "`a b`", "``"]);
  // A typed normal takes it into its sd; a fitted one, another shape and one scaled before into their factor.
  expect(spreadBy(normal("a", 0.123456), 0.5)).toEqual(normal("a", 0.0617));
  expect(spreadBy({ ...normal("a", 1), spread: 0.5 }, 0.5)).toEqual({ ...normal("a", 1), spread: 0.25 });
  expect(spreadBy({ name: "x", distribution: "normal", column: "y" }, 1.5).spread).toBe(1.5);
});

test("shares and slots are written as people read them", () => {
  expect([0, 0.5, 0.0123, 0.00099, 0.00004, 0.0000012].map(shareWords)).toEqual([
    "none",
    "50 %",
    "1.2 %",
    "0.099 %",
    "40 ppm",
    "1.2 ppm",
  ]);
});
