import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { problemOf } from "../../api/client";
import { type Dataset, studiesQuery } from "../../api/queries";
import { isNumeric, typedNumber } from "../../lib/format";
import { Button } from "../../parts/button";
import type { UnansweredProps } from "../../study/figure";
import { Desk } from "./desk/desk";
import { type Input, type Picked, type PieceKind, piecesOf, written } from "./model";

const WORDS: Record<PieceKind, string> = { inputs: "Inputs", controls: "Controls", responses: "Responses" };

/** A model that cannot be run yet: its pieces to be mended, or the ways to begin one. */
export function Unanswered({ spec, dataset, actions, problem }: UnansweredProps) {
  const [picked, setPicked] = useState<Picked | null>(null);
  const pieces = piecesOf(spec);
  const empty = pieces.inputs.length + pieces.controls.length + pieces.responses.length === 0;
  const said = problem === undefined ? null : problemOf(problem);
  return (
    <div className="flex h-full flex-col">
      <div className="min-h-0 flex-1 overflow-y-auto px-[22px] py-4">
        {said && (
          <p role="alert" className="mb-3 rounded-md border border-clay/50 px-3 py-2">
            {said.title[0]?.toUpperCase()}
            {said.title.slice(1)}. <span className="text-ink-soft">{said.detail}</span>
          </p>
        )}
        {empty ? (
          <Begin dataset={dataset} onBegin={(options) => actions.set(options)} />
        ) : (
          (["inputs", "controls", "responses"] as const).map((kind) => (
            <section key={kind} aria-label={WORDS[kind]} className="mb-3">
              <h2 className="mb-1 text-[13px] font-semibold text-ink-soft">{WORDS[kind]}</h2>
              <div className="flex flex-wrap gap-1.5">
                {pieces[kind].map(({ name }, place) => (
                  <Button
                    key={name}
                    aria-pressed={picked?.kind === kind && picked.place === place}
                    onClick={() => setPicked({ kind, place })}
                  >
                    {name}
                    {kind === "responses" && ` = ${pieces.responses[place]?.formula}`}
                  </Button>
                ))}
                {pieces[kind].length === 0 && <span className="text-ink-soft">none yet</span>}
              </div>
            </section>
          ))
        )}
      </div>
      <Desk
        pieces={pieces}
        parts={[]}
        part={undefined}
        dataset={dataset}
        spec={spec}
        picked={picked}
        height={196}
        onPart={() => undefined}
        onPick={setPicked}
        actions={actions}
      />
    </div>
  );
}

/** Ways to begin: from nothing, from a table of names with mean and sd, from a model that was saved as a file. */
type BeginProps = { dataset: Dataset; onBegin: (options: Record<string, unknown>) => void };

function Begin({ dataset, onBegin }: BeginProps) {
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState<string | null>(null);
  const [columns, setColumns] = useState<string[]>([]);
  const measured = dataset.columns.filter(({ kind }) => isNumeric(kind));
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
        {measured.length > 0 && (
          <fieldset className="mb-5">
            <legend className="font-serif text-[17px] font-semibold">Columns of {dataset.name}</legend>
            <p className="mb-1.5 text-[13px] text-ink-soft">Each becomes an input that follows its column.</p>
            <div className="flex max-h-40 flex-wrap gap-x-4 gap-y-1 overflow-y-auto">
              {measured.map(({ name }) => (
                <label key={name} className="flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    checked={columns.includes(name)}
                    onChange={(event) =>
                      setColumns(event.target.checked ? [...columns, name] : columns.filter((one) => one !== name))
                    }
                  />
                  {name}
                </label>
              ))}
            </div>
            <Button
              className="mt-1.5"
              disabled={columns.length === 0}
              onClick={() =>
                onBegin({
                  inputs: columns.map((name) => {
                    const unit = measured.find((column) => column.name === name)?.unit;
                    return { name, ...(unit && { unit }), distribution: "data", column: name };
                  }),
                  responses: [{ name: "response", formula: columns.map(written).join(" + ") }],
                  sensitivity: true,
                })
              }
            >
              Take them as inputs
            </Button>
          </fieldset>
        )}
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
