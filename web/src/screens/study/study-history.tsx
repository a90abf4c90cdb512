import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useState } from "react";
import type { Schema } from "../../api/client";
import { type Dataset, historyQuery, type Spec, type Study, studyHistoryQuery } from "../../api/queries";
import { moment } from "../../lib/format";
import { Button } from "../../parts/button";
import { type Card, columnsOf, linkedColumns, statementWords } from "../../study/statement/words";
import { HistoryLine, wasUndone } from "../data/history-line";
import { Versions } from "./versions";

type Row = Schema["HistoryRow"];

/** Opens what was changed about a study, newest first: older statements with their limits stay readable. */
export function StudyHistory({ study, dataset, card }: { study: Study; dataset: Dataset; card: Card }) {
  const own = useQuery(studyHistoryQuery(study)).data ?? [];
  const data = useQuery(historyQuery(dataset)).data ?? [];
  // Limits live with the column, so that a change of theirs belongs to the story of every study that reads them.
  const rows = [...own, ...data.filter((row) => aboutColumns(row, dataset, study))].sort((a, b) => b.at - a.at);
  const [compared, setCompared] = useState<Spec | null>(null);
  return (
    <Popover.Root onOpenChange={() => setCompared(null)}>
      <Popover.Trigger asChild>
        <Button look="faint">History</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="History of the study"
          className={`z-30 overflow-auto rounded-xl border border-hairline bg-sheet p-3.5 shadow-xl ${compared ? "max-h-[560px] w-[640px]" : "max-h-96 w-[460px]"}`}
        >
          {compared && (
            <>
              <Button look="quiet" className="mb-2" onClick={() => setCompared(null)}>
                ‹ All changes
              </Button>
              <Versions study={study} dataset={dataset} card={card} then={compared} />
            </>
          )}
          <ol hidden={compared !== null} className={compared ? "" : "flex flex-col gap-2"}>
            {rows.map((row) => (
              <li key={`${row.what} ${row.id}`} className={wasUndone(row) ? "opacity-60" : ""}>
                {row.what === "column" ? (
                  <HistoryLine row={row} />
                ) : (
                  <>
                    {words(row, card)} <span className="whitespace-nowrap text-ink-soft">{moment(row.at)}</span>
                    {row.after != null && (row.what === "statement" || row.what === "study-created") && (
                      <Button
                        look="quiet"
                        className="ml-2 text-[13px]"
                        onClick={() => setCompared(JSON.parse(row.after ?? "null"))}
                      >
                        Compare with now
                      </Button>
                    )}
                  </>
                )}
              </li>
            ))}
          </ol>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** Whether a change of the dataset is one of the properties of a column that the study reads. */
function aboutColumns(row: Row, dataset: Dataset, study: Study): boolean {
  if (row.what !== "column") return false;
  const { column_id } = JSON.parse(row.target) as { column_id?: number };
  const names = [
    ...Object.keys(study.spec.roles ?? {}).flatMap((role) => columnsOf(study.spec, role)),
    ...linkedColumns(study.spec),
  ];
  return dataset.columns.some((column) => column.id === column_id && names.includes(column.name));
}

function words({ what, target, before, after }: Row, card: Card): string {
  const is = after == null ? null : JSON.parse(after);
  const was = before == null ? null : JSON.parse(before);
  switch (what) {
    case "study-created":
      return `Asked: ${statementWords(card, is as Spec)}`;
    case "statement":
      return statementWords(card, is as Spec);
    case "study-name":
      return `Name: ${is ?? "its question"}`;
    case "shown":
      return shownWords(was ?? {}, is ?? {});
    case "finding":
      return findingWords(was, is);
    case "undo":
    case "redo":
      return `${what === "undo" ? "Undone" : "Redone"}: ${JSON.parse(target).what.replace("-", " ")}`;
    default:
      return what;
  }
}

/** "Shown: sigma lines. Hidden: mean." by the names of the marks. */
function shownWords(was: Study["shown"], is: Study["shown"]): string {
  const moved = (to: boolean) =>
    [...new Set([...Object.keys(was), ...Object.keys(is)])].filter(
      (key) => was[key] !== is[key] && (is[key] ?? !was[key]) === to,
    );
  const part = (word: string, keys: string[]) => (keys.length > 0 ? [`${word}: ${keys.join(", ")}.`] : []);
  return [...part("Shown", moved(true)), ...part("Hidden", moved(false))].join(" ");
}

function findingWords(was: Schema["Finding"] | null, is: Schema["Finding"] | null): string {
  if (!is) return `${was?.sentence ?? ""} Taken back: ${was?.cause ?? "what was said"}.`;
  const left = is.left_out && !was?.left_out ? " Left out of the limits." : "";
  const back = !is.left_out && was?.left_out ? " Back in the limits." : "";
  const doing = is.action ? ` ${is.done ? "Done" : "Action"}: ${is.action}${is.owner && `, ${is.owner}`}.` : "";
  return `${is.sentence} Cause: ${is.cause ?? "none"}.${doing}${left}${back}`;
}
