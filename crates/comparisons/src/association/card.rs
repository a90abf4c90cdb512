//! How dependence describes itself.

use std::sync::LazyLock;

use super::terms::TERMS;
use acorn_study::card::{Choice, Formula, GROUPING, MethodCard, NUMBERS, Slot, SlotKind, SubjectKind};

/// Most rows and columns of a typed table.
const TYPED_MOST: usize = 200;

/// The card.
pub static CARD: LazyLock<MethodCard> = LazyLock::new(|| {
    let sources = vec![
        Choice::plain("columns", "columns", "A row a defect, or a row a count."),
        Choice::plain("table", "a typed table", "Counts already tabled: type them, or paste them.").implied_by(&["table"]),
    ];
    let column = |name, label, empty| Slot::new(name, label, SlotKind::needed(&GROUPING, empty)).on("from", &["columns"]);
    MethodCard {
        method: "association",
        question: "Does it depend on ...?",
        part: "Look",
        use_when: "Use it for counts by two labels: whether kinds of defects come alike on every bench, shift or supplier, and where not.",
        found_by: &[
            "association",
            "chi-square",
            "contingency table",
            "cross table",
            "independence",
            "Fisher's exact test",
            "Cramér's V",
            "stratification",
        ],
        statement: "From {from}[: {table}][, whether {column} depends on {row}][, each row counting {count}][, for each {layer}], deciding at {alpha}.",
        slots: vec![
            Slot::new("from", "where the counts come from", SlotKind::choice(sources)),
            Slot::new("table", "table of counts", SlotKind::Counts { most: TYPED_MOST }).on("from", &["table"]),
            column("column", "what may depend", "choose what may depend").subject(SubjectKind::Labels),
            column("row", "what it may depend on", "choose what it may depend on"),
            Slot::new("count", "counts", SlotKind::optional(&NUMBERS, "once")).on("from", &["columns"]).quiet(),
            Slot::new("layer", "third column", SlotKind::optional(&GROUPING, "none")).on("from", &["columns"]).quiet(),
            Slot::new("alpha", "alpha", SlotKind::usually(0.05, "α = {}", "α = 0.05", 1e-6, 0.5).offering(&[0.10, 0.05, 0.01])),
        ],
        terms: TERMS,
        decisions: super::decisions::ALL,
        formulas: FORMULAS.to_vec(),
    }
});

const FORMULAS: [Formula; 9] = [
    Formula::new("expected", "Expected count", "row total × column total / all", "Pearson (1900)"),
    Formula::new("chi-square", "χ²", "Σ (observed − expected)²/expected, (rows − 1)(columns − 1) df, uncorrected", "Pearson (1900)"),
    Formula::new("g-square", "G²", "2 Σ observed ln(observed/expected); an empty cell adds 0", "Wilks (1938)"),
    Formula::new("cramer", "Cramér's V", "√(χ²/(n (min(rows, columns) − 1)))", "Cramér (1946), ch. 21"),
    Formula::new(
        "adjusted",
        "Adjusted residual",
        "(observed − expected)/√(expected (1 − row share)(1 − column share))",
        "Haberman (1973), Biometrics 29",
    ),
    Formula::new("cell-p", "p of a cell", "of the adjusted residual by the normal, for all cells by Holm", "Holm (1979)"),
    Formula::new(
        "exact",
        "Exact p",
        "all totals held: tables no likelier than the one seen, all of them, or of random ones (hits + 1)/(draws + 1)",
        "Fisher (1935); Freeman and Halton (1951), Biometrika 38; Patefield (1981)",
    ),
    Formula::new("profile", "Profile", "count over the total of its row, or of its column", "-"),
    Formula::new("within", "Within each label", "Σ χ² of the tables of a third column, Σ df", "Cochran (1954), Biometrics 10"),
];
