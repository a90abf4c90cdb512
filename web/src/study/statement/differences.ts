import type { Spec } from "../../api/queries";
import { type Card, columnsOf, type StatedSlot, type Statement, statedSlots } from "./words";

/** What changed of a statement: where, what it was, what it is. */
export type Difference = { what: string; was: string; is: string };

const NONE = "none";

/** A statement as it reads. */
type Stated = { spec: Spec; statement: Statement };

/** What two statements of one question have different, slot by slot; what is built of pieces piece by piece. */
export function differences(card: Card, then: Stated, now: Stated): Difference[] {
  const byName = ({ statement }: Stated) =>
    new Map(statedSlots(card, statement).map((one): [string, StatedSlot] => [one.slot.name, one]));
  const [old, own] = [byName(then), byName(now)];
  const [was, is] = [then.spec, now.spec];
  return [...new Map([...old, ...own]).values()].flatMap(({ slot }) => {
    if (slot.kind === "built") return ofPieces(slot.one, was.options?.[slot.name], is.options?.[slot.name]);
    if (slot.kind === "column") {
      const [before, after] = [was, is].map((spec) => columnsOf(spec, slot.name).join(", ") || NONE) as [
        string,
        string,
      ];
      return before === after ? [] : [{ what: slot.label, was: before, is: after }];
    }
    if (JSON.stringify(was.options?.[slot.name]) === JSON.stringify(is.options?.[slot.name])) return [];
    const said = (slots: Map<string, StatedSlot>) => slots.get(slot.name)?.state.text ?? NONE;
    return [{ what: slot.label, was: said(old), is: said(own) }];
  });
}

type Piece = Record<string, unknown>;

function ofPieces(one: string, was: unknown, is: unknown): Difference[] {
  if (!Array.isArray(was) && !Array.isArray(is))
    return JSON.stringify(was ?? null) === JSON.stringify(is ?? null)
      ? []
      : [{ what: one, was: told(was), is: told(is) }];
  const [before, after] = [was, is].map((list) => (Array.isArray(list) ? (list as Piece[]) : []));
  const named = (list: Piece[] | undefined) => new Map(list?.map((piece, place) => [nameOf(piece, place), piece]));
  const [old, now] = [named(before), named(after)];
  return [...new Set([...old.keys(), ...now.keys()])].flatMap((name) => {
    const [from, to] = [old.get(name), now.get(name)];
    if (!from || !to) return [{ what: name, was: from ? "there" : NONE, is: to ? "new" : "removed" }];
    const [flat, next] = [flatOf(from), flatOf(to)];
    const fields = [...new Set([...Object.keys(flat), ...Object.keys(next)])];
    return fields.flatMap((field) =>
      flat[field] === next[field]
        ? []
        : [{ what: `${name}, ${field}`, was: flat[field] ?? NONE, is: next[field] ?? NONE }],
    );
  });
}

const nameOf = (piece: Piece, place: number) =>
  typeof piece.name === "string" ? piece.name : [piece.a, piece.b].filter(Boolean).join(" with ") || `${place + 1}`;

/** The fields of a piece, those of its parts besides. */
function flatOf(piece: Piece): Record<string, string> {
  return Object.fromEntries(
    Object.entries(piece).flatMap(([field, value]) => {
      if (value == null || value === "") return [];
      if (typeof value === "object" && !Array.isArray(value)) return Object.entries(flatOf(value as Piece));
      return [[field, told(value)]];
    }),
  );
}

const told = (value: unknown): string => {
  if (value == null) return NONE;
  if (Array.isArray(value)) return value.length > 6 ? `${value.length} values` : value.map(told).join(", ");
  if (typeof value === "object")
    return Object.entries(value)
      .map(([field, one]) => `${field} ${told(one)}`)
      .join(", ");
  return String(value).replace(/^-(?=\d)/, "−");
};
