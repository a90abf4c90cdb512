import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, unwrapResponse } from "../../api/client";
import type { Dataset, Spec } from "../../api/queries";
import { Button } from "../../parts/button";
import type { Card } from "./words";

type Props = {
  card: Card;
  dataset: Dataset;
  onUse: (change: (spec: Spec) => Spec) => void;
  onDone: () => void;
};

/** Help in choosing: a few plain questions, then one proposal, why, and why not its neighbours. */
export function Advice({ card, dataset, onUse, onDone }: Props) {
  const [asked, setAsked] = useState(false);
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const { data } = useQuery({
    queryKey: ["advice", card.method, dataset.id, dataset.revision, answers],
    queryFn: () =>
      unwrapResponse(
        api.POST("/api/methods/{method}/advice", {
          params: { path: { method: card.method } },
          body: { dataset: dataset.id, answers },
        }),
      ),
    enabled: asked,
  });
  if (!asked) {
    return (
      <Button className="mb-2 w-full justify-center" onClick={() => setAsked(true)}>
        Which one? Help me choose
      </Button>
    );
  }
  const use = () => {
    const proposal = data?.proposal;
    if (!proposal) return;
    onUse((spec) => ({
      ...spec,
      roles: proposal.roles,
      options: { ...keep(spec.options), ...proposal.options },
    }));
    onDone();
  };
  return (
    <section aria-label="Help in choosing" className="mb-3 rounded-lg bg-paper p-3">
      {!data && <p className="text-ink-soft">Looking at the columns…</p>}
      {data?.question && (
        <fieldset>
          <legend className="font-semibold">{data.question.words}</legend>
          <div className="mt-2 flex flex-col gap-1.5">
            {data.question.answers.map((answer) => (
              <Button
                key={answer.value}
                className="h-auto! justify-start whitespace-normal! py-1 text-left"
                onClick={() => data.question && setAnswers({ ...answers, [data.question.key]: answer.value })}
              >
                {answer.words}
              </Button>
            ))}
          </div>
        </fieldset>
      )}
      {data && !data.question && data.proposal && (
        <div aria-live="polite">
          <p>
            <b>{data.proposal.words.charAt(0).toUpperCase() + data.proposal.words.slice(1)}.</b> {data.proposal.why}
          </p>
          <ul className="mt-1.5 text-[13px] text-ink-soft">
            {data.proposal.others.map((other) => (
              <li key={other.words}>
                Not {other.words}: {other.why}
              </li>
            ))}
          </ul>
          <Button look="primary" className="mt-2.5" onClick={use}>
            Use this chart
          </Button>
        </div>
      )}
      {data && !data.question && !data.proposal && <p>No column of this dataset can be charted.</p>}
    </section>
  );
}

/** Options that hold for any chart of the same data. */
const keep = ({ patterns, width }: NonNullable<Spec["options"]> = {}) => ({
  ...(patterns === undefined ? {} : { patterns }),
  ...(width === undefined ? {} : { width }),
});
