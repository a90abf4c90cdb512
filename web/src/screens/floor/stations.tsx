import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { api, type Schema, unwrapResponse } from "../../api/client";
import type { Collection, Standing, Station } from "../../api/floor";
import { Button } from "../../parts/button";
import { TextField } from "../../parts/fields";
import { notifyProblem } from "../../parts/notices";
import { SavedField } from "../../parts/saved-field";
import { dueWords, missedWords } from "./words";

/** The stations of a plan: what is due at each, what was missed in which shift, and what its gauge must know. */
export function Stations({ plan, standing }: { plan: Collection; standing: Standing | undefined }) {
  const [name, setName] = useState("");
  const add = async () => {
    try {
      await unwrapResponse(
        api.POST("/api/floor/plans/{id}/stations", { params: { path: { id: plan.id } }, body: { name } }),
      );
      setName("");
    } catch (thrown) {
      notifyProblem(thrown);
    }
  };
  return (
    <section aria-label="Stations">
      <h2 className="mb-1.5 font-serif text-[19px] font-semibold">Stations</h2>
      <ul className="flex flex-col gap-2">
        {plan.stations.map((station, at) => (
          <One key={station.id} station={station} due={standing?.due[at] ?? null} />
        ))}
      </ul>
      <form
        className="mt-2 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <TextField label="another station" value={name} onType={setName} />
        <Button type="submit" disabled={name.trim() === ""}>
          Add
        </Button>
      </form>
    </section>
  );
}

type Props = { station: Station; due: Schema["Due"] | null };

function One({ station, due }: Props) {
  const change = async (body: Schema["StationChange"]) => {
    try {
      await unwrapResponse(
        api.PUT("/api/floor/stations/{id}", { params: { path: { id: station.id } }, body, keepalive: true }),
      );
    } catch (thrown) {
      notifyProblem(thrown);
      throw thrown;
    }
  };
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <Link
        to="/station/$id"
        params={{ id: station.id }}
        className="inline-flex min-h-9 items-center rounded-lg border border-moss px-3.5 font-semibold text-moss hover:bg-tint"
      >
        {station.name}
      </Link>
      {station.closed && <span className="text-ink-soft">closed</span>}
      {due && <span className={due.late ? "font-semibold text-clay" : ""}>{dueWords(due)}</span>}
      {due && due.missed > 0 && <span className="text-ink-soft">{missedWords(due)}</span>}
      {due && due.missed > 0 && <ByShift shifts={due.by_shift} />}
      <details className="text-[13px] text-ink-soft">
        <summary className="cursor-pointer">its gauge</summary>
        <p className="my-1">
          key <code className="select-all text-ink">{station.key}</code>
          {station.made > 0 && `; ${station.made} pieces made so far`}
        </p>
        <div className="flex w-[420px] max-w-full flex-col gap-1 text-ink">
          <SavedField label="name" value={station.name} onSave={(name) => change({ name })} />
          <SavedField label="its lines" value={station.pattern} onSave={(pattern) => change({ pattern })} />
          <div>
            <Button onClick={() => change({ closed: !station.closed }).catch(() => undefined)}>
              {station.closed ? "Open it again" : "Close it"}
            </Button>
          </div>
        </div>
      </details>
    </li>
  );
}

const WIDTH = 60;

/** Of each shift a bar as long as what was due, its missed part filled. */
function ByShift({ shifts }: { shifts: Schema["ShiftMissed"][] }) {
  const most = Math.max(...shifts.map(({ of }) => of), 1);
  return (
    <ul className="flex items-center gap-3 text-[13px] text-ink-soft">
      {shifts.map(({ shift, missed, of }) => (
        <li key={shift} className="flex items-center gap-1.5">
          {shift}
          <svg width={(WIDTH * of) / most + 2} height="12" aria-hidden="true">
            <rect x="0.5" y="1.5" width={(WIDTH * of) / most} height="9" fill="none" stroke="var(--hairline)" />
            <rect x="0.5" y="1.5" width={(WIDTH * missed) / most} height="9" fill="var(--clay)" />
          </svg>
          {missed} of {of}
        </li>
      ))}
    </ul>
  );
}
