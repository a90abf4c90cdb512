import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { ArrowRight, CircleCheck, CircleDashed, CircleHelp, TriangleAlert } from "lucide-react";
import type { ReactNode } from "react";
import { api, type Schema, unwrapResponse } from "../api/client";
import { type Dataset, type FilterStep, methodsQuery, type Study, useCreateStudy } from "../api/queries";
import { signalKey, toneColour } from "../marks/tone";
import { Button } from "../parts/button";
import { Explained } from "../parts/explained";
import { notifyProblem } from "../parts/notices";
import type { Actions } from "./figure";
import { halfFilled } from "./half-filled";

type Outcome = Schema["Outcome"];
type Props = {
  verdict: Schema["Verdict"];
  notes: Schema["Note"][];
  next: Outcome["next"];
  study: Study;
  dataset: Dataset;
  signals: Schema["StudySignals"] | undefined;
  /** What stands between the verdict and the notes. */
  children?: ReactNode;
  lit: string | null;
  onLight: (letter: string | null) => void;
  onOffer: (offer: Schema["Offer"]) => void;
  onChoose: (address: string) => void;
  onOpenRows: Actions["openRows"];
};

const ICONS = { calm: CircleCheck, caution: TriangleAlert, alarm: CircleDashed, unsure: CircleHelp };

/** Beside the figure: the verdict on top, then the notes, then what to ask next. */
export function Margin({
  verdict,
  notes,
  next,
  study,
  dataset,
  signals,
  children,
  lit,
  onLight,
  onOffer,
  ...props
}: Props) {
  const Icon = ICONS[verdict.tone];
  const known = new Map(signals?.signals.map((one) => [signalKey(one.panel, one.pattern, one.first), one]));
  return (
    <aside
      aria-label="Verdict and notes"
      className="min-h-0 w-[326px] shrink-0 overflow-y-auto pb-4 pr-1 max-lg:w-full max-lg:overflow-visible"
    >
      <div aria-live="polite">
        <p className="flex items-center gap-2 text-[13px] font-semibold" style={{ color: toneColour(verdict.tone) }}>
          <Icon size={18} strokeWidth={2.4} aria-hidden />
          {verdict.title}
        </p>
        <h1 data-testid="verdict" className="mt-1.5 font-serif text-[20px] font-semibold leading-7">
          <Explained>{withoutTitle(verdict)}</Explained>
        </h1>
      </div>
      {children}
      <ol className="mt-2.5">
        {notes.map((note) => {
          const { pin } = note;
          const signal = pin?.pattern ? known.get(signalKey(pin.panel, pin.pattern, pin.first ?? -1)) : undefined;
          return (
            <li
              key={note.letter}
              onMouseEnter={() => onLight(note.letter)}
              onMouseLeave={() => onLight(null)}
              className={`flex gap-2.5 border-t border-hairline py-2.5 ${note.letter === lit ? "bg-tint" : ""}`}
            >
              <span
                aria-hidden
                className="flex h-[21px] w-[21px] shrink-0 items-center justify-center rounded-full pb-px font-serif text-[13px] font-bold text-sheet"
                style={{ background: toneColour(note.tone) }}
              >
                {note.letter}
              </span>
              <div className="min-w-0 flex-1">
                <Explained>{note.sentence}</Explained>
                {note.detail && (
                  <span className="block text-[13px] text-ink-soft">
                    <Explained>{note.detail}</Explained>
                  </span>
                )}
                {signal && <CauseLine finding={signal.finding} />}
                <div className="flex flex-wrap gap-x-4 text-[13px]">
                  {signal && (
                    <Button look="quiet" onClick={() => props.onChoose(signal.address)}>
                      {signal.finding?.cause ? "Change the cause" : "Give a cause"}
                    </Button>
                  )}
                  {note.offers?.map((offer) => (
                    <Button
                      key={offer.label}
                      look="quiet"
                      className="whitespace-normal! text-left"
                      onClick={() => onOffer(offer)}
                    >
                      {offer.label}
                    </Button>
                  ))}
                </div>
              </div>
            </li>
          );
        })}
        {signals?.past
          .filter(({ finding }) => finding.cause)
          .map(({ address, finding }) => (
            <li key={address} className="border-t border-hairline py-2.5 pl-[31px]">
              <span className="text-ink-soft">{finding.sentence}</span>
              <CauseLine finding={finding} />
              <Button look="quiet" className="text-[13px]" onClick={() => props.onChoose(address)}>
                Change the cause
              </Button>
            </li>
          ))}
      </ol>
      {next.length > 0 && (
        <section className="mt-3">
          <h2 className="text-[13px] font-semibold text-ink-soft">Next questions</h2>
          {next.map((question) => (
            <Next
              key={question.question}
              question={question}
              study={study}
              dataset={dataset}
              onOpenRows={props.onOpenRows}
            />
          ))}
        </section>
      )}
    </aside>
  );
}

const NEXT =
  "mt-2 flex w-full items-center gap-2 rounded-lg border border-hairline bg-sheet px-3 py-2 text-left hover:border-moss";

type NextProps = Pick<Props, "study" | "dataset" | "onOpenRows"> & { question: Schema["NextQuestion"] };

/** A next question: rows to look at, or another study of the same column. */
function Next({ question, study, dataset, onOpenRows }: NextProps) {
  const navigate = useNavigate();
  const create = useCreateStudy();
  const methods = useQuery(methodsQuery).data ?? [];
  const inside = (
    <>
      <span className="flex-1">{question.question}</span>
      <ArrowRight size={14} className="text-moss" aria-hidden />
    </>
  );
  const method = methods.find((card) => card.method === question.method);
  if (method) {
    const ask = async () => {
      const proposed = await halfFilled(method, dataset);
      // What the method proposes holds for the column it chose; for another one only the column itself is carried over.
      const same = Object.entries(question.roles ?? {}).every(([role, name]) => proposed.roles?.[role] === name);
      const step = await within(study, question.points);
      const given = question.rows_option ? { [question.rows_option]: step.flatMap(({ rows }) => rows) } : {};
      const options = { ...question.options, ...given };
      const narrowed = question.rows_option ? [] : step;
      const only = [...(study.spec.only ?? []), ...(question.only ?? []), ...narrowed];
      // Rows take the place of a column that is proposed.
      const asked =
        same && !question.rows_option
          ? { ...proposed, options: { ...proposed.options, ...options } }
          : { ...proposed, roles: question.roles, options };
      const { id } = await create.mutateAsync({ ...asked, only });
      navigate({ to: "/study/$id", params: { id } });
    };
    return (
      <button type="button" title={question.why} className={NEXT} onClick={() => ask().catch(notifyProblem)}>
        {inside}
      </button>
    );
  }
  const [first, last] = question.points ?? [];
  if (first === undefined || last === undefined) return null;
  return (
    <button type="button" title={question.why} className={NEXT} onClick={() => onOpenRows({ first, last })}>
      {inside}
    </button>
  );
}

type RowsStep = Extract<FilterStep, { rows: unknown }>;

/** The rows of a stretch of points, as a step that narrows a question. */
async function within(study: Study, points: readonly number[] | null | undefined): Promise<RowsStep[]> {
  const [first, last] = points ?? [];
  if (first === undefined || last === undefined) return [];
  const rows = await unwrapResponse(
    api.GET("/api/studies/{id}/rows", { params: { path: { id: study.id }, query: { first, last } } }),
  );
  return [{ rows, from: first === last ? `point ${first + 1}` : `points ${first + 1} to ${last + 1}` }];
}

/** What is known about a signal, in one line. */
function CauseLine({ finding }: { finding?: Schema["Finding"] | null }) {
  if (!finding?.cause) return <span className="block text-[13px] text-ink-soft">No cause given yet.</span>;
  const doing = [finding.action, finding.owner].filter(Boolean).join(", ");
  return (
    <span className="block text-[13px] text-ink-soft">
      Cause: <b className="font-semibold text-ink">{finding.cause}</b>
      {finding.left_out && ", left out of the limits"}.{doing && ` ${finding.done ? "Done" : "Action"}: ${doing}.`}
    </span>
  );
}

/** The sentence without the words that already stand above it. */
function withoutTitle({ title, sentence }: Outcome["verdict"]): string {
  const rest = sentence.startsWith(`${title}: `) ? sentence.slice(title.length + 2) : sentence;
  return rest.charAt(0).toUpperCase() + rest.slice(1);
}
