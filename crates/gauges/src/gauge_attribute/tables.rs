//! What a person reads of a study of judgements.

use super::numbers::{Agreement, Kappa, Numbers, PairKappa};
use super::ratings::Ratings;
use acorn_maths::words::ValueFormat;
use acorn_study::{Table, View};

/// All tables.
pub fn all(of: &Numbers) -> Vec<Table> {
    let all = [agreement(of), errors(of), kappa(of), pairs(of)];
    all.into_iter().filter(|table| table.rows() > 0).collect()
}

fn agreement(of: &Numbers) -> Table {
    let mut lines: Vec<(String, Agreement)> = Vec::new();
    for one in of.within.iter().flatten() {
        lines.push((format!("{} with themselves", one.operator), one.agreement));
    }
    for one in of.against.iter().flatten() {
        lines.push((format!("{} with the reference", one.operator), one.agreement));
    }
    lines.push(("all with each other".to_owned(), of.between));
    lines.extend(of.all_against.map(|one| ("all with the reference".to_owned(), one)));
    let percent = ValueFormat::percent(1);
    let each = || lines.iter().map(|(_, one)| one);
    Table::new("agreement", "Agreement")
        .texts("", lines.iter().map(|(words, _)| Some(words.clone())))
        .wholes("inspected", Some("agreement"), each().map(|one| one.inspected))
        .wholes("agreed", Some("agreement"), each().map(|one| one.matched))
        .numbers("share", Some(&percent), Some("agreement"), each().map(|one| Some(one.share)))
        .numbers("95 % from", Some(&percent), Some("agreement"), each().map(|one| Some(one.ci95[0])))
        .numbers("95 % to", Some(&percent), Some("agreement"), each().map(|one| Some(one.ci95[1])))
}

fn errors(of: &Numbers) -> Table {
    let errors = of.errors.as_deref().unwrap_or_default();
    let percent = ValueFormat::percent(1);
    Table::new("errors", "Wrong judgements")
        .texts("operator", errors.iter().map(|one| Some(one.operator.clone())))
        .wholes("missed", Some("errors"), errors.iter().map(|one| one.misses))
        .numbers("miss rate", Some(&percent), Some("errors"), errors.iter().map(|one| one.miss_rate))
        .wholes("false alarms", Some("errors"), errors.iter().map(|one| one.false_alarms))
        .numbers("false alarm rate", Some(&percent), Some("errors"), errors.iter().map(|one| one.false_alarm_rate))
}

fn kappa(of: &Numbers) -> Table {
    let one = |kappa: &Kappa, words: String| (words, *kappa);
    let all = std::iter::once(one(&of.fleiss.all, "all labels".to_owned()));
    let each = of.fleiss.categories.iter().map(|category| one(&category.kappa, category.category.clone()));
    let lines: Vec<(String, Kappa)> = all.chain(each).collect();
    let (two, four) = (ValueFormat::fixed(2), ValueFormat::fixed(4));
    let numbers = |value: fn(&Kappa) -> Option<f64>| lines.iter().map(move |(_, kappa)| value(kappa)).collect::<Vec<_>>();
    Table::new("kappa", "Kappa of all judgements")
        .texts("judgement", lines.iter().map(|(words, _)| Some(words.clone())))
        .numbers("kappa", Some(&two), Some("fleiss"), numbers(|kappa| kappa.kappa))
        .numbers("z", Some(&two), Some("fleiss"), numbers(|kappa| kappa.z))
        .numbers("p", Some(&four), Some("fleiss"), numbers(|kappa| kappa.p))
}

fn pairs(of: &Numbers) -> Table {
    let reference = of.cohen_reference.iter().flatten().map(|one| (format!("{} and the reference", one.operator), one.kappa));
    let two = of.cohen.iter().map(|pair| (format!("{} and {}", pair.a, pair.b), pair.kappa));
    let lines: Vec<(String, PairKappa)> = reference.chain(two).collect();
    let format = ValueFormat::fixed(2);
    let end = |side: usize| lines.iter().map(move |(_, kappa)| kappa.ci95.map(|ends| ends[side]));
    Table::new("pairs", "Kappa of two")
        .texts("", lines.iter().map(|(words, _)| Some(words.clone())))
        .numbers("kappa", Some(&format), Some("cohen"), lines.iter().map(|(_, kappa)| kappa.kappa))
        .numbers("95 % from", Some(&format), Some("cohen"), end(0))
        .numbers("95 % to", Some(&format), Some("cohen"), end(1))
}

/// The judgements of a stretch.
pub fn judgements(of: &Ratings, view: &View) -> Table {
    let all = || view.stretch(of.codes.len()).0;
    let cell = |place: usize| place / of.trials;
    let (part, operator) = (|place| cell(place) / of.operators.len(), |place| cell(place) % of.operators.len());
    let table = Table::new("points", "Judgements")
        .texts("part", all().map(|place| Some(of.parts[part(place)].clone())))
        .texts("operator", all().map(|place| Some(of.operators[operator(place)].clone())))
        .wholes("trial", None, all().map(|place| place % of.trials + 1))
        .texts("judgement", all().map(|place| Some(of.labels[of.codes[place] as usize].clone())));
    match &of.reference {
        Some(known) => table.texts("reference", all().map(|place| Some(of.labels[known[part(place)] as usize].clone()))),
        None => table,
    }
}
