import { Link } from "@tanstack/react-router";
import type { Gauge } from "../../api/queries";
import { toneColour } from "../../marks/tone";
import { dueWords, gaugeWords, isLate, standingOf } from "./words";

/** A gauge in a line: how it stands and when its next study is due. */
export function GaugeLine({ gauge }: { gauge: Gauge }) {
  const { tone, words } = standingOf(gauge);
  return (
    <Link
      to="/gauges/$id"
      params={{ id: gauge.id }}
      className="inline-flex items-center gap-2 rounded-full border border-hairline bg-sheet px-3 py-1 text-[13px] hover:border-moss"
    >
      <span aria-hidden className="h-2.5 w-2.5 rounded-full" style={{ background: toneColour(tone) }} />
      <span className="font-semibold">{gaugeWords(gauge)}</span>
      <span className="text-ink-soft">
        {[words.toLowerCase(), isLate(gauge) && dueWords(gauge)].filter(Boolean).join(", ")}
      </span>
    </Link>
  );
}
