import type { Schema } from "../api/client";

export type Entry = Schema["GlossaryEntry"];
export type Part = { text: string; entry?: Entry };

/** The longest form in which letters count with their capitals, as the core has it. */
const SHORT = 3;

/** Splits texts at the terms that stand in them, the longest first; in heads more words count than in sentences. */
export function termFinder(entries: Entry[], inHeads: boolean): (text: string) => Part[] {
  const byForm = new Map<string, Entry>();
  for (const entry of entries)
    for (const form of inHeads ? [...entry.forms, ...entry.heads] : entry.forms) byForm.set(keyOf(form), entry);
  const forms = [...byForm.keys()].sort((a, b) => b.length - a.length).map(escaped);
  if (forms.length === 0) return (text) => [{ text }];
  const pattern = new RegExp(`(?<![\\p{L}\\p{N}])(?:${forms.join("|")})(?![\\p{L}\\p{N}])`, "giu");
  return (text) => {
    const parts: Part[] = [];
    const told = new Set<Entry>();
    let from = 0;
    for (const found of text.matchAll(pattern)) {
      const entry = byForm.get(keyOf(found[0]));
      // Once in a text is enough.
      if (!entry || told.has(entry)) continue;
      told.add(entry);
      if (found.index > from) parts.push({ text: text.slice(from, found.index) });
      parts.push({ text: found[0], entry });
      from = found.index + found[0].length;
    }
    if (from < text.length) parts.push({ text: text.slice(from) });
    return parts;
  };
}

const keyOf = (form: string) => (form.length > SHORT ? form.toLowerCase() : form);

const escaped = (form: string) => form.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
