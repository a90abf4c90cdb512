import { useQuery } from "@tanstack/react-query";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { api, type Schema, unwrapResponse } from "../../../api/client";
import type { Dataset } from "../../../api/queries";
import { toneColour } from "../../../marks/tone";

type Numbers = Schema["FitDistributionNumbers"];
type Props = {
  column: string;
  dataset: Dataset;
  chosen: string;
  /** A distribution with its parameters; without any the column is drawn from as it is. */
  onChoose: (distribution: string, parameters: Record<string, number>) => void;
};

const SIZE = { width: 64, height: 46 };

/** Up to three shapes of a column, each drawn over its values with why it is or is not to be trusted. */
export function ShapesOfColumn({ column, dataset, chosen, onChoose }: Props) {
  const { data } = useQuery({
    queryKey: ["dataset", dataset.id, dataset.revision, "shapes", column],
    queryFn: ({ signal }) =>
      unwrapResponse(
        api.POST("/api/outcomes", {
          body: { method: "fit-distribution", roles: { measure: column }, data: { dataset: dataset.id } },
          params: { query: {} },
          signal,
        }),
      ),
    retry: false,
  });
  const numbers = data?.numbers.method === "fit-distribution" ? data.numbers : undefined;
  return (
    <div role="group" aria-label={`Shapes of ${column}`} className="flex flex-wrap gap-2">
      <Offer
        words="as the data are"
        why={numbers ? `${numbers.n} values, drawn again with equal chance` : "values drawn again with equal chance"}
        pressed={chosen === "data"}
        onChoose={() => onChoose("data", {})}
      >
        {numbers && <Picture numbers={numbers} />}
      </Offer>
      {numbers?.fits.map((fit) => (
        <Offer
          key={fit.words}
          words={fit.words}
          why={fit.why}
          colour={toneColour(fit.tone)}
          pressed={chosen === fit.distribution}
          onChoose={() =>
            onChoose(fit.distribution, Object.fromEntries(fit.parameters.map(({ name, value }) => [name, value])))
          }
        >
          <Picture numbers={numbers} curve={fit.curve} />
        </Offer>
      ))}
      {!numbers && <p className="self-center text-[13px] text-ink-soft">fitting shapes …</p>}
    </div>
  );
}

type OfferProps = {
  words: string;
  why: string;
  colour?: string;
  pressed: boolean;
  onChoose: () => void;
  children: React.ReactNode;
};

function Offer({ words, why, colour, pressed, onChoose, children }: OfferProps) {
  return (
    <button
      type="button"
      aria-pressed={pressed}
      onClick={onChoose}
      className="flex w-[180px] gap-2 rounded-md border border-hairline bg-sheet p-1.5 text-left hover:border-moss aria-pressed:border-moss aria-pressed:bg-tint"
    >
      {children}
      <span className="min-w-0 flex-1 text-[12px] leading-[15px]">
        <b className="block text-[13px]">{words}</b>
        <span style={{ color: colour ?? "var(--ink-soft)" }}>{why}</span>
      </span>
    </button>
  );
}

function Picture({ numbers, curve = [] }: { numbers: Numbers; curve?: Schema["CurvePoint"][] }) {
  const { width, height } = SIZE;
  const { bars } = numbers;
  const x = scaleLinear([bars[0]?.from ?? 0, bars.at(-1)?.to ?? 1], [0, width]);
  const most = Math.max(1, ...bars.map(({ count }) => count), ...curve.map(({ count }) => count));
  const y = (count: number) => height - 1 - (count / most) * (height - 4);
  const path = line<Schema["CurvePoint"]>()
    .x(({ value }) => x(value))
    .y(({ count }) => y(count))(curve);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="h-[46px] w-[64px] shrink-0" aria-hidden="true">
      {bars.map(({ from, to, count }) => (
        <rect
          key={from}
          x={x(from)}
          width={Math.max(0.6, x(to) - x(from) - 0.6)}
          y={y(count)}
          height={height - 1 - y(count)}
          fill="var(--slate)"
          fillOpacity="0.7"
        />
      ))}
      {path && curve.length > 0 && <path d={path} fill="none" stroke="var(--ink)" strokeWidth="1.6" />}
    </svg>
  );
}
