import { X } from "lucide-react";
import { api, unwrapResponse } from "../../../api/client";
import type { Dataset, Spec } from "../../../api/queries";
import { Button } from "../../../parts/button";
import { notify, notifyProblem } from "../../../parts/notices";
import type { Actions } from "../../../study/figure";
import {
  type Control,
  type Input,
  namesOf,
  type Picked,
  type Pieces,
  type Response,
  searchOf,
  searchWith,
  withPiece,
  written,
} from "../model";
import { ControlForm } from "./control-form";
import { GoesWith, type Pair } from "./goes-with";
import { InputForm } from "./input-form";
import { NameField } from "./name-field";
import { ResponseForm } from "./response-form";

type Props = {
  picked: Picked;
  pieces: Pieces;
  parts: string[];
  dataset: Dataset;
  spec: Spec;
  actions: Actions;
  onClose: () => void;
};

const WORD = { inputs: "Input", controls: "Control", responses: "Response" };

/** Changes one piece of the model; the picture follows with every key. */
export function PieceEditor({ picked, pieces, parts, dataset, spec, actions, onClose }: Props) {
  const { kind, place } = picked;
  const piece = pieces[kind][place];
  if (!piece) return null;
  const others = namesOf(pieces).filter((name) => name !== piece.name.trim());
  const optionsOf = (next: Input | Control | Response) => withPiece(pieces, picked, next);
  const tries = (next: Input | Control | Response | null) => actions.attempt(next && optionsOf(next));
  const saves = (next: Input | Control | Response) => actions.set(optionsOf(next));

  const rename = async (name: string) => {
    try {
      // Whatever names it goes on naming it.
      const responses = await Promise.all(
        pieces.responses.map(async (response) => {
          const body = { formula: response.formula, names: [], rename: [piece.name.trim(), name] };
          return { ...response, formula: (await unwrapResponse(api.POST("/api/formulas", { body }))).formula };
        }),
      );
      const renamed = { ...pieces, responses };
      const correlations = (spec.options?.correlations ?? undefined) as
        | { a: string; b: string; r: number }[]
        | undefined;
      const search = searchOf(spec);
      const called = (one: string) => (one.trim() === piece.name.trim() ? name : one);
      actions.set({
        responses,
        ...(correlations && { correlations: correlations.map(({ a, b, r }) => ({ a: called(a), b: called(b), r })) }),
        ...(search && { search: searchWith(search, piece.name.trim(), name) }),
        ...withPiece(renamed, picked, { ...(renamed[kind][place] as Input), name }),
      });
    } catch (thrown) {
      notifyProblem(thrown);
    }
  };
  const remove = () => {
    const users = pieces.responses.filter(
      ({ formula, name }) => name !== piece.name && usesName(formula, piece.name.trim()),
    );
    if (users.length > 0) {
      notify(`${piece.name} is used by ${users.map(({ name }) => name).join(", ")}; change that formula first.`);
      return;
    }
    onClose();
    const search = searchOf(spec);
    const pairs = ((spec.options?.correlations ?? []) as Pair[]).filter(
      ({ a, b }) => a !== piece.name && b !== piece.name,
    );
    actions.set({
      [kind]: (pieces[kind] as unknown[]).filter((_, at) => at !== place),
      ...(search && { search: searchWith(search, piece.name.trim(), null) }),
      ...(spec.options?.correlations != null && { correlations: pairs.length > 0 ? pairs : null }),
    });
  };
  const name = <NameField label={`${WORD[kind]} name`} name={piece.name} taken={others} onRename={rename} />;
  return (
    <section aria-label={`${WORD[kind]} ${piece.name}`} className="relative text-[14px]">
      <div className="absolute right-3 top-1.5 flex items-center gap-1">
        <Button look="faint" onClick={remove}>
          Remove
        </Button>
        <button
          type="button"
          aria-label="Close"
          onClick={onClose}
          className="rounded-md p-1 text-ink-soft hover:bg-tint hover:text-ink"
        >
          <X size={16} aria-hidden />
        </button>
      </div>
      {kind === "inputs" && (
        <>
          <InputForm name={name} input={piece as Input} parts={parts} dataset={dataset} onTry={tries} onSave={saves} />
          <div className="mt-2">
            <GoesWith
              name={piece.name}
              others={pieces.inputs.map(({ name }) => name).filter((name) => name !== piece.name)}
              pairs={(spec.options?.correlations ?? []) as Pair[]}
              onChange={(pairs) => actions.set({ correlations: pairs.length > 0 ? pairs : null })}
            />
          </div>
        </>
      )}
      {kind === "controls" && (
        <ControlForm name={name} control={piece as Control} parts={parts} onTry={tries} onSave={saves} />
      )}
      {kind === "responses" && (
        <ResponseForm
          name={name}
          response={piece as Response}
          parts={parts}
          names={others}
          others={pieces.responses.filter((_, at) => at !== place).map(({ name, formula }) => [name, formula])}
          onTry={tries}
          onSave={saves}
        />
      )}
    </section>
  );
}

/** Whether a formula names something, taken as the words that it is made of. */
function usesName(formula: string, name: string): boolean {
  const words = formula.match(/`[^`]*`|[\p{L}_][\p{L}\p{N}_]*/gu) ?? [];
  return words.some((word) => word === written(name) || word === `\`${name}\``);
}
