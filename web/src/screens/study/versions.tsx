import { useQuery } from "@tanstack/react-query";
import { api, isFinal, problemOf, type Schema, unwrapResponse } from "../../api/client";
import { type Dataset, outcomeQuery, type Spec, type Study, statementQuery } from "../../api/queries";
import { writerOf } from "../../lib/format";
import { toneColour } from "../../marks/tone";
import { differences } from "../../study/statement/differences";
import type { Card } from "../../study/statement/words";

type Props = { study: Study; dataset: Dataset; card: Card; then: Spec };

/** An older statement beside the one of now: what changed, and what that did. */
export function Versions({ study, dataset, card, then }: Props) {
  const spec = { ...then, data: study.spec.data } as Spec;
  const now = useQuery(outcomeQuery(study, dataset, { fresh: true }));
  const before = useQuery({
    queryKey: ["study", study.id, "version", dataset.revision, JSON.stringify(then)],
    queryFn: ({ signal }) => unwrapResponse(api.POST("/api/outcomes", { body: spec, params: { query: {} }, signal })),
    retry: false,
  });
  const old = useQuery(statementQuery(spec, dataset)).data;
  const changed = old ? differences(card, { spec: then, statement: old }, study) : [];
  return (
    <div className="flex flex-col gap-3">
      <section aria-label="What changed">
        <h3 className="mb-1 text-[13px] font-semibold text-ink-soft">What changed</h3>
        {old && changed.length === 0 && <p>Nothing: the statement is the same.</p>}
        <table className="text-[13.5px]">
          <tbody>
            {changed.map(({ what, was, is }) => (
              <tr key={what}>
                <th scope="row" className="pr-4 text-left align-top font-normal">
                  {what}
                </th>
                <td className="pr-2 align-top text-ink-soft">{was}</td>
                <td className="align-top">→ {is}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section aria-label="What it did">
        <h3 className="mb-1 text-[13px] font-semibold text-ink-soft">What it did</h3>
        <Said words="then" query={before} />
        <Said words="now" query={now} />
        {before.data && now.data && <Numbers then={before.data} now={now.data} />}
      </section>
    </div>
  );
}

type SaidProps = { words: string; query: { data: Schema["Outcome"] | undefined; error: unknown } };

function Said({ words, query: { data, error } }: SaidProps) {
  const failed = isFinal(error, data);
  return (
    <p
      className="mb-1 border-l-[3px] pl-2"
      style={{ borderColor: data ? toneColour(data.verdict.tone) : "var(--hairline)" }}
    >
      <span className="text-ink-soft">{words}: </span>
      {data?.verdict.sentence ?? (failed ? problemOf(error).title : "…")}
    </p>
  );
}

const MOST = 30;

/** The numbers of the first table that moved. */
function Numbers({ then, now }: { then: Schema["Outcome"]; now: Schema["Outcome"] }) {
  const rows = moved(then.tables[0], now.tables[0]);
  if (rows.length === 0) return null;
  return (
    <table className="mt-2 text-[13.5px] tabular-nums">
      <thead>
        <tr className="text-left text-ink-soft">
          <th className="pr-4 font-normal" />
          <th className="pr-4 font-normal">then</th>
          <th className="font-normal">now</th>
        </tr>
      </thead>
      <tbody>
        {rows.slice(0, MOST).map(({ what, was, is }) => (
          <tr key={what}>
            <th scope="row" className="pr-4 text-left font-normal">
              {what}
            </th>
            <td className="pr-4">{was}</td>
            <td>{is}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

type Table = Schema["AnswerTable"];

/** Cells of one name in both tables whose numbers are written differently. */
export function moved(then: Table | undefined, now: Table | undefined) {
  if (!then || !now) return [];
  const told = (table: Table) => {
    const names = (table.columns[0]?.cells ?? []) as (string | number | null)[];
    const found = new Map<string, string>();
    for (const column of table.columns.slice(1)) {
      column.cells.forEach((cell, row) => {
        const format = column.format ?? table.lines?.[row]?.format;
        if (typeof cell === "number")
          found.set(`${names[row]}: ${column.label}`, format ? writerOf(format).value(cell) : String(cell));
      });
    }
    return found;
  };
  const [was, is] = [told(then), told(now)];
  return [...new Set([...was.keys(), ...is.keys()])].flatMap((what) =>
    was.get(what) === is.get(what) ? [] : [{ what, was: was.get(what) ?? "none", is: is.get(what) ?? "none" }],
  );
}
