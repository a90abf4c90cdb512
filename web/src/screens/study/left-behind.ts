import type { Study } from "../../api/queries";

/** A change of a study. */
export type Change = {
  name?: string;
  spec?: (spec: Study["spec"]) => Study["spec"];
  /** Marks of the figure that come or go. */
  shown?: Study["shown"];
};

/** Changes of a study that waited when its page was left: what they make of it once the one that is on its way has arrived. */
type Left = { revision: number; spec: Study["spec"]; shown: Study["shown"]; name: string | undefined };

const keyOf = (id: number) => `study ${id} left behind`;

/** Keeps changes of which the first has been sent already. */
export function leave(study: Study, changes: Change[]): void {
  const [sent, ...waiting] = changes;
  if (!sent || waiting.length === 0) return;
  let { spec, shown } = study;
  let name: string | undefined;
  for (const change of changes) {
    spec = change.spec?.(spec) ?? spec;
    shown = { ...shown, ...change.shown };
    name = change.name ?? name;
  }
  const left: Left = { revision: study.revision + 1, spec, shown, name };
  try {
    localStorage.setItem(keyOf(study.id), JSON.stringify(left));
  } catch {
    // A browser that keeps nothing loses them, as it loses a page.
  }
}

/** What was left of a study, once; nothing where it has been changed by others since. */
export function left(study: Study): Change | null {
  try {
    const text = localStorage.getItem(keyOf(study.id));
    if (text === null) return null;
    localStorage.removeItem(keyOf(study.id));
    const { revision, spec, shown, name }: Left = JSON.parse(text);
    // The one that was on its way may still be there.
    const mine = study.revision === revision || study.revision === revision - 1;
    return mine ? { spec: () => spec, shown, ...(name === undefined ? {} : { name }) } : null;
  } catch {
    return null;
  }
}
