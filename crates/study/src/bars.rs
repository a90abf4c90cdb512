//! How wide the bars of a histogram are: slots of a card, and what they say.

use super::card::{Choice, Field, Slot, SlotKind};
use super::{StudyError, ValidatedSpec, reading::bad};
use acorn_data::figure::histogram::{BARS_MOST, BarWidth, Bars, Unfit};

/// The slots of bars.
pub fn slots() -> [Slot; 2] {
    let field = |name, label, low| Field::number(name, label, true, Some(low));
    let choices = vec![
        Choice::plain("auto", "found from the values", "Rounded to 1, 2 or 5; the usual way."),
        Choice::with("width", "{width} wide", "You can also drag the edge of a bar.", vec![field("width", "width", f64::MIN_POSITIVE)]),
        Choice::with("count", "{count} in number", "Over the range of the values.", vec![field("count", "number of bars", 1.0)]),
    ];
    [
        Slot::new("bins", "bars", SlotKind::Choice { tag: "=", choices }),
        Slot::new("bin_start", "edge of the first bar", SlotKind::number("beginning at {}", "where the values begin", f64::MIN, f64::MAX))
            .quiet(),
    ]
}

/// Reads the slots of bars.
///
/// # Errors
/// [`StudyError::BadOption`] for more bars than can be drawn.
pub fn read(asked: &ValidatedSpec) -> Result<Bars, StudyError> {
    let given: Option<serde_json::Map<String, serde_json::Value>> =
        asked.option::<serde_json::Value>("bins")?.and_then(|value| value.as_object().cloned());
    let number = |name: &str| given.as_ref().and_then(|given| given.get(name)).and_then(serde_json::Value::as_f64);
    let width = match (number("width"), number("count")) {
        (Some(width), _) => BarWidth::Width(width),
        (None, Some(count)) if count > BARS_MOST as f64 || count.fract() != 0.0 => {
            return Err(bad("bins.count", format!("{count} is no number of bars from 1 to {BARS_MOST}")));
        }
        (None, Some(count)) => BarWidth::Count(count as usize),
        (None, None) => BarWidth::Auto,
    };
    Ok(Bars { width, start: asked.number("bin_start") })
}

impl From<Unfit> for StudyError {
    fn from(Unfit { option, value, low, high }: Unfit) -> StudyError {
        StudyError::OutOfRange { option: option.to_owned(), value, low, high }
    }
}
