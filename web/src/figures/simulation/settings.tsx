import { scaleLinear } from "d3-scale";
import { fixed, writerOf } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { Button } from "../../parts/button";
import { Empty } from "../../parts/states";
import type { DrawingProps } from "../../study/figure";
import { cut } from "./input-card";
import { type Numbers, piecesOf, type Response, type Search, searchOf } from "./model";
import { shareWords } from "./response-card";
import { SearchGoal } from "./sought";

type Props = DrawingProps<"simulation">;

const GOALS = [
  ["largest-ppk", "the largest Ppk"],
  ["least-out", "the fewest out"],
  ["target", "the target"],
] as const;
const ROW = 64;

/** Settings that do better: where each lies in its range, and every response before and after. */
export function SettingsPicture({ numbers, size, figure, spec, actions }: Props) {
  const { search } = numbers;
  const pieces = piecesOf(spec);
  const ranged = pieces.controls.filter(({ low, high }) => low != null && high != null && low < high);
  const asked = searchOf(spec);
  const goals = (
    <div role="group" aria-label="Search for" className="flex flex-wrap items-center gap-1.5">
      <span className="text-[13px] text-ink-soft">search for</span>
      {GOALS.map(([goal, words]) => (
        <Button
          key={goal}
          aria-pressed={search?.goal === goal}
          look={search?.goal === goal ? "primary" : "plain"}
          onClick={() => actions.set({ search: aimedAt(asked, goal, pieces.responses) })}
        >
          {words}
        </Button>
      ))}
      {asked && (
        <SearchGoal search={asked} responses={pieces.responses} onChange={(search) => actions.set({ search })} />
      )}
    </div>
  );
  if (!search)
    return (
      <Empty title={ranged.length > 0 ? "Settings have not been searched yet" : "No control has a range yet"}>
        <p>
          {ranged.length > 0
            ? `${ranged.map(({ name }) => name).join(", ")} may be set; noise is left as it is.`
            : "Add a control, or give one a lowest and a highest setting; then settings that do better can be searched."}
        </p>
        {ranged.length > 0 && <div className="mt-3">{goals}</div>}
      </Empty>
    );
  const track = { left: 170, right: size.width - 210 };
  const below = 44 + search.best.length * ROW + 30;
  const responses = search.responses_before.map((before, place) => ({
    before,
    after: search.responses_after[place] ?? before,
    response: numbers.responses[place],
  }));
  const rows = Math.max(1, Math.floor((size.height - below - 70) / ROW));
  return (
    <div className="relative h-full">
      <Sheet figure={figure} size={size} label={labelOf(search)}>
        <Heading x={22} y={26}>
          {search.better ? "Settings found" : "No better settings found"}
        </Heading>
        {search.best.map((one, index) => (
          <Range key={one.name} setting={one} top={44 + index * ROW} track={track} />
        ))}
        <Heading x={22} y={below - 8}>
          Before and after
        </Heading>
        {responses
          .slice(0, rows)
          .map(({ before, after, response }, index) =>
            response ? (
              <Spread
                key={before.name}
                before={before}
                after={after}
                response={response}
                aim={search.goal === "target" ? targetOf(asked, response) : null}
                top={below + 6 + index * ROW}
                track={track}
              />
            ) : null,
          )}
      </Sheet>
      <div className="absolute inset-x-[22px] bottom-2 flex flex-wrap items-center gap-3">
        {goals}
        <span className="text-[13px] text-ink-soft">{search.tried.toLocaleString("en-US")} settings tried</span>
      </div>
    </div>
  );
}

/** The same search with another goal, of those responses that can be searched for it. */
function aimedAt(search: Search | undefined, goal: Search["goal"], responses: Response[]): Search {
  const can = (name: string) =>
    goal === "target" || responses.some((one) => one.name === name && (one.lsl != null || one.usl != null));
  const kept = search?.responses?.filter(({ name }) => can(name)) ?? [];
  return { goal, ...(search?.controls && { controls: search.controls }), ...(kept.length > 0 && { responses: kept }) };
}

const targetOf = (search: Search | undefined, { name, target }: Numbers["responses"][number]) =>
  search?.responses?.find((one) => one.name.trim() === name)?.target ?? search?.target ?? target;

type Track = { left: number; right: number };

/** A range with the setting that was, the one found, and how far it may move at little cost. */
function Range({
  setting,
  top,
  track,
}: {
  setting: NonNullable<Numbers["search"]>["best"][number];
  top: number;
  track: Track;
}) {
  const x = scaleLinear([setting.low, setting.high], [track.left, track.right]).clamp(true);
  const writer = writerOf(setting.writer);
  const [least = setting.value, most = setting.value] = setting.slack;
  const y = top + 20;
  return (
    <g>
      <text x="22" y={y + 4} fontSize="14" fontWeight="600" fill="var(--ink)">
        {cut(setting.name, 18)}
      </text>
      <path d={`M${track.left} ${y}H${track.right}`} stroke="var(--hairline)" strokeWidth="5" strokeLinecap="round" />
      <path
        d={`M${x(least)} ${y}H${x(most)}`}
        stroke="var(--moss)"
        strokeOpacity="0.3"
        strokeWidth="11"
        strokeLinecap="round"
      >
        <title>Nine tenths of the gain remain in here.</title>
      </path>
      <circle cx={x(setting.was)} cy={y} r="6" fill="var(--sheet)" stroke="var(--ink-soft)" strokeWidth="2" />
      <circle cx={x(setting.value)} cy={y} r="6.5" fill="var(--moss)" />
      <g fontSize="12" fill="var(--ink-soft)">
        <text x={track.left} y={y + 20}>
          {writer.bareComputed(setting.low)}
        </text>
        <text x={track.right} y={y + 20} textAnchor="end">
          {writer.bareComputed(setting.high)}
        </text>
        <text x={track.right + 16} y={y + 4} fontSize="13">
          {writer.bareComputed(setting.was)}
          {" → "}
          <tspan fontWeight="600" fill="var(--ink)">
            {writer.computed(setting.value)}
          </tspan>
        </text>
        {setting.border !== 0 && (
          <text x={track.right + 16} y={y + 20} fill="var(--ochre)">
            at the {setting.border < 0 ? "lowest" : "highest"} of its range
          </text>
        )}
      </g>
    </g>
  );
}

type Judged = NonNullable<Numbers["search"]>["before"];
type SpreadProps = {
  before: Judged;
  after: Judged;
  response: Numbers["responses"][number];
  /** The target that is searched for. */
  aim: number | null | undefined;
  top: number;
  track: Track;
};

/** Mean ± 3 sd before and after on one scale, between the fences. */
function Spread({ before, after, response, aim, top, track }: SpreadProps) {
  const { lsl, usl } = response;
  const fences = [lsl, usl].filter((one): one is number => one != null);
  const all = [
    ...[before, after].flatMap(({ mean, sd }) => [mean - 3 * sd, mean + 3 * sd]),
    ...fences,
    ...(aim == null ? [] : [aim]),
  ];
  const x = scaleLinear([Math.min(...all), Math.max(...all)], [track.left, track.right]);
  const [first = 0, second = Number.POSITIVE_INFINITY] = fences.map(x);
  const close = second - first < 50;
  const facts = ({ ppk, out }: Judged) =>
    [ppk == null ? "" : `Ppk ${fixed(ppk, 2)}`, out == null ? "" : `${shareWords(out)} out`].filter(Boolean).join(", ");
  return (
    <g>
      <text x="22" y={top + 24} fontSize="14" fontWeight="600" fill="var(--ink)">
        {cut(before.name, 18)}
      </text>
      {[
        { one: before, y: top + 12, colour: "var(--ink-soft)", words: "before" },
        { one: after, y: top + 32, colour: "var(--moss)", words: "after" },
      ].map(({ one, y, colour, words }) => (
        <g key={words}>
          <path
            d={`M${x(one.mean - 3 * one.sd)} ${y}H${x(one.mean + 3 * one.sd)}`}
            stroke={colour}
            strokeWidth="9"
            strokeOpacity="0.35"
          />
          <path d={`M${x(one.mean)} ${y - 6}v12`} stroke={colour} strokeWidth="2.5" />
          <text
            x={track.right + 16}
            y={y + 4}
            fontSize="12.5"
            fill={words === "after" ? "var(--ink)" : "var(--ink-soft)"}
          >
            {words}: {facts(one) || writerOf(response.writer).computed(one.mean)}
          </text>
        </g>
      ))}
      {aim != null && (
        <path d={`M${x(aim)} ${top}v42`} stroke="var(--ink)" strokeWidth="1.5" strokeDasharray="3 3">
          <title>{`target ${aim}`}</title>
        </path>
      )}
      {fences.map((fence, index) => (
        <g key={fence}>
          <path d={`M${x(fence)} ${top}v42`} stroke="var(--ink)" strokeWidth="2" />
          <text
            x={x(fence) + (close ? 6 * index - 3 : 0)}
            y={top + 55}
            textAnchor={close ? (index === 0 ? "end" : "start") : "middle"}
            fontSize="12"
            fill="var(--ink-soft)"
          >
            {String(fence).replace("-", "−")}
          </text>
        </g>
      ))}
    </g>
  );
}

const labelOf = ({ best, before, after }: NonNullable<Numbers["search"]>) =>
  `${best.map(({ name, value }) => `${name} ${value}`).join(", ")}; Ppk of ${before.name} ${before.ppk ?? "none"} before, ${after.ppk ?? "none"} after.`;
