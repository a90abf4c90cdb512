//! How the control chart describes itself.

use std::sync::LazyLock;

use super::kind::ChartKind;
use super::patterns::Pattern;
use super::terms::TERMS;
use acorn_data::frame::Kind;
use acorn_study::card::{Choice, Field, FieldKind, Formula, GROUPING, Item, MethodCard, NUMBERS, ORDERING, Slot, SlotKind, SubjectKind};
use acorn_study::gauge;

/// Most columns side by side.
pub const SIDE_BY_SIDE_MOST: usize = 100;
/// When several columns are measured.
pub const SEVERAL: &str = "Choose several when the readings of a subgroup stand side by side in one row.";
/// Most phases cut by hand.
const CUTS_MOST: usize = 50;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| MethodCard {
    method: "control-chart",
    question: "Is it steady?",
    part: "Judge",
    use_when: "Use it when values come one after the other and you must know which of them are signals.",
    found_by: &[
        "control chart",
        "individuals",
        "I-MR",
        "moving range",
        "x-bar",
        "mean and range",
        "mean and sd",
        "p chart",
        "np chart",
        "c chart",
        "u chart",
        "Laney",
        "EWMA",
        "CUSUM",
        "run chart",
        "rare events",
        "short run",
        "UCL",
        "LCL",
    ],
    statement: "Chart {measure}{count}[the rows counted by {per}][, a point each {step}][ out of {size}][ {each}][ {sizes}] as {chart}[, in subgroups by {subgroup}][, {subgroup_size} at a time][, part by {part}][, against {target}][, {targets}][, {standardised}][, {lambda}][, {k}][, {h}][, {time_shape}][, {tails}], in the order of {order}[, called by {label}][, in phases by {phase}][, in {cuts}], with limits from {limits}[, {width}][, spread by {sigma}][ {mr_length}][, watching for {patterns}].",
    slots: slots(),
    terms: TERMS,
    decisions: super::decisions::ALL,
    formulas: FORMULAS.to_vec(),
});

fn names(takes: impl Fn(ChartKind) -> bool) -> Vec<&'static str> {
    ChartKind::ALL.into_iter().filter(|kind| takes(*kind)).map(ChartKind::name).collect()
}

/// A slot that shows while the chart is one of some.
fn on(takes: impl Fn(ChartKind) -> bool, slot: Slot) -> Slot {
    slot.on("chart", &names(takes))
}

fn slots() -> Vec<Slot> {
    let counts = ChartKind::counts;
    let single = |kind: ChartKind| !counts(kind) && !kind.may_be_sampled();
    let sized = |kind: ChartKind| counts(kind) && kind != ChartKind::C;
    let is = |wanted: ChartKind| move |kind: ChartKind| kind == wanted;
    let ranges = |kind: ChartKind| matches!(kind, ChartKind::Individuals | ChartKind::Ratio);
    let measure = |most| {
        Slot::new("measure", "measurement", SlotKind::needed(&NUMBERS, "choose a measurement").many(most, SEVERAL))
            .subject(SubjectKind::Measurement)
    };
    let count = SlotKind::needed(&[Kind::WholeNumber, Kind::Number], "choose a count");
    let sample = |empty| Slot::new("subgroup", "subgroup", SlotKind::optional(&GROUPING, empty));
    let limits = |choices| Slot::new("limits", "where the limits come from", SlotKind::Choice { tag: "from", choices });
    let sigma = |choices| Slot::new("sigma", "how the short-term spread is taken", SlotKind::choice(choices));
    let usually = SlotKind::usually;
    let mut slots = vec![
        on(|kind| single(kind) && kind != ChartKind::G, measure(1)),
        on(is(ChartKind::G), measure(1)).without("count"),
        on(ChartKind::may_be_sampled, measure(SIDE_BY_SIDE_MOST)),
        on(counts, Slot::new("count", "count", count).subject(SubjectKind::Count)).without("per"),
        on(
            counts,
            Slot::new("per", "rows of a log counted by", SlotKind::optional(&GROUPING, "a column has the counts"))
                .subject(SubjectKind::Count),
        )
        .without("count")
        .quiet(),
        on(counts, Slot::new("step", "period", SlotKind::choice(steps()))).with("per").quiet(),
        on(is(ChartKind::G), Slot::new("count", "count", SlotKind::optional(&NUMBERS, "none")).subject(SubjectKind::Count))
            .without("measure")
            .quiet(),
        on(sized, Slot::new("size", "number inspected", SlotKind::optional(&NUMBERS, "the same number"))).without("per"),
        on(sized, Slot::new("size", "number inspected each time", SlotKind::number("({} each)", "how many?", f64::MIN_POSITIVE, 1e15)))
            .at("each")
            .without("size")
            .without_option("sizes"),
        on(sized, Slot::new("sizes", "number inspected of each point", SlotKind::PerPoint { of: "per", unset: "as another dataset says" }))
            .with("per")
            .without("size")
            .quiet(),
        Slot { advises: true, ..Slot::new("chart", "kind of chart", SlotKind::choice(kinds())) },
        on(ChartKind::always_sampled, sample("rows in a row")).single("measure"),
        on(|kind| kind.may_be_sampled() && !kind.always_sampled(), sample("single rows")).single("measure").quiet(),
        on(
            ChartKind::always_sampled,
            Slot::new("subgroup_size", "rows a subgroup", SlotKind::number("{}", "how many?", 2.0, 10_000.0).whole()),
        )
        .without("subgroup")
        .single("measure"),
        on(
            |kind| kind.may_be_sampled() && !kind.always_sampled(),
            Slot::new("subgroup_size", "rows a subgroup", SlotKind::number("{}", "one", 2.0, 10_000.0).whole()),
        )
        .without("subgroup")
        .single("measure")
        .quiet(),
        on(is(ChartKind::Deviation), Slot::new("part", "part", SlotKind::optional(&GROUPING, "one part"))),
        on(is(ChartKind::Deviation), Slot::new("target", "target", SlotKind::optional(&NUMBERS, "its own target"))),
        on(
            is(ChartKind::Deviation),
            Slot::new("targets", "target of each part", SlotKind::PerLabel { of: "part", unset: "targets of its own for each part" }),
        )
        .with("part")
        .quiet(),
        on(
            is(ChartKind::Deviation),
            Slot::new(
                "standardised",
                "unit",
                SlotKind::Switch { usual: false, on: "in sds of each part", off: "in the unit of the measurement" },
            ),
        ),
        on(
            is(ChartKind::Ewma),
            Slot::new("lambda", "weight of the newest", usually(0.2, "the newest weighing {}", "the newest weighing 0.2", 0.01, 1.0)),
        ),
        on(is(ChartKind::Cusum), Slot::new("k", "allowance", usually(0.5, "allowing {} sd", "allowing 0.5 sd", 0.0, 10.0))),
        on(is(ChartKind::Cusum), Slot::new("h", "decision limit", usually(5.0, "deciding at {} sd", "deciding at 5 sd", 0.1, 100.0))),
        on(is(ChartKind::T), Slot::new("time_shape", "shape of the times", SlotKind::choice(time_shapes()))),
        on(is(ChartKind::G), Slot::new("tails", "how the limits are taken", SlotKind::choice(tails()))),
        Slot::new("order", "order", SlotKind::optional(&ORDERING, "the rows")),
        Slot::new("label", "name of a point", SlotKind::optional(&GROUPING, "its number")).quiet(),
        Slot::new("phase", "phases", SlotKind::optional(&[Kind::Category, Kind::Text, Kind::WholeNumber], "one phase")).quiet(),
        Slot::new("cuts", "phases cut by hand", SlotKind::Cuts { most: CUTS_MOST }).quiet(),
        on(|kind| !counts(kind) && !kind.always_sampled() && !centred(kind), limits(limit_choices("values"))),
        on(centred, limits(centre_choices())),
        on(ChartKind::always_sampled, limits(limit_choices("subgroups"))),
        on(counts, limits(count_limit_choices())),
        on(|kind| kind != ChartKind::Run, Slot::new("width", "width of the limits", usually(3.0, "{} sd wide", "3 sd wide", 0.5, 10.0)))
            .quiet(),
        on(ranges, sigma(moving_ranges())),
        on(|kind| matches!(kind, ChartKind::XbarR | ChartKind::XbarBetween), sigma(range_first())),
        on(is(ChartKind::XbarS), sigma(sd_first())),
        on(|kind| kind.may_be_sampled() && !kind.always_sampled(), sigma([moving_ranges(), range_first()].concat())).quiet(),
        on(
            ranges,
            Slot::new("mr_length", "values a moving range spans", usually(2.0, "over {} values", "over 2 values", 2.0, 100.0).whole()),
        )
        .quiet(),
    ];
    for kind in groups_of_patterns() {
        let shows = |other: ChartKind| other.default_watches() == kind.default_watches() && takes_more_than_limits(other);
        let slot_kind = SlotKind::Checklist { one: "pattern", many: "patterns", tag: "pattern", items: items(kind) };
        slots.push(on(shows, Slot::new("patterns", "patterns to watch for", slot_kind)));
    }
    slots
}

/// The patterns of single values, for studies that judge steadiness on the side.
pub fn pattern_slot() -> Slot {
    let slot_kind = SlotKind::Checklist { one: "pattern", many: "patterns", tag: "pattern", items: items(ChartKind::Individuals) };
    Slot::new("patterns", "patterns that judge whether it is steady", slot_kind)
}

/// Kinds whose known limits follow from their centre.
fn centred(kind: ChartKind) -> bool {
    matches!(kind, ChartKind::Run | ChartKind::G | ChartKind::T)
}

fn centre_choices() -> Vec<Choice> {
    let fields = vec![Field::number("center", "centre", true, None), Field::number("sigma", "sd", false, Some(0.0))];
    vec![
        plain("data", "all values", "To look at a process for the first time; each phase on its own."),
        baseline("values"),
        known("a known centre of {center}[, set by {set_by}][ on {set_on}]", fields),
    ]
}

/// How long a point of a log is.
fn steps() -> Vec<Choice> {
    vec![
        plain("usual", "label, or day of a moment", "What the column tells apart; of a moment, its day."),
        plain("hour", "hour", "For many rows a day."),
        plain("day", "day", "Days without a row are points too."),
        plain("week", "week", "From Monday on."),
        plain("month", "month", "By the calendar."),
    ]
}

/// Of the time between events.
fn time_shapes() -> Vec<Choice> {
    vec![
        Choice::plain("weibull", "times of a Weibull", "The usual one; its shape is found from the times."),
        Choice::plain("exponential", "times of an exponential", "When an event may come at any moment alike."),
    ]
}

/// Of counts between events.
fn tails() -> Vec<Choice> {
    vec![
        Choice::plain("probability", "as much in each tail as a normal has", "The usual way: the counts are skewed."),
        Choice::plain("sigma", "so many sd about the mean", "To compare with older charts."),
    ]
}

fn takes_more_than_limits(kind: ChartKind) -> bool {
    Pattern::ALL.into_iter().filter(|pattern| kind.takes(*pattern)).count() > 1
}

/// One kind for each set of usual patterns.
fn groups_of_patterns() -> Vec<ChartKind> {
    let mut kinds: Vec<ChartKind> = Vec::new();
    for kind in ChartKind::ALL.into_iter().filter(|kind| takes_more_than_limits(*kind)) {
        if !kinds.iter().any(|other| other.default_watches() == kind.default_watches()) {
            kinds.push(kind);
        }
    }
    kinds
}

fn kinds() -> Vec<Choice> {
    ChartKind::ALL.map(|kind| Choice::plain(kind.name(), kind.display_text(), kind.use_when())).into()
}

fn plain(value: &'static str, words: &'static str, use_when: &'static str) -> Choice {
    Choice::plain(value, words, use_when)
}

fn field(name: &'static str, label: &'static str, kind: FieldKind, low: Option<f64>) -> Field {
    Field { name, label, required: matches!(kind, FieldKind::Point | FieldKind::Number), kind, low }
}

fn baseline(many: &'static str) -> Choice {
    let (words, first, last) = match many {
        "subgroups" => ("subgroups {first} to {last}", "first subgroup", "last subgroup"),
        _ => ("values {first} to {last}", "first value", "last value"),
    };
    Choice::with(
        "baseline",
        words,
        "To judge what came after a stretch when it ran well. You can also drag over it in the figure.",
        vec![field("first", first, FieldKind::Point, Some(0.0)), field("last", last, FieldKind::Point, Some(0.0))],
    )
}

fn known(words: &'static str, mut fields: Vec<Field>) -> Choice {
    fields.push(field("set_by", "set by", FieldKind::Text, None));
    fields.push(field("set_on", "set on", FieldKind::Date, None));
    Choice::with("known", words, "To judge against figures settled before.", fields)
}

fn limit_choices(many: &'static str) -> Vec<Choice> {
    let all = if many == "subgroups" { "all subgroups" } else { "all values" };
    let fields = vec![field("center", "centre", FieldKind::Number, None), field("sigma", "sd", FieldKind::Number, Some(0.0))];
    vec![
        plain("data", all, "To look at a process for the first time; each phase on its own."),
        baseline(many),
        known("known values, centre {center} and sd {sigma}[, set by {set_by}][ on {set_on}]", fields),
    ]
}

fn count_limit_choices() -> Vec<Choice> {
    vec![
        plain("data", "all subgroups", "To look at a process for the first time; each phase on its own."),
        baseline("subgroups"),
        known("a known centre of {center}[, set by {set_by}][ on {set_on}]", vec![field("center", "centre", FieldKind::Number, Some(0.0))]),
    ]
}

fn moving_ranges() -> Vec<Choice> {
    vec![
        plain("mr-mean", "the mean moving range", "The usual way; uses every difference."),
        plain("mr-median", "the median moving range", "When a few wild values would widen the limits."),
    ]
}

const POOLED: (&str, &str, &str) = ("pooled", "the pooled variance", "Uses every value; best when sizes differ.");

fn range_first() -> Vec<Choice> {
    vec![
        plain("range", "the ranges", "The usual way for small subgroups."),
        plain("sd", "the sds", "For subgroups of nine or more."),
        plain(POOLED.0, POOLED.1, POOLED.2),
    ]
}

fn sd_first() -> Vec<Choice> {
    vec![
        plain("sd", "the sds", "The usual way for large subgroups."),
        plain(POOLED.0, POOLED.1, POOLED.2),
        plain("range", "the ranges", "For small subgroups."),
    ]
}

fn items(kind: ChartKind) -> Vec<Item> {
    let usual = kind.default_watches();
    let item = |pattern: Pattern| {
        let (label, finds) = pattern.display_text();
        let default_on = usual.iter().any(|watch| watch.pattern == pattern);
        Item { value: pattern.name(), label, finds, default_on, length: pattern.length() }
    };
    Pattern::ALL.into_iter().filter(|pattern| kind.takes(*pattern)).map(item).collect()
}

/// Of charts, also of those on the side of other studies.
pub const FORMULAS: [Formula; 18] = [
    gauge::share::FORMULA,
    Formula::new(
        "individuals",
        "Single values",
        "x̄ ± 3 s, s = MR̄ / d₂(2) or median MR / 0.9539; moving range d₂ s, (d₂ ± 3 d₃) s",
        "Shewhart (1931), ch. XX; Montgomery (2013), sec. 6.4; Nelson (1982), JQT 14(3)",
    ),
    Formula::new("means", "Means", "x̄ ± 3 s / √nᵢ about the mean of all values", "Montgomery (2013), sec. 6.2; ISO 7870-2:2023"),
    Formula::new(
        "short-term-sd",
        "Short-term sd of subgroups",
        "Σ fᵢ Rᵢ/d₂(nᵢ) / Σ fᵢ, fᵢ = d₂²/d₃²; Σ fᵢ sᵢ/c₄(nᵢ) / Σ fᵢ, fᵢ = c₄²/(1 − c₄²); pooled √(Σ(nᵢ−1)sᵢ² / Σ(nᵢ−1)) / c₄",
        "Burr (1969), JQT 1(3); Montgomery (2013), sec. 6.3",
    ),
    Formula::new(
        "ranges-and-sds",
        "Ranges and sds",
        "d₂ s, (d₂ ± 3 d₃) s; c₄ s, c₄ s ± 3 s √(1 − c₄²); floored at 0",
        "Montgomery (2013), sec. 6.2 and 6.3",
    ),
    Formula::new(
        "counts",
        "Counts",
        "p̄ ± 3 √(p̄(1−p̄)/nᵢ), n p̄ ± 3 √(n p̄(1−p̄)), c̄ ± 3 √c̄, ū ± 3 √(ū/nᵢ), clipped to what is possible",
        "Montgomery (2013), ch. 7",
    ),
    Formula::new(
        "prime",
        "Prime charts",
        "zᵢ = (pᵢ − p̄)/sdᵢ, s_z = mean |zᵢ − zᵢ₋₁| / d₂(2), p̄ ± 3 sdᵢ s_z",
        "Laney (2002), Quality Engineering 14(4)",
    ),
    Formula::new(
        "dispersion",
        "Dispersion",
        "χ² = Σ (xᵢ − Eᵢ)²/Vᵢ on points less one; χ²/df near 1 when counting explains the scatter",
        "Cochran (1954), Biometrics 10",
    ),
    Formula::new(
        "ewma",
        "Moving average (EWMA)",
        "zₜ = λ xₜ + (1−λ) zₜ₋₁, limits ± 3 √(λ² sₜ² + (1−λ)² Var zₜ₋₁)",
        "Roberts (1959), Technometrics 1; Lucas and Saccucci (1990)",
    ),
    Formula::new(
        "cusum",
        "Cumulative sum (CUSUM)",
        "C⁺ = max(0, C⁺ + x − x̄ − k s), C⁻ likewise below; limit h s, k = 0.5, h = 5",
        "Page (1954), Biometrika 41; Montgomery (2013), sec. 9.1",
    ),
    Formula::new(
        "runs",
        "Run chart",
        "runs about the median: E = 1 + 2n₁n₂/n; runs up and down: E = (2n − 1)/3; normal approximation",
        "Wald and Wolfowitz (1940); Levene and Wolfowitz (1944)",
    ),
    Formula::new(
        "rare-events",
        "Rare events",
        "g: geometric with p = 1/(1 + ȳ); t: Weibull by maximum likelihood; limits where Φ(−3) and Φ(3) are reached",
        "Benneyan (2001); Xie, Goh and Ranjan (2002)",
    ),
    Formula::new(
        "deviation",
        "Deviation",
        "value less the target of its part; equal spread by Levene's test about the medians",
        "Montgomery (2013), sec. 10.2; Brown and Forsythe (1974)",
    ),
    Formula::new(
        "constants",
        "d₂, d₃, c₄",
        "mean and sd of the range of n normal values by quadrature; mean of their sd by log-gamma",
        "Hartley (1942), Biometrika 32; agrees with Harter (1960)",
    ),
    Formula::new(
        "patterns",
        "Patterns",
        "zones of 1, 2 and 3 sd of each point about its centre, before clipping; exactly on a line is not beyond",
        "Western Electric (1956); Nelson (1984), JQT 16(4); ISO 7870-2",
    ),
    Formula::new(
        "false-alarms",
        "False alarms",
        "average points to the first signal of the chosen set, independent normal values",
        "1 / (2 (1 − Φ(3))) for limits alone; other sets by seeded simulation, exact to √(ARL/16e6); counts by their own law",
    ),
    Formula::new(
        "before-after",
        "Before and after",
        "shift of means by Welch's t; ratio of short-term sds by F",
        "Welch (1947), Biometrika 34; ISO 2854",
    ),
    Formula::new(
        "frozen-limits",
        "Frozen limits",
        "the newest 20 to 50 points against the baseline (Welch, F) or known values (t, χ²); stale when either p is below 0.01",
        "ISO 2854",
    ),
];
