import { ChevronDown, ChevronUp } from "lucide-react";
import { Tabs } from "radix-ui";
import { type ReactNode, useState } from "react";
import type { Schema } from "../api/client";
import type { Dataset, Study } from "../api/queries";
import { Explained } from "../parts/explained";
import type { Stretch } from "./figure";
import { PointsTable } from "./points-table";
import { TableView } from "./table-view";

type Props = {
  study: Study;
  dataset: Dataset;
  answer: Schema["Outcome"];
  formulas: Schema["Formula"][];
  pointsName: string;
  /** Opens the rows behind a number, or all of them. */
  onOpenRows: (stretch: Stretch | null) => void;
};

const PARTS = ["Numbers", "Points", "Method"] as const;

/** The drawer under the figure: one line high when closed. */
export function Ledger({ study, dataset, answer, formulas, pointsName, onOpenRows }: Props) {
  const [part, setPart] = useState<string>("");
  const open = part !== "";
  const contents: Record<(typeof PARTS)[number], ReactNode> = {
    Numbers: (
      <div className="flex flex-wrap gap-x-10 gap-y-5">
        {answer.tables.map((table) => (
          <TableView
            key={table.id}
            table={table}
            formulas={formulas}
            onOpenRows={dataset.id > 0 ? onOpenRows : undefined}
          />
        ))}
      </div>
    ),
    Points: <PointsTable study={study} dataset={dataset} name={pointsName} />,
    Method: <Method formulas={formulas} />,
  };
  return (
    <Tabs.Root
      value={part}
      onValueChange={setPart}
      onKeyDown={(event) => event.key === "Escape" && setPart("")}
      activationMode="manual"
      className="no-print absolute inset-x-0 bottom-0 z-20 flex flex-col overflow-hidden rounded-xl border border-hairline bg-sheet shadow-sm data-[open=true]:shadow-xl max-lg:static"
      data-open={open}
    >
      <div className="flex h-[39px] shrink-0 items-center gap-6 px-3.5">
        <Tabs.List aria-label="Ledger" className="flex gap-5">
          {PARTS.map((name) => (
            <Tabs.Trigger
              key={name}
              value={name}
              className="border-b-2 border-transparent py-1 text-ink-soft hover:text-ink data-[state=active]:border-moss data-[state=active]:font-semibold data-[state=active]:text-ink"
            >
              {name === "Points" ? pointsName : name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <p className="flex flex-1 justify-end gap-5 overflow-hidden whitespace-nowrap text-[13px] text-ink-soft">
          {answer.brief.map(({ term, words }) => (
            <span key={term}>
              <Explained head>{term}</Explained> <span className="font-medium text-ink">{words}</span>
            </span>
          ))}
        </p>
        <button
          type="button"
          aria-label={open ? "Close the ledger" : "Open the ledger"}
          aria-expanded={open}
          onClick={() => setPart(open ? "" : "Numbers")}
          className="p-1 text-ink-soft"
        >
          {open ? <ChevronDown size={16} aria-hidden /> : <ChevronUp size={16} aria-hidden />}
        </button>
      </div>
      {PARTS.map((name) => (
        <Tabs.Content key={name} value={name} className="h-[300px] overflow-auto border-t border-hairline px-4 py-3">
          {contents[name]}
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}

function Method({ formulas }: { formulas: Schema["Formula"][] }) {
  return (
    <table className="w-full text-left">
      <thead className="text-[13px] text-ink-soft">
        <tr>
          <th className="pb-1 pr-4 font-medium">what</th>
          <th className="pb-1 pr-4 font-medium">how</th>
          <th className="pb-1 font-medium">source</th>
        </tr>
      </thead>
      <tbody>
        {formulas.map((formula) => (
          <tr key={formula.id} className="border-t border-hairline align-top">
            <th scope="row" className="w-48 py-1.5 pr-4 font-semibold">
              {formula.name}
            </th>
            <td className="py-1.5 pr-4">{formula.formula}</td>
            <td className="py-1.5 text-ink-soft">{formula.source}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
