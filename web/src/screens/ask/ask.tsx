import { useQuery } from "@tanstack/react-query";
import { getRouteApi, Link, useNavigate } from "@tanstack/react-router";
import { DropdownMenu } from "radix-ui";
import { useState } from "react";
import { isFinal, type Schema } from "../../api/client";
import { type Dataset, datasetsQuery, methodsQuery, studiesQuery, useCreateStudy } from "../../api/queries";
import { moment } from "../../lib/format";
import { onlyWords } from "../../lib/only";
import { notifyProblem } from "../../parts/notices";
import { Empty, Loading, Problem } from "../../parts/states";
import { TopLine } from "../../parts/top-line";
import { MenuItem } from "../../study/figure-frame";
import { isFound, wordsFound } from "../../study/found-by";
import { halfFilled } from "../../study/half-filled";
import { statementWords } from "../../study/statement/words";
import { studyName } from "../../study/study-name";
import { QuestionDrawing } from "./question-drawing";

const route = getRouteApi("/ask");
const TERMS_SHOWN = 4;

/** The questions that the core can answer, in the order of the work. */
export function Ask() {
  const search = route.useSearch();
  const navigate = useNavigate();
  const datasets = useQuery(datasetsQuery);
  const methods = useQuery(methodsQuery);
  const create = useCreateStudy();
  const [sought, seek] = useState("");
  const failed = [datasets, methods].find(({ error, data }) => isFinal(error, data));
  if (failed) return <Problem thrown={failed.error} />;
  if (!datasets.data || !methods.data) return <Loading what="the questions" />;
  const dataset = datasets.data.find((dataset) => dataset.id === search.dataset) ?? datasets.data[0];
  // The rows that a table showed, where the question was asked from there.
  const only = (dataset?.id === search.dataset && search.only) || [];
  const ask = (card: Schema["MethodCard"]) => {
    if (!dataset && card.slots.some((slot) => slot.kind === "column" && slot.shows.length === 0)) return;
    const started = dataset ? halfFilled(card, dataset) : Promise.resolve({ method: card.method });
    started
      .then((spec) => create.mutateAsync(only.length > 0 ? { ...spec, only } : spec))
      .then((study) => navigate({ to: "/study/$id", params: { id: study.id } }))
      .catch(notifyProblem);
  };
  const found = methods.data.filter((card) => isFound(card, sought));
  const parts = [...new Set(found.map((card) => card.part))];
  return (
    <>
      <TopLine>
        <span className="font-semibold text-ink">Ask</span>
        {dataset && (
          <>
            <span>of</span>
            <DropdownMenu.Root modal={false}>
              <DropdownMenu.Trigger className="max-w-80 truncate rounded-full border border-hairline bg-sheet px-3 py-1 text-[13px] text-ink hover:border-moss">
                {dataset.name} ▾
              </DropdownMenu.Trigger>
              <DropdownMenu.Portal>
                <DropdownMenu.Content
                  align="start"
                  className="z-30 max-h-96 overflow-auto rounded-lg border border-hairline bg-sheet p-1 shadow-xl"
                >
                  {datasets.data.map((other) => (
                    <MenuItem key={other.id} onSelect={() => navigate({ to: "/ask", search: { dataset: other.id } })}>
                      {other.name}
                    </MenuItem>
                  ))}
                </DropdownMenu.Content>
              </DropdownMenu.Portal>
            </DropdownMenu.Root>
          </>
        )}
      </TopLine>
      <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-6 pt-3.5">
        {dataset ? (
          <>
            {only.length > 0 && (
              <p className="mb-1 text-ink-soft">Asked of some rows: {only.map(onlyWords).join(" › ")}</p>
            )}
            <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
              <h1 className="font-serif text-2xl font-semibold">What do you want to know?</h1>
              <input
                type="search"
                aria-label="Find a question"
                placeholder="histogram, Cpk, I-MR, DPMO …"
                value={sought}
                onChange={(event) => seek(event.target.value)}
                className="h-8 w-72 rounded-full border border-hairline bg-sheet px-3.5"
              />
              <span role="status" className="text-ink-soft">
                {sought && (found.length === 0 ? "No question answers to that word." : "")}
              </span>
            </div>
            {parts.map((part) => (
              <section key={part} aria-label={part} className="mt-3">
                <h2 className="flex items-center gap-2.5 text-[13px] font-semibold text-ink-soft after:h-px after:flex-1 after:bg-hairline">
                  {part}
                </h2>
                <ul className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(480px,1fr))] gap-x-6">
                  {found
                    .filter((card) => card.part === part)
                    .map((card) => (
                      <li key={card.method}>
                        <button
                          type="button"
                          onClick={() => ask(card)}
                          disabled={create.isPending}
                          className="flex h-full w-full items-center gap-3.5 rounded-xl p-1.5 text-left hover:bg-sheet hover:shadow-sm"
                        >
                          <QuestionDrawing method={card.method} />
                          <span className="min-w-0 flex-1">
                            <span className="flex items-baseline gap-3">
                              <span className="shrink-0 font-serif text-[17px] font-semibold">{card.question}</span>
                              <Terms card={card} sought={sought} />
                            </span>
                            <span className="block text-ink-soft">{card.use_when}</span>
                          </span>
                        </button>
                      </li>
                    ))}
                </ul>
              </section>
            ))}
            <Asked dataset={dataset} methods={methods.data} />
          </>
        ) : (
          <Empty title="There is nothing to ask yet">
            <p>
              Questions are asked of data.{" "}
              <Link to="/data" className="font-semibold text-moss underline">
                Bring some in
              </Link>{" "}
              first.
            </p>
          </Empty>
        )}
      </main>
    </>
  );
}

/** The words of the trade that a question goes by: those sought, else the first ones. */
function Terms({ card, sought }: { card: Schema["MethodCard"]; sought: string }) {
  const hit = wordsFound(card, sought);
  const shown = hit.length > 0 ? hit : card.found_by;
  return (
    <span className="min-w-0 truncate text-[13px] text-ink-soft">
      {shown.slice(0, TERMS_SHOWN).map((word, index) => (
        <span key={word} className={hit.length > 0 ? "font-semibold text-ink" : ""}>
          {index > 0 && " · "}
          {word}
        </span>
      ))}
    </span>
  );
}

/** What was asked of this dataset before. */
function Asked({ dataset, methods }: { dataset: Dataset; methods: Schema["MethodCard"][] }) {
  const studies = (useQuery(studiesQuery).data ?? []).filter((study) => study.dataset_id === dataset.id);
  if (studies.length === 0) return null;
  return (
    <section aria-label="Asked before" className="mt-6">
      <h2 className="flex items-center gap-2.5 text-[13px] font-semibold text-ink-soft after:h-px after:flex-1 after:bg-hairline">
        Asked before
      </h2>
      <ul className="mt-3 flex flex-col gap-2">
        {studies.map((study) => (
          <li key={study.id}>
            <Link
              to="/study/$id"
              params={{ id: study.id }}
              className="flex items-baseline gap-4 rounded-lg border border-hairline bg-sheet px-4 py-2.5 hover:border-moss"
            >
              <span className="font-semibold">{studyName(study, methods)}</span>
              <span className="min-w-0 flex-1 truncate font-serif text-ink-soft">
                {statementWords(study.statement)}
              </span>
              <span className="text-[13px] text-ink-soft">{moment(study.updated_at)}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
