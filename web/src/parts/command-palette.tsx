import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { Command, useCommandState } from "cmdk";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import type { Schema } from "../api/client";
import { datasetsQuery, methodsQuery, studiesQuery, useCreateStudy } from "../api/queries";
import { useKeys } from "../lib/use-keys";
import { wordsFound } from "../study/found-by";
import { halfFilled } from "../study/half-filled";
import { studyName } from "../study/study-name";

const OPEN = "acorn:palette";

/** Opens the palette from anywhere. */
export const openPalette = () => window.dispatchEvent(new Event(OPEN));

/** Search and commands: every page, dataset, study and question by name. */
export function CommandPalette() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const show = () => setOpen(true);
    window.addEventListener(OPEN, show);
    return () => window.removeEventListener(OPEN, show);
  }, []);
  useKeys({ "Ctrl k": () => setOpen((was) => !was) }, true);
  return (
    // Not modal: a modal one would write its own style element, which the content policy refuses.
    <Dialog.Root open={open} onOpenChange={setOpen} modal={false}>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-24 z-40 w-[560px] max-w-[90vw] -translate-x-1/2 rounded-xl border border-hairline bg-sheet shadow-2xl"
        >
          <Dialog.Title className="sr-only">Search or do</Dialog.Title>
          {open && <Entries close={() => setOpen(false)} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Entries({ close }: { close: () => void }) {
  const navigate = useNavigate();
  const datasets = useQuery(datasetsQuery).data ?? [];
  const studies = useQuery(studiesQuery).data ?? [];
  const methods = useQuery(methodsQuery).data ?? [];
  const create = useCreateStudy();
  const go = (open: () => void) => () => {
    close();
    open();
  };
  const ask = async (method: (typeof methods)[number], dataset: (typeof datasets)[number]) => {
    close();
    const study = await create.mutateAsync(await halfFilled(method, dataset));
    navigate({ to: "/study/$id", params: { id: study.id } });
  };
  return (
    <Command label="Search or do" className="text-[15px]">
      <Command.Input
        autoFocus
        placeholder="A dataset, a study, a question, a word of the trade, a page"
        className="w-full rounded-t-xl border-b border-hairline bg-transparent px-4 py-3 outline-none"
      />
      <Command.List className="max-h-96 overflow-auto p-2">
        <Command.Empty className="p-4 text-ink-soft">Nothing of that name.</Command.Empty>
        <Group heading="Pages">
          <Entry onSelect={go(() => navigate({ to: "/" }))}>Wall</Entry>
          <Entry onSelect={go(() => navigate({ to: "/data" }))}>Data: bring data in</Entry>
          <Entry onSelect={go(() => navigate({ to: "/ask" }))}>Ask</Entry>
          <Entry onSelect={go(() => navigate({ to: "/gauges" }))}>Gauges</Entry>
          <Entry onSelect={go(() => navigate({ to: "/plan" }))}>Plan a gauge study</Entry>
        </Group>
        <Group heading="Studies">
          {studies.map((study) => (
            <Entry key={study.id} onSelect={go(() => navigate({ to: "/study/$id", params: { id: study.id } }))}>
              {studyName(study, methods, datasets)}
            </Entry>
          ))}
        </Group>
        <Group heading="Datasets">
          {datasets.map((dataset) => (
            <Entry key={dataset.id} onSelect={go(() => navigate({ to: "/data/$id", params: { id: dataset.id } }))}>
              {dataset.name}
            </Entry>
          ))}
        </Group>
        <Group heading="Ask">
          {methods.flatMap((method) =>
            datasets.map((dataset) => (
              <Entry
                key={`${method.method} ${dataset.id}`}
                keywords={method.found_by}
                onSelect={() => ask(method, dataset)}
              >
                {`${method.question} of ${dataset.name}`}
                <Found method={method} />
              </Entry>
            )),
          )}
        </Group>
      </Command.List>
    </Command>
  );
}

/** The word of the trade by which a question was found. */
function Found({ method }: { method: Schema["MethodCard"] }) {
  const search = useCommandState((state) => state.search);
  const [word] = wordsFound(method, search);
  return word ? <span className="pl-2 text-[13px] text-ink-soft">{word}</span> : null;
}

function Group({ heading, children }: { heading: string; children: React.ReactNode }) {
  return (
    <Command.Group
      heading={heading}
      className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:text-ink-soft"
    >
      {children}
    </Command.Group>
  );
}

type EntryProps = { onSelect: () => void; keywords?: string[]; children: React.ReactNode };

function Entry({ onSelect, keywords = [], children }: EntryProps) {
  return (
    <Command.Item
      onSelect={onSelect}
      keywords={keywords}
      className="rounded-md px-2 py-1.5 data-[selected=true]:bg-tint"
    >
      {children}
    </Command.Item>
  );
}
