import type { Schema } from "../../api/client";
import type { Spec } from "../../api/queries";

export type Numbers = Schema["SimulationNumbers"];
export type InputNumbers = Schema["SimulationInput"];
export type ResponseNumbers = Schema["SimulationResponse"];

/** What a model is made of, as it stands in the statement. */
export type Input = {
  name: string;
  unit?: string;
  part?: string;
  distribution: string;
  parameters?: Record<string, unknown>;
  column?: string | null;
  /** The dataset of that column, when it is not the one that the model is about. */
  dataset?: number | null;
  newest?: number | null;
  spread?: number | null;
  cost?: number | null;
};
export type Control = {
  name: string;
  unit?: string;
  part?: string;
  value: number;
  sd?: number | null;
  low?: number | null;
  high?: number | null;
  step?: number | null;
};
export type Response = {
  name: string;
  unit?: string;
  part?: string;
  formula: string;
  lsl?: number | null;
  target?: number | null;
  usl?: number | null;
};
/** A response that counts in a search of settings. */
export type Weighed = { name: string; weight?: number; target?: number | null };
export type Search = {
  goal: "largest-ppk" | "least-out" | "target";
  response?: string | null;
  target?: number | null;
  responses?: Weighed[];
  controls?: { name: string; low: number; high: number; step?: number | null }[];
};
export type Pieces = { inputs: Input[]; controls: Control[]; responses: Response[] };
export type PieceKind = keyof Pieces;
/** A piece by its kind and place. */
export type Picked = { kind: PieceKind; place: number };

export const piecesOf = (spec: Spec): Pieces => {
  const list = <T>(name: string) => (Array.isArray(spec.options?.[name]) ? (spec.options[name] as T[]) : []);
  return { inputs: list("inputs"), controls: list("controls"), responses: list("responses") };
};

export const searchOf = (spec: Spec): Search | undefined => (spec.options?.search ?? undefined) as Search | undefined;

/** A search in which a piece is called otherwise, or in which it is no longer there. */
export function searchWith(search: Search, from: string, to: string | null): Search {
  const called = <T extends { name: string }>(all: T[] | undefined) =>
    all?.flatMap((one) => (one.name.trim() !== from ? [one] : to === null ? [] : [{ ...one, name: to }]));
  const { response, responses, controls, ...rest } = search;
  const own = response?.trim() === from ? to : response;
  const lists = { responses: called(responses), controls: called(controls) };
  return {
    ...rest,
    ...(own != null && { response: own }),
    ...(lists.responses?.length && { responses: lists.responses }),
    ...(lists.controls?.length && { controls: lists.controls }),
  };
}

export const namesOf = ({ inputs, controls, responses }: Pieces): string[] =>
  [...inputs, ...controls, ...responses].map(({ name }) => name.trim());

/** A name that no piece has yet: "input", "input 2". */
export function freeName(pieces: Pieces, wanted: string): string {
  const taken = new Set(namesOf(pieces));
  for (let number = 1; ; number++) {
    const name = number === 1 ? wanted : `${wanted} ${number}`;
    if (!taken.has(name)) return name;
  }
}

export const newPiece = (pieces: Pieces, kind: PieceKind): Pieces[PieceKind][number] => {
  if (kind === "inputs")
    return { name: freeName(pieces, "input"), distribution: "normal", parameters: { mean: 10, sd: 1 } };
  if (kind === "controls") return { name: freeName(pieces, "control"), value: 1, low: 0, high: 2 };
  const first = pieces.inputs[0]?.name ?? pieces.controls[0]?.name;
  return { name: freeName(pieces, "response"), formula: first ? written(first) : "1" };
};

/** A name as it has to be written in a formula. */
export const written = (name: string): string => (/^[\p{L}_][\p{L}\p{N}_]*$/u.test(name) ? name : `\`${name}\``);

/** A piece in place of another, of the same kind. */
export const withPiece = (pieces: Pieces, { kind, place }: Picked, piece: Pieces[PieceKind][number]) => ({
  [kind]: (pieces[kind] as Pieces[PieceKind][number][]).map((old, at) => (at === place ? piece : old)),
});

/** An input with its spread multiplied once more. A typed normal takes it into its sd. */
export function spreadBy(input: Input, by: number): Input {
  const sd = input.parameters?.sd;
  if (input.distribution === "normal" && typeof sd === "number" && (input.spread ?? 1) === 1)
    return { ...input, parameters: { ...input.parameters, sd: digits(sd * by) } };
  return { ...input, spread: digits((input.spread ?? 1) * by) };
}

const digits = (value: number) => Number(value.toPrecision(3));
