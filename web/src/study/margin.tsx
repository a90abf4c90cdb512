import { Link } from "@tanstack/react-router";
import { ArrowRight, CircleCheck, CircleDashed, CircleHelp, TriangleAlert } from "lucide-react";
import type { Schema } from "../api/client";
import { toneColour } from "../figures/control-chart/pins";

type Outcome = Schema["Outcome"];
type Props = { outcome: Outcome; datasetId: number; lit: string | null; onLight: (letter: string | null) => void };

const ICONS = { calm: CircleCheck, caution: TriangleAlert, alarm: CircleDashed, unsure: CircleHelp };

/** Beside the figure: the verdict on top, then the notes, then what to ask next. */
export function Margin({ outcome, datasetId, lit, onLight }: Props) {
  const { verdict, notes, next } = outcome;
  const Icon = ICONS[verdict.tone];
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
          {withoutTitle(verdict)}
        </h1>
      </div>
      <ol className="mt-2.5">
        {notes.map((note) => (
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
            <span>
              {note.sentence}
              {note.detail && <span className="block text-[13px] text-ink-soft">{note.detail}</span>}
            </span>
          </li>
        ))}
      </ol>
      {next.length > 0 && (
        <section className="mt-3">
          <h2 className="text-[13px] font-semibold text-ink-soft">Next questions</h2>
          {next.map((question) => (
            <Link
              key={question.question}
              to="/data/$id"
              params={{ id: datasetId }}
              search={{ row: question.row_ids?.[0] }}
              title={question.why}
              className="mt-2 flex items-center gap-2 rounded-lg border border-hairline bg-sheet px-3 py-2 hover:border-moss"
            >
              <span className="flex-1">{question.question}</span>
              <ArrowRight size={14} className="text-moss" aria-hidden />
            </Link>
          ))}
        </section>
      )}
    </aside>
  );
}

/** The sentence without the words that already stand above it. */
function withoutTitle({ title, sentence }: Outcome["verdict"]): string {
  const rest = sentence.startsWith(`${title}: `) ? sentence.slice(title.length + 2) : sentence;
  return rest.charAt(0).toUpperCase() + rest.slice(1);
}
