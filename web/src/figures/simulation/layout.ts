import type { Size } from "../../study/figure";
import type { InputNumbers, Numbers, ResponseNumbers } from "./model";

export type Box = { left: number; top: number; width: number; height: number };
export type InputNode = { place: number; input: InputNumbers; box: Box };
export type ControlNode = { place: number; control: Numbers["controls"][number]; box: Box };
export type ResponseNode = { place: number; response: ResponseNumbers; box: Box; last: boolean };
/** What flows from a piece into a response. */
export type Band = { key: string; path: [number, number][]; thick: number; share: number | null };
export type ModelLayout = {
  inputs: InputNode[];
  controls: ControlNode[];
  responses: ResponseNode[];
  bands: Band[];
  /** Inputs that there is no room for. */
  hidden: number;
  /** Names that come from other parts, and that go to others. */
  borders: string[];
};

const TOP = 46;
const LEFT = 22;
const INPUT_WIDTH = 236;
const CONTROL_HEIGHT = 40;
const GAP = 10;
/** The thickness of all of a response's variance. */
const THICKEST = 76;
const COMPACT = 26;

/** Where the pieces of a model, or of one of its parts, stand, and what flows between them. */
export function layoutOf(numbers: Numbers, part: string | undefined, { width, height }: Size): ModelLayout {
  const mine = <T extends { part: string }>(all: T[]) =>
    all
      .map((one, place) => ({ one, place }))
      .filter(({ one }) => part === undefined || one.part === part)
      .sort((a, b) => numbers.parts.indexOf(a.one.part) - numbers.parts.indexOf(b.one.part) || a.place - b.place);
  const exact = mine(numbers.controls).filter(({ one }) => !numbers.inputs.some(({ control }) => control === one.name));
  const drawn = mine(numbers.inputs);
  const shown = mine(numbers.responses);
  const room = height - TOP - 8 - exact.length * (CONTROL_HEIGHT + GAP);
  const most = Math.max(1, Math.floor((room + 4) / (COMPACT + 4)));
  const kept = drawn.length > most ? byShare(numbers, drawn).slice(0, most) : drawn;
  const pitch = Math.min(104, room / Math.max(1, kept.length));
  const tall = Math.max(COMPACT, pitch - (pitch > 50 ? GAP : 4));
  const inputs = kept.map(({ one, place }, row) => ({
    place,
    input: one,
    box: { left: LEFT, top: TOP + row * pitch, width: INPUT_WIDTH, height: tall },
  }));
  const below = TOP + inputs.length * pitch + (inputs.length > 0 ? 2 : 0);
  const controls = exact.map(({ one, place }, row) => ({
    place,
    control: one,
    box: { left: LEFT, top: below + row * (CONTROL_HEIGHT + GAP), width: INPUT_WIDTH, height: CONTROL_HEIGHT },
  }));
  const levels = levelsOf(shown.map(({ one }) => one));
  const columns = Math.max(1, ...levels);
  const start = LEFT + INPUT_WIDTH + (columns > 1 ? 84 : 140);
  const gap = 64;
  const space = width - 22 - start - gap * (columns - 1);
  const column = space / columns;
  const far = shown.some(
    ({ one }, index) =>
      (levels[index] ?? 1) > 1 &&
      [...kept, ...exact].some(({ one: piece }) => takesPiece(one, piece as { name: string; control?: string | null })),
  );
  const responses = shown.map(({ one, place }, index) => {
    const level = levels[index] ?? 1;
    const beside = shown.filter((_, other) => levels[other] === level);
    const row = beside.findIndex((other) => other.place === place);
    // What flows past to a later column runs beneath the cards of this one.
    const tallest = (height - TOP - 10) * (far && level < columns ? 0.6 : 1);
    const each = tallest / beside.length;
    const usual = Math.min(each - GAP, 480);
    const box = {
      left: start + (level - 1) * (column + gap),
      top: TOP + row * each + (beside.length === 1 && level === columns ? Math.max(0, (each - usual) / 3) : 0),
      width: column,
      height: usual,
    };
    return { place, response: one, box, last: level === columns };
  });
  const hidden = drawn.length - kept.length;
  const here = new Set([...kept, ...exact, ...shown].map(({ one }) => one.name));
  const borders = bordersOf(numbers, here, part, new Set(shown.map(({ place }) => place)));
  return { inputs, controls, responses, bands: bandsOf(numbers, inputs, controls, responses), hidden, borders };
}

/** Whether a response takes a piece by its own name or by that of its control. */
const takesPiece = ({ takes }: ResponseNumbers, { name, control }: { name: string; control?: string | null }) =>
  takes.includes(name) || (control != null && takes.includes(control));

/** Those that drive most first. */
function byShare<T extends { place: number }>(numbers: Numbers, all: T[]): T[] {
  const most = (place: number) => Math.max(0, ...numbers.responses.map(({ shares }) => shares?.[place]?.total ?? 0));
  return [...all].sort((a, b) => most(b.place) - most(a.place));
}

/** How many responses stand before each, itself included. */
function levelsOf(responses: ResponseNumbers[]): number[] {
  const level = new Map<string, number>();
  const of = (response: ResponseNumbers): number => {
    const known = level.get(response.name);
    if (known !== undefined) return known;
    const before = responses.filter(({ name }) => response.takes.includes(name)).map(of);
    const own = 1 + Math.max(0, ...before);
    level.set(response.name, own);
    return own;
  };
  return responses.map(of);
}

function bordersOf(numbers: Numbers, here: Set<string>, part: string | undefined, shown: Set<number>): string[] {
  if (part === undefined) return [];
  const all = [...numbers.inputs, ...numbers.controls, ...numbers.responses];
  const partOf = (name: string) => all.find((one) => one.name === name)?.part || "no part";
  const into = numbers.responses
    .filter((_, place) => shown.has(place))
    .flatMap(({ takes, name }) =>
      takes.filter((taken) => !here.has(taken)).map((taken) => `${taken} comes in from ${partOf(taken)} for ${name}`),
    );
  const out = numbers.responses
    .filter((_, place) => !shown.has(place))
    .flatMap(({ takes, name, part: other }) =>
      takes.filter((taken) => here.has(taken)).map((taken) => `${taken} goes out to ${other || "no part"} for ${name}`),
    );
  return [...new Set([...into, ...out])];
}

function bandsOf(numbers: Numbers, inputs: InputNode[], controls: ControlNode[], responses: ResponseNode[]): Band[] {
  const bands: Band[] = [];
  // Where the next band that runs beneath the cards of a column begins, by the column's left edge.
  const lanes = new Map<number, number>();
  for (const { box } of responses) lanes.set(box.left, Math.max(lanes.get(box.left) ?? 0, box.top + box.height + GAP));
  const around = (from: [number, number], to: [number, number], thick: number): [number, number][] => {
    const passed = responses.filter(({ box }) => box.left > from[0] && box.left + box.width < to[0]);
    const edges = [...new Map(passed.map(({ box }) => [box.left, box.left + box.width])).entries()].sort(
      (a, b) => a[0] - b[0],
    );
    const lane = edges.flatMap(([left, right]): [number, number][] => {
      const top = lanes.get(left) ?? 0;
      lanes.set(left, top + thick + 3);
      return [
        [left, top + thick / 2],
        [right, top + thick / 2],
      ];
    });
    return [from, ...lane, to];
  };
  for (const { response, box } of responses) {
    const direct = new Set(response.takes);
    const total = (place: number) => response.shares?.[place]?.total ?? null;
    const ends: { from: [number, number]; share: number | null; key: string }[] = [];
    for (const { input, place, box: own } of inputs)
      if (takesPiece(response, input)) ends.push({ from: rightOf(own), share: total(place), key: input.name });
    for (const { control, box: own } of controls)
      if (takesPiece(response, control)) ends.push({ from: rightOf(own), share: 0, key: control.name });
    for (const other of responses.filter(({ response: { name } }) => direct.has(name))) {
      // What comes through another response is what its own inputs do that are not taken directly as well.
      const shares = numbers.inputs.flatMap((input, place) =>
        !takesPiece(response, input) && (other.response.shares?.[place]?.total ?? 0) > 0.002 ? [total(place)] : [],
      );
      const share = shares.includes(null) ? null : shares.reduce<number>((sum, one) => sum + (one ?? 0), 0);
      ends.push({ from: rightOf(other.box), share, key: other.response.name });
    }
    // In the order in which they arrive: what comes from a near card stands above what runs beneath.
    const near = ({ from }: { from: [number, number] }) =>
      responses.some(({ box: other }) => other.left > from[0] && other.left + other.width < box.left) ? 1 : 0;
    ends.sort((a, b) => near(a) - near(b) || a.from[1] - b.from[1]);
    const thick = ({ share }: { share: number | null }) =>
      share === null ? 1.5 : Math.max(1.5, Math.min(1, Math.max(0, share)) * THICKEST);
    const all = ends.reduce((sum, end) => sum + thick(end), 0);
    // Together no thicker than the response is tall.
    const scale = Math.min(1, (box.height - 20) / Math.max(1, all));
    let at = box.top + box.height / 2 - (all * scale) / 2;
    for (const end of ends) {
      const own = Math.max(1.2, thick(end) * scale);
      const path = around(end.from, [box.left, at + own / 2], own);
      bands.push({ key: `${end.key}>${response.name}`, path, thick: own, share: end.share });
      at += own;
    }
  }
  return bands;
}

const rightOf = ({ left, top, width, height }: Box): [number, number] => [left + width, top + height / 2];
