//! What the columns of a file are: names, kinds, decimal signs, what stands beside their numbers.

use acorn_data::frame::Kind;

use crate::affix::Affix;
use crate::body::{Body, Stored};
use crate::bounds;
use crate::cell::ParseStyle;
use crate::export::as_meant;
use crate::gaps;
use crate::infer::{ColumnLook, DressLook};
use crate::reading::{ReadColumn, ReadNote, ReadOptions};
use crate::stretches::Stretch;
use crate::table::free_name;

/// The byte of a decimal sign.
pub(crate) fn decimal_sign(sign: char) -> u8 {
    if sign == ',' { b',' } else { b'.' }
}

impl Body<'_> {
    /// Looks at so many rows; cells without what stands beside their number.
    pub fn look(&self, rows: usize, affixes: &[Option<Affix>]) -> (Vec<ColumnLook>, DressLook) {
        let mut looks: Vec<ColumnLook> = (0..self.width).map(|_| ColumnLook::default()).collect();
        let mut style = DressLook::default();
        let mut seen = 0;
        let mut stored = Stored::of(self.lines);
        Stretch::whole(self.lines).each_record(self.lines, self.delimiter, |line, record| {
            if self.is_row(line) {
                let stored = stored.at(line);
                for (index, (column, cell)) in looks.iter_mut().zip(record.iter().chain(std::iter::repeat(""))).enumerate() {
                    column.gaps.see(cell);
                    let cell = affixes[index].as_ref().map_or(cell, |affix| affix.strip(cell));
                    if stored.get(index) == Some(&true) { column.see_stored(cell) } else { column.see(cell, &mut style) }
                }
                seen += 1;
            }
            seen < rows
        });
        (looks, style)
    }

    /// Names, kinds and decimal signs, wishes applied: empty names are numbered, repeated ones too.
    pub fn columns(
        &self,
        read_options: &ReadOptions,
        looks: &[ColumnLook],
        file: &DressLook,
        style: ParseStyle,
    ) -> (Vec<ReadColumn>, Vec<ReadNote>) {
        let mut columns: Vec<ReadColumn> = Vec::with_capacity(self.width);
        let mut renamed = Vec::new();
        let mut notes = Vec::new();
        for (index, (header, look)) in self.header.iter().zip(looks).enumerate() {
            let wished = read_options.columns.iter().rev().find(|column| column.index == index);
            let given = wished.and_then(|read_options| read_options.name.as_deref()).unwrap_or_else(|| as_meant(header));
            let name: String = given
                .split_whitespace()
                .collect::<Vec<_>>()
                .join(" ")
                .chars()
                .filter(|letter| !letter.is_control())
                .take(bounds::NAME_CHARS)
                .collect();
            let base = if name.is_empty() { format!("column {}", index + 1) } else { name.clone() };
            let taken = |name: &str| columns.iter().any(|column| column.name == name);
            let unique = free_name(&base, taken);
            if unique != name && self.header_line > 0 {
                renamed.push(unique.clone());
            }
            let asked = wished.and_then(|read_options| read_options.decimal).or(read_options.decimal);
            let (decimal, doubt) = match asked {
                Some(_) => (asked.map_or(style.decimal, decimal_sign), None),
                None => look.decimal(file, self.delimiter),
            };
            let kind = wished.and_then(|read_options| read_options.kind).unwrap_or_else(|| look.kind(decimal));
            let left_out = wished.is_some_and(|read_options| read_options.leave_out);
            let unit = self.units.as_ref().and_then(|(_, units)| units.get(index).cloned().flatten());
            if let Some(name) =
                look.named().filter(|_| !kind.is_numeric() && !left_out && wished.is_none_or(|read_options| read_options.kind.is_none()))
            {
                let number = name.parse::<f64>().map_or_else(|_| String::new(), |value| value.to_string());
                let sentence = format!("{unique}: “{name}” is kept as it is written, as a label. As a number it would be {number}.");
                notes.push(ReadNote::either("labels", index, sentence, [name.to_owned(), number]));
            }
            if look.mixes_zones() && kind == Kind::DateTime && !left_out {
                let sentence = format!("{unique}: some times say their zone and others do not; those that do are taken to UTC.");
                notes.push(ReadNote { column: Some(index), ..ReadNote::doubt("dates", sentence) });
            }
            if let Some(doubt) = doubt.filter(|_| kind.is_numeric() && !left_out) {
                let sentence = format!("{unique}: “{}” is read as {}. It could be {}.", doubt.text, doubt.read_as, doubt.instead);
                let note = ReadNote::either("decimal", index, sentence, [doubt.read_as.clone(), doubt.instead.clone()]);
                notes.push(ReadNote { detail: Some(doubt.reason.to_owned()), ..note });
            }
            let fill_down = wished.is_some_and(|read_options| read_options.fill_down);
            notes.extend((!left_out && (fill_down || look.gaps.in_blocks())).then(|| gaps::note(&unique, index, fill_down)));
            columns.push(ReadColumn {
                index,
                name: unique,
                kind,
                unit,
                decimal: decimal.into(),
                left_out,
                fill_down,
                sign_column: None,
                sample: Vec::new(),
            });
        }
        if !renamed.is_empty() {
            let note = ReadNote::doubt("names", format!("Empty or repeated column names: now {}.", renamed.join(", ")));
            notes.push(ReadNote { detail: Some("Names can be changed above each column.".into()), ..note });
        }
        (columns, notes)
    }
}
