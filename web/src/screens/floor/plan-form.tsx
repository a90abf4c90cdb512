import type { Plan } from "../../api/floor";
import type { Dataset } from "../../api/queries";
import { Counted } from "./counted";
import { Lines, Part } from "./form-parts";
import { HowOften } from "./how-often";
import { Identifiers } from "./identifiers";
import { type Infos, Measured } from "./measured";
import { Reactions } from "./reactions";

type Props = {
  plan: Plan;
  /** The dataset that it fills; absent while that is a new one, whose columns are named here. */
  dataset: Dataset | undefined;
  infos: Infos;
  onPlan: (plan: Plan) => void;
  onInfos: (infos: Infos) => void;
};

/** What is collected, how often, and what is to be done when something is wrong. */
export function PlanForm({ plan, dataset, infos, onPlan, onInfos }: Props) {
  const set = (part: Partial<Plan>) => onPlan({ ...plan, ...part });
  return (
    <div className="flex flex-col gap-5">
      <Measured plan={plan} dataset={dataset} infos={infos} set={set} onInfos={onInfos} />
      <Counted plan={plan} dataset={dataset} set={set} />
      <Identifiers plan={plan} dataset={dataset} set={set} />
      <HowOften plan={plan} set={set} />
      <Reactions plan={plan} set={set} />
      <Part title="Who is told">
        <Lines
          label="e-mail addresses and web hooks, a line each"
          lines={plan.told}
          onChange={(told) => set({ told })}
        />
        <p className="max-w-2xl text-[13px] text-ink-soft">
          They are told of values beyond specification and signals without a cause, and of stations that are late: in
          one message, and again until somebody takes it on.
        </p>
      </Part>
    </div>
  );
}
