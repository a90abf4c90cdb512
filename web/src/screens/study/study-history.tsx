import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { useState } from "react";
import { type Dataset, historyQuery, type Spec, type Study, studyHistoryQuery } from "../../api/queries";
import { moment } from "../../lib/format";
import { Button } from "../../parts/button";
import { type Card, columnsOf, linkedColumns } from "../../study/statement/words";
import { type Change, HistoryLine, wasUndone } from "../data/history-line";
import { Versions } from "./versions";

/** Opens what was changed about a study, newest first: older statements with their limits stay readable. */
export function StudyHistory({ study, dataset, card }: { study: Study; dataset: Dataset; card: Card }) {
  const own = useQuery(studyHistoryQuery(study)).data ?? [];
  const data = useQuery(historyQuery(dataset)).data ?? [];
  // Limits live with the column, so that a change of theirs belongs to the story of every study that reads them.
  const changes = [...own, ...data.filter((one) => aboutColumns(one, dataset, study))].sort((a, b) => b.at - a.at);
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
            {changes.map((one) => (
              <li key={`${one.column_id} ${one.id}`} className={wasUndone(one) ? "opacity-60" : ""}>
                {one.column_id == null ? (
                  <>
                    {one.sentence} <span className="whitespace-nowrap text-ink-soft">{moment(one.at)}</span>
                    {one.spec && (
                      <Button look="quiet" className="ml-2 text-[13px]" onClick={() => setCompared(one.spec ?? null)}>
                        Compare with now
                      </Button>
                    )}
                  </>
                ) : (
                  <HistoryLine change={one} />
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
function aboutColumns({ column_id, of_properties }: Change, dataset: Dataset, study: Study): boolean {
  if (!of_properties) return false;
  const names = [
    ...Object.keys(study.spec.roles ?? {}).flatMap((role) => columnsOf(study.spec, role)),
    ...linkedColumns(study.spec),
  ];
  return dataset.columns.some((column) => column.id === column_id && names.includes(column.name));
}
