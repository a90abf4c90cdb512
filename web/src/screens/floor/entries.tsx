import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, type Schema, unwrapResponse } from "../../api/client";
import type { Collection, StoredEntry } from "../../api/floor";
import { type Dataset, historyQuery } from "../../api/queries";
import { counted, moment } from "../../lib/format";
import { Button } from "../../parts/button";
import { TextField } from "../../parts/fields";
import { notifyProblem } from "../../parts/notices";

type Props = { plan: Collection; dataset: Dataset; entries: StoredEntry[] };

/** What was entered, the newest first; what waits for its cause stands in front. */
export function Entries({ plan, dataset, entries }: Props) {
  const corrected = corrections(useQuery(historyQuery(dataset)).data ?? []);
  const waits = (entry: StoredEntry) => entry.beyond.length > 0 && entry.reaction == null && !entry.taken_back;
  const waiting = entries.filter(waits);
  const station = (id: number) => plan.stations.find((one) => one.id === id)?.name ?? "";
  return (
    <>
      {waiting.length > 0 && (
        <section aria-label="Waiting for a cause">
          <h2 className="mb-1.5 font-serif text-[19px] font-semibold">
            {counted(waiting.length, "entry waits for its cause", "entries wait for their cause")}
          </h2>
          <ul className="flex flex-col gap-2">
            {waiting.map((entry) => (
              <Waiting key={entry.id} entry={entry} station={station(entry.station_id)} />
            ))}
          </ul>
        </section>
      )}
      <section aria-label="Entries">
        <h2 className="mb-1.5 font-serif text-[19px] font-semibold">Entries</h2>
        {entries.length === 0 ? (
          <p className="text-ink-soft">None yet. Open a station and enter the first.</p>
        ) : (
          <div className="overflow-x-auto rounded-xl border border-hairline bg-sheet">
            <table className="w-full text-left">
              <thead className="text-[13px] text-ink-soft">
                <tr>
                  {["entry", "made", "station", "beyond specification", "corrected", "cause", "remark", "version"].map(
                    (head) => (
                      <th key={head} className="px-3 py-1.5 font-medium">
                        {head}
                      </th>
                    ),
                  )}
                </tr>
              </thead>
              <tbody>
                {entries.map((entry) => (
                  <tr
                    key={entry.id}
                    className={`border-t border-hairline ${entry.taken_back ? "text-ink-soft line-through" : ""}`}
                  >
                    <th scope="row" className="px-3 py-1 font-semibold">
                      <Link
                        to="/data/$id"
                        params={{ id: plan.dataset_id }}
                        search={{ rows: entry.row_ids.join(",") }}
                        className="hover:text-moss hover:underline"
                      >
                        {entry.subgroup}
                      </Link>
                    </th>
                    <td className="px-3 py-1">{moment(entry.at)}</td>
                    <td className="px-3 py-1">{station(entry.station_id)}</td>
                    <td className="px-3 py-1">{beyondWords(entry)}</td>
                    <td className="px-3 py-1">{entry.row_ids.flatMap((row) => corrected.get(row) ?? []).join("; ")}</td>
                    <td className="px-3 py-1">{entry.reaction?.cause}</td>
                    <td className="px-3 py-1">
                      {entry.remark}
                      {entry.confirmed && <span className="text-ochre"> beyond belief, confirmed</span>}
                    </td>
                    <td className="px-3 py-1">{entry.version}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </section>
    </>
  );
}

/** What was corrected in the table since, by row: "lens thickness 2.74 to 2.47". */
function corrections(changes: Schema["ToldChange"][]): Map<number, string[]> {
  const found = new Map<number, string[]>();
  for (const { stage, correction } of changes) {
    if (stage !== "stands" || correction?.row_id == null) continue;
    found.set(correction.row_id, [...(found.get(correction.row_id) ?? []), correction.words]);
  }
  return found;
}

const beyondWords = ({ beyond }: StoredEntry) =>
  beyond
    .map(
      ({ column, piece, value, limit }) =>
        `${column} ${value} of piece ${piece}, ${value > limit ? "above" : "below"} ${limit}`,
    )
    .join("; ");

function Waiting({ entry, station }: { entry: StoredEntry; station: string }) {
  const [cause, setCause] = useState("");
  const [action, setAction] = useState("");
  const save = async () => {
    try {
      const body = { cause, action, who: "desk" };
      await unwrapResponse(api.POST("/api/floor/entries/{id}/reaction", { params: { path: { id: entry.id } }, body }));
    } catch (thrown) {
      notifyProblem(thrown);
    }
  };
  return (
    <li className="flex flex-wrap items-end gap-3 rounded-lg border border-hairline bg-sheet p-2.5">
      <span className="min-w-64 flex-1">
        {beyondWords(entry)}
        <span className="block text-[13px] text-ink-soft">
          {moment(entry.at)}, {station}
        </span>
      </span>
      <TextField label="cause" value={cause} onType={setCause} />
      <TextField label="what was done" wide="w-56" value={action} onType={setAction} />
      <Button look="primary" disabled={cause.trim() === ""} onClick={save}>
        Keep it
      </Button>
    </li>
  );
}
