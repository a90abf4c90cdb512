//! The numbers of a simulation in rows and columns.

use super::numbers::{Numbers, ResponseNumbers, Setting};
use crate::model::{BLOCK, Bench, Model, Source};
use acorn_maths::words::ValueFormat;
use acorn_study::{Table, View};

/// All tables.
pub fn all(numbers: &Numbers) -> Vec<Table> {
    let mut tables = vec![responses(numbers)];
    tables.extend(numbers.responses.iter().any(|response| !response.percentiles.is_empty()).then(|| percentiles(numbers)));
    tables.extend(shares(numbers));
    tables.extend(tightening(numbers));
    tables.extend(stacks(numbers));
    tables.extend(settings(numbers));
    tables
}

fn responses(numbers: &Numbers) -> Table {
    let all = &numbers.responses;
    let writer = |get: fn(&ResponseNumbers) -> Option<f64>| all.iter().map(get).collect::<Vec<_>>();
    let fine = ValueFormat::fixed(4);
    let (id, out) = (Some("simulated"), Some("out"));
    let percent = ValueFormat::percent(4);
    let lines =
        all.iter().map(|response| acorn_study::Line { format: Some(response.writer.finer()), formula: None, points: None }).collect();
    let table = Table::new("responses", "Responses")
        .texts("response", all.iter().map(|response| Some(response.name.clone())))
        .numbers("mean", None, id, writer(|one| one.mean))
        .numbers("sd", None, id, writer(|one| one.sd))
        .numbers("out below", Some(&percent), out, writer(|one| one.out.and_then(|out| out.below)))
        .numbers("out above", Some(&percent), out, writer(|one| one.out.and_then(|out| out.above)))
        .numbers("out in all", Some(&percent), out, writer(|one| one.out.map(|out| out.total)))
        .numbers("error of the share", Some(&percent), out, writer(|one| one.out.map(|out| out.error)))
        .numbers("Pp", Some(&fine), Some("indices"), writer(|one| one.pp))
        .numbers("Ppk", Some(&fine), Some("indices"), writer(|one| one.ppk))
        .wholes("no number", id, all.iter().map(|one| one.undefined));
    Table { lines, ..table }
}

fn percentiles(numbers: &Numbers) -> Table {
    let told: Vec<_> = numbers.responses.iter().filter(|response| !response.percentiles.is_empty()).collect();
    let shares = told.first().map(|response| response.percentiles.iter().map(|one| Some(one.share)).collect()).unwrap_or_else(Vec::new);
    let table = Table::new("percentiles", "Percentiles").numbers("below it", Some(&ValueFormat::percent(3)), None, shares);
    told.iter().fold(table, |table, response| {
        table.numbers(
            response.name.clone(),
            Some(&response.writer.finer()),
            Some("percentile"),
            response.percentiles.iter().map(|one| Some(one.value)),
        )
    })
}

/// One row for each response and input that makes some of it vary.
fn shares(numbers: &Numbers) -> Option<Table> {
    let rows: Vec<_> =
        numbers.responses.iter().flat_map(|response| response.shares.iter().flatten().map(move |share| (&response.name, share))).collect();
    let (id, percent) = (Some("sobol"), ValueFormat::percent(1));
    (!rows.is_empty()).then(|| {
        Table::new("shares", "Shares of variance")
            .texts("response", rows.iter().map(|(name, _)| Some((*name).clone())))
            .texts("input", rows.iter().map(|(_, share)| Some(share.name.clone())))
            .numbers("by itself", Some(&percent), id, rows.iter().map(|(_, share)| Some(share.first)))
            .numbers("its error", Some(&percent), id, rows.iter().map(|(_, share)| Some(share.first_error)))
            .numbers("with others", Some(&percent), id, rows.iter().map(|(_, share)| Some(share.total)))
            .numbers("error with others", Some(&percent), id, rows.iter().map(|(_, share)| Some(share.total_error)))
    })
}

/// One row for each response, input and scale.
fn tightening(numbers: &Numbers) -> Option<Table> {
    let lines = numbers.responses.iter().flat_map(|response| response.tightening.iter().flatten().map(move |line| (response, line)));
    let rows: Vec<_> = lines
        .flat_map(|(response, line)| numbers.scales.iter().enumerate().map(move |(step, scale)| (response, line, step, *scale)))
        .collect();
    let id = Some("tightening");
    (!rows.is_empty()).then(|| {
        Table::new("tightening", "What tightening pays")
            .texts("response", rows.iter().map(|(response, ..)| Some(response.name.clone())))
            .texts("input", rows.iter().map(|(_, line, ..)| Some(line.name.clone())))
            .numbers("its spread times", Some(&ValueFormat::fixed(2)), None, rows.iter().map(|(.., scale)| Some(*scale)))
            .numbers("sd", Some(&ValueFormat::fixed(6)), id, rows.iter().map(|(_, line, step, _)| Some(line.sd[*step])))
            .numbers(
                "out in all",
                Some(&ValueFormat::percent(4)),
                id,
                rows.iter().map(|(_, line, step, _)| line.out.as_ref().map(|out| out[*step])),
            )
    })
}

fn stacks(numbers: &Numbers) -> Option<Table> {
    let rows: Vec<_> = numbers.responses.iter().filter_map(|response| Some((response, response.stack?))).collect();
    let (id, fine) = (Some("stack"), ValueFormat::fixed(4));
    let simulated = |response: &ResponseNumbers, last: bool| {
        let one = if last { response.percentiles.last() } else { response.percentiles.first() };
        one.map(|one| one.value)
    };
    (!rows.is_empty()).then(|| {
        Table::new("stacks", "Stacks")
            .texts("response", rows.iter().map(|(response, _)| Some(response.name.clone())))
            .numbers("worst case from", Some(&fine), id, rows.iter().map(|(_, stack)| Some(stack.worst[0])))
            .numbers("worst case to", Some(&fine), id, rows.iter().map(|(_, stack)| Some(stack.worst[1])))
            .numbers("root sum square from", Some(&fine), id, rows.iter().map(|(_, stack)| Some(stack.rss[0])))
            .numbers("root sum square to", Some(&fine), id, rows.iter().map(|(_, stack)| Some(stack.rss[1])))
            .numbers("simulated from", Some(&fine), Some("percentile"), rows.iter().map(|(response, _)| simulated(response, false)))
            .numbers("simulated to", Some(&fine), Some("percentile"), rows.iter().map(|(response, _)| simulated(response, true)))
    })
}

fn settings(numbers: &Numbers) -> Option<Table> {
    let search = numbers.search.as_ref()?;
    let (id, fine) = (Some("search"), ValueFormat::fixed(4));
    let column = |get: fn(&Setting) -> f64| search.best.iter().map(move |one| Some(get(one))).collect::<Vec<_>>();
    Some(
        Table::new("settings", "Settings found")
            .texts("control", search.best.iter().map(|one| Some(one.name.clone())))
            .numbers("as it is", Some(&fine), None, column(|one| one.was))
            .numbers("found", Some(&fine), id, column(|one| one.value))
            .numbers("may be from", Some(&fine), id, column(|one| one.slack[0]))
            .numbers("may be to", Some(&fine), id, column(|one| one.slack[1])),
    )
}

/// Draws told at once, at most.
pub const TOLD_MOST: usize = 1_000_000;

/// The draws of a view, drawn again: every input and every response.
pub fn draws(model: &Model, numbers: &Numbers, view: &View) -> Table {
    let (stretch, step) = view.stretch(numbers.draws);
    let stretch = stretch.start..stretch.end.min(stretch.start + TOLD_MOST * step);
    let source = Source::of(numbers.seed, numbers.sampling, numbers.draws);
    let programs = model.programs(&model.settings());
    let names: Vec<(&str, &ValueFormat)> = numbers
        .inputs
        .iter()
        .map(|input| (input.name.as_str(), &input.writer))
        .chain(numbers.responses.iter().map(|response| (response.name.as_str(), &response.writer)))
        .collect();
    let mut columns: Vec<Vec<Option<f64>>> = vec![Vec::with_capacity(stretch.len() / step); names.len()];
    let mut bench = Bench::of(model);
    for block in stretch.start / BLOCK..stretch.end.div_ceil(BLOCK) {
        let from = block * BLOCK;
        bench.draw(model, source, block as u64, (numbers.draws - from).min(BLOCK));
        bench.follow(model, &programs);
        for (kept, column) in columns.iter_mut().zip(&bench.columns) {
            let shown = column
                .iter()
                .enumerate()
                .filter(|(place, _)| stretch.contains(&(from + place)) && (from + place - stretch.start).is_multiple_of(step));
            kept.extend(shown.map(|(_, value)| Some(*value)));
        }
    }
    let table = Table::new("points", "Draws").wholes("draw", None, stretch.step_by(step).map(|draw| draw + 1));
    names.iter().zip(columns).fold(table, |table, ((name, writer), column)| table.numbers(*name, Some(writer), Some("simulated"), column))
}
