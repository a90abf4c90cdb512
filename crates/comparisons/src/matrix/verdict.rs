//! A matrix of correlations in words: how many pairs go together, and which most.

use std::collections::BTreeMap;

use super::decisions::TOGETHER;
use super::numbers::Numbers;
use acorn_maths::words::{capital, chance, correlation, counted, listed, span};
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, RoleColumns, Tone, Verdict};

const NAMED: usize = 4;
const ASKED: usize = 3;
/// A rank correlation so much larger than Pearson's follows a bend, or is blurred by far values.
const BENT: f64 = 0.15;

impl Numbers {
    /// The pairs beyond chance, the closest first.
    fn flagged_pairs(&self) -> Vec<(usize, usize)> {
        let mut pairs: Vec<(usize, usize)> = self.pairs().filter(|&(a, b)| self.flagged[a][b]).collect();
        let size = |(a, b): (usize, usize)| self.pearson[a][b].map_or(0.0, f64::abs);
        pairs.sort_by(|a, b| size(*b).total_cmp(&size(*a)));
        pairs
    }

    fn display_text(&self, (a, b): (usize, usize)) -> String {
        format!("{} and {} ({})", self.columns[a].name, self.columns[b].name, correlation(self.pearson[a][b].unwrap_or_default()))
    }
}

/// The verdict.
pub fn read(of: &Numbers) -> Verdict {
    let tested = of.pairs().filter(|&(a, b)| of.p[a][b].is_some()).count();
    if tested == 0 {
        return Verdict::new(Tone::Unsure, "Too few to say", "Too few to say: no pair has three rows in which both vary.".to_owned());
    }
    let flagged = of.flagged_pairs();
    let all = counted(tested, "pair", "pairs");
    let Some(&(a, b)) = flagged.first() else {
        let title = "None shown to go together";
        return Verdict::new(Tone::Unsure, title, format!("{title}: chance explains all {all}, at 0.05 for all of them together."));
    };
    let title = format!("{} of {all} go together", flagged.len());
    let likely = of.ci95[a][b].map(|[low, high]| format!(", likely {}", span(&correlation(low), &correlation(high)))).unwrap_or_default();
    let r = correlation(of.pearson[a][b].unwrap_or_default());
    let sentence = format!("{title}: most closely {} and {}, correlation {r}{likely}.", of.columns[a].name, of.columns[b].name);
    Verdict::new(Tone::Caution, &title, sentence).states(TOGETHER)
}

/// All notes.
pub fn notes(of: &Numbers) -> Vec<Note> {
    let flagged = of.flagged_pairs();
    let named: Vec<String> = flagged.iter().skip(1).take(NAMED).map(|&pair| of.display_text(pair)).collect();
    let more = flagged.len().saturating_sub(1 + NAMED);
    let more = if more > 0 { format!(", and {}", counted(more, "more pair", "more pairs")) } else { String::new() };
    let alone: Vec<(usize, usize)> = of.pairs().filter(|&(a, b)| TOGETHER.is_made(of.p[a][b]) && !of.flagged[a][b]).collect();
    let bent = of.pairs().find(|&(a, b)| {
        let (r, ranks) = (of.pearson[a][b].unwrap_or_default(), of.spearman[a][b].unwrap_or_default());
        of.n[a][b] > 9 && ranks.abs() > r.abs() + BENT
    });
    let still: Vec<String> =
        of.columns.iter().filter(|column| column.bars.low >= column.bars.high).map(|column| column.name.clone()).collect();
    let gaps = of.pairs().map(|(a, b)| of.n[a][b]).min().zip(of.pairs().map(|(a, b)| of.n[a][b]).max());
    worst_first(vec![
        (!named.is_empty()).then(|| {
            note(Tone::Caution, format!("Also: {}{more}.", listed(&named)), Some("For all pairs together, at 0.05.".to_owned()))
                .states(TOGETHER)
        }),
        bent.map(|(a, b)| {
            let sentence = format!(
                "By ranks {} and {} go together more closely ({}) than by values: the rise is bent, or far values blur it.",
                of.columns[a].name,
                of.columns[b].name,
                correlation(of.spearman[a][b].unwrap_or_default())
            );
            note(Tone::Caution, sentence, None)
        }),
        (!alone.is_empty()).then(|| {
            let smallest = alone.iter().filter_map(|&(a, b)| of.p[a][b]).fold(1.0, f64::min);
            let words = counted(alone.len(), "more pair would", "more pairs would");
            note(
                Tone::Unsure,
                format!("Looked at alone, {words} pass for a finding ({}); among so many, chance explains that.", chance(smallest)),
                None,
            )
        }),
        (!flagged.is_empty()).then(|| note(Tone::Unsure, "Going together is no cause: both may follow from a third.", None)),
        (!still.is_empty()).then(|| {
            let verb = if still.len() == 1 { "does" } else { "do" };
            note(Tone::Unsure, format!("{} {verb} not vary.", capital(&listed(&still))), None)
        }),
        gaps.filter(|(least, most)| least < most).map(|(least, most)| {
            note(Tone::Unsure, format!("Values are missing: each pair rests on rows of its own, {least} to {most}."), None)
        }),
    ])
}

/// What the answer makes worth asking: the closest pairs, one by one.
pub fn next(of: &Numbers) -> Vec<NextQuestion> {
    let ask = |(a, b): (usize, usize)| {
        let (x, y) = (&of.columns[a].name, &of.columns[b].name);
        let pair = |role: &str, column: &String| (role.to_owned(), RoleColumns::One(column.clone()));
        NextQuestion::of(
            of.opens,
            &format!("How does {y} go with {x}?"),
            "The pair by itself.",
            BTreeMap::from([pair("x", x), pair("y", y)]),
        )
    };
    of.flagged_pairs().into_iter().take(ASKED).map(ask).collect()
}
