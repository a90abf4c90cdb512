//! Numbers and counts in sentences.

use serde::{Deserialize, Serialize};

/// Writes values of one kind: factor, decimals and unit.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[schema(as = ValueWriter)]
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
    /// A writer without a unit.
    pub fn plain(decimals: usize) -> ValueFormat {
        ValueFormat { factor: 1.0, decimals, computed_decimals: decimals + 1, unit: String::new() }
    }

    /// The same for values of a unit.
    pub fn in_unit(self, unit: &str) -> ValueFormat {
        ValueFormat { unit: unit.to_owned(), ..self }
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
        self.with_unit(decimal(self.factor * value, self.decimals))
    }

    /// A computed value (a mean, a limit) with its unit.
    pub fn computed(&self, value: f64) -> String {
        self.with_unit(self.bare(value))
    }

    /// A difference with its sign and unit.
    pub fn signed(&self, value: f64) -> String {
        let bare = self.bare(value);
        let unsigned = value <= 0.0 || !bare.contains(|digit| matches!(digit, '1'..='9'));
        self.with_unit(if unsigned { bare } else { format!("+{bare}") })
    }

    /// Two computed values: "2.369 to 2.440 mm".
    pub fn interval(&self, low: f64, high: f64) -> String {
        // As many decimals as tell the ends apart, where there is anything to tell.
        let apart = (self.computed_decimals..=self.computed_decimals + 6)
            .map(|decimals| [low, high].map(|value| decimal(self.factor * value, decimals)))
            .find(|[low, high]| low != high);
        self.with_unit(apart.map_or_else(|| self.bare(low), |[low, high]| format!("{low} to {high}")))
    }

    fn bare(&self, value: f64) -> String {
        decimal(self.factor * value, self.computed_decimals)
    }

    fn with_unit(&self, number: String) -> String {
        if self.unit.is_empty() { number } else { format!("{number} {}", self.unit) }
    }
}

/// An index such as Ppk: two decimals and a true minus sign.
pub fn hundredths(value: f64) -> String {
    decimal(value, 2)
}

/// A word with its article: "an exponential", "a normal".
pub fn with_article(word: &str) -> String {
    let article = if word.starts_with(['a', 'e', 'i', 'o', 'u']) { "an" } else { "a" };
    format!("{article} {word}")
}

/// A number as it was typed, with a true minus sign.
pub fn typed(value: f64) -> String {
    // What is shown as 0 has no sign.
    format!("{}", value + 0.0).replace('-', "−")
}

/// A number with so many decimals and a true minus sign, which what is shown as 0 does not have. What lies in the middle is rounded away
/// from 0, as people do and the page does.
fn decimal(value: f64, decimals: usize) -> String {
    let text = if is_middle(value, decimals) { rounded_up(value, decimals) } else { format!("{:.*}", decimals, value.abs()) };
    if value < 0.0 && text.contains(|digit| matches!(digit, '1'..='9')) { format!("−{text}") } else { text }
}

/// Whether a number may lie in the middle between two of so many decimals.
fn is_middle(value: f64, decimals: usize) -> bool {
    let scaled = value.abs() * 10f64.powi(i32::try_from(decimals).unwrap_or(i32::MAX));
    scaled < 1e15 && (scaled.fract() - 0.5).abs() < 1e-3
}

/// The size of a number with so many decimals by its exact digits; from a 5 on it is rounded up.
fn rounded_up(value: f64, decimals: usize) -> String {
    /// More digits than a number has between the smallest steps that are shown.
    const EXACT: usize = 40;
    let mut text = format!("{:.*}", decimals + EXACT, value.abs());
    let is_up = text.as_bytes()[text.len() - EXACT] >= b'5';
    text.truncate(text.len() - EXACT);
    let mut digits: Vec<u8> = text.trim_end_matches('.').bytes().collect();
    let mut place = digits.len();
    let mut carry = is_up;
    while carry && place > 0 {
        place -= 1;
        match digits[place] {
            b'.' => {}
            b'9' => digits[place] = b'0',
            digit => {
                digits[place] = digit + 1;
                carry = false;
            }
        }
    }
    let rest: String = digits.into_iter().map(char::from).collect();
    if carry { format!("1{rest}") } else { rest }
}

/// "1 value", "2 values", "1,000 values"; with their verb, "1 value lies", "2 values lie".
pub fn counted(n: usize, one: &str, many: &str) -> String {
    if n == 1 { format!("1 {one}") } else { format!("{} {many}", grouped(n)) }
}

/// "the one value lies", "all 2 values lie": all of a count with their verb.
pub fn all_of(n: usize, [one, many]: [&str; 2], [does, they_do]: [&str; 2]) -> String {
    if n == 1 { format!("the one {one} {does}") } else { format!("all {} {many} {they_do}", grouped(n)) }
}

/// "1 of 30 values lies", "2 of 30 values lie": a part of a count, its noun after the whole and its verb after the part.
pub fn part_of(part: usize, all: usize, [one, many]: [&str; 2], [does, they_do]: [&str; 2]) -> String {
    format!("{} of {} {}", grouped(part), counted(all, one, many), if part == 1 { does } else { they_do })
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

/// A positive number rounded to two leading digits: 1234 as "1,200", 0.0123 as "0.012", 9.99 as "10".
pub fn about(value: f64) -> String {
    if value == 0.0 {
        return "0".to_owned();
    }
    // Nobody reads ten zeros.
    if !(1e-6..=1e15).contains(&value) {
        let text = format!("{value:.1e}");
        let (digits, power) = text.split_once('e').unwrap_or((&text, ""));
        return format!("{digits} × 10{}", power.chars().map(raised).collect::<String>());
    }
    // Rounded first: what rounds up to a power of ten has a digit less behind the point.
    let rounded: f64 = format!("{value:.1e}").parse().unwrap_or(value);
    let digits = 1 - rounded.abs().max(1e-300).log10().floor() as i32;
    if digits > 0 { format!("{rounded:.*}", digits as usize) } else { grouped(rounded.round() as usize) }
}

/// A letter of a power, raised.
fn raised(letter: char) -> char {
    match letter {
        '1' => '¹',
        '2' => '²',
        '3' => '³',
        '-' => '⁻',
        digit => digit.to_digit(10).and_then(|digit| char::from_u32('⁰' as u32 + digit)).unwrap_or(letter),
    }
}

/// Two ends in words: "0.72 to 0.96"; one where both read alike.
pub fn span(low: &str, high: &str) -> String {
    if low == high { low.to_owned() } else { format!("{low} to {high}") }
}

/// A share in percent as people compare them: "14.7 %", "38 %", "0.4 %".
pub fn percent(share: f64) -> String {
    let percent = 100.0 * share;
    format!("{} %", decimal(percent, if percent.abs() < 19.95 { 1 } else { 0 }))
}

/// A share as people say it: "none", "about 32 ppm", "about 1 in 170", "about 2.4 %".
pub fn share(share: f64) -> String {
    match share {
        s if s <= 0.0 => "none".to_owned(),
        s if s < 1e-9 => "below 0.001 ppm".to_owned(),
        s if s < 1e-4 => format!("about {} ppm", about(s * 1e6).trim_end_matches(".0")),
        s if s < 0.0095 => format!("about 1 in {}", about(1.0 / s)),
        s if s < 0.0995 => format!("about {:.1} %", 100.0 * s),
        s => format!("about {:.0} %", 100.0 * s),
    }
}

/// A chance in words: "p below 0.001", "p = 0.034".
pub fn chance(p: f64) -> String {
    if p < 0.001 { "p below 0.001".to_owned() } else { format!("p = {}", decimal(p, 3)) }
}

/// A chance with four digits: "0.0295", "below 0.0001".
pub fn small(p: f64) -> String {
    if p < 0.0001 { "below 0.0001".to_owned() } else { format!("{p:.4}") }
}

/// A correlation, two decimals and a true minus.
pub fn correlation(r: f64) -> String {
    decimal(r, 2)
}

/// A label of a column: "mould B", but "bench 3" where the label says it already.
pub fn level(column: &str, label: &str) -> String {
    match label.strip_prefix('-') {
        Some(below) if below.starts_with(|first: char| first.is_ascii_digit()) => format!("{column} −{below}"),
        _ if label.to_lowercase().starts_with(&column.to_lowercase()) => label.to_owned(),
        _ => format!("{column} {label}"),
    }
}

/// The text with a capital first letter.
pub fn capital(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}
