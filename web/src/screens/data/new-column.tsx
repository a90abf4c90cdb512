import { Popover } from "radix-ui";
import { useId, useState } from "react";
import { api, problemOf, unwrapResponse } from "../../api/client";
import { type Column, type Dataset, useDatasetChange } from "../../api/queries";
import { kindWords } from "../../lib/format";
import { Button } from "../../parts/button";
import { FormulaEditor } from "./formula-editor";

/** Adds a column: an empty one of some kind, or one that is worked out from the others. */
export function NewColumn({ dataset, onAdded }: { dataset: Dataset; onAdded: (column: number) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button>New column</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="New column"
          className="z-30 max-h-[520px] w-[400px] overflow-auto rounded-xl border border-hairline bg-sheet p-4 shadow-xl"
        >
          <Form
            dataset={dataset}
            onAdded={(column) => {
              setOpen(false);
              onAdded(column);
            }}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Form({ dataset, onAdded }: { dataset: Dataset; onAdded: (column: number) => void }) {
  const id = useId();
  const [name, setName] = useState("");
  const [kind, setKind] = useState<Column["kind"] | "formula">("formula");
  const [formula, setFormula] = useState("");
  const [readable, setReadable] = useState(false);
  const add = useDatasetChange(dataset, async (_: undefined, newest) => {
    const column = kind === "formula" ? { name, formula } : { name, kind };
    const added = await unwrapResponse(
      api.POST("/api/datasets/{id}/columns", {
        params: { path: { id: dataset.id } },
        body: { revision: newest.revision, column },
      }),
    );
    onAdded(added.column_id);
    return added.dataset;
  });
  const ready = name.trim() !== "" && (kind !== "formula" || readable);
  const keep = () => ready && !add.isPending && add.mutate(undefined);
  const problem = add.error ? problemOf(add.error) : null;
  return (
    <form
      className="flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <div className="flex items-center">
        <label htmlFor={`${id}-name`} className="w-[64px] shrink-0">
          name
        </label>
        <input
          id={`${id}-name`}
          value={name}
          onChange={(event) => setName(event.target.value)}
          className="h-[30px] min-w-0 flex-1 rounded-md border border-hairline bg-sheet px-2"
        />
      </div>
      <div className="flex items-center">
        <label htmlFor={`${id}-kind`} className="w-[64px] shrink-0">
          holds
        </label>
        <select
          id={`${id}-kind`}
          value={kind}
          onChange={(event) => setKind(event.target.value as Column["kind"] | "formula")}
          className="h-[30px] min-w-0 flex-1 rounded-md border border-hairline bg-sheet px-1.5"
        >
          <option value="formula">what a formula gives</option>
          {Object.entries(kindWords).map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}, empty
            </option>
          ))}
        </select>
      </div>
      {kind === "formula" && (
        <FormulaEditor dataset={dataset} text={formula} onText={setFormula} onRead={setReadable} onKeep={keep} />
      )}
      {problem && (
        <p role="alert" className="text-[13px] text-clay">
          {problem.detail}. {problem.advice}
        </p>
      )}
      <Button look="primary" type="submit" disabled={!ready || add.isPending} className="self-start">
        Add it
      </Button>
    </form>
  );
}
