import * as DropdownMenu from "@radix-ui/react-dropdown-menu";
import type { ReactElement, ReactNode } from "react";
import type { Range } from "./range";
import { isPlain, type Shown } from "./shown";

type Props = {
  shown: Shown;
  /** The block that is chosen, where only that is to go out. */
  range?: Range;
  children: ReactElement;
};

/** What a table shows as a file: all of it, the rows of a view in its order and the columns that are not hidden, or a block of that. */
export function SendOut({ shown, range, children }: Props) {
  const whole = !range && isPlain(shown.view) && shown.columns.length === shown.dataset.columns.length;
  const wanted = range ? shown.columns.slice(range.left, range.right + 1) : shown.columns;
  const part: Record<string, string> = whole
    ? {}
    : { view: JSON.stringify(shown.view), columns: wanted.map(({ id }) => id).join(".") };
  if (range) {
    part.first = String(range.top);
    part.count = String(range.bottom - range.top + 1);
  }
  const file = (name: string, more = {}) => {
    const query = new URLSearchParams({ ...part, ...more }).toString();
    window.location.assign(`/api/datasets/${shown.dataset.id}/${name}${query && `?${query}`}`);
  };
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>{children}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-30 w-[330px] rounded-lg border border-hairline bg-sheet p-1 shadow-xl"
        >
          {!whole && (
            <p className="px-3 py-1.5 text-[13px] text-ink-soft">
              {range ? "Only the chosen block goes out." : "Only what the table shows goes out."}
            </p>
          )}
          <Item name="CSV" onSelect={() => file("export.csv")}>
            A text that a spreadsheet would run, such as =1+1, gets an apostrophe in front.
          </Item>
          <Item name="CSV, texts as written" onSelect={() => file("export.csv", { as_written: "true" })}>
            For programs that run nothing.
          </Item>
          <Item name="XLSX" onSelect={() => file("export.xlsx")}>
            Numbers and dates as such; a second sheet tells kinds, units and limits.
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
