//! Lines among and under the rows that are none: totals, repeated headers, what a report says at its end.

use csv::StringRecord;

use crate::layout::filled;

/// Lines at the end that are looked at.
pub(crate) const END_LINES: usize = 12;

/// What a line between rows is that is no row.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Aside {
    /// A total of rows above it.
    Total,
    /// The header once more.
    Header,
    /// A remark under the table.
    Remark,
}

/// The first words of a line, in small letters.
fn first(record: &StringRecord) -> String {
    record.iter().map(str::trim).find(|cell| !cell.is_empty()).unwrap_or_default().trim_end_matches(':').to_lowercase()
}

/// Whether a line between rows is a total of some of them, or the header once more. Asked of every row, so it is told from its
/// first letter mostly.
pub(crate) fn between(record: &StringRecord, header: &[StringRecord]) -> Option<Aside> {
    let start = record.iter().find(|cell| !cell.trim().is_empty())?.trim_start();
    if header.iter().any(|names| names.get(0) == record.get(0) && names == record) {
        return Some(Aside::Header);
    }
    if !matches!(start.as_bytes()[0], b't' | b'T' | b's' | b'S') || !start.is_char_boundary(3) || start.len() < 5 {
        return None;
    }
    let words = first(record);
    let is_total = matches!(words.as_str(), "total" | "totals" | "subtotal" | "sub-total" | "sub total")
        || ["total of ", "total for ", "subtotal "].iter().any(|start| words.starts_with(start));
    is_total.then_some(Aside::Total)
}

/// Whether a line at the end is a total or belongs to one.
fn is_statistic(words: &str) -> bool {
    const WORDS: [&str; 19] = [
        "total",
        "totals",
        "sum",
        "average",
        "mean",
        "grand total",
        "minimum",
        "maximum",
        "min",
        "max",
        "range",
        "count",
        "n",
        "sd",
        "std dev",
        "standard deviation",
        "median",
        "cp",
        "cpk",
    ];
    WORDS.contains(&words)
}

/// Whether a line says by itself that rows were summed up.
fn is_total(words: &str) -> bool {
    matches!(words, "total" | "totals" | "sum" | "average" | "mean" | "grand total" | "end of export" | "end of file")
}

/// Whether a line of one cell under a table is a remark of its report.
fn is_remark(record: &StringRecord, words: &str) -> bool {
    const STARTS: [&str; 13] =
        ["end of", "printed", "exported", "generated", "created", "source:", "note:", "notes:", "remark", "checked by", "page ", "(", "*"];
    let rows = words.strip_suffix(" rows").or_else(|| words.strip_suffix(" records"));
    filled(record) == 1 && (STARTS.iter().any(|start| words.starts_with(start)) || rows.is_some_and(|count| count.parse::<u64>().is_ok()))
}

/// How many of the last lines are no rows, each with what it is.
pub(crate) fn at_end<'r>(last: impl DoubleEndedIterator<Item = &'r StringRecord>, width: usize) -> Vec<Aside> {
    let mut asides: Vec<(Aside, bool)> = Vec::new();
    for record in last.rev() {
        let words = first(record);
        let aside = match () {
            () if is_statistic(&words) || is_total(&words) => (Aside::Total, is_total(&words)),
            () if width > 1 && is_remark(record, &words) => (Aside::Remark, false),
            () => break,
        };
        asides.push(aside);
    }
    // "n" or "max" can be the name of a last row, unless a total stands beside it.
    if !asides.iter().any(|(_, sure)| *sure) {
        let remarks = asides.iter().take_while(|(aside, _)| *aside == Aside::Remark).count();
        asides.truncate(remarks);
    }
    asides.into_iter().rev().map(|(aside, _)| aside).collect()
}
