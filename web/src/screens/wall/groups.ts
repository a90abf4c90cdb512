import type { Schema } from "../../api/client";

export type Watched = Schema["Watched"];

/** What characteristics are grouped by, and in which order they hang. */
export type GroupBy = "dataset" | "line" | "product";
export type Order = "worst" | "name" | "hand";

/** The watched characteristics of one dataset, line or product. */
export type Group = { key: string; name: string; dataset: number | null; entries: Watched[] };

/** So many dials are drawn small unless said otherwise. */
export const MANY = 24;

/** Least width of a card, and the gap between two. */
const WIDTH = { usual: 264, small: 142 };
const GAP = 14;

/** How much an entry needs a look: unanswerable first, then what is not steady, then what is doubtful, then a low Ppk; what has no value
 * yet comes last. */
export function worry({ dial, problem }: Watched): number {
  if (!dial) return problem == null ? -1000 : 1000;
  const grave = dial.steady ? (isDoubtful({ dial }) ? 50 : 0) : 100 + Math.min(dial.signals, 50);
  return grave - (dial.ppk ?? 2);
}

/** Whether the chart neither calls it steady nor not steady: mixed streams, a few signals, too few values. */
export const isDoubtful = ({ dial }: Pick<Watched, "dial">): boolean =>
  dial?.steady === true && dial.tone != null && dial.tone !== "calm";

/** Those whose dataset, column, line or product has all the words that were typed. */
export function foundIn(entries: Watched[], words: string, wanted: (entry: Watched) => boolean): Watched[] {
  const all = words.toLowerCase().split(/\s+/).filter(Boolean);
  return entries.filter((entry) => {
    const { line = "", product = "" } = entry.place ?? {};
    const name = `${entry.dataset} ${entry.column.name} ${line} ${product}`.toLowerCase();
    return all.every((word) => name.includes(word)) && wanted(entry);
  });
}

export const isRestless = ({ dial, problem }: Watched): boolean => (dial ? !dial.steady : problem != null);

/** In the order in which they hang: those that nobody hung come last, by name. */
export function ordered(entries: Watched[], order: Order): Watched[] {
  const place = (entry: Watched) => entry.place?.place ?? Number.MAX_SAFE_INTEGER;
  if (order === "worst") return [...entries].sort((a, b) => worry(b) - worry(a));
  return order === "hand" ? [...entries].sort((a, b) => place(a) - place(b)) : entries;
}

/** The groups, each in the order wanted; the group whose first entry comes first stands first. */
export function groupsOf(entries: Watched[], by: GroupBy, order: Order): Group[] {
  const groups = new Map<string, Group>();
  for (const entry of ordered(entries, order)) {
    const own = by === "dataset" ? entry.dataset : (entry.place?.[by] ?? "");
    const key = by === "dataset" ? String(entry.dataset_id) : own;
    const name = own === "" ? `no ${by} yet` : own;
    const group = groups.get(key) ?? { key, name, dataset: by === "dataset" ? entry.dataset_id : null, entries: [] };
    group.entries.push(entry);
    groups.set(key, group);
  }
  const all = [...groups.values()];
  return order === "name" && by !== "dataset" ? all.sort((a, b) => a.name.localeCompare(b.name)) : all;
}

/** How many cards stand side by side in a width. */
export const columnsIn = (width: number, small: boolean): number =>
  Math.max(1, Math.floor((width + GAP) / (WIDTH[small ? "small" : "usual"] + GAP)));
