//! What was understood of a file, in sentences.

use crate::body::Body;
use crate::dates::{DateOrder, parse_time};
use crate::fixed::FIXED;
use crate::infer::DateReason;
use crate::layout;
use crate::left_out::Aside;
use crate::lines::Lines;
use crate::reading::{LineRole, ReadAs, ReadNote};

/// All of it, what is worth a second look marked.
pub fn of(body: &Body, read_as: &ReadAs, date_reason: DateReason, short_date: Option<&str>) -> Vec<ReadNote> {
    let note = |about, doubt, sentence: String, detail: Option<String>| ReadNote {
        about,
        column: None,
        readings: Vec::new(),
        doubt,
        sentence,
        detail,
    };
    let decimal = if read_as.decimal == ',' { "comma" } else { "point" };
    let between = match read_as.delimiter {
        Some(';') => "Semicolons",
        Some('\t') => "Tabs",
        Some('|') => "Vertical bars",
        _ => "Commas",
    };
    let mut notes = vec![match &read_as.sheet {
        Some(sheet) => note("sheet", read_as.sheets.len() > 1, format!("Sheet “{sheet}” of {}.", read_as.sheets.len()), None),
        None if read_as.delimiter.is_none() => note("form", false, "Columns by their names.".into(), None),
        None => {
            let encoding = read_as.encoding.as_deref().map(|name| format!("{name} text"));
            note(
                "delimiter",
                false,
                match body.width {
                    _ if read_as.delimiter == Some(FIXED) => format!("Columns of fixed width, {decimal} as decimal sign."),
                    1 => format!("One column, {decimal} as decimal sign."),
                    _ => format!("{between} between columns, {decimal} as decimal sign."),
                },
                encoding,
            )
        }
    }];
    if let Lines::Text { text, .. } = body.lines
        && read_as.delimiter == Some(',')
        && body.header_line == 0
        && body.width == 2
        && layout::rows_of_decimals(text.lines().skip(body.first_row_line.saturating_sub(1) as usize))
    {
        let line = text.lines().nth(body.first_row_line.saturating_sub(1) as usize).unwrap_or_default();
        let sentence = format!("“{line}” is read as two whole numbers. It could be one with a decimal comma.");
        let detail = Some("Then choose semicolons between columns, and the comma as decimal sign.".to_owned());
        notes.push(ReadNote { detail, ..ReadNote::doubt("delimiter", sentence) });
    }
    if !body.header_sure && body.header_line > 0 {
        let sentence =
            format!("Line {} is taken for column names, though the rows under it are words too. It could be a row.", body.header_line);
        notes.push(ReadNote::doubt("header", sentence));
    }
    let above = body
        .raw
        .iter()
        .filter(|line| line.role == LineRole::LeftOut && line.line < body.first_row_line)
        .map(|line| line.line)
        .collect::<Vec<_>>();
    let start = if body.header_line > 0 { body.header_line } else { body.first_row_line };
    if !above.is_empty() {
        let lines = if start > 2 { format!("Lines 1 to {} stand", start - 1) } else { "Line 1 stands".into() };
        notes.push(note("header", false, format!("{lines} above the header: left out."), None));
    } else if body.header_line == 0 {
        notes.push(note("header", true, "No line of column names: the columns are numbered.".into(), None));
    }
    if let Some((line, units)) = &body.units {
        let named: Vec<&str> = units.iter().flatten().map(String::as_str).collect();
        notes.push(note("units", false, format!("Line {line} holds units: {}.", named.join(", ")), None));
    }
    if body.header_end > body.header_line {
        let sentence = format!("Lines {} and {} together name the columns.", body.header_line, body.header_end);
        let readings = vec![body.header_line.to_string(), body.header_end.to_string()];
        notes.push(ReadNote { readings, ..ReadNote::doubt("header-lines", sentence) });
    }
    notes.extend(asides(body));
    notes.extend(dates(read_as, date_reason, short_date));
    if body.longer_rows > 0 {
        notes.push(note(
            "rows",
            true,
            format!("{} rows have more cells than the header; the extra ones are left out.", body.longer_rows),
            None,
        ));
    }
    notes
}

/// What stands among and under the rows and is left out.
fn asides(body: &Body) -> Vec<ReadNote> {
    let of = |wanted: Aside, one: &str, many: &str| {
        let lines: Vec<u64> = body.asides.iter().filter(|(_, aside)| **aside == wanted).map(|(line, _)| *line).collect();
        let sentence = match lines[..] {
            [] => return None,
            [line] => format!("Line {line} {one}: left out."),
            _ => format!("{} {many}: left out.", numbered(&lines)),
        };
        Some(ReadNote::fact(if wanted == Aside::Header { "rows" } else { "total" }, sentence))
    };
    let found = [
        of(Aside::Total, "is a total", "are totals"),
        of(Aside::Header, "repeats the column names", "repeat the column names"),
        of(Aside::Remark, "is a remark under the table", "are remarks under the table"),
    ];
    found.into_iter().flatten().collect()
}

/// "Lines 4, 8 and 12".
fn numbered(lines: &[u64]) -> String {
    const TOLD: usize = 4;
    let words: Vec<String> = lines.iter().take(TOLD).map(u64::to_string).collect();
    match (words.split_last(), lines.len()) {
        (Some((last, before)), count) if count <= TOLD => format!("Lines {} and {last}", before.join(", ")),
        (_, count) => format!("Lines {} and {} more", words.join(", "), count - TOLD),
    }
}

/// How dates are read, with what else a short one could be.
fn dates(read_as: &ReadAs, reason: DateReason, short_date: Option<&str>) -> Option<ReadNote> {
    let order = read_as.date_order;
    let words = order.display_text();
    if let (DateReason::Guess, Some(text)) = (reason, short_date) {
        let day =
            |order| parse_time(text, order).and_then(acorn_data::frame::time_text).map(|text| text.chars().take(10).collect::<String>());
        let read = day(order)?;
        let others = [DateOrder::YearFirst, DateOrder::DayFirst, DateOrder::MonthFirst]
            .map(day)
            .into_iter()
            .flatten()
            .filter(|other| *other != read);
        let other = others.collect::<Vec<_>>();
        let could = if other.is_empty() { String::new() } else { format!(" It could be {}.", other.join(" or ")) };
        return Some(ReadNote::doubt("dates", format!("“{text}” is read {words}, as {read}.{could}")));
    }
    match reason {
        DateReason::Seen => Some(ReadNote {
            doubt: false,
            ..ReadNote::doubt("dates", format!("Dates read {words}: other dates in the file leave no doubt."))
        }),
        DateReason::Guess => Some(ReadNote {
            detail: Some("Check one date below.".into()),
            ..ReadNote::doubt("dates", format!("Dates read {words}; nothing in the file settles it."))
        }),
        DateReason::Usual | DateReason::NoneSuch => None,
    }
}
