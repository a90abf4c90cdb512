//! What each operator read, to be held against the others.

use super::cells::{Cells, range};
use super::unbalanced::Sums;
use acorn_maths::describe::mean;
use acorn_study::gauge::operators::Reader;

/// All operators; `sums` are those of a study whose cells differ in number, where plain means cannot be compared.
pub fn of(cells: &Cells, sums: Option<&Sums>) -> Vec<Reader> {
    let grand = mean(&cells.values);
    let one = |operator: usize| {
        let all = (0..cells.parts.len()).map(|part| cells.cell(part, operator));
        let filled: Vec<&[f64]> = all.filter(|cell| !cell.is_empty()).collect();
        let squares = |cell: &&[f64]| {
            let own = mean(cell);
            cell.iter().map(|value| (value - own).powi(2)).sum::<f64>()
        };
        let ranges: Vec<f64> = filled.iter().filter(|cell| cell.len() > 1).map(|cell| range(cell)).collect();
        Reader {
            label: cells.operators[operator].clone(),
            mean: match sums {
                Some(sums) => grand + sums.effects[operator],
                None => mean(&filled.iter().map(|cell| mean(cell)).collect::<Vec<_>>()),
            },
            n: match sums {
                Some(sums) => sums.worth[operator],
                None => filled.iter().map(|cell| cell.len()).sum::<usize>() as f64,
            },
            squares: filled.iter().map(squares).sum(),
            df: filled.iter().map(|cell| cell.len() - 1).sum::<usize>() as f64,
            mean_range: (!ranges.is_empty()).then(|| mean(&ranges)),
        }
    };
    (0..cells.operators.len()).map(one).collect()
}
