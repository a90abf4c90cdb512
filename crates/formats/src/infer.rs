//! What the columns of a file hold, from what stands in them.

use std::collections::HashSet;

use acorn_data::frame::Kind;

use crate::affix::Affix;
use crate::cell::{is_missing, is_name, parse_number};
use crate::dates::{DateOrder, has_zone, leading_numbers, parse_time, short_date};
use crate::gaps::Gaps;
use crate::reading::Doubt;
use crate::signs;

/// A column with at least this share of fitting values is of that kind; the rest are slips to list.
const FITTING_SHARE: f64 = 0.9;
/// Different labels counted before a column is text.
const LABELS_COUNTED: usize = 500;
const LABEL_CHARS: usize = 60;

/// Counts of what the cells of one column look like.
#[derive(Default)]
pub(crate) struct ColumnLook {
    /// Which of its cells are empty.
    pub gaps: Gaps,
    /// Bounds such as "<0.5".
    bounds: usize,
    filled: usize,
    /// Numbers that only a decimal comma explains, and only a decimal point.
    only: [usize; 2],
    /// Numbers such as 2,401 and such as 2.401, which are either.
    either: [usize; 2],
    /// The first of them.
    example: Option<String>,
    /// Short numbers without any sign, such as 987.
    bare: usize,
    /// Numbers that a workbook stores as such.
    stored: usize,
    point: usize,
    comma: usize,
    whole: usize,
    date: usize,
    /// Whole numbers that are names: zeros in front, or more digits than a number holds.
    names: usize,
    /// The first of them.
    name: Option<String>,
    /// Times that say their zone.
    zoned: usize,
    labels: HashSet<String>,
    longest: usize,
    /// The first unit in a cell, the cells with it, and whether there is another.
    affix: Option<(Affix, usize)>,
    affixes_differ: bool,
}

/// Counts over the whole file that settle how numbers and dates are written.
#[derive(Default)]
pub(crate) struct DressLook {
    /// Numbers that only a decimal comma explains, and only a decimal point.
    only: [usize; 2],
    /// Numbers such as 2,401.
    either: usize,
    first_over_12: usize,
    second_over_12: usize,
    slashes: usize,
    numbered_dates: usize,
    /// Dates of three numbers of two digits, the different first and last numbers of them, and the first of all.
    short: usize,
    ends: [HashSet<u8>; 2],
    short_example: Option<String>,
}

impl ColumnLook {
    /// Looks at a number that a workbook stores as one.
    pub fn see_stored(&mut self, text: &str) {
        self.filled += 1;
        self.stored += 1;
        self.whole += usize::from(!text.contains(['.', 'e']));
    }

    /// Looks at one cell.
    pub fn see(&mut self, text: &str, style: &mut DressLook) {
        let text = text.trim();
        if text.is_empty() || is_missing(text) {
            return;
        }
        self.filled += 1;
        let bound = signs::split(text).map(|(_, number)| number);
        if bound.is_some() {
            self.bounds += 1;
            self.see_label(text);
        }
        let text = bound.unwrap_or(text);
        if is_name(text) {
            self.names += 1;
            self.name.get_or_insert_with(|| text.to_owned());
            self.see_label(text);
            return;
        }
        if text.as_bytes()[0].is_ascii_digit() || matches!(text.as_bytes()[0], b'-' | b'+' | b'.' | b',') || text.starts_with('\u{2212}') {
            let (point, comma) = (parse_number(text, b'.'), parse_number(text, b','));
            self.point += usize::from(point.is_some());
            self.comma += usize::from(comma.is_some());
            self.whole += usize::from(point.is_some() && text.bytes().all(|byte| byte.is_ascii_digit() || matches!(byte, b'-' | b'+')));
            self.see_number(text, point.is_some(), comma.is_some(), style);
            if point.is_some() {
                return;
            }
        }
        if parse_time(text, DateOrder::DayFirst).or_else(|| parse_time(text, DateOrder::MonthFirst)).is_some() {
            self.date += 1;
            self.zoned += usize::from(has_zone(text));
            style.see_date(text);
        } else {
            self.see_label(text);
            self.see_affix(text);
        }
    }

    fn see_affix(&mut self, text: &str) {
        match (&mut self.affix, Affix::of(text)) {
            (Some((known, cells)), Some(found)) if *known == found => *cells += 1,
            (Some(_), Some(_)) => self.affixes_differ = true,
            (none @ None, Some(found)) => *none = Some((found, 1)),
            (_, None) => {}
        }
    }

    /// The one unit that most cells carry beside their number, where the others are numbers or few.
    pub fn affix(&self) -> Option<&Affix> {
        let (affix, cells) = self.affix.as_ref().filter(|_| !self.affixes_differ)?;
        let numbers = cells + self.point.max(self.comma) + self.stored;
        let slips = ((1.0 - FITTING_SHARE) * self.filled as f64).max(1.0);
        (cells * 2 > self.filled && (self.filled - numbers) as f64 <= slips).then_some(affix)
    }

    fn see_label(&mut self, text: &str) {
        if self.labels.len() < LABELS_COUNTED {
            self.longest = self.longest.max(text.chars().count());
            self.labels.insert(text.to_owned());
        }
    }

    /// Whether some times say their zone and others do not, so that they cannot be put in one order.
    pub fn mixes_zones(&self) -> bool {
        self.zoned > 0 && self.zoned < self.date
    }

    /// A number of this column that is a name, where its other values are numbers or names too.
    pub fn named(&self) -> Option<&str> {
        self.name.as_deref().filter(|_| self.names + self.point.max(self.comma) + self.stored == self.filled)
    }

    fn see_number(&mut self, text: &str, point: bool, comma: bool, style: &mut DressLook) {
        let (has_point, has_comma) = (text.contains('.'), text.contains(','));
        match (point, comma) {
            (false, true) => {
                self.only[0] += 1;
                style.only[0] += 1;
            }
            (true, false) => {
                self.only[1] += 1;
                style.only[1] += 1;
            }
            (true, true) if has_comma || has_point => {
                self.either[usize::from(!has_comma)] += 1;
                style.either += usize::from(has_comma);
                self.example.get_or_insert_with(|| text.to_owned());
            }
            (true, true) => self.bare += usize::from(text.len() <= 3),
            (false, false) => {}
        }
    }

    /// The decimal sign of this column, and what speaks for either when nothing in the column settles it.
    ///
    /// What only one sign explains decides. Else 2.401 is two and a bit, unless the file writes decimal commas and the
    /// column has short whole numbers beside it, which grouped thousands have and measured values do not; 2,401 follows
    /// the file, and is a grouped thousand where the file says nothing.
    pub fn decimal(&self, file: &DressLook, delimiter: Option<u8>) -> (u8, Option<Doubt>) {
        let [comma, point] = self.only;
        if comma != point || self.either == [0, 0] {
            return (if comma > point { b',' } else { b'.' }, None);
        }
        let file_has_commas = file.only[0] > file.only[1];
        let about_points = self.either[1] >= self.either[0];
        let sign = match about_points {
            true if file_has_commas && self.bare > 0 => b',',
            true => b'.',
            false if file_has_commas || file.only == [0, 0] && delimiter == Some(b';') => b',',
            false => b'.',
        };
        let settled = if about_points { !file_has_commas && delimiter != Some(b';') } else { file_has_commas };
        let reason = match (about_points, file_has_commas) {
            (true, true) => "Elsewhere in the file a comma stands before decimals.",
            (true, false) => "Files with semicolons often have decimal commas.",
            (false, _) => "No other value in the file settles it.",
        };
        let text = self.example.clone().unwrap_or_default();
        let read = |sign| parse_number(&text, sign).map_or(String::new(), |value| value.to_string());
        let doubt = Doubt { read_as: read(sign), instead: read(if sign == b',' { b'.' } else { b',' }), text, reason };
        (sign, (!settled).then_some(doubt))
    }

    /// The kind of the column, once the decimal sign is known.
    pub fn kind(&self, decimal: u8) -> Kind {
        let numbers = self.stored + if decimal == b',' { self.comma } else { self.point };
        // In a short column one slip is already more than a tenth.
        let slips = ((1.0 - FITTING_SHARE) * self.filled as f64).max(1.0);
        let most = |count: usize| count * 2 > self.filled && (self.filled - count) as f64 <= slips;
        if most(self.date) {
            Kind::DateTime
        } else if self.named().is_some() {
            // Zeros in front, and digits beyond what a number holds, would be lost.
            if self.labels.len() <= 12 || self.labels.len() * 2 <= self.filled { Kind::Category } else { Kind::Text }
        } else if most(numbers) && self.bounds * 2 <= self.filled {
            if self.whole >= numbers { Kind::WholeNumber } else { Kind::Number }
        } else if self.filled > 0
            && self.labels.len() < LABELS_COUNTED
            && self.longest <= LABEL_CHARS
            && (self.labels.len() <= 12 || self.labels.len() * 2 <= self.filled)
        {
            Kind::Category
        } else {
            Kind::Text
        }
    }
}

impl DressLook {
    fn see_date(&mut self, text: &str) {
        if let Some([first, _, last]) = short_date(text) {
            self.short += 1;
            self.ends[0].insert(first);
            self.ends[1].insert(last);
            self.short_example.get_or_insert_with(|| text.to_owned());
        }
        let Some((first, second, separator)) = leading_numbers(text) else {
            return;
        };
        self.numbered_dates += 1;
        self.first_over_12 += usize::from(first > 12);
        self.second_over_12 += usize::from(second > 12);
        self.slashes += usize::from(separator == b'/');
    }

    /// The decimal sign of most of the file: what only one sign explains decides, then the delimiter.
    pub fn decimal(&self, delimiter: Option<u8>) -> u8 {
        let [comma, point] = self.only;
        let comma = comma > point || (comma + point == 0 && self.either > 0 && delimiter == Some(b';'));
        if comma { b',' } else { b'.' }
    }

    /// Which number of an all-number date is the day, and why: the reason is a doubt when nothing settles it.
    pub fn date_order(&self) -> (DateOrder, DateReason) {
        // Days come and go while the year stays: it is the end with fewer different numbers.
        let [first, last] = &self.ends;
        if self.short > 0 && self.short == self.numbered_dates && first.len() < last.len() && last.iter().all(|day| (1..=31).contains(day))
        {
            return (DateOrder::YearFirst, DateReason::Guess);
        }
        match (self.numbered_dates, self.first_over_12, self.second_over_12) {
            (0, ..) => (DateOrder::DayFirst, DateReason::NoneSuch),
            (_, 0, 0) => (DateOrder::DayFirst, if self.slashes > 0 || self.short > 0 { DateReason::Guess } else { DateReason::Usual }),
            (_, first, second) if second > first => (DateOrder::MonthFirst, DateReason::Seen),
            _ => (DateOrder::DayFirst, DateReason::Seen),
        }
    }
}

impl DressLook {
    /// A date whose year may stand at either end.
    pub fn short_date(&self) -> Option<&str> {
        self.short_example.as_deref()
    }
}

/// Why dates are read as they are.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum DateReason {
    NoneSuch,
    Usual,
    Seen,
    Guess,
}
