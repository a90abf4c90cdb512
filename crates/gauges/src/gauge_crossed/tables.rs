//! What a person reads of a gauge study.

use super::cells::Cells;
use super::numbers::Numbers;
use acorn_maths::describe::mean;
use acorn_maths::words::ValueFormat;
use acorn_study::gauge::against::Basis;
use acorn_study::gauge::{analysis, component, operators};
use acorn_study::{Table, Term, View};

/// All tables.
pub fn all(of: &Numbers) -> Vec<Table> {
    let anova = of.anova.iter().flat_map(|anova| {
        let with = anova.with_interaction.as_ref().map(|lines| analysis::table("with-interaction", "Variance analysis", lines));
        let without = analysis::table("without-interaction", "Interaction pooled", &anova.without_interaction);
        [Some(component::table(&anova.components, &of.writer)), with, Some(without)]
    });
    let tables = [
        anova.flatten().collect(),
        vec![by_range(of), operators::table(&of.operators, &of.writer, "range-method"), intervals(of), help(of)],
    ]
    .concat();
    tables.into_iter().filter(|table| table.rows() > 0).collect()
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

/// The gauge with its 95 % intervals.
fn intervals(of: &Numbers) -> Table {
    let (fine, percent) = (of.writer.finer(), ValueFormat::percent(1));
    let gauge = of.anova.as_ref().map(|anova| &anova.components[0]);
    let three = |value: Option<f64>, ends: Option<[f64; 2]>| [value, ends.map(|[low, _]| low), ends.map(|[_, high]| high)];
    let sd_ends = of.anova.as_ref().and_then(|anova| anova.ci95).map(|ends| ends.map(f64::sqrt));
    let tolerance_ends = of.share_ci95.filter(|_| of.basis == Basis::Tolerance);
    let terms = vec![
        Term::new("gauge sd", &fine, "gauge-interval", three(gauge.map(|gauge| gauge.sd), sd_ends)),
        Term::new("% study", &percent, "share-interval", three(gauge.and_then(|gauge| gauge.pct_study), of.study_ci95)),
        Term::new("% tolerance", &percent, "share-interval", three(gauge.and_then(|gauge| gauge.pct_tolerance), tolerance_ends)),
    ];
    Table::of_terms("intervals", "The gauge with its 95 % intervals", &["", "value", "95 % from", "95 % to"], terms)
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
