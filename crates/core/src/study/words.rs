//! Numbers and counts in sentences.

use crate::frame::ColumnInfo;

/// Writes values of one column: its decimals and its unit.
#[derive(Clone, Debug)]
pub struct Writer {
    decimals: usize,
    unit: String,
}

impl Writer {
    /// A writer for a column whose values carry `found` decimals, unless the column says otherwise.
    pub fn of(info: &ColumnInfo, found: u8) -> Writer {
        Writer { decimals: info.decimals.unwrap_or(found).into(), unit: info.unit.clone().unwrap_or_default() }
    }

    /// A value with its unit, as many decimals as the values have.
    pub fn value(&self, value: f64) -> String {
        self.with_unit(format!("{value:.*}", self.decimals))
    }

    /// A computed value (a mean, a limit) with its unit, one decimal more than the values have.
    pub fn computed(&self, value: f64) -> String {
        self.with_unit(self.bare(value))
    }

    /// Two computed values: "2.369 to 2.440 mm".
    pub fn interval(&self, low: f64, high: f64) -> String {
        self.with_unit(format!("{} to {}", self.bare(low), self.bare(high)))
    }

    fn bare(&self, value: f64) -> String {
        format!("{value:.*}", self.decimals + 1)
    }

    fn with_unit(&self, number: String) -> String {
        if self.unit.is_empty() { number } else { format!("{number} {}", self.unit) }
    }
}

/// "1 value", "2 values", "1,000 values".
pub fn counted(n: usize, one: &str, many: &str) -> String {
    if n == 1 { format!("1 {one}") } else { format!("{} {many}", grouped(n)) }
}

/// 1234567 as "1,234,567".
pub fn grouped(n: usize) -> String {
    let digits = n.to_string();
    let mut out = String::with_capacity(digits.len() + digits.len() / 3);
    for (i, digit) in digits.chars().enumerate() {
        if i > 0 && (digits.len() - i).is_multiple_of(3) {
            out.push(',');
        }
        out.push(digit);
    }
    out
}

/// "a", "a and b", "a, b and c".
pub fn listed(parts: &[String]) -> String {
    match parts {
        [] => String::new(),
        [one] => one.clone(),
        [most @ .., last] => format!("{} and {last}", most.join(", ")),
    }
}

/// A positive number rounded to two leading digits: 1234 as "1,200", 0.0123 as "0.012".
pub fn about(value: f64) -> String {
    let digits = 1 - value.abs().log10().floor() as i32;
    if digits > 0 {
        return format!("{value:.*}", digits as usize);
    }
    let step = 10f64.powi(-digits);
    grouped(((value / step).round() * step) as usize)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_read_as_people_write_them() {
        assert_eq!(grouped(1_234_567), "1,234,567");
        assert_eq!(about(370.398), "370");
        assert_eq!(about(1234.0), "1,200");
        assert_eq!(about(9.99), "10.0");
        assert_eq!(counted(1, "value", "values"), "1 value");
        let mm = Writer::of(&ColumnInfo { unit: Some("mm".into()), ..ColumnInfo::default() }, 3);
        assert_eq!(mm.interval(2.3689, 2.4398), "2.3689 to 2.4398 mm");
    }
}
