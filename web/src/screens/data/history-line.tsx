import type { Schema } from "../../api/client";
import { moment } from "../../lib/format";

export type Change = Schema["ToldChange"];

/** Whether a change holds no longer. */
export const wasUndone = ({ stage }: Change): boolean => stage === "undone" || stage === "dropped";

/** One change in words: what it was, what it became, when. */
export function HistoryLine({ change }: { change: Change }) {
  return (
    <p className={wasUndone(change) ? "line-through opacity-70" : ""}>
      {change.sentence} <span className="whitespace-nowrap text-ink-soft">{moment(change.at)}</span>
    </p>
  );
}
