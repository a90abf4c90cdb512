import { type ReactNode, useState } from "react";
import type { Schema } from "../../api/client";
import { counted, grouped, kindWords } from "../../lib/format";
import { Button } from "../../parts/button";
import { withColumn, withFix } from "./fixes";
import type { Preview, ReadOptions } from "./preview";

type Props = { preview: Preview; readOptions: ReadOptions; onChange: (part: Partial<ReadOptions>) => void };

/** Problems shown one by one; the rest is answered together. */
const PROBLEMS_SHOWN = 6;

/** What was understood, each with the way to say otherwise, and the values that need an answer. */
export function ReadAsNotes({ preview, readOptions, onChange }: Props) {
  const notes = preview.notes;
  const problems = preview.problems.slice(0, PROBLEMS_SHOWN);
  const letter = (index: number) => String.fromCharCode(97 + index);
  return (
    <aside aria-label="Read as" className="w-[310px] shrink-0 max-lg:w-full">
      <h2 className="border-b border-hairline pb-2 font-serif text-lg font-semibold">Read as</h2>
      <ol>
        {notes.map((note, index) => (
          <Entry key={note.sentence} letter={letter(index)} tone={note.doubt ? "bg-ochre" : "bg-ink-soft"}>
            <p>{note.sentence}</p>
            {note.detail && <p className="text-[13px] text-ink-soft">{note.detail}</p>}
            <Remedy note={note} preview={preview} readOptions={readOptions} onChange={onChange} />
          </Entry>
        ))}
        {problems.map((problem, index) => (
          <Entry key={`${problem.row} ${problem.column}`} letter={letter(notes.length + index)} tone="bg-clay">
            <p>
              Row {grouped(problem.row)}, {problem.name}: “{problem.text}” is not a {kindWords[problem.kind]}.
            </p>
            <Answers
              problem={problem}
              onAnswer={(text) => onChange({ fixes: withFix(readOptions, problem.row, problem.column, text) })}
            />
          </Entry>
        ))}
      </ol>
      {preview.problem_count > 1 && (
        <p className="border-t border-hairline pt-2.5">
          {preview.problem_count > problems.length &&
            `${counted(preview.problem_count - problems.length, "more value does", "more values do")} not fit. `}
          <Button look="quiet" onClick={() => onChange({ unfit_as_missing: true })}>
            Take all {grouped(preview.problem_count)} as missing
          </Button>
        </p>
      )}
    </aside>
  );
}

function Entry({ letter, tone, children }: { letter: string; tone: string; children: ReactNode }) {
  return (
    <li className="flex gap-2.5 border-b border-hairline py-2.5 last:border-0">
      <span
        aria-hidden
        className={`flex h-[21px] w-[21px] shrink-0 items-center justify-center rounded-full pb-px font-serif text-[13px] font-bold text-sheet ${tone}`}
      >
        {letter}
      </span>
      <div className="min-w-0 flex-1">{children}</div>
    </li>
  );
}

const FIELD = "mt-1 mr-2 rounded-md border border-hairline bg-sheet px-1.5 py-0.5 text-[13px]";
const DELIMITERS = [
  [",", "commas"],
  [";", "semicolons"],
  ["\t", "tabs"],
  ["|", "vertical bars"],
  [" ", "fixed widths"],
] as const;
const DATE_ORDERS: [Schema["DateOrder"], string][] = [
  ["day-first", "Day first"],
  ["month-first", "Month first"],
  ["year-first", "Year first"],
];
const ENCODINGS = [
  "UTF-8",
  "windows-1252",
  "windows-1251",
  "ISO-8859-2",
  "UTF-16LE",
  "UTF-16BE",
  "Shift_JIS",
  "GBK",
  "EUC-KR",
];

function Remedy({ note, preview, readOptions, onChange }: Props & { note: Schema["ReadNote"] }) {
  const { read_as } = preview;
  const [open, setOpen] = useState(false);
  switch (note.about) {
    case "decimal":
      return <Decimals note={note} preview={preview} readOptions={readOptions} onChange={onChange} />;
    case "units":
      return (
        <Button look="quiet" onClick={() => onChange({ keep_units: true, columns: [], fixes: [] })}>
          Take it as a row
        </Button>
      );
    case "affix":
      return (
        <Button look="quiet" onClick={() => onChange(withColumn(readOptions, note.column ?? 0, { kind: "category" }))}>
          Keep the cells as they are written
        </Button>
      );
    case "header-lines":
      return (
        <p className="flex flex-wrap gap-x-3">
          {note.readings.map((line) => (
            <Button
              key={line}
              look="quiet"
              onClick={() => onChange({ header_line: Number(line), header_lines: 1, columns: [], fixes: [] })}
            >
              Only line {line}
            </Button>
          ))}
        </p>
      );
    case "gaps": {
      const fills = preview.columns.find((column) => column.index === note.column)?.fill_down ?? false;
      return (
        <Button look="quiet" onClick={() => onChange(withColumn(readOptions, note.column ?? 0, { fill_down: !fills }))}>
          {fills ? "Leave them empty" : "Fill them down"}
        </Button>
      );
    }
    case "signs":
      return (
        <Button look="quiet" onClick={() => onChange(withColumn(readOptions, note.column ?? 0, { no_signs: true }))}>
          Ask about each of them
        </Button>
      );
    case "merged":
      return (
        <Button
          look="quiet"
          onClick={() => onChange({ keep_merged: !readOptions.keep_merged, columns: [], fixes: [] })}
        >
          {readOptions.keep_merged ? "Fill them down" : "Leave the others empty"}
        </Button>
      );
    case "delimiter":
      if (!open) {
        return (
          <Button look="quiet" onClick={() => setOpen(true)}>
            Change
          </Button>
        );
      }
      return (
        <>
          <select
            aria-label="Between columns"
            className={FIELD}
            value={read_as.delimiter ?? ","}
            onChange={(event) =>
              onChange({ delimiter: event.target.value, columns: [], fixes: [], header_line: undefined })
            }
          >
            {DELIMITERS.map(([sign, words]) => (
              <option key={sign} value={sign}>
                {words}
              </option>
            ))}
          </select>
          <select
            aria-label="Decimal sign"
            className={FIELD}
            value={read_as.decimal}
            onChange={(event) => onChange({ decimal: event.target.value, columns: [], fixes: [] })}
          >
            <option value=".">point</option>
            <option value=",">comma</option>
          </select>
          <EncodingChoice encoding={read_as.encoding} onChange={(encoding) => onChange({ encoding })} />
        </>
      );
    case "sheet":
      return (
        <select
          aria-label="Sheet"
          className={FIELD}
          value={read_as.sheet ?? ""}
          onChange={(event) => onChange({ sheet: event.target.value, columns: [], fixes: [], header_line: undefined })}
        >
          {read_as.sheets.map((sheet) => (
            <option key={sheet}>{sheet}</option>
          ))}
        </select>
      );
    case "encoding":
      return <EncodingChoice encoding={read_as.encoding} onChange={(encoding) => onChange({ encoding })} />;
    case "labels":
      return (
        <p className="flex flex-wrap gap-x-3">
          <Button
            look="quiet"
            onClick={() => onChange(withColumn(readOptions, note.column ?? 0, { kind: "whole-number" }))}
          >{`It is the number ${note.readings[1]}`}</Button>
        </p>
      );
    case "header":
      if (note.doubt && read_as.header_line > 0) {
        return (
          <Button look="quiet" onClick={() => onChange({ header_line: 0, columns: [], fixes: [] })}>
            Take it as a row
          </Button>
        );
      }
      return <p className="text-[13px] text-ink-soft">Click a line on the left to take it as the header.</p>;
    case "total":
      return (
        <Button look="quiet" onClick={() => onChange({ keep_total: true })}>
          Take as rows
        </Button>
      );
    case "dates":
      return (
        <p className="flex flex-wrap gap-x-3">
          {DATE_ORDERS.filter(([order]) => order !== read_as.date_order).map(([order, words]) => (
            <Button key={order} look="quiet" onClick={() => onChange({ date_order: order })}>
              {words}
            </Button>
          ))}
        </p>
      );
    default:
      return null;
  }
}

function EncodingChoice({ encoding, onChange }: { encoding?: string | null; onChange: (encoding: string) => void }) {
  return (
    <select
      aria-label="Encoding"
      className={FIELD}
      value={encoding ?? "UTF-8"}
      onChange={(event) => onChange(event.target.value)}
    >
      {[...new Set([encoding ?? "UTF-8", ...ENCODINGS])].map((encoding) => (
        <option key={encoding}>{encoding}</option>
      ))}
    </select>
  );
}

/** Which of two numbers a value is: asked once, and the answer holds for its column. */
function Decimals({ note, preview, readOptions, onChange }: Props & { note: Schema["ReadNote"] }) {
  const column = preview.columns.find((column) => column.index === note.column);
  if (!column) return null;
  const other = column.decimal === "," ? "." : ",";
  return (
    <p className="flex flex-wrap gap-x-3">
      {note.readings.map((reading, index) => (
        <Button
          key={reading}
          look="quiet"
          onClick={() =>
            onChange(withColumn(readOptions, column.index, { decimal: index === 0 ? column.decimal : other }))
          }
        >
          It is {reading}
        </Button>
      ))}
    </p>
  );
}

type AnswersProps = { problem: Schema["Misfit"]; onAnswer: (text: string | null) => void };

function Answers({ problem, onAnswer }: AnswersProps) {
  const [typed, setTyped] = useState<string | null>(null);
  if (typed !== null) {
    return (
      <form
        className="mt-1 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          onAnswer(typed);
        }}
      >
        <input
          // biome-ignore lint/a11y/noAutofocus: the person just asked to type here
          autoFocus
          aria-label={`Value for row ${problem.row}, ${problem.name}`}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          className="h-7 w-28 rounded-md border border-hairline bg-sheet px-2"
        />
        <Button type="submit" look="quiet">
          Use
        </Button>
      </form>
    );
  }
  return (
    <p className="flex flex-wrap gap-x-3">
      {problem.guess != null && (
        <Button look="quiet" onClick={() => onAnswer(problem.guess ?? null)}>
          Take {problem.guess}
        </Button>
      )}
      <Button look="quiet" onClick={() => onAnswer(null)}>
        Take it as missing
      </Button>
      <Button look="quiet" onClick={() => setTyped(problem.text)}>
        Type a value
      </Button>
    </p>
  );
}
