//! Numbers and counts in sentences.

use serde::Serialize;

use crate::frame::ColumnInfo;

/// Writes values of one kind: factor, decimals and unit.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "openapi", schema(as = ValueWriter))]
pub struct ValueFormat {
    /// What a value is multiplied by before it is written: 100 for percent.
    factor: f64,
    /// Decimals of a value.
    decimals: usize,
    /// Decimals of a computed value, such as a mean or a limit.
    computed_decimals: usize,
    /// The unit; empty when there is none.
    unit: String,
}

impl Default for ValueFormat {
    fn default() -> Self {
        ValueFormat::plain(0)
    }
}

impl ValueFormat {
    /// A writer for a column whose values carry `found` decimals, unless the column says otherwise.
    pub fn of(info: &ColumnInfo, found: u8) -> ValueFormat {
        let decimals = info.decimals.unwrap_or(found).into();
        ValueFormat { unit: info.unit.clone().unwrap_or_default(), ..ValueFormat::plain(decimals) }
    }

    /// A writer without a unit.
    pub fn plain(decimals: usize) -> ValueFormat {
        ValueFormat { factor: 1.0, decimals, computed_decimals: decimals + 1, unit: String::new() }
    }

    /// A writer of counts and running numbers.
    pub fn whole() -> ValueFormat {
        ValueFormat { computed_decimals: 0, ..ValueFormat::plain(0) }
    }

    /// A writer of shares in percent.
    pub fn percent(decimals: usize) -> ValueFormat {
        ValueFormat { factor: 100.0, computed_decimals: decimals, unit: "%".to_owned(), ..ValueFormat::plain(decimals) }
    }

    /// A writer of so many decimals, values and computed ones alike.
    pub fn fixed(decimals: usize) -> ValueFormat {
        ValueFormat { computed_decimals: decimals, ..ValueFormat::plain(decimals) }
    }

    /// The unit; empty when there is none.
    pub fn unit(&self) -> &str {
        &self.unit
    }

    /// A writer with two leading digits of a typical sd.
    pub fn fine(unit: &str, factor: f64, sd: f64) -> ValueFormat {
        let digits = 1.0 - (factor * sd).abs().max(1e-300).log10().floor();
        let decimals = if sd == 0.0 { 2 } else { digits.clamp(0.0, 8.0) as usize };
        ValueFormat { factor, decimals, computed_decimals: decimals, unit: unit.to_owned() }
    }

    /// The same for means: values as fine as computed ones.
    pub fn finer(&self) -> ValueFormat {
        ValueFormat { decimals: self.computed_decimals, ..self.clone() }
    }

    /// A value with its unit, as many decimals as the values have.
    pub fn value(&self, value: f64) -> String {
        self.with_unit(format!("{:.*}", self.decimals, self.factor * value))
    }

    /// A computed value (a mean, a limit) with its unit.
    pub fn computed(&self, value: f64) -> String {
        self.with_unit(self.bare(value))
    }

    /// A difference with its sign and unit.
    pub fn signed(&self, value: f64) -> String {
        let bare = self.bare(value.abs());
        self.with_unit(if value < 0.0 { format!("−{bare}") } else { format!("+{bare}") })
    }

    /// Two computed values: "2.369 to 2.440 mm".
    pub fn interval(&self, low: f64, high: f64) -> String {
        self.with_unit(format!("{} to {}", self.bare(low), self.bare(high)))
    }

    fn bare(&self, value: f64) -> String {
        format!("{:.*}", self.computed_decimals, self.factor * value)
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
    let digits = 1 - value.abs().max(1e-300).log10().floor() as i32;
    if digits > 0 {
        return format!("{value:.*}", digits as usize);
    }
    let step = 10f64.powi(-digits);
    grouped(((value / step).round() * step) as usize)
}

/// A share as people say it: "none", "2.4 %", "about 6 in 1,000", "about 32 in a million".
pub fn share(share: f64) -> String {
    let round = |of: f64| grouped((share * of).round() as usize);
    match share {
        s if s <= 0.0 => "none".to_owned(),
        s if s < 1e-9 => "fewer than 1 in a thousand million".to_owned(),
        s if s < 1e-6 => format!("about {} in a thousand million", round(1e9)),
        s if s < 9.5e-4 => format!("about {} in a million", about(s * 1e6).trim_end_matches(".0")),
        s if s < 0.0095 => format!("about {} in 1,000", round(1e3)),
        s if s < 0.0995 => format!("about {:.1} %", 100.0 * s),
        s => format!("about {:.0} %", 100.0 * s),
    }
}

/// A chance in words: "p below 0.001", "p = 0.034".
pub fn chance(p: f64) -> String {
    if p < 0.001 { "p below 0.001".to_owned() } else { format!("p = {p:.3}") }
}

/// The text with a capital first letter.
pub fn capital(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
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
        assert_eq!(share(0.006), "about 6 in 1,000");
        assert_eq!(share(3.2e-5), "about 32 in a million");
        assert_eq!(share(0.0), "none");
        assert_eq!(counted(1, "value", "values"), "1 value");
        let mm = ValueFormat::of(&ColumnInfo { unit: Some("mm".into()), ..ColumnInfo::default() }, 3);
        assert_eq!(mm.interval(2.3689, 2.4398), "2.3689 to 2.4398 mm");
    }
}
