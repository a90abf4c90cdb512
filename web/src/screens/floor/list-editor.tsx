import { useState } from "react";
import { api, unwrapResponse } from "../../api/client";
import type { ChoiceList } from "../../api/floor";
import { Button } from "../../parts/button";
import { SelectField, TextField } from "../../parts/fields";
import { notifyProblem } from "../../parts/notices";

/** The lists that identifiers are chosen from, shared between plans. */
export function ListEditor({ lists }: { lists: ChoiceList[] }) {
  const [open, setOpen] = useState(false);
  const [id, setId] = useState("");
  const list = lists.find((one) => String(one.id) === id);
  const [name, setName] = useState("");
  const [choices, setChoices] = useState("");
  const choose = (next: string) => {
    const chosen = lists.find((one) => String(one.id) === next);
    setId(next);
    setName(chosen?.name ?? "");
    setChoices(chosen?.choices.join("\n") ?? "");
  };
  const save = async () => {
    const body = { name, choices: choices.split("\n"), ...(list && { revision: list.revision }) };
    try {
      const stored = list
        ? await unwrapResponse(api.PUT("/api/floor/lists/{id}", { params: { path: { id: list.id } }, body }))
        : await unwrapResponse(api.POST("/api/floor/lists", { body }));
      setId(String(stored.id));
      setChoices(stored.choices.join("\n"));
      setOpen(false);
    } catch (thrown) {
      notifyProblem(thrown);
    }
  };
  if (!open)
    return (
      <Button look="faint" onClick={() => setOpen(true)}>
        Lists to choose from …
      </Button>
    );
  return (
    <section
      aria-label="Lists to choose from"
      className="flex flex-wrap items-end gap-3 rounded-lg border border-hairline bg-sheet p-2.5"
    >
      <SelectField label="list to change" value={id} onChoose={choose}>
        <option value="">a new list</option>
        {lists.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </SelectField>
      <TextField label="name of the list" value={name} onType={setName} />
      <label className="text-[12.5px] text-ink-soft">
        choices, a line each
        <textarea
          rows={4}
          value={choices}
          onChange={(event) => setChoices(event.target.value)}
          className="block w-56 rounded-md border border-hairline bg-paper px-2 py-1 text-[15px] text-ink"
        />
      </label>
      <Button look="primary" disabled={name.trim() === "" || choices.trim() === ""} onClick={save}>
        Save the list
      </Button>
      <Button onClick={() => setOpen(false)}>Close</Button>
    </section>
  );
}
