import { problemOf } from "../../api/client";
import { Button } from "../../parts/button";
import type { UnansweredProps } from "../../study/figure";
import { Begin } from "./begin";
import { Desk } from "./desk/desk";
import { type PieceKind, piecesOf } from "./model";
import { usePicked } from "./picked";

const WORDS: Record<PieceKind, string> = { inputs: "Inputs", controls: "Controls", responses: "Responses" };

/** A model that cannot be run yet: its pieces to be mended, or the ways to begin one. */
export function Unanswered({ spec, dataset, actions, problem }: UnansweredProps) {
  const [picked, setPicked] = usePicked();
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
