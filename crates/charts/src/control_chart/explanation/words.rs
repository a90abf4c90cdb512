//! An explanation in words: the verdict, what it proposes, and what to ask next.

use std::collections::BTreeMap;

use serde_json::{Map, Value, json};

use super::Explanation;
use crate::control_chart::answer::Chart;
use crate::control_chart::kind::ChartKind;
use acorn_maths::words::{ValueFormat, about, correlation, counted, level, with_article};
use acorn_study::{NextQuestion, Offer, RoleColumns, Tone};

impl Explanation {
    /// The verdict's title.
    pub fn title(&self) -> String {
        match self {
            Explanation::Alternating { .. } => "Streams alternate".to_owned(),
            Explanation::Stratified { .. } => "Streams mixed in subgroups".to_owned(),
            Explanation::Streams { .. } => "Streams mixed".to_owned(),
            Explanation::TwoGroups { .. } => "Two groups".to_owned(),
            Explanation::Wear { by, rise } => format!("{} within each {by}", if *rise > 0.0 { "Rises" } else { "Falls" }),
            Explanation::Batches { .. } => "Batches differ".to_owned(),
            Explanation::Cycle { .. } => "Cycles".to_owned(),
            Explanation::Autocorrelated { .. } => "Autocorrelated".to_owned(),
            Explanation::Skewed(_) => "Skewed".to_owned(),
            Explanation::HeavyTails => "Heavy tails".to_owned(),
            Explanation::Overdispersed { .. } => "Overdispersed".to_owned(),
            Explanation::Underdispersed { .. } => "Underdispersed".to_owned(),
            Explanation::Rare { .. } => "Too rare to judge".to_owned(),
            Explanation::Coarse { .. } => "Too coarse to judge".to_owned(),
        }
    }

    /// How grave it is.
    pub fn tone(&self) -> Tone {
        match self {
            Explanation::Wear { .. } | Explanation::Batches { .. } | Explanation::Cycle { .. } | Explanation::Autocorrelated { .. } => {
                Tone::Alarm
            }
            Explanation::Rare { .. } => Tone::Unsure,
            _ => Tone::Caution,
        }
    }

    /// What is so, as a sentence without its title.
    pub fn finding(&self, chart: &Chart) -> String {
        let (one, many) = chart.noun();
        let write = |value: f64| chart.writer().computed(value);
        match self {
            Explanation::Alternating { streams, apart, by } => {
                let by = by.as_ref().map(|by| format!(", one for each {by}")).unwrap_or_default();
                let every = ["every second", "every third", "every fourth", "every fifth"].get(*streams - 2);
                let every = every.map_or_else(|| format!("every {streams}th"), |every| (*every).to_owned());
                format!("{every} {one} comes from the same stream{by}; the streams are {} apart", write(*apart))
            }
            Explanation::Stratified { times, ends, by } => {
                let between = match (ends, by) {
                    (Some(([low, high], apart)), Some(by)) => {
                        format!("; {} runs {} above {}", level(by, high), write(*apart), level(by, low))
                    }
                    (Some(([low, high], apart)), None) => format!("; {high} runs {} above {low}", write(*apart)),
                    (None, _) => String::new(),
                };
                format!(
                    "each subgroup holds pieces of several streams, so the limits are about {} times as wide as the means need{between}",
                    about(*times)
                )
            }
            Explanation::Streams { by, ends: [low, high], apart } => {
                format!("{} runs {} above {}, and one chart mixes them", level(by, high), write(*apart), level(by, low))
            }
            Explanation::TwoGroups { centers: [low, high] } => {
                format!("the values gather about {} and about {}, with few in between", write(*low), write(*high))
            }
            Explanation::Wear { by, rise } => {
                let (rise_word, back) = if *rise > 0.0 { ("rise", "fall back") } else { ("fall", "jump back") };
                format!("the values {rise_word} by about {} within each {by} and {back} at the change", write(rise.abs()))
            }
            Explanation::Batches { by, times } => {
                let by = by.as_deref().unwrap_or("subgroup");
                format!(
                    "{by} means vary {} times as much as values within one {by}, and limits from within do not allow for that",
                    about(*times)
                )
            }
            Explanation::Cycle { period } => {
                format!("the {many} rise and fall about every {} {many}", ValueFormat::plain(0).value(*period))
            }
            Explanation::Autocorrelated { r } => {
                format!("each {one} is close to the one before it (r = {}), so the limits are too narrow", correlation(*r))
            }
            Explanation::Skewed(family) => {
                let above = if family.has_threshold() { " above a threshold" } else { "" };
                let plain = with_article(family.plain().display_text());
                format!("{plain} distribution{above} describes the values, and their order is steady")
            }
            Explanation::HeavyTails => {
                "far more values lie far out on both sides than in a normal distribution, and their order is steady".to_owned()
            }
            Explanation::Overdispersed { times } => {
                format!("the subgroups scatter {} times as widely as counting alone explains, so these limits are too tight", about(*times))
            }
            Explanation::Underdispersed { times } => format!(
                "the subgroups scatter only {} times as widely as counting alone explains, so these limits are too wide",
                about(*times)
            ),
            Explanation::Rare { mean } => format!("only {} are expected in a subgroup, so the limits say little", about(*mean)),
            Explanation::Coarse { step, sds } => format!(
                "the readings come in steps of {}, {} times the sd, and nothing smaller than a step can be seen",
                chart.writer().value(*step),
                about(*sds)
            ),
        }
    }

    /// What to do about it, as a sentence.
    pub fn advice(&self, chart: &Chart) -> String {
        let many = chart.noun().1;
        match self {
            Explanation::Alternating { by: Some(by), .. }
            | Explanation::Streams { by, .. }
            | Explanation::Stratified { by: Some(by), .. } => {
                format!("Chart each {by} by itself.")
            }
            Explanation::Alternating { by: None, .. } => {
                "Find what takes turns (cavity, spindle, shift), and chart each by itself.".to_owned()
            }
            Explanation::Stratified { by: None, .. } => "Chart each stream by itself, or between and within subgroups.".to_owned(),
            Explanation::TwoGroups { .. } => {
                "Find what tells them apart (cavity, line, lot), record it, and chart each by itself.".to_owned()
            }
            Explanation::Wear { by, .. } => {
                format!("Signals about one level say little: set how far a {by} may run, or chart how far values are from the line.")
            }
            Explanation::Batches { .. } => "Chart the batch means, and the spread within batches beneath.".to_owned(),
            Explanation::Cycle { .. } => "Look for what comes back as often, such as a shift, a pallet or the heating.".to_owned(),
            Explanation::Autocorrelated { .. } => {
                format!("Take the {many} farther apart, or take the limits from the spread of all of them.")
            }
            Explanation::Skewed(_) | Explanation::HeavyTails => "Choose the distribution first, then judge single values.".to_owned(),
            Explanation::Overdispersed { .. } => {
                let prime = if matches!(chart.kind, ChartKind::P | ChartKind::Np) { "p′" } else { "u′" };
                format!("Use {prime} limits, and look for what makes the {many} differ.")
            }
            Explanation::Underdispersed { .. } => "Check how they are counted: are defectives evened out, or rounded?".to_owned(),
            Explanation::Rare { .. } => "Chart the good pieces between two bad ones (g), or inspect more at a time.".to_owned(),
            Explanation::Coarse { .. } => "Record one more decimal, or use a finer gauge.".to_owned(),
        }
    }

    /// Another chart that fits.
    pub fn offers(&self, chart: &Chart) -> Vec<Offer> {
        let offer = |label: &str, options: &[(&str, Value)]| Offer {
            label: label.to_owned(),
            options: options.iter().map(|(name, value)| ((*name).to_owned(), value.clone())).collect::<Map<_, _>>(),
            figure: None,
        };
        let to_kind = |kind: ChartKind, label: &str| vec![offer(label, &[("chart", json!(kind.name()))])];
        match self {
            Explanation::Batches { .. } | Explanation::Stratified { .. } if chart.sampled() => {
                to_kind(ChartKind::XbarBetween, "Chart between and within subgroups")
            }
            Explanation::Overdispersed { .. } => match chart.kind {
                ChartKind::P | ChartKind::Np => to_kind(ChartKind::PPrime, "Use p′ limits"),
                _ => to_kind(ChartKind::UPrime, "Use u′ limits"),
            },
            Explanation::Autocorrelated { .. } if !chart.sampled() => match (chart.moments.mean, chart.moments.sd) {
                (Some(mean), Some(sd)) => {
                    let known = json!({"from": "known", "center": mean, "sigma": sd});
                    vec![offer("Limits from the spread of all values", &[("limits", known)])]
                }
                _ => Vec::new(),
            },
            _ => Vec::new(),
        }
    }

    /// What to ask next.
    pub fn next(&self, chart: &Chart) -> Vec<NextQuestion> {
        let one = |name: &str| RoleColumns::One(name.to_owned());
        let measure = || BTreeMap::from([("measure".to_owned(), one(&chart.column))]);
        let with = |role: &str, column: &str| {
            let mut roles = measure();
            roles.insert(role.to_owned(), one(column));
            roles
        };
        let differ = |by: &str| {
            let question = format!("Does {} differ by {by}?", chart.column);
            NextQuestion::of("compare", &question, "Streams that differ need a chart and an index of their own.", with("group", by))
        };
        match self {
            Explanation::Alternating { by: Some(by), .. } | Explanation::Streams { by, .. } => vec![differ(by)],
            Explanation::Stratified { by: Some(by), .. } => vec![differ(by)],
            Explanation::Stratified { by: None, .. } => {
                let why = "One stream by itself shows what the mixture hides.";
                vec![NextQuestion::of("control-chart", &format!("Is {} steady by itself?", chart.column), why, measure())]
            }
            Explanation::Batches { by: Some(by), .. } if !chart.sampled() => {
                let mut next = NextQuestion::of(
                    "control-chart",
                    &format!("Are the means of {by} steady?"),
                    "Limits from the scatter of the means allow for batches that differ.",
                    with("subgroup", by),
                );
                next.options.insert("chart".to_owned(), ChartKind::XbarBetween.name().into());
                vec![next]
            }
            Explanation::TwoGroups { .. } => {
                let why = "Tries every other column: one that tells the two groups apart stands out.";
                let roles = measure();
                vec![NextQuestion::of("screening", &format!("What goes with {}?", chart.column), why, roles)]
            }
            Explanation::Skewed(_) | Explanation::HeavyTails => {
                let why = "Limits and indices depend on it.";
                vec![NextQuestion::of("fit-distribution", &format!("Which distribution does {} have?", chart.column), why, measure())]
            }
            _ => Vec::new(),
        }
    }

    /// "3 signals" that follow from it, or nothing.
    pub fn signals(&self, chart: &Chart) -> String {
        let seen = chart.alarms().seen;
        if seen == 0 || self.is_mixture() || matches!(self, Explanation::Coarse { .. } | Explanation::Rare { .. }) {
            return String::new();
        }
        let follow = if seen == 1 { "follows" } else { "follow" };
        format!("; {} {follow} from that", counted(seen, "signal", "signals"))
    }
}
