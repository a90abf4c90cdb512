//! Dependence in words: whether, how strongly, and which cell.

use std::collections::BTreeMap;

use super::answer::Answer;
use super::decisions::{CELL, DEPENDS, WITHIN};
use super::numbers::{Reversed, TableNumbers};
use acorn_maths::words::{ValueFormat, chance, counted, grouped, listed, percent};
use acorn_study::notes::{note, worst_first};
use acorn_study::{FilterStep, NextQuestion, Note, RoleColumns, Tone, Verdict};

/// Cells named in a note.
const NAMED: usize = 4;
/// Sizes of V √(min(rows, columns) − 1): Cohen (1988), ch. 7.
const SIZES: [(f64, &str); 3] = [(0.1, "hardly"), (0.3, "weakly"), (0.5, "clearly")];

/// The verdict.
pub fn read(answer: &Answer) -> Verdict {
    let of = &answer.numbers.table;
    let [column, row] = &answer.numbers.names;
    let Some((p, v)) = of.p_used.zip(of.cramers_v) else {
        let sentence = if of.total > 0.0 {
            "All counts are in one row or one column: there is nothing to compare.".to_owned()
        } else {
            "All counts are 0.".to_owned()
        };
        return Verdict::new(Tone::Unsure, "Nothing to compare", sentence);
    };
    let how = if of.exact_p.is_none() { chance(p) } else { format!("exact {}", chance(p)) };
    if !of.depends {
        let sentence =
            format!("No dependence shown: if {column} were alike for every {row}, {} would spread about like this ({how}).", counts(of));
        return Verdict::new(if of.valid { Tone::Calm } else { Tone::Unsure }, "No dependence shown", sentence);
    }
    let least = of.row_totals.iter().filter(|sum| **sum > 0.0).count().min(of.column_totals.iter().filter(|sum| **sum > 0.0).count());
    let size = v * ((least - 1) as f64).sqrt();
    let strength = SIZES.iter().find(|(most, _)| size < *most).map_or("strongly", |(_, word)| word);
    let where_ = match of.foremost() {
        Some((r, c)) => format!("{} has {}", of.rows[r], cell(of, r, c)),
        None => "No single cell stands out".to_owned(),
    };
    let title = "It depends";
    Verdict::new(Tone::Caution, title, format!("{title}: {column} {strength} depends on {row} ({how}, Cramér's V {v:.2}). {where_}."))
        .states(DEPENDS)
}

/// "812 counts".
fn counts(of: &TableNumbers) -> String {
    counted(of.total as usize, "count", "counts")
}

/// "more loose gasket than expected: 123 against 87".
fn cell(of: &TableNumbers, row: usize, column: usize) -> String {
    let (seen, expected) = (of.observed[row][column], of.expected[row][column]);
    let more = if seen > expected { "more" } else { "fewer" };
    let decimals = if expected < 100.0 { 1 } else { 0 };
    let [here, overall] = [seen / of.row_totals[row], of.column_totals[column] / of.total].map(percent);
    format!(
        "{more} {} than expected: {} against {} ({here} against {overall} overall)",
        of.columns[column],
        grouped(seen as usize),
        ValueFormat::fixed(decimals).value(expected)
    )
}

/// All notes.
pub fn notes(answer: &Answer) -> Vec<Note> {
    let of = &answer.numbers;
    let table = &of.table;
    worst_first(vec![
        contradiction(answer),
        others(table),
        may_be_used(table),
        empty(table),
        folded(table, of.drawn.as_ref()),
        (of.missing > 0)
            .then(|| note(Tone::Unsure, format!("{} without a label or a count.", counted(of.missing, "row is", "rows are")), None)),
    ])
}

/// Where the whole hides or makes up what its parts show.
fn contradiction(answer: &Answer) -> Option<Note> {
    let (of, third) = (&answer.numbers, answer.numbers.third.as_ref()?);
    let within = of.within.as_ref()?;
    let p = within.p.map_or_else(String::new, |p| format!(" ({})", chance(p)));
    let (tone, sentence) = match within.reversed {
        None if within.p.is_none() => return None,
        None if of.table.depends => (Tone::Calm, format!("With {third} allowed for, it still depends{p}.")),
        None => (Tone::Calm, format!("Nor does it depend within each {third}{p}.")),
        Some(Reversed::OnlyWhole) => {
            (Tone::Alarm, format!("Within each {third} no dependence is shown{p}: {third} may be what makes the whole depend."))
        }
        Some(Reversed::OnlyWithin) => (Tone::Alarm, format!("Within each {third} it does depend{p}: the whole hides what its parts show.")),
        Some(Reversed::Turned { row, column }) => {
            let turned = if of.table.stands_out[row][column] > 0 { "fewer" } else { "more" };
            let cell = format!("{} has {turned} {} than expected", of.table.rows[row], of.table.columns[column]);
            (Tone::Alarm, format!("Within each {third}{p} the other way round: {cell}."))
        }
    };
    let told = note(tone, sentence, Some(format!("Look at each {third} by itself.")).filter(|_| tone == Tone::Alarm));
    Some(told.states_if(WITHIN.is_made(within.p), WITHIN))
}

/// Cells that stand out besides the foremost.
fn others(of: &TableNumbers) -> Option<Note> {
    // Of two rows and two columns each cell follows from one.
    let foremost = of.foremost().filter(|_| of.df > 1)?;
    let mut marked: Vec<(usize, usize, i8)> = of.marked().filter(|(row, column, _)| (*row, *column) != foremost).collect();
    marked.sort_by(|a, b| {
        let far = |cell: &(usize, usize, i8)| of.adjusted_residual[cell.0][cell.1].unwrap_or_default().abs();
        far(b).total_cmp(&far(a))
    });
    let name = |(row, column, side): &(usize, usize, i8)| {
        format!("{} {} of {}", if *side > 0 { "more" } else { "fewer" }, of.columns[*column], of.rows[*row])
    };
    let named: Vec<String> = marked.iter().take(NAMED).map(name).collect();
    let rest = marked.len().saturating_sub(NAMED);
    let more = if rest > 0 { format!(", and {}", counted(rest, "more cell", "more cells")) } else { String::new() };
    (!named.is_empty()).then(|| note(Tone::Caution, format!("Also {}{more}.", listed(&named)), None).states(CELL))
}

/// Whether the test may be used, and what is taken instead.
fn may_be_used(of: &TableNumbers) -> Option<Note> {
    let least = of.min_expected.filter(|_| of.df > 0)?;
    let cells = of.expected.iter().flatten().filter(|count| **count > 0.0).count();
    let smallest = ValueFormat::fixed(1).value(least);
    if of.valid {
        let few = if of.cells_below_5 == 0 {
            "no cell expects fewer than 5".to_owned()
        } else {
            format!("only {} of {cells} cells expect fewer than 5", of.cells_below_5)
        };
        return Some(note(Tone::Calm, format!("χ² may be used: {few} (the least {smallest})."), None));
    }
    let sentence = format!("χ² may not be used: {} of {cells} cells expect fewer than 5 (the least {smallest}).", of.cells_below_5);
    let exact = of.exact_p.map(|p| match of.exact_error {
        Some(error) => format!("Instead {} random tables, all totals held: p = {p:.4} ± {:.4}.", grouped(of.exact_draws), 2.0 * error),
        None => format!("Instead every table with these totals: p = {p:.4}."),
    });
    let anyhow = || Some("There are too many counts for the exact test; it is used all the same.".to_owned());
    Some(note(Tone::Unsure, sentence, exact.or_else(anyhow)))
}

fn empty(of: &TableNumbers) -> Option<Note> {
    let names = |labels: &[String], sums: &[f64]| {
        labels.iter().zip(sums).filter(|(_, sum)| **sum == 0.0).map(|(label, _)| label.clone()).collect::<Vec<_>>()
    };
    let mut empty = names(&of.rows, &of.row_totals);
    empty.extend(names(&of.columns, &of.column_totals));
    let verb = if empty.len() == 1 { "holds" } else { "hold" };
    (!empty.is_empty() && of.total > 0.0).then(|| {
        note(
            Tone::Unsure,
            format!("{} {verb} nothing and {} left out of the test.", listed(&empty), if empty.len() == 1 { "is" } else { "are" }),
            None,
        )
    })
}

fn folded(of: &TableNumbers, drawn: Option<&TableNumbers>) -> Option<Note> {
    let words = |[rows, columns]: [usize; 2]| {
        let side = |count: usize, one: &str, many: &str| (count > 0).then(|| counted(count, one, many));
        listed(
            &[side(rows, "rare row", "rare rows"), side(columns, "rare column", "rare columns")].into_iter().flatten().collect::<Vec<_>>(),
        )
    };
    if of.folded != [0, 0] {
        return Some(note(Tone::Unsure, format!("{} count as one.", words(of.folded)), None));
    }
    let drawn = drawn?;
    let p = drawn.p_used.map(|p| format!("Tested like that: {}.", chance(p)));
    Some(note(Tone::Unsure, format!("{} are drawn as one; the ledger has each.", words(drawn.folded)), p))
}

/// What the answer makes worth asking.
pub fn next(answer: &Answer) -> Vec<NextQuestion> {
    let of = &answer.numbers.table;
    let Some((row, column)) = of.foremost().filter(|_| answer.has_rows()) else { return Vec::new() };
    let [column_name, row_name] = &answer.numbers.names;
    let place = row * of.columns.len() + column;
    let rows = NextQuestion::about(
        [place, place],
        format!("Which rows are {} of {}?", of.columns[column], of.rows[row]),
        "The cell that stands out, row by row.".to_owned(),
    );
    let roles = BTreeMap::from([
        ("category".to_owned(), RoleColumns::One(column_name.clone())),
        ("group".to_owned(), RoleColumns::One(row_name.clone())),
    ]);
    let rank = NextQuestion::of("pareto", &format!("Which {column_name} leads within each {row_name}?"), "Where effort will pay.", roles);
    let only = |column: &String, label: &String| FilterStep::labels(column, vec![label.clone()]);
    let (kind, place) = (&of.columns[column], &of.rows[row]);
    let steady = NextQuestion {
        options: serde_json::Map::from_iter([("chart".to_owned(), "c".into())]),
        only: vec![only(row_name, place), only(column_name, kind)],
        ..NextQuestion::of(
            "control-chart",
            &format!("Is {kind} of {place} steady?"),
            "The rows of the cell, counted over time.",
            BTreeMap::new(),
        )
    };
    vec![rows, rank, steady]
}
