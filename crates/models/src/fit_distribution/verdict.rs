//! Recommended shapes in words.

use super::compute::FITTED_MOST;
use super::decisions::NONE_FITS;
use super::numbers::Numbers;
use acorn_maths::words::{capital, counted, grouped};
use acorn_study::notes::{note, worst_first};
use acorn_study::{NextQuestion, Note, Tone, Verdict};

/// Verdict, notes and next questions.
pub fn read(numbers: &Numbers) -> (Verdict, Vec<Note>, Vec<NextQuestion>) {
    let column = &numbers.column;
    let verdict = match numbers.fits.first() {
        None => {
            let sentence = format!("No shape can be fitted to {column}; a model can draw from its values as they are.");
            Verdict::new(Tone::Unsure, "No shape can be fitted", sentence)
        }
        Some(_) if numbers.none_fits => {
            let sentence =
                format!("Every shape tested for {column} is contradicted by its values; a model should draw from them as they are.");
            Verdict::new(Tone::Alarm, "No shape fits", sentence).states(NONE_FITS)
        }
        Some(best) => {
            let others: Vec<String> =
                numbers.fits.iter().skip(1).filter(|fit| fit.tone == Tone::Calm).map(|fit| fit.words.clone()).collect();
            let also =
                if others.is_empty() { String::new() } else { format!("; {} would do as well", acorn_maths::words::listed(&others)) };
            let sentence = format!("{} is best taken as {}: {}{also}.", capital(column), best.words, best.why);
            Verdict::new(best.tone, format!("{} fits best", capital(&best.words)), sentence)
        }
    };
    let few = (numbers.n < 30).then(|| {
        let detail = "Far tails rest on the shape chosen; take a few shapes and see how much the answer moves.".to_owned();
        note(Tone::Caution, format!("{} tell little of a shape.", counted(numbers.n, "value", "values")), Some(detail))
    });
    let thinned = (numbers.n > FITTED_MOST).then(|| {
        let sentence = format!("Shapes are fitted to {} values, evenly picked of the sorted ones.", grouped(FITTED_MOST));
        note(Tone::Unsure, sentence, None)
    });
    let steady = note(
        Tone::Unsure,
        "A shape stands for a steady process; a drift would be taken for spread.",
        Some("Chart the column first.".to_owned()),
    );
    let mut model = NextQuestion::of("simulation", "What if?", "its shape becomes an input of a model", std::collections::BTreeMap::new());
    let name = acorn_data::formula::written(column);
    let input = serde_json::json!({"name": column, "unit": numbers.unit, "distribution": numbers.fits.first().filter(|_| !numbers.none_fits).map_or("data", |fit| &fit.distribution), "column": column});
    model.options = serde_json::json!({"inputs": [input], "responses": [{"name": "response", "formula": name}], "sensitivity": true})
        .as_object()
        .cloned()
        .unwrap_or_default();
    let chart = NextQuestion::of(
        "control-chart",
        "Is it steady?",
        "a shape stands for a steady process",
        std::collections::BTreeMap::from([("measure".to_owned(), acorn_study::RoleColumns::One(column.clone()))]),
    );
    (verdict, worst_first(vec![few, Some(steady), thinned]), vec![model, chart])
}
