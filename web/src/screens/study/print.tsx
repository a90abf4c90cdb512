import { useQuery } from "@tanstack/react-query";
import { getRouteApi } from "@tanstack/react-router";
import { use, useRef } from "react";
import { isFinal, type Schema } from "../../api/client";
import { type Dataset, outcomeQuery, type Study } from "../../api/queries";
import { moment } from "../../lib/format";
import { toneColour } from "../../marks/tone";
import { Loading, Problem } from "../../parts/states";
import { figureOf, NO_ACTIONS, shownIn } from "../../study/figure";
import { statementWords } from "../../study/statement/words";
import { studyName } from "../../study/study-name";
import { subjectWords } from "../../study/subject-words";
import { TableView } from "../../study/table-view";
import { useStudy } from "./use-study";

const route = getRouteApi("/study/$id/print");
const SIZE = { width: 900, height: 470 };

/** One clean page of a study: statement, verdict, figure, notes and tables. */
export function PrintScreen() {
  const { id } = route.useParams();
  const { failed, study, dataset, card } = useStudy(id);
  if (failed) return <Problem thrown={failed} />;
  if (!study || !dataset || !card) return <Loading what="the study" />;
  return <Page study={study} dataset={dataset} card={card} />;
}

type Props = { study: Study; dataset: Dataset; card: Schema["MethodCard"] };

function Page({ study, dataset, card }: Props) {
  const { spec } = study;
  const figure = use(figureOf(card.method));
  const drawn = useRef<SVGSVGElement>(null);
  const points = figure.points?.(SIZE.width);
  const { data: answer, error } = useQuery(
    outcomeQuery(study, dataset, points ? { points, fresh: true } : { fresh: true }),
  );
  if (isFinal(error, answer)) return <Problem thrown={error} />;
  if (!answer) return <Loading what="the answer" />;
  const last = Math.max(0, (figure.total?.(answer.numbers) ?? 1) - 1);
  return (
    <main className="mx-auto w-[900px] max-w-full overflow-y-auto bg-sheet px-2 py-6 print:overflow-visible">
      <p className="text-[13px] text-ink-soft">
        {[dataset.name, studyName(study, [card]), `as of ${moment(study.updated_at)}`].filter(Boolean).join(" · ")}
      </p>
      <p className="mt-1 font-serif text-[17px] leading-6">{statementWords(study.statement)}</p>
      <h1
        className="mt-3 border-l-4 pl-3 font-serif text-[20px] font-semibold leading-7"
        style={{ borderColor: toneColour(answer.verdict.tone) }}
      >
        {answer.verdict.sentence}
      </h1>
      <div className="relative mt-3" style={{ height: SIZE.height }}>
        <figure.Drawing
          numbers={answer.numbers}
          notes={answer.notes}
          spec={spec}
          dataset={dataset}
          name={subjectWords(study)}
          limits={answer.limits}
          size={SIZE}
          view={{ first: 0, last }}
          shown={shownIn(figure, study)}
          signals={undefined}
          chosen={null}
          lit={null}
          figure={drawn}
          actions={NO_ACTIONS}
        />
      </div>
      <ol className="mt-4 columns-2 gap-8">
        {answer.notes.map((note) => (
          <li key={note.letter} className="flex break-inside-avoid gap-2.5 py-1.5">
            <b className="font-serif" style={{ color: toneColour(note.tone) }}>
              {note.letter}
            </b>
            <span>
              {note.sentence} {note.detail && <span className="text-ink-soft">{note.detail}</span>}
            </span>
          </li>
        ))}
      </ol>
      <section aria-label="Numbers" className="mt-4 flex flex-wrap gap-x-10 gap-y-5">
        {answer.tables.map((table) => (
          <TableView key={table.id} table={table} formulas={[]} whole />
        ))}
      </section>
    </main>
  );
}
