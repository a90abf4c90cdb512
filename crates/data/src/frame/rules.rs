//! What is known of a column beforehand: what its values can be, what is believed of them, what causes its signals have.

use serde::{Deserialize, Serialize};

use super::{Column, Kind, Values};
use acorn_maths::words::typed;

/// Most choices, and most causes, of a column.
pub const CHOICES_MOST: usize = 500;
/// The longest of them, in characters.
const CHOICE_CHARS: usize = 200;

/// What the values of a column can be: a value beyond a natural bound or outside the choices is refused where it is typed, one beyond what
/// is believed is taken and told.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(default)]
pub struct Rules {
    /// The natural lower bound, in the unit of the column: such as 0 for a leak rate.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lower_bound: Option<f64>,
    /// The natural upper bound.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub upper_bound: Option<f64>,
    /// The lowest value that is believed.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lowest: Option<f64>,
    /// The highest value that is believed.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub highest: Option<f64>,
    /// The labels that are chosen from; any label when there are none.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub choices: Vec<String>,
    /// The causes that are offered where a signal of its chart is looked into.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub causes: Vec<String>,
}

/// Texts without blanks around, each once.
fn each_once(texts: Vec<String>) -> Vec<String> {
    let mut kept: Vec<String> = Vec::with_capacity(texts.len());
    for text in texts.into_iter().map(|text| text.trim().to_owned()) {
        if !text.is_empty() && !kept.contains(&text) {
            kept.push(text);
        }
    }
    kept
}

impl Rules {
    /// Whether nothing is said.
    pub fn are_none(&self) -> bool {
        *self == Rules::default()
    }

    /// Blank texts and repeats left out, the others without blanks around.
    ///
    /// # Errors
    /// What contradicts itself, in a sentence.
    pub fn checked(mut self) -> Result<Rules, String> {
        (self.choices, self.causes) = (each_once(self.choices), each_once(self.causes));
        for (texts, what) in [(&self.choices, "choices"), (&self.causes, "causes")] {
            if texts.len() > CHOICES_MOST || texts.iter().any(|text| text.chars().count() > CHOICE_CHARS) {
                return Err(format!("a column has {CHOICES_MOST} {what} of {CHOICE_CHARS} characters at most"));
            }
        }
        let all = [self.lower_bound, self.lowest, self.highest, self.upper_bound];
        if all.into_iter().flatten().any(|value| !value.is_finite()) {
            return Err("bounds must be finite numbers".to_owned());
        }
        for ((low, high), words) in [
            ((self.lower_bound, self.upper_bound), "the lower bound {} is not below the upper bound {}"),
            ((self.lowest, self.highest), "the lowest value believed, {}, is not below the highest, {}"),
        ] {
            if let (Some(low), Some(high)) = (low, high)
                && low >= high
            {
                return Err(words.replacen("{}", &typed(low), 1).replacen("{}", &typed(high), 1));
            }
        }
        Ok(self)
    }

    /// Why a number cannot be a value of the column of a name.
    pub fn refuses(&self, column: &str, value: f64) -> Option<String> {
        if let Some(bound) = self.lower_bound.filter(|bound| value < *bound) {
            return Some(format!("{column} cannot be below {}; {} is", typed(bound), typed(value)));
        }
        let bound = self.upper_bound.filter(|bound| value > *bound)?;
        Some(format!("{column} cannot be above {}; {} is", typed(bound), typed(value)))
    }

    /// Why a label cannot be a value of the column of a name.
    pub fn refuses_label(&self, column: &str, label: &str) -> Option<String> {
        /// Choices named.
        const NAMED: usize = 6;
        if self.choices.is_empty() || self.choices.iter().any(|choice| choice == label) {
            return None;
        }
        let named = self.choices[..self.choices.len().min(NAMED)].join(", ");
        let more = self.choices.len().saturating_sub(NAMED);
        let more = if more > 0 { format!(" and {more} more") } else { String::new() };
        Some(format!("“{label}” is none of the choices of {column}: {named}{more}"))
    }

    /// Whether a number is beyond what is believed, or cannot be.
    pub fn doubts(&self, value: f64) -> bool {
        let below = |bound: Option<f64>| bound.is_some_and(|bound| value < bound);
        let above = |bound: Option<f64>| bound.is_some_and(|bound| value > bound);
        below(self.lower_bound) || below(self.lowest) || above(self.upper_bound) || above(self.highest)
    }

    /// What is believed, in words: "from 0 to 5".
    pub fn display_text(&self) -> String {
        let larger = |a: Option<f64>, b: Option<f64>| a.into_iter().chain(b).reduce(f64::max);
        let smaller = |a: Option<f64>, b: Option<f64>| a.into_iter().chain(b).reduce(f64::min);
        match (larger(self.lower_bound, self.lowest), smaller(self.upper_bound, self.highest)) {
            (Some(low), Some(high)) => format!("from {} to {}", typed(low), typed(high)),
            (Some(low), None) => format!("from {} on", typed(low)),
            (None, Some(high)) => format!("up to {}", typed(high)),
            (None, None) => String::new(),
        }
    }
}

impl Column {
    /// The rows whose values are not believed, or are none of the choices.
    pub fn unbelieved(&self) -> Vec<usize> {
        let rules = &self.info.rules;
        match &self.values {
            _ if rules.are_none() => Vec::new(),
            Values::Number(values) => (0..values.len()).filter(|row| rules.doubts(values[*row])).collect(),
            Values::Label { codes, labels } if self.kind == Kind::Category && !rules.choices.is_empty() => {
                let refused: Vec<bool> = labels.iter().map(|label| !rules.choices.contains(label)).collect();
                (0..codes.len()).filter(|row| refused.get(codes[*row] as usize).copied().unwrap_or(false)).collect()
            }
            Values::Label { .. } | Values::Time(_) => Vec::new(),
        }
    }
}
