import { type DragEvent, type ReactNode, useEffect, useRef, useState } from "react";
import type { Dataset } from "../../api/queries";
import { Button } from "../../parts/button";
import { notifyProblem } from "../../parts/notices";
import { useBringIn } from "./use-bring-in";

/** Chooses files whose rows come behind those of a dataset. */
export function AddRows({ bring }: { bring: ReturnType<typeof useBringIn> }) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={picker}
        type="file"
        multiple
        aria-label="File with rows to add"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          if (event.target.files?.length) bring.files([...event.target.files]);
          event.target.value = "";
        }}
      />
      <Button disabled={bring.busy} onClick={() => picker.current?.click()}>
        {bring.busy ? "Reading …" : "Add rows"}
      </Button>
    </>
  );
}

/** Takes files that are dropped on the table of a dataset. */
export function DropRows({
  dataset,
  children,
}: {
  dataset: Dataset;
  children: (bring: ReturnType<typeof useBringIn>) => ReactNode;
}) {
  const bring = useBringIn(dataset);
  const [over, setOver] = useState(false);
  useEffect(() => {
    if (bring.error !== null) notifyProblem(bring.error);
  }, [bring.error]);
  const isFile = (event: DragEvent) => event.dataTransfer.types.includes("Files");
  return (
    <main
      onDrop={(event) => {
        setOver(false);
        if (!isFile(event)) return;
        event.preventDefault();
        bring.files([...event.dataTransfer.files]);
      }}
      onDragOver={(event) => {
        if (!isFile(event)) return;
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      data-over={over}
      className="flex min-h-0 flex-1 flex-col gap-2.5 px-6 pb-2.5 pt-3 -outline-offset-4 data-[over=true]:outline-2 data-[over=true]:outline-dashed data-[over=true]:outline-moss max-lg:overflow-y-auto max-lg:px-3"
    >
      {children(bring)}
    </main>
  );
}
