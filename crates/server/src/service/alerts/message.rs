//! What a message says.

use acorn_store::{Alert, Collection};
use jiff::Timestamp;
use jiff::tz::TimeZone;
use serde::Serialize;

/// A message, as a web hook gets it in JSON.
#[derive(Serialize)]
pub struct Message {
    /// What it is about, in a line.
    pub subject: String,
    /// When it was written, in milliseconds since 1970.
    pub written_at: i64,
    /// Everything that waits for somebody.
    pub alerts: Vec<Line>,
}

/// One alert.
#[derive(Serialize)]
pub struct Line {
    /// Its number.
    pub id: i64,
    /// Its plan.
    pub plan: String,
    /// What it is, in a sentence.
    pub words: String,
    /// How much of it there is.
    pub count: i64,
    /// When it began, in milliseconds since 1970.
    pub began_at: i64,
    /// How often this addressee was told of it before.
    pub told_before: u32,
    /// Where it is taken on.
    pub link: String,
}

impl Message {
    /// What one addressee is told.
    pub fn new(alerts: &[(&Alert, &Collection)], address: &str, site: &str, written_at: i64) -> Message {
        let line = |&(alert, plan): &(&Alert, &Collection)| Line {
            id: alert.id,
            plan: plan.plan.name.clone(),
            words: alert.words.clone(),
            count: alert.count,
            began_at: alert.began_at,
            told_before: alert.told.iter().find(|told| told.address == address).map_or(0, |told| told.times),
            link: format!("{}/floor/{}", site.trim_end_matches('/'), plan.id),
        };
        let alerts: Vec<Line> = alerts.iter().map(line).collect();
        let again = if alerts.iter().all(|line| line.told_before > 0) { "Again: " } else { "" };
        let subject = match &alerts[..] {
            [one] => format!("{again}{}: {}", one.plan, one.words.trim_end_matches('.')),
            [first, ..] if alerts.iter().all(|line| line.plan == first.plan) => {
                format!("{again}{}: {} things wait", first.plan, alerts.len())
            }
            _ => format!("{again}{} things wait for somebody", alerts.len()),
        };
        Message { subject, written_at, alerts }
    }

    /// The same as plain text.
    pub fn text(&self) -> String {
        let mut text = String::new();
        for Line { plan, words, began_at, link, .. } in &self.alerts {
            text.push_str(&format!("{plan}, since {}:\n  {words}\n  {link}\n\n", clock(*began_at)));
        }
        text + "You are told again until somebody takes it on, on the page behind the link.\n"
    }
}

/// A moment by the clock of the plant.
pub fn clock(at: i64) -> String {
    let moment = Timestamp::from_millisecond(at).unwrap_or_default();
    moment.to_zoned(TimeZone::system()).strftime("%Y-%m-%d %H:%M").to_string()
}
