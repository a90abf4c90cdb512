import type { Study } from "../../api/queries";
import { newKey } from "../../lib/new-key";

/** A change of a study, made of what the study is by the time it is sent. */
export type Change = {
  name?: string;
  spec?: (spec: Study["spec"]) => Study["spec"];
  /** Marks of the figure that come or go. */
  shown?: Study["shown"];
};

/** A change on its way, which the server knows again by its id. */
export type Sending = Change & { id: string };

/** Changes that waited when their page was closed: what they make of the study together with the one that was on its way. */
export type Draft = {
  key: string;
  /** The revision on which the first of them was made, and the id under which that one was sent. */
  revision: number;
  sent: string;
  spec: Study["spec"];
  shown: Study["shown"];
  name?: string;
};

/** All that a browser keeps; a Map stands in for it in tests. */
type Storage = Pick<globalThis.Storage, "length" | "key" | "getItem" | "setItem" | "removeItem">;

const prefixOf = (study: number) => `study ${study} draft `;

/** Keeps what waits while the page of a study is closed. The first of the changes has been sent already. */
export function keepDraft(study: Study, changes: Sending[], storage: Storage = localStorage): void {
  const [sent, ...waiting] = changes;
  if (!sent || waiting.length === 0) return;
  let { spec, shown } = study;
  let name: string | undefined;
  for (const change of changes) {
    spec = change.spec?.(spec) ?? spec;
    shown = { ...shown, ...change.shown };
    name = change.name ?? name;
  }
  const draft: Draft = {
    key: prefixOf(study.id) + newKey(),
    revision: study.revision,
    sent: sent.id,
    spec,
    shown,
    name,
  };
  try {
    storage.setItem(draft.key, JSON.stringify(draft));
  } catch {
    // A browser that keeps nothing loses them, as it loses a page.
  }
}

/** The drafts of a study that this browser keeps, each of another page. */
export function draftsOf(study: number, storage: Storage = localStorage): Draft[] {
  try {
    const keys = Array.from({ length: storage.length }, (_, at) => storage.key(at) ?? "");
    const own = keys.filter((key) => key.startsWith(prefixOf(study)));
    return own.map((key) => JSON.parse(storage.getItem(key) ?? "") as Draft);
  } catch {
    return [];
  }
}

export const forgetDraft = ({ key }: Draft, storage: Storage = localStorage): void => storage.removeItem(key);

/** Whether nobody else has changed the study since: the one that was on its way has arrived as the last, or not at all. */
export const isUntouched = ({ revision, sent }: Draft, study: Study): boolean =>
  study.revision === revision || study.last_change === sent;

/** The change that makes of a study what a draft holds. */
export const changeOf = ({ spec, shown, name }: Draft): Change => ({ spec: () => spec, shown, name });
