import { useQuery } from "@tanstack/react-query";
import { Popover } from "radix-ui";
import { type FormEvent, type ReactNode, useState } from "react";
import { api, unwrapResponse } from "../../api/client";
import { type Column, type Dataset, type FilterStep, labelsQuery, methodsQuery, studiesQuery } from "../../api/queries";
import { grouped, isNumeric, moment, typedNumber } from "../../lib/format";
import { Button } from "../../parts/button";
import { notify, notifyProblem } from "../../parts/notices";
import { studyName } from "../../study/study-name";

type Props = {
  dataset: Dataset;
  column: Column;
  onAdd: (step: FilterStep) => void;
  onSort: (column: string, descending: boolean) => void;
};

/** Places that a view names one by one; an address holds no more. */
const STRETCHES_MOST = 1000;
const FIELD = "h-[29px] min-w-0 flex-1 rounded-md border border-hairline bg-sheet px-2";

/** Narrows the rows by what stands in the chosen column, or orders them by it. */
export function Narrow({ dataset, column, onAdd, onSort }: Props) {
  const [open, setOpen] = useState(false);
  const done = (act: () => void) => () => {
    act();
    setOpen(false);
  };
  const add = (step: FilterStep) => done(() => onAdd(step))();
  const hasLimits = column.lsl != null || column.usl != null || column.limit_table != null;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="rounded-full border border-hairline bg-sheet px-3 py-0.5 font-medium hover:border-moss">
        Rows by {column.name} ▾
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={6}
          aria-label={`Rows by ${column.name}`}
          className="z-30 flex max-h-[420px] w-[310px] flex-col gap-2.5 overflow-auto rounded-xl border border-hairline bg-sheet p-3.5 shadow-xl"
        >
          <div className="flex gap-3">
            <Button look="quiet" onClick={done(() => onSort(column.name, false))}>
              {isNumeric(column.kind) ? "Smallest first" : column.kind === "date-time" ? "Earliest first" : "A to Z"}
            </Button>
            <Button look="quiet" onClick={done(() => onSort(column.name, true))}>
              {isNumeric(column.kind) ? "Largest first" : column.kind === "date-time" ? "Latest first" : "Z to A"}
            </Button>
          </div>
          {isNumeric(column.kind) && <Between column={column} onAdd={add} />}
          {column.kind === "date-time" && <During column={column} onAdd={add} />}
          {(column.kind === "category" || column.kind === "text") && (
            <>
              <Contains column={column} onAdd={add} />
              {column.kind === "category" && <Labels dataset={dataset} column={column} onAdd={add} />}
            </>
          )}
          <div className="flex flex-col items-start gap-1">
            {hasLimits && (
              <Button look="quiet" onClick={() => add({ column: column.name, "beyond-limits": true })}>
                Only those beyond its limits
              </Button>
            )}
            <Signals dataset={dataset} column={column} onAdd={add} />
            <Button look="quiet" onClick={() => add({ column: column.name, missing: true })}>
              Only those where it is missing
            </Button>
            <Button look="quiet" onClick={() => add({ column: column.name, missing: false })}>
              Only those where it is not missing
            </Button>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

type StepProps = { column: Column; onAdd: (step: FilterStep) => void };

function Fields({ children, onSubmit }: { children: ReactNode; onSubmit: (data: FormData) => void }) {
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    onSubmit(new FormData(event.currentTarget));
  };
  return (
    <form onSubmit={submit} className="flex items-center gap-1.5">
      {children}
      <Button type="submit">Show</Button>
    </form>
  );
}

function Between({ column, onAdd }: StepProps) {
  const end = (data: FormData, name: string): number | null => {
    const text = String(data.get(name)).trim();
    const typed = text === "" ? null : typedNumber(text);
    return typeof typed === "number" ? typed : null;
  };
  return (
    <Fields
      onSubmit={(data) => {
        const ends = [end(data, "from"), end(data, "to")];
        if (ends.every((one) => one === null)) notify("Type a number for one end or both.");
        else onAdd({ column: column.name, between: ends });
      }}
    >
      <input name="from" aria-label="from" placeholder="from" inputMode="decimal" className={FIELD} />
      <input name="to" aria-label="to" placeholder="to" inputMode="decimal" className={FIELD} />
    </Fields>
  );
}

function During({ column, onAdd }: StepProps) {
  const end = (data: FormData, name: string) => String(data.get(name) ?? "").trim() || null;
  return (
    <Fields
      onSubmit={(data) => {
        const ends = [end(data, "from"), end(data, "to")];
        if (ends.every((one) => one === null)) notify("Choose a day for one end or both.");
        else onAdd({ column: column.name, during: ends });
      }}
    >
      <input type="date" name="from" aria-label="from" className={FIELD} />
      <input type="date" name="to" aria-label="to" className={FIELD} />
    </Fields>
  );
}

function Contains({ column, onAdd }: StepProps) {
  return (
    <Fields onSubmit={(data) => onAdd({ column: column.name, contains: String(data.get("words")) })}>
      <input name="words" required aria-label="with the words" placeholder="with the words" className={FIELD} />
    </Fields>
  );
}

function Labels({ dataset, column, onAdd }: StepProps & { dataset: Dataset }) {
  const listed = useQuery(labelsQuery(dataset, column)).data ?? [];
  const [chosen, choose] = useState<string[]>([]);
  if (listed.length === 0) return null;
  return (
    <fieldset className="flex flex-col gap-1.5">
      <legend className="sr-only">Labels of {column.name}</legend>
      <div className="max-h-36 overflow-auto">
        {listed.map((label) => (
          <label key={label} className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={chosen.includes(label)}
              onChange={(event) =>
                choose(event.target.checked ? [...chosen, label] : chosen.filter((other) => other !== label))
              }
            />
            {label}
          </label>
        ))}
      </div>
      <Button disabled={chosen.length === 0} onClick={() => onAdd({ column: column.name, labels: chosen })}>
        Show these
      </Button>
    </fieldset>
  );
}

/** The rows under the signals of a chart of the column, as they are now. */
function Signals({ dataset, column, onAdd }: StepProps & { dataset: Dataset }) {
  const studies = useQuery(studiesQuery).data ?? [];
  const methods = useQuery(methodsQuery).data ?? [];
  const charts = studies.filter(
    ({ dataset_id, spec }) =>
      dataset_id === dataset.id &&
      spec.method === "control-chart" &&
      Object.values(spec.roles ?? {})
        .flat()
        .includes(column.name),
  );
  const show = async (id: number, name: string) => {
    const rows = await unwrapResponse(api.GET("/api/studies/{id}/signals/rows", { params: { path: { id } } }));
    if (rows.length === 0) notify(`${name} shows no signal.`);
    else {
      const cut = rows.length > STRETCHES_MOST ? `, the first ${grouped(STRETCHES_MOST)} places` : "";
      onAdd({ rows: rows.slice(0, STRETCHES_MOST), from: `signals of ${name}, ${moment(Date.now())}${cut}` });
    }
  };
  return charts.map((study) => (
    <Button key={study.id} look="quiet" onClick={() => show(study.id, studyName(study, methods)).catch(notifyProblem)}>
      Only those with a signal: {studyName(study, methods)}
    </Button>
  ));
}
