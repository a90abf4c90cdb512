import { useState } from "react";
import { api, type Schema, unwrapResponse } from "../../api/client";
import type { Plan } from "../../api/floor";
import { moment } from "../../lib/format";
import { Button } from "../../parts/button";
import { TextField } from "../../parts/fields";
import { notifyProblem } from "../../parts/notices";
import { toldWords } from "./words";

type Alert = Schema["Alert"];

/** What somebody is to know, who was told of it, and who has taken it on. */
export function Alerts({ alerts, told }: { alerts: Alert[]; told: Plan["told"] }) {
  const [who, setWho] = useState("");
  if (told.length === 0) return null;
  const takeOn = async (id: number) => {
    try {
      await unwrapResponse(api.POST("/api/floor/alerts/{id}/take-on", { params: { path: { id } }, body: { who } }));
    } catch (thrown) {
      notifyProblem(thrown);
    }
  };
  const open = alerts.filter(({ taken_by }) => taken_by == null);
  return (
    <section aria-label="Alerts">
      <h2 className="mb-1.5 font-serif text-[19px] font-semibold">Alerts</h2>
      {alerts.length === 0 && <p className="text-ink-soft">Nothing to tell. {told.join(", ")} would be told.</p>}
      {open.length > 0 && (
        <div className="mb-2">
          <TextField label="your name" value={who} onType={setWho} />
        </div>
      )}
      <ul className="flex flex-col gap-2">
        {alerts.map((alert) => (
          <li
            key={alert.id}
            className="flex flex-wrap items-start gap-x-4 gap-y-1 rounded-xl border border-hairline bg-sheet px-3.5 py-2.5"
          >
            <div className="min-w-0 flex-1">
              <p className={alert.taken_by == null ? "font-semibold text-clay" : ""}>{alert.words}</p>
              <p className="text-[13px] text-ink-soft">
                since {moment(alert.began_at)}
                {alert.told.map((one) => (
                  <span key={one.address}>; {toldWords(one)}</span>
                ))}
              </p>
            </div>
            {alert.taken_by == null ? (
              <Button disabled={who.trim() === ""} onClick={() => takeOn(alert.id)}>
                I take it on
              </Button>
            ) : (
              <span className="text-ink-soft">
                {alert.taken_by} took it on at {moment(alert.taken_at ?? alert.began_at)}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
