import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate } from "@tanstack/react-router";
import { type ClipboardEvent, type DragEvent, useRef, useState } from "react";
import { isFinal } from "../../api/client";
import { type Dataset, datasetsQuery } from "../../api/queries";
import { counted, moment } from "../../lib/format";
import { Button } from "../../parts/button";
import { Loading, Problem } from "../../parts/states";
import { TopLine } from "../../parts/top-line";
import { useBringIn } from "./use-bring-in";

/** All datasets, and the place where data come in. */
export function Datasets() {
  const { data, error } = useQuery(datasetsQuery);
  const bring = useBringIn();
  return (
    <>
      <TopLine>
        <span className="font-semibold text-ink">Data</span>
        {data && <span className="text-[13px]">{counted(data.length, "dataset", "datasets")}</span>}
      </TopLine>
      <main className="min-h-0 flex-1 overflow-y-auto px-6 pb-6 pt-3.5">
        <h1 className="font-serif text-2xl font-semibold">Bring data in</h1>
        <Intake busy={bring.busy} onFiles={bring.files} onText={bring.text} />
        {bring.error !== null && (
          <Problem thrown={bring.error}>{<span className="text-ink-soft">Nothing was stored.</span>}</Problem>
        )}
        <h2 className="mb-2 mt-6 font-serif text-xl font-semibold">Datasets</h2>
        {isFinal(error, data) && <Problem thrown={error} />}
        {!error && !data && <Loading what="the datasets" />}
        {data?.length === 0 && <p className="text-ink-soft">None yet. Bring in a file, and it stands here.</p>}
        {data && data.length > 0 && <List datasets={data} />}
      </main>
    </>
  );
}

type IntakeProps = { busy: boolean; onFiles: (files: File[]) => void; onText: (text: string) => void };

/** Drop files, choose them, or paste cells. */
function Intake({ busy, onFiles, onText }: IntakeProps) {
  const picker = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    if (event.dataTransfer.files.length > 0) onFiles([...event.dataTransfer.files]);
  };
  const paste = (event: ClipboardEvent) => {
    const files = [...event.clipboardData.files];
    const text = event.clipboardData.getData("text/plain");
    event.preventDefault();
    if (text.trim()) onText(text);
    else if (files.length > 0) onFiles(files);
  };
  return (
    <section
      aria-label="Bring data in"
      onDrop={drop}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      data-over={over}
      className="mt-2.5 flex flex-wrap items-center gap-6 rounded-xl border-2 border-dashed border-hairline bg-sheet p-5 data-[over=true]:border-moss data-[over=true]:bg-tint"
    >
      <div className="flex-1">
        <p className="text-[16px]">{busy ? "Reading …" : "Drop a file here: CSV, TSV, XLSX, ODS, JSON or Parquet."}</p>
        <p className="text-ink-soft">
          Several text files of one layout, or a zip of them, become one table. You see how it was read before anything
          is stored.
        </p>
        <input
          ref={picker}
          type="file"
          multiple
          aria-label="File to bring in"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            if (event.target.files?.length) onFiles([...event.target.files]);
            event.target.value = "";
          }}
        />
      </div>
      <Button look="primary" disabled={busy} onClick={() => picker.current?.click()}>
        Choose a file
      </Button>
      <textarea
        aria-label="Paste cells here"
        placeholder="or paste cells from a spreadsheet here"
        rows={2}
        value=""
        readOnly={busy}
        onChange={(event) => event.target.value.trim() && onText(event.target.value)}
        onPaste={paste}
        className="w-72 resize-none rounded-md border border-hairline bg-paper p-2 placeholder:text-ink-soft"
      />
    </section>
  );
}

function List({ datasets }: { datasets: Dataset[] }) {
  const navigate = useNavigate();
  return (
    <div className="overflow-hidden rounded-xl border border-hairline bg-sheet">
      <table className="w-full text-left">
        <thead className="text-[13px] text-ink-soft">
          <tr>
            {["name", "rows", "columns with limits", "from", "brought in"].map((head) => (
              <th key={head} className={`px-4 py-2 font-medium ${head === "rows" ? "text-right" : ""}`}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {datasets.map((dataset) => (
            <tr
              key={dataset.id}
              onClick={() => navigate({ to: "/data/$id", params: { id: dataset.id } })}
              className="cursor-pointer border-t border-hairline hover:bg-tint"
            >
              <th scope="row" className="px-4 py-2 font-semibold">
                <Link to="/data/$id" params={{ id: dataset.id }}>
                  {dataset.name}
                </Link>
              </th>
              <td className="px-4 py-2 text-right">{dataset.row_count.toLocaleString("en-US")}</td>
              <td className="max-w-xs truncate px-4 py-2">
                {dataset.columns
                  .filter((column) => column.lsl != null || column.usl != null)
                  .map((column) => column.name)
                  .join(", ") || <span className="text-ink-soft">none</span>}
              </td>
              <td className="max-w-56 truncate px-4 py-2 text-ink-soft">{dataset.source}</td>
              <td className="px-4 py-2 text-ink-soft">{moment(dataset.created_at)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
