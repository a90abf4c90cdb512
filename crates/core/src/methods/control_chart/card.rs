//! How the control chart describes itself.

use super::kind::ChartKind;
use super::patterns::Pattern;
use crate::frame::Kind;
use crate::study::card::{Choice, Condition, Field, FieldKind, Filling, Formula, Item, MethodCard, Slot};

/// The card.
pub fn card() -> MethodCard {
    MethodCard {
        method: "control-chart",
        question: "Is it steady?",
        part: "Judge",
        use_when: "Use it when values come one after the other and you must know which of them are signals.",
        statement: "Chart {measure}{count}[ out of {size}][ {each}] as {chart}[, sampled by {subgroup}][, {subgroup_size} at a time][, part by {part}][, against {target}], in the order of {order}[, called by {label}][, in phases by {phase}][, in {cuts}], with limits from {limits}[, spread by {sigma}][, watching for {patterns}].",
        slots: slots(),
        formulas: formulas(),
    }
}

fn names(takes: impl Fn(ChartKind) -> bool) -> Vec<&'static str> {
    ChartKind::ALL.into_iter().filter(|kind| takes(*kind)).map(ChartKind::name).collect()
}

/// A slot that shows while the chart is one of some.
fn on(takes: impl Fn(ChartKind) -> bool) -> Vec<Condition> {
    vec![Condition { option: Some("chart"), among: names(takes), empty_role: None, filled_role: None }]
}

fn and_without(role: &'static str, mut shows: Vec<Condition>) -> Vec<Condition> {
    shows.push(Condition { option: None, among: Vec::new(), empty_role: Some(role), filled_role: None });
    shows
}

fn slots() -> Vec<Slot> {
    let numbers = || vec![Kind::Number, Kind::WholeNumber];
    let grouping = || vec![Kind::Category, Kind::WholeNumber, Kind::Text, Kind::DateTime];
    let column = |name, label, kinds, empty, required, many, shows| Slot {
        at: name,
        name,
        label,
        shows,
        quiet: false,
        filling: Filling::Column { kinds, empty, required, many },
    };
    let number = |at, name, label, words, unset, low, high, shows| Slot {
        at,
        name,
        label,
        shows,
        quiet: false,
        filling: Filling::Number { words, unset, usual: None, low, high },
    };
    let choice =
        |name, label, tag, choices, shows| Slot { at: name, name, label, shows, quiet: false, filling: Filling::Choice { tag, choices } };
    let quiet = |slot: Slot| Slot { quiet: true, ..slot };
    let counts = ChartKind::counts;
    let single = |kind: ChartKind| !counts(kind) && !kind.may_be_sampled();
    let sized = |kind: ChartKind| counts(kind) && kind != ChartKind::C;
    let mut slots = vec![
        column("measure", "measurement", numbers(), "choose a measurement", true, false, on(single)),
        column("measure", "measurement", numbers(), "choose a measurement", true, true, on(ChartKind::may_be_sampled)),
        column("count", "count", vec![Kind::WholeNumber, Kind::Number], "choose a count", true, false, on(counts)),
        column("size", "number inspected", numbers(), "the same number", false, false, on(sized)),
        number("each", "size", "number inspected each time", "({} each)", "how many?", 1.0, 1e15, and_without("size", on(sized))),
        choice("chart", "kind of chart", "", kinds(), vec![]),
        column("subgroup", "sample", grouping(), "rows in a row", false, false, on(ChartKind::always_sampled)),
        quiet(column(
            "subgroup",
            "sample",
            grouping(),
            "single rows",
            false,
            false,
            on(|kind| kind.may_be_sampled() && !kind.always_sampled()),
        )),
        number(
            "subgroup_size",
            "subgroup_size",
            "rows a sample",
            "{}",
            "how many?",
            2.0,
            10_000.0,
            and_without("subgroup", on(ChartKind::always_sampled)),
        ),
        column("part", "part", grouping(), "one part", false, false, on(|kind| kind == ChartKind::Deviation)),
        column("target", "target", numbers(), "its own target", false, false, on(|kind| kind == ChartKind::Deviation)),
        column("order", "order", vec![Kind::DateTime, Kind::WholeNumber, Kind::Number], "the rows", false, false, vec![]),
        quiet(column("label", "name of a point", grouping(), "its number", false, false, vec![])),
        quiet(column("phase", "phases", vec![Kind::Category, Kind::Text, Kind::WholeNumber], "one phase", false, false, vec![])),
        Slot { at: "cuts", name: "cuts", label: "phases cut by hand", shows: vec![], quiet: true, filling: Filling::Cuts },
        choice("limits", "where the limits come from", "from", limit_choices("values"), on(|kind| !counts(kind) && !kind.always_sampled())),
        choice("limits", "where the limits come from", "from", limit_choices("samples"), on(ChartKind::always_sampled)),
        choice("limits", "where the limits come from", "from", count_limit_choices(), on(counts)),
    ];
    slots.push(choice(
        "sigma",
        "how the short-term spread is taken",
        "",
        moving_ranges(),
        on(|kind| matches!(kind, ChartKind::Individuals | ChartKind::Ratio)),
    ));
    slots.push(choice(
        "sigma",
        "how the short-term spread is taken",
        "",
        range_first(),
        on(|kind| matches!(kind, ChartKind::XbarR | ChartKind::XbarBetween)),
    ));
    slots.push(choice("sigma", "how the short-term spread is taken", "", sd_first(), on(|kind| kind == ChartKind::XbarS)));
    for kind in groups_of_patterns() {
        slots.push(Slot {
            at: "patterns",
            name: "patterns",
            label: "patterns to watch for",
            quiet: false,
            shows: on(|other| other.default_watches() == kind.default_watches() && takes_more_than_limits(other)),
            filling: Filling::Checklist { one: "pattern", many: "patterns", tag: "pattern", items: items(kind) },
        });
    }
    slots
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
    ChartKind::ALL.map(|kind| Choice { value: kind.name(), words: kind.words(), use_when: kind.use_when(), fields: vec![] }).into()
}

fn plain(value: &'static str, words: &'static str, use_when: &'static str) -> Choice {
    Choice { value, words, use_when, fields: vec![] }
}

fn field(name: &'static str, label: &'static str, kind: FieldKind, low: Option<f64>) -> Field {
    Field { name, label, required: matches!(kind, FieldKind::Point | FieldKind::Number), kind, low }
}

fn baseline(many: &'static str) -> Choice {
    let (words, first, last) = match many {
        "samples" => ("samples {first} to {last}", "first sample", "last sample"),
        _ => ("values {first} to {last}", "first value", "last value"),
    };
    Choice {
        value: "baseline",
        words,
        use_when: "To judge what came after a stretch when it ran well. You can also drag over it in the figure.",
        fields: vec![field("first", first, FieldKind::Point, Some(0.0)), field("last", last, FieldKind::Point, Some(0.0))],
    }
}

fn known(words: &'static str, mut fields: Vec<Field>) -> Choice {
    fields.push(field("set_by", "set by", FieldKind::Text, None));
    fields.push(field("set_on", "set on", FieldKind::Date, None));
    Choice { value: "known", words, use_when: "To judge against figures settled before.", fields }
}

fn limit_choices(many: &'static str) -> Vec<Choice> {
    let all = if many == "samples" { "all samples" } else { "all values" };
    let fields = vec![field("center", "centre", FieldKind::Number, None), field("sigma", "sd", FieldKind::Number, Some(0.0))];
    vec![
        plain("data", all, "To look at a process for the first time; each phase on its own."),
        baseline(many),
        known("known values, centre {center} and sd {sigma}[, set by {set_by}][ on {set_on}]", fields),
    ]
}

fn count_limit_choices() -> Vec<Choice> {
    vec![
        plain("data", "all samples", "To look at a process for the first time; each phase on its own."),
        baseline("samples"),
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
        plain("range", "the ranges", "The usual way for small samples."),
        plain("sd", "the sds", "For samples of nine or more."),
        plain(POOLED.0, POOLED.1, POOLED.2),
    ]
}

fn sd_first() -> Vec<Choice> {
    vec![
        plain("sd", "the sds", "The usual way for large samples."),
        plain(POOLED.0, POOLED.1, POOLED.2),
        plain("range", "the ranges", "For small samples."),
    ]
}

fn items(kind: ChartKind) -> Vec<Item> {
    let usual = kind.default_watches();
    let item = |pattern: Pattern| {
        let (label, finds) = pattern.words();
        let default_on = usual.iter().any(|watch| watch.pattern == pattern);
        Item { value: pattern.name(), label, finds, default_on, length: pattern.length() }
    };
    Pattern::ALL.into_iter().filter(|pattern| kind.takes(*pattern)).map(item).collect()
}

fn formulas() -> Vec<Formula> {
    let formula = |name, formula, source| Formula { name, formula, source };
    vec![
        formula(
            "Single values",
            "x̄ ± 3 s, s = MR̄ / d₂(2) or median MR / 0.9539; moving range d₂ s, (d₂ ± 3 d₃) s",
            "Shewhart (1931), ch. XX; Montgomery (2013), sec. 6.4; Nelson (1982), JQT 14(3)",
        ),
        formula("Means", "x̄ ± 3 s / √nᵢ about the mean of all values", "Montgomery (2013), sec. 6.2; ISO 7870-2:2023"),
        formula(
            "Short-term sd of samples",
            "Σ fᵢ Rᵢ/d₂(nᵢ) / Σ fᵢ, fᵢ = d₂²/d₃²; Σ fᵢ sᵢ/c₄(nᵢ) / Σ fᵢ, fᵢ = c₄²/(1 − c₄²); pooled √(Σ(nᵢ−1)sᵢ² / Σ(nᵢ−1)) / c₄",
            "Burr (1969), JQT 1(3); Montgomery (2013), sec. 6.3",
        ),
        formula("Ranges and sds", "d₂ s, (d₂ ± 3 d₃) s; c₄ s, c₄ s ± 3 s √(1 − c₄²); floored at 0", "Montgomery (2013), sec. 6.2 and 6.3"),
        formula(
            "Counts",
            "p̄ ± 3 √(p̄(1−p̄)/nᵢ), n p̄ ± 3 √(n p̄(1−p̄)), c̄ ± 3 √c̄, ū ± 3 √(ū/nᵢ), clipped to what is possible",
            "Montgomery (2013), ch. 7",
        ),
        formula(
            "Prime charts",
            "zᵢ = (pᵢ − p̄)/sdᵢ, s_z = mean |zᵢ − zᵢ₋₁| / d₂(2), p̄ ± 3 sdᵢ s_z",
            "Laney (2002), Quality Engineering 14(4)",
        ),
        formula(
            "Dispersion",
            "χ² = Σ (xᵢ − Eᵢ)²/Vᵢ on points less one; χ²/df near 1 when counting explains the scatter",
            "Cochran (1954), Biometrics 10",
        ),
        formula(
            "Moving average (EWMA)",
            "zₜ = λ xₜ + (1−λ) zₜ₋₁, limits ± 3 √(λ² sₜ² + (1−λ)² Var zₜ₋₁)",
            "Roberts (1959), Technometrics 1; Lucas and Saccucci (1990)",
        ),
        formula(
            "Cumulative sum (CUSUM)",
            "C⁺ = max(0, C⁺ + x − x̄ − k s), C⁻ likewise below; limit h s, k = 0.5, h = 5",
            "Page (1954), Biometrika 41; Montgomery (2013), sec. 9.1",
        ),
        formula(
            "Run chart",
            "runs about the median: E = 1 + 2n₁n₂/n; runs up and down: E = (2n − 1)/3; normal approximation",
            "Wald and Wolfowitz (1940); Levene and Wolfowitz (1944)",
        ),
        formula(
            "Rare events",
            "g: geometric with p = 1/(1 + ȳ); t: Weibull by maximum likelihood; limits where Φ(−3) and Φ(3) are reached",
            "Benneyan (2001); Xie, Goh and Ranjan (2002)",
        ),
        formula(
            "Deviation",
            "value less the target of its part; equal spread by Levene's test about the medians",
            "Montgomery (2013), sec. 10.2; Brown and Forsythe (1974)",
        ),
        formula(
            "d₂, d₃, c₄",
            "mean and sd of the range of n normal values by quadrature; mean of their sd by log-gamma",
            "Hartley (1942), Biometrika 32; agrees with Harter (1960)",
        ),
        formula(
            "Patterns",
            "zones of 1, 2 and 3 sd of each point about its centre, before clipping; exactly on a line is not beyond",
            "Western Electric (1956); Nelson (1984), JQT 16(4); ISO 7870-2",
        ),
        formula(
            "False alarms",
            "average points to the first signal of the chosen set, independent normal values",
            "1 / (2 (1 − Φ(3))) for limits alone; other sets by seeded simulation, about 0.3 % exact",
        ),
        formula("Before and after", "shift of means by Welch's t; ratio of short-term sds by F", "Welch (1947), Biometrika 34; ISO 2854"),
        formula(
            "Frozen limits",
            "the newest 20 to 50 points against the baseline (Welch, F) or known values (t, χ²); stale when either p is below 0.01",
            "ISO 2854",
        ),
    ]
}
