import * as DropdownMenu from "@radix-ui/react-dropdown-menu";
import type { ReactNode } from "react";
import { Button } from "../../parts/button";

/** The whole table as a file. */
export function SendOut({ dataset }: { dataset: number }) {
  const file = (name: string) => window.location.assign(`/api/datasets/${dataset}/${name}`);
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <Button>Send out</Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-30 w-[330px] rounded-lg border border-hairline bg-sheet p-1 shadow-xl"
        >
          <Item name="CSV" onSelect={() => file("export.csv")}>
            A text that a spreadsheet would run, such as =1+1, gets an apostrophe in front.
          </Item>
          <Item name="CSV, texts as written" onSelect={() => file("export.csv?as_written=true")}>
            For programs that run nothing.
          </Item>
          <Item name="XLSX" onSelect={() => file("export.xlsx")}>
            Numbers as numbers, texts as texts.
          </Item>
          <Item name="JSON" onSelect={() => file("export.json")}>
            An object a row, missing values null.
          </Item>
          <Item name="Parquet" onSelect={() => file("export.parquet")}>
            For programs that read columns; moments in UTC.
          </Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Item({ name, children, onSelect }: { name: string; children: ReactNode; onSelect: () => void }) {
  return (
    <DropdownMenu.Item
      onSelect={onSelect}
      className="cursor-pointer rounded-md px-3 py-1.5 outline-none data-[highlighted]:bg-tint"
    >
      <span className="block">{name}</span>
      <span className="block text-[13px] text-ink-soft">{children}</span>
    </DropdownMenu.Item>
  );
}
