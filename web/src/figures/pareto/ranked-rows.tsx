import { Popover } from "radix-ui";
import {
  type KeyboardEvent,
  type PointerEvent,
  type ReactNode,
  type RefObject,
  useMemo,
  useRef,
  useState,
} from "react";
import { counted, fixed, percent, writerOf } from "../../lib/format";
import { Heading, Sheet } from "../../marks/sheet";
import { Stepped } from "../../marks/stepped";
import type { Size } from "../../study/figure";
import { type Besides, COLUMNS_MOST, keptAt, type Layout, type Numbers, placeRows, stairPath } from "./layout";

type Props = {
  numbers: Numbers;
  name: string;
  size: Size;
  figure: RefObject<SVGSVGElement | null>;
  /** Shows what folding after so many kinds gives. */
  onTryFold: (kinds: number) => void;
  /** Keeps it. */
  onTakeFold: (kinds: number) => void;
  /** Opens what can be done with a kind; absent where nothing can. */
  card?: (kind: { label: string; place: number }, onClose: () => void) => ReactNode;
  besides: Besides;
};

/** Kinds as rows, the largest first, the cumulative share as a stair; a grip between two rows folds what is below it. */
export function RankedRows({ numbers, name, size, figure, onTryFold, onTakeFold, card, besides }: Props) {
  const [at, setAt] = useState<number | null>(null);
  const [chosen, choose] = useState<number | null>(null);
  const writer = useMemo(() => writerOf(numbers.writer), [numbers.writer]);
  const layout = placeRows(numbers, size.width, size.height, besides);
  const { rows, top, high } = layout;
  const row = at === null ? undefined : rows[at];
  const words = (place: number) => {
    const one = rows[place];
    return one
      ? `${one.label}: ${writer.value(one.count)}, ${shareWords(one.share)}, ${shareWords(one.cumulative)} with all before it`
      : "";
  };
  const summary = `${counted(numbers.overall.kinds, "kind", "kinds")} of ${name}, the largest first. Up and down go from kind to kind, Enter opens one.`;
  const open = (place: number) => {
    if (card && rows[place] && !rows[place].folded) choose(place);
  };
  return (
    <div className="relative h-full">
      <Stepped
        label={`Kinds of ${name}`}
        count={rows.length}
        at={at}
        onAt={setAt}
        steps={{ ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }}
        words={at === null ? summary : words(at)}
        onEnter={open}
        vertical
      >
        <Sheet
          figure={figure}
          size={size}
          label={summary}
          onPointerMove={(event) => {
            const y = event.clientY - event.currentTarget.getBoundingClientRect().top;
            const place = Math.floor((y - top) / high);
            setAt(place >= 0 && place < rows.length ? place : null);
          }}
          onPointerLeave={() => setAt(null)}
          onPointerUp={() => at !== null && open(at)}
        >
          <Heading x={16} y={28}>
            Kinds of {name}, the largest first{numbers.weighted && writer.unit ? ` (${writer.unit})` : ""}
          </Heading>
          {row && at !== null && (
            <rect
              data-export="no"
              x="8"
              width={size.width - 16}
              y={top + high * at}
              height={high}
              fill="var(--ink)"
              fillOpacity="0.05"
            />
          )}
          <Rows numbers={numbers} layout={layout} write={writer.value} />
          <Alike layout={layout} />
          <Stair layout={layout} />
          {layout.unseen > 0 && (
            <text x={size.width - 24} y={28} textAnchor="end" fontSize="12" fill="var(--ink-soft)">
              {counted(layout.unseen, "kind has", "kinds have")} no room here; the ledger has all
            </text>
          )}
        </Sheet>
      </Stepped>
      <Grip numbers={numbers} layout={layout} width={size.width} onTry={onTryFold} onTake={onTakeFold} />
      {chosen !== null && rows[chosen] && (
        <Popover.Root open onOpenChange={(open) => !open && choose(null)}>
          <Popover.Anchor asChild>
            <div
              className="pointer-events-none absolute"
              style={{ left: 16, top: top + high * chosen, width: 150, height: high }}
            />
          </Popover.Anchor>
          <Popover.Portal>
            <Popover.Content
              align="start"
              sideOffset={4}
              collisionPadding={12}
              aria-label={rows[chosen].label}
              className="z-30 w-[300px] rounded-xl border border-hairline bg-sheet p-3 text-[15px] text-ink shadow-xl"
            >
              {card?.({ label: rows[chosen].label, place: chosen }, () => choose(null))}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </div>
  );
}

const whole = (count: number) => fixed(count, Number.isInteger(count) ? 0 : 1);

const shareWords = (share: number | null) => (share === null ? "none" : percent(share));

function Rows({ numbers, layout, write }: { numbers: Numbers; layout: Layout; write: (value: number) => string }) {
  const { rows, columns, top, high, names } = layout;
  const grouped = numbers.groups.length > 0;
  const letters = Math.floor((names - 26) / 6.6);
  return (
    <g fontSize={Math.min(12.5, high - 2)}>
      {columns.length > 1 &&
        columns.map(({ label, box }) => (
          <text key={label} x={box.left} y={top - 12} fontSize="12.5" fontWeight="600" fill="var(--ink)">
            {label.length > 14 ? `${label.slice(0, 13)}…` : label}
          </text>
        ))}
      {grouped && numbers.groups.length > COLUMNS_MOST && (
        <text x={columns.at(-1)?.box.right} y={48} textAnchor="end" fontSize="12" fill="var(--ink-soft)">
          the first {COLUMNS_MOST} of {numbers.groups.length} groups
        </text>
      )}
      {rows.map(({ label, share, folded }, place) => {
        const y = top + high * place;
        return (
          <g key={folded ? "folded" : label}>
            <text x="16" y={y + high / 2 + 4} fill={folded ? "var(--ink-soft)" : "var(--ink)"}>
              {label.length > letters ? `${label.slice(0, letters - 1)}…` : label}
            </text>
            {columns.map(({ label: group, box, x, counts, total, leader, weighed }, column) => {
              const count = counts[place] ?? 0;
              // A group whose own leader is not that of the whole.
              const own = column > 0 && leader === place && place !== columns[0]?.leader;
              return (
                <g key={group}>
                  <rect
                    x={box.left}
                    y={y + 2}
                    width={Math.max(count > 0 ? 1.5 : 0, x(count))}
                    height={Math.max(2, high - 4)}
                    rx="2"
                    fill={folded ? "var(--ink-soft)" : own ? "var(--plum)" : "var(--slate)"}
                    fillOpacity={folded ? 0.35 : 0.85}
                  />
                  <text x={box.left + x(count) + 6} y={y + high / 2 + 4} fill="var(--ink)" fontWeight={own ? 600 : 400}>
                    {grouped || !weighed
                      ? `${weighed ? "" : `${whole(count)} · `}${shareWords(total > 0 ? count / total : null)}`
                      : `${write(count)} · ${shareWords(share)}`}
                  </text>
                </g>
              );
            })}
          </g>
        );
      })}
    </g>
  );
}

/** Where the rows would end if all kinds were alike. */
function Alike({ layout }: { layout: Layout }) {
  const { alike, columns, top, high } = layout;
  const [whole] = columns;
  if (!whole || alike.length === 0) return null;
  const at = (count: number) => whole.box.left + whole.x(count);
  return (
    <g stroke="var(--ochre)" strokeWidth="2.4">
      {alike.map((count, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place
        <path key={place} d={`M${at(count)} ${top + high * place}v${high}`} />
      ))}
      <text x={whole.box.left} y={top - 12} stroke="none" fontSize="12" fill="var(--ink-soft)">
        <tspan fill="var(--ochre)" fontWeight="700">
          |
        </tspan>{" "}
        if all kinds were alike
      </text>
    </g>
  );
}

/** The cumulative share down the right edge, with the place where it reaches 80 %. */
function Stair({ layout }: { layout: Layout }) {
  const { stair, top, high, rows } = layout;
  if (!stair) return null;
  const at = (share: number) => stair.left + (stair.right - stair.left) * share;
  const bottom = top + high * rows.length;
  return (
    <g>
      <path d={`M${at(0)} ${top}V${bottom}M${at(1)} ${top}V${bottom}`} stroke="var(--hairline)" strokeWidth="1.4" />
      <path d={`M${at(0.8)} ${top}V${bottom}`} stroke="var(--ochre)" strokeWidth="1.4" strokeDasharray="5 3" />
      <path d={stairPath(layout)} fill="none" stroke="var(--moss)" strokeWidth="2" />
      <text x={at(0.8) + 5} y={top - 10} textAnchor="end" fontSize="12" fill="var(--ink-soft)">
        80 %
      </text>
      <text x={at(1) - 6} y={top - 10} fontSize="12" fill="var(--ink-soft)">
        100 %
      </text>
    </g>
  );
}

type GripProps = {
  numbers: Numbers;
  layout: Layout;
  width: number;
  onTry: (kinds: number) => void;
  onTake: (kinds: number) => void;
};

/** The fold between two rows, moved by mouse, finger and key. */
function Grip({ numbers, layout, width, onTry, onTake }: GripProps) {
  const kept = numbers.overall.bars.length;
  const [wanted, setWanted] = useState<number | null>(null);
  // Rows become lower as more are let out: while the grip is held its heights stay those it was taken at.
  const held = useRef<{ top: number; high: number } | null>(null);
  const shown = wanted ?? kept;
  const { top, high } = held.current ?? layout;
  const y = top + high * Math.min(shown, layout.rows.length);
  const move = (event: PointerEvent<HTMLDivElement>) => {
    const box = event.currentTarget.parentElement?.getBoundingClientRect();
    if (!held.current || !box) return;
    const next = keptAt(event.clientY - box.top, held.current.top, held.current.high, numbers.overall.kinds);
    if (next === shown) return;
    setWanted(next);
    onTry(next);
  };
  const take = (kinds: number) => {
    held.current = null;
    setWanted(null);
    if (kinds !== kept) onTake(kinds);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 5, PageUp: -5 }[event.key];
    if (!step) return;
    event.preventDefault();
    onTake(Math.max(1, Math.min(numbers.overall.kinds, kept + step)));
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-orientation="vertical"
      aria-label="Kinds that stand by themselves"
      aria-valuemin={1}
      aria-valuemax={numbers.overall.kinds}
      aria-valuenow={shown}
      aria-valuetext={`${counted(shown, "kind stands", "kinds stand")} by themselves, ${numbers.overall.kinds - shown} folded`}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = { top: layout.top, high: layout.high };
        setWanted(kept);
      }}
      onPointerMove={move}
      onPointerUp={() => held.current && take(shown)}
      onPointerCancel={() => held.current && take(kept)}
      className="absolute left-2 flex h-4 cursor-row-resize touch-none items-center"
      style={{ top: y - 8, width: width - 16 }}
    >
      <span aria-hidden className="h-[2px] flex-1 bg-moss/70" />
      <span aria-hidden className="h-2.5 w-9 rounded-full border border-moss bg-sheet" />
    </div>
  );
}
