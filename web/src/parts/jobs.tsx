import { useQuery } from "@tanstack/react-query";
import { LoaderCircle } from "lucide-react";
import { Popover } from "radix-ui";
import { api, type Schema, unwrapResponse } from "../api/client";
import { datasetsQuery, jobsQuery, methodsQuery } from "../api/queries";
import { counted } from "../lib/format";
import { Button } from "./button";
import { notifyProblem } from "./notices";

/** What is being computed just now, for whomever; away when that is nothing. */
export function Jobs() {
  const jobs = useQuery(jobsQuery).data ?? [];
  if (jobs.length === 0) return null;
  const label = counted(jobs.length, "computation", "computations");
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`${label} under way`}
        className="mt-auto flex h-[52px] w-14 flex-col items-center justify-center gap-0.5 rounded-lg text-[12px] hover:bg-white/10"
      >
        <LoaderCircle size={20} strokeWidth={1.8} className="motion-safe:animate-spin" aria-hidden />
        {jobs.length} {jobs.length === 1 ? "job" : "jobs"}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          align="end"
          sideOffset={6}
          className="z-40 w-96 rounded-xl border border-hairline bg-sheet p-3.5 shadow-xl"
        >
          <h2 className="font-serif text-[17px] font-semibold">{label} under way</h2>
          <ul>
            {jobs.map((job) => (
              <One key={job.id} job={job} />
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** One of them: its question, its share done, and a stop. */
function One({ job }: { job: Schema["Job"] }) {
  const card = useQuery(methodsQuery).data?.find(({ method }) => method === job.method);
  const dataset = useQuery(datasetsQuery).data?.find(({ id }) => id === job.dataset_id);
  const share = job.share == null ? undefined : Math.floor(100 * job.share);
  const stop = () =>
    unwrapResponse(api.DELETE("/api/jobs/{id}", { params: { path: { id: job.id } } })).catch(notifyProblem);
  const facts = [
    `${Math.round(job.seconds)} s`,
    share === undefined ? "share done not known yet" : `${share} % of what is known to be done`,
    job.so_far == null ? undefined : `best so far: ${job.so_far}`,
    job.seed == null ? undefined : `draws from seed ${job.seed}`,
  ].filter(Boolean);
  return (
    <li className="mt-2.5 border-t border-hairline pt-2.5">
      <div className="flex items-center gap-3">
        <span className="min-w-0 flex-1 truncate">
          <b className="font-semibold">{card?.question ?? job.method}</b>
          {dataset && ` ${dataset.name}`}
        </span>
        <Button look="quiet" onClick={stop}>
          Stop
        </Button>
      </div>
      <progress
        className="mt-1 h-1.5 w-full overflow-hidden rounded-full [&::-moz-progress-bar]:bg-moss [&::-webkit-progress-bar]:bg-tint [&::-webkit-progress-value]:bg-moss"
        aria-label="Share done"
        max={100}
        value={share ?? 0}
      />
      <p className="text-[13px] text-ink-soft">{facts.join(", ")}</p>
    </li>
  );
}
