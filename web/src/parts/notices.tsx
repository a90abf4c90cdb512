import { X } from "lucide-react";
import { useSyncExternalStore } from "react";
import { problemOf } from "../api/client";
import { connection } from "../api/live";

type Notice = { id: number; text: string; advice?: string };

let notices: readonly Notice[] = [];
let lastId = 0;
const listeners = new Set<() => void>();

function set(next: readonly Notice[]) {
  notices = next;
  for (const listener of listeners) listener();
}

/** Says something at the foot of the page; a problem stays until it is closed. */
export function notify(text: string, advice?: string) {
  const id = ++lastId;
  set([...notices.slice(-2), { id, text, advice }]);
  if (!advice) setTimeout(() => close(id), 4000);
}

/** Says what went wrong and what to do. */
export function notifyProblem(thrown: unknown) {
  const problem = problemOf(thrown);
  notify(problem.detail, problem.advice);
}

const close = (id: number) => set(notices.filter((notice) => notice.id !== id));
const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export function Notices() {
  const shown = useSyncExternalStore(subscribe, () => notices);
  const up = useSyncExternalStore(connection.subscribe, connection.isUp);
  return (
    <div aria-live="polite" className="fixed bottom-4 left-1/2 z-50 flex -translate-x-1/2 flex-col gap-2">
      {!up && (
        <p className="rounded-lg bg-clay px-4 py-2 text-sheet shadow-lg">
          The server does not answer. What you see stays; the page goes on by itself once it is back.
        </p>
      )}
      {shown.map((notice) => (
        <div key={notice.id} className="flex items-start gap-3 rounded-lg bg-bark px-4 py-2.5 text-[#f5f3ec] shadow-lg">
          <p>
            {notice.text}
            {notice.advice && <span className="block text-[13px] opacity-80">{notice.advice}</span>}
          </p>
          <button type="button" aria-label="Close" onClick={() => close(notice.id)}>
            <X size={15} aria-hidden />
          </button>
        </div>
      ))}
    </div>
  );
}
