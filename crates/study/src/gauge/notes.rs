//! Doubts and facts that gauge studies share.

use super::against::Basis;
use super::operators::{INCONSISTENT, Operator, READS_OFF};
use super::standing::GROUPS;
use crate::notes::note;
use crate::{Note, Pin, Tone};
use acorn_maths::judgement::COARSE;
use acorn_maths::words::{ValueFormat, counted, listed, percent};

/// Panel of the staircase that notes are pinned to: the readings.
pub const STAIRS: usize = 0;
/// The rulers beside them.
pub const RULERS: usize = 1;
/// Bias of each operator.
pub const BIAS: usize = 2;
/// Consistency of each operator.
pub const CONSISTENCY: usize = 3;

/// Parts whose means span less of the tolerance are too alike.
const ALIKE: f64 = 0.25;
/// A larger part of cells whose readings are all alike is a gauge that reads too coarsely (Wheeler 2006).
const EQUAL_MOST: f64 = 0.25;

/// Pinned to a panel, or to an item of it: a reading or an operator.
pub fn pinned(note: Note, panel: usize, item: Option<usize>) -> Note {
    Note { pin: Some(Pin { panel, first: item, last: item, value: None, pattern: None }), ..note }
}

/// The verb of one or of several.
fn verb(subjects: usize, [one, many]: [&'static str; 2]) -> &'static str {
    if subjects == 1 { one } else { many }
}

/// Few different values among the readings, or many cells (`equal` of `cells`) whose readings are all alike.
pub fn coarse(distinct: Option<usize>, n: usize, [equal, cells]: [usize; 2]) -> Option<Note> {
    let few = distinct.filter(|distinct| *distinct <= COARSE);
    let sentence = match few {
        Some(distinct) => {
            let different = counted(distinct, "different value", "different values");
            format!("Only {different} among {n} readings: the decimals are too coarse.")
        }
        None if equal as f64 > EQUAL_MOST * cells as f64 => {
            format!("In {equal} of {cells} cells all readings are alike: the decimals are too coarse.")
        }
        None => return None,
    };
    let detail = "Read one more decimal, and do not look at the reading before.";
    Some(pinned(note(Tone::Caution, sentence, Some(detail.into())), STAIRS, None))
}

/// Who reads off; `without` is the share of the basis without operator differences.
pub fn bias(operators: &[Operator], limits: Option<[f64; 2]>, writer: &ValueFormat, without: Option<(f64, Basis)>) -> Option<Note> {
    let [_, reach] = limits?;
    let off: Vec<String> = operators.iter().filter(|one| one.off).map(|one| format!("{} {}", one.label, writer.signed(one.bias))).collect();
    if off.is_empty() {
        let words = format!("No operator reads off: all lie within ± {} of their mean.", writer.computed(reach));
        return Some(note(Tone::Calm, words, None));
    }
    let detail = without.map(|(part, basis)| format!("Without operator differences: {} of {}.", percent(part), basis.display_text()));
    let verb = verb(off.len(), ["reads", "read"]);
    let worst = (0..operators.len()).filter(|&one| operators[one].off).max_by(|&a, &b| {
        let far = |one: usize| operators[one].bias.abs();
        far(a).total_cmp(&far(b))
    });
    Some(
        pinned(note(Tone::Alarm, format!("{} {verb} off by more than repeating explains.", listed(&off)), detail), BIAS, worst)
            .states(READS_OFF),
    )
}

/// Who does not repeat like the others.
pub fn consistency(operators: &[Operator], limits: Option<[f64; 2]>, writer: &ValueFormat) -> Option<Note> {
    let [low, high] = limits?;
    let who = |wide: bool| {
        let beyond = |sd: f64| if wide { sd > high } else { sd < low };
        let of_side = operators.iter().filter(|one| one.sd.is_some_and(beyond));
        of_side.map(|one| format!("{} (sd {})", one.label, writer.computed(one.sd.unwrap_or_default()))).collect::<Vec<_>>()
    };
    let (wide, narrow) = (who(true), who(false));
    let range =
        format!("All alike would lie between {} and {}, if their errors are near normal.", writer.computed(low), writer.computed(high));
    let (tone, sentence, detail) = match (&wide[..], &narrow[..]) {
        ([], []) => return None,
        ([], _) => {
            let sentence = format!("{} {} better than the others.", listed(&narrow), verb(narrow.len(), ["repeats", "repeat"]));
            (Tone::Unsure, sentence, format!("{range} Learn how."))
        }
        _ => {
            let sentence = format!("{} {} not repeat like the others.", listed(&wide), verb(wide.len(), ["does", "do"]));
            (Tone::Alarm, sentence, format!("{range} Watch how the piece is held and read."))
        }
    };
    let meant = |one: &Operator| one.sd.is_some_and(|sd| if wide.is_empty() { sd < low } else { sd > high });
    Some(pinned(note(tone, sentence, Some(detail)), CONSISTENCY, operators.iter().position(meant)).states(INCONSISTENT))
}

/// Parts times operators that a study should have at least (AIAG MSA, 4th ed.).
pub const CARRIES: usize = 15;

/// Too few parts for what operators and trials can carry.
pub fn few_parts(parts: usize, operators: usize) -> Option<Note> {
    let sentence = format!(
        "{} read by {}: the spread of the parts is hardly known.",
        counted(parts, "part", "parts"),
        counted(operators, "operator", "operators")
    );
    let detail = format!("Parts times operators should be {CARRIES} or more; more trials of the same parts do not help.");
    (parts * operators < CARRIES).then(|| pinned(note(Tone::Unsure, sentence, Some(detail)), RULERS, None))
}

/// Whether the means of the parts span what they should.
pub fn span(span: f64, room: Option<f64>, ndc: Option<f64>) -> Option<Note> {
    let alike = ndc.is_some_and(|ndc| ndc < GROUPS);
    let (sentence, detail) = match room {
        Some(room) if span < ALIKE * room => (
            format!("The parts span only {} of the tolerance: they are too alike.", percent(span / room)),
            "Choose parts from the whole range, bad ones too; else the share of the study and the steps look worse than they are.",
        ),
        Some(room) => return Some(note(Tone::Calm, format!("The parts span {} of the tolerance.", percent(span / room)), None)),
        None if alike => (
            "The parts differ little beside the readings: choose parts from the whole range, bad ones too.".to_owned(),
            "Give the measurement its limits, and the gauge is held against the tolerance too.",
        ),
        None => return None,
    };
    Some(pinned(note(Tone::Caution, sentence, Some(detail.into())), RULERS, None))
}
