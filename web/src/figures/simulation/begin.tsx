import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Dataset, datasetsQuery, studiesQuery } from "../../api/queries";
import { isNumeric, typedNumber } from "../../lib/format";
import { Button } from "../../parts/button";
import { SelectField } from "../../parts/fields";
import { type Input, piecesOf, written } from "./model";

type BeginProps = { dataset: Dataset; onBegin: (options: Record<string, unknown>) => void };

/** Ways to begin: from a table of names with mean and sd, from columns, from nothing, from another model or a file. */
export function Begin({ dataset, onBegin }: BeginProps) {
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  const inputs = tableOf(text);
  const models = (useQuery(studiesQuery).data ?? []).filter(
    ({ spec }) => spec.method === "simulation" && Array.isArray(spec.options?.responses),
  );
  const open = async (file: File | undefined) => {
    if (!file) return;
    try {
      const read = JSON.parse(await file.text());
      const options = read?.options;
      if (read?.method !== "simulation" || typeof options !== "object" || options === null) throw new Error();
      setWrong(null);
      onBegin(options);
    } catch {
      setWrong("This file holds no model; choose one that was saved here as a model.");
    }
  };
  return (
    <div className="grid max-w-[760px] gap-x-8 gap-y-5 md:grid-cols-2">
      <div>
        <h2 className="font-serif text-[17px] font-semibold">A table of inputs</h2>
        <p className="mb-1.5 text-[13px] text-ink-soft">Paste or type a line for each: name, mean, sd.</p>
        <textarea
          aria-label="Name, mean and sd of each input"
          rows={6}
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder={"lens\t2.4\t0.02\nseal\t1.1\t0.03"}
          className="w-full rounded-md border border-hairline bg-paper p-2 font-mono text-[13px]"
        />
        <Button
          look="primary"
          disabled={inputs.length === 0}
          onClick={() =>
            onBegin({
              inputs,
              responses: [{ name: "response", formula: inputs.map(({ name }) => written(name)).join(" + ") }],
              sensitivity: true,
            })
          }
        >
          {inputs.length === 0 ? "Take them" : `Take ${inputs.length === 1 ? "1 input" : `${inputs.length} inputs`}`}
        </Button>
      </div>
      <div>
        <FromColumns own={dataset} onBegin={onBegin} />
        <h2 className="font-serif text-[17px] font-semibold">From nothing</h2>
        <p className="mb-1.5 text-[13px] text-ink-soft">Two inputs and a response to change, or add pieces below.</p>
        <Button
          onClick={() =>
            onBegin({
              inputs: [
                { name: "input", distribution: "normal", parameters: { mean: 10, sd: 1 } },
                { name: "input 2", distribution: "normal", parameters: { mean: 5, sd: 0.5 } },
              ],
              responses: [{ name: "response", formula: "input + `input 2`" }],
              sensitivity: true,
            })
          }
        >
          Begin with two inputs
        </Button>
        {models.length > 0 && (
          <>
            <h2 className="mt-5 font-serif text-[17px] font-semibold">A copy of another model</h2>
            <select
              aria-label="Model to copy"
              value=""
              onChange={(event) => {
                const options = models.find(({ id }) => String(id) === event.target.value)?.spec.options;
                if (options) onBegin(options);
              }}
              className="mt-1 h-[30px] max-w-full rounded-md border border-hairline bg-paper px-1.5"
            >
              <option value="">choose a model</option>
              {models.map(({ id, name, spec }) => (
                <option key={id} value={id}>
                  {name ??
                    piecesOf(spec)
                      .responses.map((response) => response.name)
                      .join(", ")}
                </option>
              ))}
            </select>
          </>
        )}
        <h2 className="mt-5 font-serif text-[17px] font-semibold">A model from a file</h2>
        <p className="mb-1.5 text-[13px] text-ink-soft">One that was saved here as a model.</p>
        <input
          type="file"
          accept=".json,application/json"
          aria-label="Model file"
          onChange={(event) => open(event.target.files?.[0])}
          className="text-[13px]"
        />
        {wrong && (
          <p role="alert" className="mt-1 text-[13px] text-clay">
            {wrong}
          </p>
        )}
      </div>
    </div>
  );
}

/** Columns of any dataset, each an input that follows its column. */
function FromColumns({ own, onBegin }: { own: Dataset; onBegin: BeginProps["onBegin"] }) {
  const datasets = useQuery(datasetsQuery).data ?? [];
  const [id, setId] = useState(own.id);
  const [chosen, setChosen] = useState<string[]>([]);
  const dataset = datasets.find((one) => one.id === id);
  const measured = (dataset?.columns ?? []).filter(({ kind }) => isNumeric(kind));
  const take = () =>
    onBegin({
      inputs: chosen.map((name) => {
        const unit = measured.find((column) => column.name === name)?.unit;
        const from = id === own.id ? {} : { dataset: id };
        return { name, ...(unit && { unit }), distribution: "data", column: name, ...from };
      }),
      responses: [{ name: "response", formula: chosen.map(written).join(" + ") }],
      sensitivity: true,
    });
  if (datasets.length === 0) return null;
  return (
    <fieldset className="mb-5">
      <legend className="font-serif text-[17px] font-semibold">Columns of a dataset</legend>
      <p className="mb-1.5 text-[13px] text-ink-soft">Each becomes an input that follows its column.</p>
      <SelectField
        label="dataset"
        value={String(id)}
        onChoose={(next) => {
          setId(Number(next));
          setChosen([]);
        }}
      >
        {!dataset && <option value={id}>choose a dataset</option>}
        {datasets.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </SelectField>
      <div className="mt-1 flex max-h-32 flex-wrap gap-x-4 gap-y-1 overflow-y-auto">
        {measured.map(({ name }) => (
          <label key={name} className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={chosen.includes(name)}
              onChange={(event) =>
                setChosen(event.target.checked ? [...chosen, name] : chosen.filter((one) => one !== name))
              }
            />
            {name}
          </label>
        ))}
      </div>
      {dataset && (
        <Button className="mt-1.5" disabled={chosen.length === 0} onClick={take}>
          Take them as inputs
        </Button>
      )}
    </fieldset>
  );
}

/** Lines of a name, a mean and an sd, parted by tabs, semicolons, commas or spaces; a line without numbers is a header. */
function tableOf(text: string): Input[] {
  return text.split(/\r?\n/).flatMap((row) => {
    const cells = /[\t;]/.test(row) ? row.split(/[\t;]/) : row.split(/\s*,\s+|\s{2,}|,|\s+(?=[-−.\d])/);
    const [name = "", mean = "", sd = ""] = cells.map((cell) => cell.trim());
    const [at, spread] = [typedNumber(mean), typedNumber(sd)];
    if (!name || typeof at !== "number" || typeof spread !== "number" || spread < 0) return [];
    return [{ name, distribution: "normal", parameters: { mean: at, sd: spread } }];
  });
}
