import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { type Dataset, historyQuery } from "../../api/queries";
import { Button } from "../../parts/button";
import { HistoryLine } from "./history-line";

/** Opens what was changed, newest first. */
export function HistoryButton({ dataset }: { dataset: Dataset }) {
  const changes = useQuery(historyQuery(dataset)).data ?? [];
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>History</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="History"
          className="z-30 max-h-96 w-96 overflow-auto rounded-xl border border-hairline bg-sheet p-3.5 shadow-xl"
        >
          <ol className="flex flex-col gap-1.5">
            {changes.map((one) => (
              <li key={one.id}>
                <HistoryLine change={one} />
              </li>
            ))}
          </ol>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
