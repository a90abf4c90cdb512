//! The lines above the rows: column names in one line or two, units.

use csv::StringRecord;

use crate::affix::Affix;
use crate::cell::is_missing;
use crate::layout::{filled, is_value, mode};
use crate::signs;

/// The header among the first records: its index in `head`, or `None` when the rows start at once, with the
/// number of lines above the table.
pub struct Top {
    pub header: Option<usize>,
    pub above: usize,
    /// Whether the rows under it are unlike it, so that it is no row itself.
    pub sure: bool,
}

/// Whether a line has as many cells as the row under it and words over some of its values.
fn names_some(line: &StringRecord, row: &StringRecord) -> bool {
    let named = line.iter().zip(row).filter(|(name, _)| !name.trim().is_empty());
    line.len() == row.len() && named.clone().count() > 0 && named.into_iter().all(|(name, cell)| !is_value(name) && is_value(cell))
}

/// Whether a cell holds a value, be it with a unit beside it or as a bound.
fn is_measured(cell: &str) -> bool {
    is_value(cell) || Affix::of(cell).is_some() || signs::split(cell).is_some_and(|(_, rest)| is_value(rest))
}

/// Finds the header: the first record nearly as full as the fullest, made of words, with values under it.
pub fn top(head: &[StringRecord]) -> Top {
    let usual = mode(&head.iter().map(filled).collect::<Vec<_>>());
    let full_enough = |record: &StringRecord| filled(record) * 4 >= usual * 3 && filled(record) > 0;
    let Some(first) = head.iter().position(full_enough) else {
        return Top { header: None, above: 0, sure: true };
    };
    let candidate = &head[first];
    let words = candidate.iter().all(|cell| cell.trim().is_empty() || !(is_value(cell) || is_missing(cell.trim())));
    let under = head.get(first + 1..).unwrap_or_default();
    let values_under = under.iter().any(|record| record.iter().any(is_measured));
    let distinct = candidate.iter().collect::<std::collections::HashSet<_>>().len() == candidate.len();
    let header = words && (values_under || distinct) && !under.is_empty();
    // A row of values under a line as long that names only some of its columns.
    let above = first.checked_sub(1).filter(|above| !header && names_some(&head[*above], candidate));
    match above {
        Some(above) => Top { header: Some(above), above, sure: true },
        None => Top { header: header.then_some(first), above: first, sure: values_under || !header },
    }
}

/// Longest unit.
const UNIT_CHARS: usize = 12;

/// The unit of each column when the first of these records is a line of units: every cell that has something in it is short,
/// no value and no number, in brackets or not, and stands above nothing but values. `None` when it is a row.
pub fn units(rows: &[StringRecord]) -> Option<Vec<Option<String>>> {
    let (first, below) = rows.split_first()?;
    let values_below = |column: usize| {
        let mut cells = below.iter().filter_map(|row| row.get(column)).filter(|cell| !cell.trim().is_empty() && !is_missing(cell.trim()));
        let mut any = false;
        cells.all(|cell| {
            any = true;
            is_value(cell)
        }) && any
    };
    let unit = |cell: &str| cell.trim().trim_start_matches(['[', '(']).trim_end_matches([']', ')']).trim().to_owned();
    let like_a_unit = |cell: &str| {
        let bare = unit(cell);
        let begins = bare.chars().next().is_some_and(|letter| letter.is_alphabetic() || matches!(letter, '%' | '°' | 'µ' | '‰'));
        begins && bare.chars().count() <= UNIT_CHARS && !is_value(&bare) && bare.chars().filter(char::is_ascii_digit).count() <= 1
    };
    let filled = || first.iter().enumerate().filter(|(_, cell)| !cell.trim().is_empty() && !is_missing(cell.trim()));
    let all = filled().count() > 0 && filled().all(|(column, cell)| like_a_unit(cell) && values_below(column));
    all.then(|| first.iter().map(|cell| Some(unit(cell)).filter(|unit| !unit.is_empty() && !is_missing(unit))).collect())
}

/// Units that a line of units is known by, though it could be a second line of names.
const UNITS: [&str; 40] = [
    "mm", "cm", "m", "µm", "um", "nm", "g", "kg", "mg", "n", "nm", "v", "mv", "a", "ma", "w", "lm", "lx", "cd", "s", "ms", "min", "h", "%",
    "°c", "k", "bar", "mbar", "pa", "kpa", "hpa", "ohm", "ω", "pcs", "hz", "khz", "db", "ml", "l", "°",
];

/// Two lines that name the columns together, by their places among the first records; `None` where one does.
///
/// Either a line of groups stands above names that repeat under each of them, or the names of the header repeat or lack and the line
/// under it tells them apart, or that line is words over nothing but values.
pub fn two_lines(head: &[StringRecord], header: usize) -> Option<(usize, usize)> {
    let names = &head[header];
    let is_words = |record: &StringRecord| {
        filled(record) > 0 && record.iter().all(|cell| cell.trim().is_empty() || !(is_value(cell) || is_missing(cell.trim())))
    };
    let unclear = |record: &StringRecord| {
        let mut seen = std::collections::HashSet::new();
        record.iter().any(|name| !name.trim().is_empty() && !seen.insert(name.trim()))
    };
    let settled = |upper: &StringRecord, lower: &StringRecord| {
        let joined = joined(upper, lower);
        let mut seen = std::collections::HashSet::new();
        joined.iter().all(|name| !name.is_empty() && seen.insert(name.as_str()))
    };
    if let Some(groups) = header.checked_sub(1).map(|above| &head[above])
        && unclear(names)
        && is_words(groups)
        && groups.len() <= names.len()
        && settled(groups, names)
    {
        return Some((header - 1, header));
    }
    if numbered_groups(&head[header..]) == Some((0, 1)) {
        return Some((header, header + 1));
    }
    let (under, rows) = head.get(header + 1..)?.split_first()?;
    let begins = |cell: &str| {
        cell.trim().is_empty() || cell.trim().starts_with(|letter: char| letter.is_alphabetic() || matches!(letter, '(' | '['))
    };
    if !is_words(under) || !under.iter().all(begins) || under.len() > names.len() || is_units(under) {
        return None;
    }
    let lacks = names.iter().zip(under).any(|(name, below)| name.trim().is_empty() && !below.trim().is_empty());
    if (unclear(names) || lacks) && settled(names, under) && !rows.is_empty() {
        return Some((header, header + 1));
    }
    // Words over values and nothing else, too long for units.
    let over_values = |column: usize| {
        let mut cells = rows.iter().filter_map(|row| row.get(column)).filter(|cell| !cell.trim().is_empty() && !is_missing(cell.trim()));
        let mut any = 0;
        let all = cells.all(|cell| {
            any += 1;
            is_value(cell)
        });
        all && any > 1
    };
    let mut words = under.iter().enumerate().filter(|(_, cell)| !cell.trim().is_empty());
    let further =
        words.clone().count() * 2 > names.len() && words.all(|(column, _)| over_values(column)) && units(&head[header + 1..]).is_none();
    further.then_some((header, header + 1))
}

/// Groups above columns that are numbered within each, as trials under operators are: two groups or more, 1, 2, ... under each.
pub fn numbered_groups(head: &[StringRecord]) -> Option<(usize, usize)> {
    let numbers_each = |upper: &StringRecord, lower: &StringRecord| {
        let (mut groups, mut wanted) = (0, 0);
        let fits = lower.iter().enumerate().all(|(place, cell)| {
            let above = upper.get(place).unwrap_or_default().trim();
            let Ok(number) = cell.trim().parse::<u32>() else {
                // Columns that belong to no group are named in one of the lines.
                wanted = 0;
                return !is_value(cell) && !is_value(above);
            };
            if !above.is_empty() && number == 1 {
                (groups, wanted) = (groups + 1, 1);
            }
            let counted = wanted > 0 && number == wanted && !is_value(above);
            wanted += 1;
            counted
        });
        fits && groups > 1
    };
    let several = |lower: &StringRecord| lower.iter().any(|cell| cell.trim() == "2");
    let pairs = head.windows(2).take(LINES_ABOVE);
    let at = pairs.into_iter().position(|pair| several(&pair[1]) && numbers_each(&pair[0], &pair[1]))?;
    (at + 2 < head.len()).then_some((at, at + 1))
}

/// Lines of a report above its table.
const LINES_ABOVE: usize = 30;

/// Whether most of the words of a line are units.
fn is_units(record: &StringRecord) -> bool {
    let bare = |cell: &str| cell.trim().trim_start_matches(['[', '(']).trim_end_matches([']', ')']).trim().to_lowercase();
    let known = record.iter().filter(|cell| UNITS.contains(&bare(cell).as_str())).count();
    known * 2 >= filled(record)
}

/// Names from two lines: what stands in the upper one counts for the empty cells to its right too.
pub fn joined(upper: &StringRecord, lower: &StringRecord) -> Vec<String> {
    let mut group = "";
    let named = |place: usize| {
        let above = upper.get(place).unwrap_or_default().trim();
        let below = lower.get(place).unwrap_or_default().trim();
        if !above.is_empty() {
            group = above;
        }
        match (group, below) {
            (_, "") => above.to_owned(),
            ("", below) => below.to_owned(),
            (group, below) if group == below => below.to_owned(),
            (group, below) => format!("{group} {below}"),
        }
    };
    (0..upper.len().max(lower.len())).map(named).collect()
}
