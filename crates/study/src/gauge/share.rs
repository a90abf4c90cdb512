//! How much of a spread is measuring.
//!
//! What is seen is the process and the gauge together: s² = s²process + s²gauge (AIAG MSA, 4th ed., ch. I). The gauge's share is
//! s gauge / s, and without it s would be √(s² − s²gauge).

use serde::Serialize;

use super::standing::{GOOD, POOR};
use crate::card::Formula;
use crate::notes::note;
use crate::{Note, Table, Term, Tone};
use acorn_data::frame::Measuring;
use acorn_maths::words::{ValueFormat, percent};

/// A formula for the card of a method that tells the share.
pub const FORMULA: Formula = Formula::new(
    "gauge-share",
    "Share of the gauge",
    "s of the gauge / s seen; without it s would be √(s² − s²gauge)",
    "AIAG MSA, 4th ed., ch. I",
);

/// The gauge's share of a spread.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct GaugeShare {
    /// The gauge, as people call it.
    pub gauge: String,
    /// The day of its last study.
    pub day: String,
    /// Its sd.
    pub sd: f64,
    /// That over the sd seen.
    pub share: f64,
    /// The sd without it; null when the gauge varies as much as everything seen.
    pub sd_without: Option<f64>,
}

impl GaugeShare {
    /// Of an sd above 0.
    pub fn of(measuring: Option<&Measuring>, sd: Option<f64>) -> Option<GaugeShare> {
        let (measuring, sd) = (measuring?, sd.filter(|sd| sd.is_finite() && *sd > 0.0)?);
        let left = sd * sd - measuring.sd * measuring.sd;
        Some(GaugeShare {
            gauge: measuring.gauge.clone(),
            day: measuring.day.clone(),
            sd: measuring.sd,
            share: measuring.sd / sd,
            sd_without: (left > 0.0).then(|| left.sqrt()),
        })
    }

    /// The note in the margin; `index` is an index with its name as it is and as it would be without the gauge.
    pub fn note(&self, spread: &str, writer: &ValueFormat, index: Option<(&str, f64, f64)>) -> Note {
        let GaugeShare { gauge, day, sd, share, sd_without } = self;
        let from = format!("The sd of the gauge is {} by its study of {day}", writer.computed(*sd));
        let Some(without) = sd_without else {
            let sentence = format!("{gauge} by itself varies as much as all that is seen here.");
            return note(
                Tone::Alarm,
                sentence,
                Some(format!("{from}: either it does better now, or all of this is measuring. Study it again.")),
            );
        };
        let index = index.map(|(name, is, would)| format!("; without it {name} would be {would:.2}, not {is:.2}")).unwrap_or_default();
        let tone = if *share <= GOOD {
            Tone::Calm
        } else if *share <= POOR {
            Tone::Unsure
        } else {
            Tone::Caution
        };
        let sentence = format!("About {} of {spread} is measuring ({gauge}){index}.", percent(*share));
        note(tone, sentence, Some(format!("{from}; without it the sd would be {}: √(s² − s²gauge).", writer.computed(*without))))
    }

    /// The share as a person reads it in the ledger.
    pub fn table(of: Option<&GaugeShare>, writer: &ValueFormat) -> Table {
        let (fine, percent) = (writer.finer(), ValueFormat::percent(1));
        let term = |words: &str, format: &ValueFormat, number: Option<f64>| Term::new(words, format, FORMULA.id, [number]);
        let terms = vec![
            term("gauge sd", &fine, of.map(|of| of.sd)),
            term("share of the gauge", &percent, of.map(|of| of.share)),
            term("sd without the gauge", &fine, of.and_then(|of| of.sd_without)),
        ];
        Table::of_terms("measuring", "Measuring", &["", "value"], terms)
    }
}
