//! From columns to what each explains, and what chance makes of the best of them.

use std::collections::BTreeMap;

use rand::SeedableRng;
use rand::seq::SliceRandom;
use rand_xoshiro::Xoshiro256PlusPlus;
use rayon::prelude::*;

use super::candidates::{Candidate, CandidateValues};
use super::decisions::{GOES_WITH, LABEL};
use super::numbers::{Entangled, Found, LabelCount, Numbers, Over, Skipped};
use super::params::{Params, Response};
use super::pictures::picture;
use super::strength::{Strength, best};
use acorn_data::frame::{Column, Kind, NO_CODE};
use acorn_maths::describe::decimals;
use acorn_maths::distributions::{Hypergeometric, Law, holm};
use acorn_study::{Cancel, FilterStep, NextQuestion, RoleColumns, StudyError};

/// How often the rows are shuffled.
const SHUFFLES: usize = 1000;
/// Rows that are shuffled; what the best of some columns does by chance hardly depends on how many there are.
const SHUFFLED_MOST: usize = 4000;
const SEED: u64 = 1;
/// Columns beyond chance that are held against each other.
const ENTANGLED_MOST: usize = 6;
/// From this part on two columns go with each other so closely that either may be the one.
const ENTANGLED: f64 = 0.5;
/// Labels whose over-representation is looked into.
const SMALL: f64 = 1e-12;

/// Works it out.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn compute(params: &Params, cancel: &Cancel) -> Result<Numbers, StudyError> {
    let found: Vec<Option<(usize, Strength)>> =
        params.candidates.par_iter().map(|candidate| best(&params.response, &candidate.held)).collect();
    cancel.check()?;
    let rows: Vec<u32> = (0..params.response.len() as u32).filter(|&row| !params.response.is_missing(row as usize)).collect();
    let (least, shuffled) = shuffles(params, &rows, cancel)?;
    let p_screen = |p: f64| {
        // What rounding makes of equal chances is equal.
        let as_small = least.partition_point(|least| *least <= p * (1.0 + SMALL));
        (1 + as_small) as f64 / (1 + least.len()) as f64
    };
    let of_labels = params.candidates.iter().filter(|candidate| matches!(candidate.held[0], CandidateValues::Labels { .. })).count();
    let one = |(candidate, found): (&Candidate, &Option<(usize, Strength)>)| {
        let held = &candidate.held[found.map_or(0, |(look, _)| look)];
        let found = found.map(|(_, found)| found);
        let p = found.map(|found| p_screen(found.p));
        Found {
            column: candidate.column.name.clone(),
            kind: found.map(|found| found.kind),
            n: found.map_or(0, |found| found.n as usize),
            explained: found.map(|found| found.explained),
            adjusted: found.map(|found| found.adjusted),
            // Of two looks the better one was taken.
            p: found.map(|found| (found.p * candidate.held.len() as f64).min(1.0)),
            p_screen: p,
            beyond: GOES_WITH.is_made(p),
            over: over(params, held, of_labels),
            picture: picture(params, held),
            study: study(params, candidate.column, held),
        }
    };
    let mut order: Vec<usize> = (0..found.len()).collect();
    let by = |place: &usize| found[*place].map_or([-1.0, 0.0], |(_, found)| [found.adjusted, -found.p]);
    order.sort_by(|a, b| by(b)[0].total_cmp(&by(a)[0]).then(by(b)[1].total_cmp(&by(a)[1])));
    let results: Vec<Found> = order.iter().map(|&place| one((&params.candidates[place], &found[place]))).collect();
    let kept: Vec<&Candidate> =
        order.iter().zip(&results).filter(|(_, found)| found.beyond).map(|(&place, _)| &params.candidates[place]).collect();
    Ok(Numbers {
        subject: params.subject.clone(),
        n: rows.len(),
        labels: labels(params),
        marked: params.marked.map(|label| params.labels[label as usize].clone()),
        entangled: entangled(&kept),
        results,
        skipped: params.skipped.iter().map(|(column, why)| Skipped { column: column.clone(), why: why.clone() }).collect(),
        shuffles: least.len(),
        shuffled,
        writer: params.measure.filter(|column| column.kind.is_numeric()).map(|column| {
            let values = if let acorn_data::frame::Values::Number(values) = &column.values { &values[..] } else { &[] };
            column.info.writer(decimals(values))
        }),
    })
}

/// The least chance of all columns in each shuffle, in order; and how many rows were shuffled.
fn shuffles(params: &Params, rows: &[u32], cancel: &Cancel) -> Result<(Vec<f64>, usize), StudyError> {
    let mut random = Xoshiro256PlusPlus::seed_from_u64(SEED);
    let mut rows = rows.to_vec();
    if rows.len() > SHUFFLED_MOST {
        let (drawn, _) = rows.partial_shuffle(&mut random, SHUFFLED_MOST);
        rows = drawn.to_vec();
        rows.sort_unstable();
    }
    let looks: Vec<Vec<CandidateValues>> =
        params.candidates.iter().map(|candidate| candidate.held.iter().map(|held| held.at(&rows)).collect()).collect();
    let orders: Vec<Vec<u32>> = (0..SHUFFLES)
        .map(|_| {
            rows.shuffle(&mut random);
            rows.clone()
        })
        .collect();
    let least = |order: &Vec<u32>| {
        cancel.check()?;
        let response = params.response.at(order);
        Ok(looks.iter().filter_map(|looks| best(&response, looks)).map(|(_, found)| found.p).fold(1.0, f64::min))
    };
    let mut least: Vec<f64> = orders.par_iter().map(least).collect::<Result<_, StudyError>>()?;
    least.sort_by(f64::total_cmp);
    Ok((least, rows.len()))
}

fn labels(params: &Params) -> Vec<LabelCount> {
    let Response::Labels(codes) = &params.response else { return Vec::new() };
    let mut counts = vec![0; params.labels.len()];
    codes.iter().filter(|code| **code != NO_CODE).for_each(|&code| counts[code as usize] += 1);
    params.labels.iter().zip(counts).map(|(label, n)| LabelCount { label: label.clone(), n }).collect()
}

/// The label of a column that holds more of the marked rows than drawing without putting back gives it: beyond chance for all labels of so
/// many columns, its chance by Holm for those of its own.
fn over(params: &Params, held: &CandidateValues, columns: usize) -> Option<Over> {
    let (Response::Labels(own), Some(marked), CandidateValues::Labels { codes, labels, .. }) = (&params.response, params.marked, held)
    else {
        return None;
    };
    let mut counts = vec![(0.0, 0.0); labels.len()];
    for (&own, &code) in own.iter().zip(codes).filter(|(own, code)| **own != NO_CODE && **code != NO_CODE) {
        let (all, those) = &mut counts[code as usize];
        *all += 1.0;
        *those += f64::from(u8::from(own == marked));
    }
    let (total, drawn) = counts.iter().fold((0.0, 0.0), |(all, those), (own_all, own)| (all + own_all, those + own));
    let chances: Vec<f64> = counts.iter().map(|(all, those)| Hypergeometric { total, marked: *all, drawn }.at_least(*those)).collect();
    let (label, p) =
        holm(&chances).into_iter().enumerate().min_by(|a, b| a.1.total_cmp(&b.1).then(chances[a.0].total_cmp(&chances[b.0])))?;
    let (all, those) = counts[label];
    (drawn > 0.0 && LABEL.is_made(p * columns as f64)).then(|| Over {
        label: labels[label].clone(),
        count: those as usize,
        of: all as usize,
        share: those / drawn,
        share_of_all: all / total,
        p,
    })
}

/// Columns that go with each other, most first.
fn entangled(kept: &[&Candidate]) -> Vec<Entangled> {
    let kept = &kept[..kept.len().min(ENTANGLED_MOST)];
    let mut found = Vec::new();
    for (place, a) in kept.iter().enumerate() {
        let response = match &a.held[0] {
            CandidateValues::Numbers(values) => Response::Number(values.clone()),
            CandidateValues::Labels { codes, .. } => Response::Labels(codes.clone()),
        };
        for b in &kept[place + 1..] {
            let explained = best(&response, &b.held).map_or(0.0, |(_, found)| found.adjusted);
            if explained >= ENTANGLED {
                found.push(Entangled { a: a.column.name.clone(), b: b.column.name.clone(), explained });
            }
        }
    }
    found.sort_by(|a, b| b.explained.total_cmp(&a.explained));
    found
}

/// The full study of two columns, or of one within the rows in question.
fn study(params: &Params, column: &Column, held: &CandidateValues) -> Option<NextQuestion> {
    let name = &column.name;
    let is_time = column.kind == Kind::DateTime;
    let bends = matches!(held, CandidateValues::Labels { classes: true, .. });
    let numbers = matches!(held, CandidateValues::Numbers(_)) || bends;
    let roles = |pairs: &[(&str, &str)]| -> BTreeMap<String, RoleColumns> {
        pairs.iter().map(|(role, column)| ((*role).to_owned(), RoleColumns::One((*column).to_owned()))).collect()
    };
    let ask = |method: &str, question: String, roles| Some(NextQuestion::of(method, &question, "The full study.", roles));
    let Some(measure) = params.measure else {
        let (method, role) = if numbers { ("distribution", "measure") } else { ("pareto", "category") };
        let only = vec![FilterStep::Rows { rows: params.rows.clone(), from: params.subject.clone() }];
        let within = ask(method, format!("What is {name} like among them?"), roles(&[(role, name)]))?;
        return (!is_time).then_some(NextQuestion { only, ..within });
    };
    let subject = &measure.name;
    match (&params.response, numbers) {
        (Response::Number(_), _) if is_time => {
            ask("control-chart", format!("Is {subject} steady over {name}?"), roles(&[("measure", subject), ("order", name)]))
        }
        (Response::Number(_), true) => {
            let question = ask("relation", format!("How does {subject} go with {name}?"), roles(&[("x", name), ("y", subject)]))?;
            let options = if bends { serde_json::Map::from_iter([("fit".to_owned(), "quadratic".into())]) } else { question.options };
            Some(NextQuestion { options, ..question })
        }
        (Response::Number(_), false) => {
            ask("compare", format!("How does {subject} differ by {name}?"), roles(&[("measure", subject), ("group", name)]))
        }
        (Response::Labels(_), _) if is_time => None,
        (Response::Labels(_), true) => {
            ask("compare", format!("How does {name} differ by {subject}?"), roles(&[("measure", name), ("group", subject)]))
        }
        (Response::Labels(_), false) => {
            ask("association", format!("How does {subject} depend on {name}?"), roles(&[("column", subject), ("row", name)]))
        }
    }
}
