//! What a person reads of a gauge study.

use super::anova::Line;
use super::cells::{Cells, mean};
use super::components::Component;
use super::numbers::Numbers;
use crate::study::words::ValueFormat;
use crate::study::{Table, Term, View};

/// All tables.
pub fn all(of: &Numbers) -> Vec<Table> {
    let anova = of.anova.iter().flat_map(|anova| {
        let with = anova.with_interaction.as_ref().map(|lines| analysis("with-interaction", "Variance analysis", lines));
        let without = analysis("without-interaction", "Interaction pooled", &anova.without_interaction);
        [Some(components(of, &anova.components)), with, Some(without)]
    });
    let tables = [anova.flatten().collect(), vec![by_range(of), operators(of), help(of)]].concat();
    tables.into_iter().filter(|table| table.rows() > 0).collect()
}

/// What a source is called.
fn words(source: &str) -> &'static str {
    match source {
        "total-gauge" => "gauge",
        "operator-part" => "part × operator",
        "repeatability" => "repeatability",
        "reproducibility" => "reproducibility",
        "operator" => "operator",
        "part" => "parts",
        _ => "total",
    }
}

fn components(of: &Numbers, components: &[Component]) -> Table {
    let (fine, percent) = (of.writer.finer(), ValueFormat::percent(1));
    let each = || components.iter();
    let table = Table::new("components", "Components")
        .texts("source", each().map(|one| Some(words(one.source).to_owned())))
        .numbers("contribution", Some(&percent), Some("components"), each().map(|one| one.contribution))
        .numbers("sd", Some(&fine), Some("components"), each().map(|one| Some(one.sd)))
        .numbers("% study", Some(&percent), Some("study-variation"), each().map(|one| one.pct_study));
    let table = match of.tolerance {
        Some(_) => table.numbers("% tolerance", Some(&percent), Some("tolerance"), each().map(|one| one.pct_tolerance)),
        None => table,
    };
    match components.iter().any(|one| one.pct_process.is_some()) {
        true => table.numbers("% process", Some(&percent), Some("study-variation"), each().map(|one| one.pct_process)),
        false => table,
    }
}

fn analysis(id: &'static str, title: &str, lines: &[Line]) -> Table {
    // The smallest mean square with three digits.
    let least = lines.iter().filter_map(|line| line.ms).filter(|ms| *ms > 0.0).fold(f64::INFINITY, f64::min);
    let decimals = if least.is_finite() { (2.0 - least.log10().floor()).clamp(0.0, 12.0) } else { 2.0 };
    let (short, four) = (ValueFormat::fixed(decimals as usize), ValueFormat::fixed(4));
    let each = || lines.iter();
    Table::new(id, title)
        .texts("source", each().map(|line| Some(words(line.source).to_owned())))
        .numbers("df", Some(&ValueFormat::whole()), Some("anova"), each().map(|line| Some(line.df)))
        .numbers("ss", Some(&short), Some("anova"), each().map(|line| Some(line.ss)))
        .numbers("ms", Some(&short), Some("anova"), each().map(|line| line.ms))
        .numbers("F", Some(&ValueFormat::fixed(2)), Some("anova"), each().map(|line| line.f))
        .numbers("p", Some(&four), Some("anova"), each().map(|line| line.p))
}

fn by_range(of: &Numbers) -> Table {
    let Some(range) = &of.range else { return Table::new("range", "Range method") };
    let (fine, percent) = (of.writer.finer(), ValueFormat::percent(1));
    let rows = [
        ("gauge", range.grr),
        ("repeatability: equipment (EV)", range.ev),
        ("reproducibility: operators (AV)", range.av),
        ("parts (PV)", range.pv),
        ("total", range.tv),
    ];
    let table = Table::new("range", "Range method")
        .texts("source", rows.iter().map(|(words, _)| Some((*words).to_owned())))
        .numbers("sd", Some(&fine), Some("range-method"), rows.iter().map(|(_, share)| Some(share.sd)))
        .numbers("% study", Some(&percent), Some("study-variation"), rows.iter().map(|(_, share)| share.pct_study));
    match of.tolerance {
        Some(_) => table.numbers("% tolerance", Some(&percent), Some("tolerance"), rows.iter().map(|(_, share)| share.pct_tolerance)),
        None => table,
    }
}

fn operators(of: &Numbers) -> Table {
    let fine = of.writer.finer();
    let each = || of.operators.iter();
    Table::new("operators", "Operators")
        .texts("operator", each().map(|one| Some(one.label.clone())))
        .numbers("mean", Some(&fine), Some("bias-limits"), each().map(|one| Some(one.mean)))
        .numbers("bias", Some(&fine), Some("bias-limits"), each().map(|one| Some(one.bias)))
        .numbers("sd", Some(&fine), Some("consistency-limits"), each().map(|one| one.sd))
        .numbers("range", Some(&fine), Some("range-method"), each().map(|one| one.mean_range))
}

fn help(of: &Numbers) -> Table {
    let percent = ValueFormat::percent(1);
    let terms = of.would_help.iter().map(|one| Term::new(one.what, &percent, "components", [one.pct_study, one.pct_tolerance]));
    let heads: &[&str] = if of.tolerance.is_some() { &["", "% study", "% tolerance"] } else { &["", "% study"] };
    Table::of_terms("would-help", "The gauge, if one thing were mended", heads, terms.collect())
}

/// The readings of a stretch, each with its part, its operator and its distance from the mean of the part.
pub fn readings(cells: &Cells, writer: &ValueFormat, view: &View) -> Table {
    let means: Vec<f64> = (0..cells.parts.len()).map(|part| mean(cells.of_part(part))).collect();
    let whose = |reading: usize| cells.whose(reading);
    let all = || view.stretch(cells.values.len()).0;
    Table::new("points", "Readings")
        .texts("part", all().map(|reading| Some(cells.parts[whose(reading).0].clone())))
        .texts("operator", all().map(|reading| Some(cells.operators[whose(reading).1].clone())))
        .numbers("reading", Some(writer), None, all().map(|reading| Some(cells.values[reading])))
        .numbers(
            "deviation from the mean of the part",
            Some(&writer.finer()),
            None,
            all().map(|reading| Some(cells.values[reading] - means[whose(reading).0])),
        )
}
