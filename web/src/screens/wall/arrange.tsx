import { useQueryClient } from "@tanstack/react-query";
import { api, type Schema, unwrapResponse } from "../../api/client";
import { wallQuery } from "../../api/queries";
import { useDraft } from "../../lib/use-draft";
import { Button } from "../../parts/button";
import { notifyProblem } from "../../parts/notices";
import { ordered, type Watched } from "./groups";

type Place = Schema["WallPlace"];

/** Every characteristic in the order in which it hangs by hand, with the line and the product that it belongs to. */
export function Arrange({ entries, shown }: { entries: Watched[]; shown: Watched[] }) {
  const queries = useQueryClient();
  const all = ordered(entries, "hand");
  const listed = all.filter((entry) => shown.includes(entry));
  const hang = async (changed: Place[]) => {
    const places = new Map(changed.map((place) => [place.column_id, place]));
    queries.setQueryData(wallQuery.queryKey, (wall: Watched[] | undefined) =>
      wall?.map((entry) => ({ ...entry, place: places.get(entry.column.id) ?? entry.place })),
    );
    try {
      await unwrapResponse(api.PUT("/api/wall/places", { body: { places: changed }, keepalive: changed.length < 100 }));
    } catch (thrown) {
      notifyProblem(thrown);
      queries.invalidateQueries({ queryKey: wallQuery.queryKey });
    }
  };
  const placeOf = (entry: Watched, at: number): Place => ({
    column_id: entry.column.id,
    line: entry.place?.line ?? "",
    product: entry.place?.product ?? "",
    place: at,
  });
  const move = (entry: Watched, by: -1 | 1) => {
    // It passes the neighbour that is listed, and whatever stands between them.
    const neighbour = listed[listed.indexOf(entry) + by];
    if (!neighbour) return;
    const others = all.filter((one) => one !== entry);
    others.splice(others.indexOf(neighbour) + (by === 1 ? 1 : 0), 0, entry);
    hang(others.map(placeOf));
  };
  const name = (entry: Watched, part: Partial<Place>) => hang([{ ...placeOf(entry, all.indexOf(entry)), ...part }]);
  return (
    <ol aria-label="Places on the Wall" className="flex flex-col gap-1.5">
      {listed.map((entry, at) => (
        <li
          key={entry.column.id}
          className="flex flex-wrap items-center gap-x-3 gap-y-1 rounded-lg border border-hairline bg-sheet px-3 py-1.5"
        >
          <Button aria-label={`${entry.column.name} further up`} disabled={at === 0} onClick={() => move(entry, -1)}>
            ↑
          </Button>
          <Button
            aria-label={`${entry.column.name} further down`}
            disabled={at === listed.length - 1}
            onClick={() => move(entry, 1)}
          >
            ↓
          </Button>
          <span className="min-w-0 flex-1 truncate">
            <span className="font-semibold first-letter:uppercase">{entry.column.name}</span>{" "}
            <span className="text-ink-soft">{entry.dataset}</span>
          </span>
          <Named label="line" of={entry} value={entry.place?.line ?? ""} onSave={(line) => name(entry, { line })} />
          <Named
            label="product"
            of={entry}
            value={entry.place?.product ?? ""}
            onSave={(product) => name(entry, { product })}
          />
        </li>
      ))}
    </ol>
  );
}

type NamedProps = { label: string; of: Watched; value: string; onSave: (text: string) => Promise<void> };

function Named({ label, of, value, onSave }: NamedProps) {
  const field = useDraft(value, onSave);
  return (
    <label className="flex items-center gap-1.5 text-[13px] text-ink-soft">
      {label}
      <input
        aria-label={`${label} of ${of.column.name}, ${of.dataset}`}
        maxLength={100}
        {...field}
        className="h-[30px] w-36 rounded-md border border-hairline bg-paper px-2 text-[15px] text-ink"
      />
    </label>
  );
}
