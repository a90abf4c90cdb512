import type { Schema } from "../../api/client";

export type Watched = Schema["Watched"];

/** The watched characteristics of one dataset. */
export type Group = { dataset: number; name: string; entries: Watched[] };

/** So many dials are drawn small unless said otherwise. */
export const MANY = 24;

/** Least width of a card, and the gap between two. */
const WIDTH = { usual: 264, small: 142 };
const GAP = 14;

/** How much an entry needs a look: unanswerable first, then signals, then a low Ppk. */
export function worry({ dial }: Watched): number {
  if (!dial) return 1000;
  return (dial.steady ? 0 : 100 + Math.min(dial.signals, 50)) - (dial.ppk ?? 2);
}

/** Those whose dataset or column has all the words that were typed; whether only those that want a look. */
export function foundIn(entries: Watched[], words: string, restless: boolean): Watched[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  return entries.filter((entry) => {
    const name = `${entry.dataset} ${entry.column.name}`.toLowerCase();
    return wanted.every((word) => name.includes(word)) && !(restless && entry.dial?.steady);
  });
}

/** By dataset; the one with the worst entry first when the worst comes first, else by name. */
export function groupsOf(entries: Watched[], worstFirst: boolean): Group[] {
  const groups = new Map<number, Group>();
  for (const entry of entries) {
    const group = groups.get(entry.dataset_id) ?? { dataset: entry.dataset_id, name: entry.dataset, entries: [] };
    group.entries.push(entry);
    groups.set(entry.dataset_id, group);
  }
  const all = [...groups.values()];
  if (!worstFirst) return all;
  for (const group of all) group.entries.sort((a, b) => worry(b) - worry(a));
  const worst = ({ entries: [first] }: Group) => (first ? worry(first) : 0);
  return all.sort((a, b) => worst(b) - worst(a));
}

/** How many cards stand side by side in a width. */
export const columnsIn = (width: number, small: boolean): number =>
  Math.max(1, Math.floor((width + GAP) / (WIDTH[small ? "small" : "usual"] + GAP)));
