import { Fragment } from "react";
import { counted } from "../../lib/format";
import type { Preview } from "./preview";

type Props = { preview: Preview; onHeader: (line: number) => void };

/** The file as it stands: what is left out struck through, the header marked; a click on a line makes it the header. */
export function RawLines({ preview, onHeader }: Props) {
  const { lines, lines_between } = preview;
  const last = lines.length - 1;
  return (
    <ol
      aria-label="Lines of the file"
      className="mt-3 overflow-hidden rounded-xl border border-hairline bg-sheet text-[13px]"
    >
      {lines.map((line, index) => (
        <Fragment key={line.line}>
          {index === last && lines_between > 0 && (
            <li className="flex border-b border-hairline/60 py-[3px] text-ink-soft">
              <span className="w-11 pr-2.5 text-right">⋮</span>
              {counted(lines_between, "more line", "more lines")}
            </li>
          )}
          <li data-role={line.role} className="border-b border-hairline/60 last:border-0 data-[role=header]:bg-tint">
            <button
              type="button"
              title="Take this line as the header"
              aria-label={`Line ${line.line}, ${line.role.replace("-", " ")}: ${line.text}. Take as header.`}
              onClick={() => onHeader(line.line)}
              className={`flex w-full py-[3px] text-left hover:bg-tint ${
                { "left-out": "text-ink-soft line-through", header: "font-semibold", units: "text-ink-soft", row: "" }[
                  line.role
                ]
              }`}
            >
              <span className="w-11 shrink-0 pr-2.5 text-right text-ink-soft">{line.line}</span>
              <span className="truncate whitespace-pre">{line.text.replaceAll("\t", " ⇥ ")}</span>
            </button>
          </li>
        </Fragment>
      ))}
    </ol>
  );
}
