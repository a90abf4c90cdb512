import { Plus } from "lucide-react";
import type { Dataset, Spec } from "../../../api/queries";
import { Button } from "../../../parts/button";
import type { Actions } from "../../../study/figure";
import { newPiece, type Picked, type PieceKind, type Pieces } from "../model";
import { PieceEditor } from "./piece-editor";

type Props = {
  pieces: Pieces;
  parts: string[];
  part: string | undefined;
  dataset: Dataset;
  spec: Spec;
  picked: Picked | null;
  height: number;
  onPart: (part: string | undefined) => void;
  onPick: (picked: Picked | null) => void;
  actions: Actions;
};

const ONE: Record<PieceKind, string> = { inputs: "an input", controls: "a control", responses: "a response" };

/** Under the picture: the parts of the model, what can be added, and the piece that is being changed. */
export function Desk({ pieces, parts, part, dataset, spec, picked, height, onPart, onPick, actions }: Props) {
  const add = (kind: PieceKind) => {
    actions.set({ [kind]: [...pieces[kind], { ...newPiece(pieces, kind), ...(part && { part }) }] });
    onPick({ kind, place: pieces[kind].length });
  };
  const piece = picked && pieces[picked.kind][picked.place];
  return (
    <>
      <div className="flex h-11 flex-wrap items-center gap-2 px-[22px]">
        {(["inputs", "controls", "responses"] as const).map((kind) => (
          <Button key={kind} onClick={() => add(kind)} className="h-[29px]! rounded-full!">
            <Plus size={14} aria-hidden /> {ONE[kind]}
          </Button>
        ))}
        <span className="flex-1" />
        {parts.length > 0 && (
          <div role="group" aria-label="Parts of the model" className="flex gap-1 text-[13px]">
            {[undefined, ...parts].map((one) => (
              <button
                key={one ?? "all"}
                type="button"
                aria-pressed={part === one}
                onClick={() => onPart(one)}
                className="rounded-full px-2.5 py-1 text-ink-soft hover:bg-tint aria-pressed:bg-tint aria-pressed:font-semibold aria-pressed:text-ink"
              >
                {one ?? "all parts"}
              </button>
            ))}
          </div>
        )}
      </div>
      {picked && piece && (
        <div style={{ height }} className="relative overflow-y-auto border-t border-hairline px-[22px] py-2.5">
          <PieceEditor
            key={`${picked.kind} ${picked.place}`}
            picked={picked}
            pieces={pieces}
            parts={parts}
            dataset={dataset}
            spec={spec}
            actions={actions}
            onClose={() => {
              actions.attempt(null);
              onPick(null);
            }}
          />
        </div>
      )}
    </>
  );
}
