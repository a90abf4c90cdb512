//! Columns of fixed width: text in which cells stand under each other, with nothing but space between them.

use crate::cell::{is_missing, parse_number};

/// Stands for columns of fixed width among the delimiters.
pub const FIXED: char = ' ';

/// Lines looked at to find where columns begin.
const LOOK: usize = 200;
/// Fewer lines than this stand under each other by chance.
const LINES_LEAST: usize = 3;
/// Lines above a table that are looked past.
const ABOVE_MOST: usize = 10;
/// What parts the columns of other files, and stands at no end of a cell here.
const DELIMITERS: [char; 4] = [',', ';', '\t', '|'];

/// Columns of fixed width in a text.
#[derive(Debug, PartialEq)]
pub struct Fixed {
    /// Lines above the table, which have no columns.
    pub above: usize,
    /// Where each column begins, in characters.
    pub begins: Vec<usize>,
}

/// The columns of a text; `None` when nothing stands under each other. Some lines may stand above the table: it begins where most
/// columns are found.
pub fn columns(text: &str) -> Option<Fixed> {
    let lines: Vec<(usize, Vec<char>)> = text
        .lines()
        .enumerate()
        .filter(|(_, line)| !line.trim().is_empty())
        .take(LOOK)
        .map(|(at, line)| (at, line.chars().collect()))
        .collect();
    if lines.iter().flat_map(|(_, line)| line).any(|letter| *letter == '\t') {
        return None;
    }
    let from = |skipped: usize| {
        let table: Vec<&[char]> = lines.get(skipped..)?.iter().map(|(_, line)| &line[..]).collect();
        Some(Fixed { above: lines.get(skipped)?.0, begins: begins(&table)? })
    };
    (0..=ABOVE_MOST).filter_map(from).rev().max_by_key(|fixed| fixed.begins.len())
}

/// Where the columns of some lines begin. They are parted by two spaces or more that go through all lines, or by one where numbers
/// stand on both sides of it: the space between the words of a label, or between a day and its time, parts nothing.
fn begins(lines: &[&[char]]) -> Option<Vec<usize>> {
    if lines.len() < LINES_LEAST {
        return None;
    }
    let width = lines.iter().map(|line| line.len()).max()?;
    let is_blank = |at: usize| lines.iter().all(|line| line.get(at).is_none_or(|letter| letter.is_whitespace()));
    let mut begins: Vec<usize> = Vec::new();
    // How many blank places stand before each of them.
    let mut gaps: Vec<usize> = Vec::new();
    let mut gap = 2;
    for at in 0..width {
        if is_blank(at) {
            gap += 1;
        } else {
            if gap > 0 {
                begins.push(at);
                gaps.push(gap);
            }
            gap = 0;
        }
    }
    let cells = |begins: &[usize], place: usize| -> Vec<String> {
        let end = begins.get(place + 1).copied();
        lines[1..].iter().map(|line| cell(line, begins[place], end)).collect()
    };
    let is_numbers = |begins: &[usize], place: usize| {
        let number = |text: &String| parse_number(text, b'.').or_else(|| parse_number(text, b',')).is_some();
        cells(begins, place).iter().all(|text| number(text) || is_missing(text))
    };
    let stays = |place: &usize| gaps[*place] > 1 || (is_numbers(&begins, place - 1) && is_numbers(&begins, *place));
    let kept: Vec<usize> = (0..begins.len()).filter(stays).map(|place| begins[place]).collect();
    let is_parted = |text: &String| text.starts_with(DELIMITERS) || text.ends_with(DELIMITERS);
    let parted = (0..kept.len()).any(|place| cells(&kept, place).iter().any(is_parted));
    (kept.len() > 1 && !parted).then_some(kept)
}

fn cell(line: &[char], from: usize, to: Option<usize>) -> String {
    let to = to.unwrap_or(line.len()).min(line.len());
    line.get(from.min(to)..to).unwrap_or_default().iter().collect::<String>().trim().to_owned()
}

/// The same text with a tab between its columns; lines stay where they are.
pub fn with_tabs(text: &str, Fixed { above, begins }: &Fixed) -> String {
    let mut out = String::with_capacity(text.len());
    for (at, line) in text.lines().enumerate() {
        if at < *above {
            out.push_str(line);
            out.push('\n');
            continue;
        }
        let letters: Vec<char> = line.chars().collect();
        for (place, from) in begins.iter().enumerate() {
            let cell = cell(&letters, *from, begins.get(place + 1).copied());
            out.push_str(if place > 0 { "\t" } else { "" });
            match cell.contains('"') {
                true => out.push_str(&format!("\"{}\"", cell.replace('"', "\"\""))),
                false => out.push_str(&cell),
            }
        }
        out.push('\n');
    }
    out
}
