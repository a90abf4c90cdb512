//! What the columns of a file hold, from what stands in them.

use std::collections::HashSet;

use acorn_core::frame::Kind;

use crate::cell::{is_missing, parse_number};
use crate::dates::{DateOrder, leading_numbers, parse_time};

/// A column with at least this share of fitting values is of that kind; the rest are slips to list.
const FITTING_SHARE: f64 = 0.9;
/// Different labels counted before a column is text.
const LABELS_COUNTED: usize = 500;
const LABEL_CHARS: usize = 60;

/// Counts of what the cells of one column look like.
#[derive(Default)]
pub(crate) struct ColumnLook {
    filled: usize,
    point: usize,
    comma: usize,
    whole: usize,
    date: usize,
    labels: HashSet<String>,
    longest: usize,
}

/// Counts over the whole file that settle how numbers and dates are written.
#[derive(Default)]
pub(crate) struct DressLook {
    /// Numbers that only a decimal comma explains.
    comma: usize,
    /// Numbers that only a decimal point explains.
    point: usize,
    /// Numbers such as 2,401 that are either.
    either: usize,
    first_over_12: usize,
    second_over_12: usize,
    slashes: usize,
    numbered_dates: usize,
}

impl ColumnLook {
    /// Looks at one cell.
    pub fn see(&mut self, text: &str, dress: &mut DressLook) {
        let text = text.trim();
        if text.is_empty() || is_missing(text) {
            return;
        }
        self.filled += 1;
        if text.as_bytes()[0].is_ascii_digit() || matches!(text.as_bytes()[0], b'-' | b'+' | b'.' | b',') {
            let (point, comma) = (parse_number(text, b'.'), parse_number(text, b','));
            self.point += usize::from(point.is_some());
            self.comma += usize::from(comma.is_some());
            self.whole += usize::from(point.is_some() && text.bytes().all(|byte| byte.is_ascii_digit() || matches!(byte, b'-' | b'+')));
            dress.see_number(text, point, comma);
            if point.is_some() {
                return;
            }
        }
        if parse_time(text, DateOrder::DayFirst).or_else(|| parse_time(text, DateOrder::MonthFirst)).is_some() {
            self.date += 1;
            dress.see_date(text);
        } else if self.labels.len() < LABELS_COUNTED {
            self.longest = self.longest.max(text.chars().count());
            self.labels.insert(text.to_owned());
        }
    }

    /// The kind of the column, once the decimal sign is known.
    pub fn kind(&self, decimal: u8) -> Kind {
        let numbers = if decimal == b',' { self.comma } else { self.point };
        // In a short column one slip is already more than a tenth.
        let slips = ((1.0 - FITTING_SHARE) * self.filled as f64).max(1.0);
        let most = |count: usize| count * 2 > self.filled && (self.filled - count) as f64 <= slips;
        if most(self.date) {
            Kind::DateTime
        } else if most(numbers) {
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
    fn see_number(&mut self, text: &str, point: Option<f64>, comma: Option<f64>) {
        let has = |sign| text.contains(sign);
        match (point, comma) {
            (Some(_), Some(_)) if has(',') => self.either += 1,
            (None, Some(_)) if has(',') => self.comma += 1,
            (Some(_), None) if has('.') => self.point += 1,
            _ => {}
        }
    }

    fn see_date(&mut self, text: &str) {
        let Some((first, second, separator)) = leading_numbers(text) else {
            return;
        };
        self.numbered_dates += 1;
        self.first_over_12 += usize::from(first > 12);
        self.second_over_12 += usize::from(second > 12);
        self.slashes += usize::from(separator == b'/');
    }

    /// The decimal sign: what only one sign explains decides, then the delimiter.
    pub fn decimal(&self, delimiter: Option<u8>) -> u8 {
        let unclear = self.comma == 0 && self.point == 0;
        let comma = self.comma > self.point || (unclear && self.either > 0 && delimiter == Some(b';'));
        if comma { b',' } else { b'.' }
    }

    /// Which number of an all-number date is the day, and why: the reason is a doubt when nothing settles it.
    pub fn date_order(&self) -> (DateOrder, DateReason) {
        match (self.numbered_dates, self.first_over_12, self.second_over_12) {
            (0, ..) => (DateOrder::DayFirst, DateReason::NoneSuch),
            (_, 0, 0) => (DateOrder::DayFirst, if self.slashes > 0 { DateReason::Guess } else { DateReason::Usual }),
            (_, first, second) if second > first => (DateOrder::MonthFirst, DateReason::Seen),
            _ => (DateOrder::DayFirst, DateReason::Seen),
        }
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
