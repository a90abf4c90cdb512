//! What a person reads of a capability study: short-term beside long-term, seen beside expected, the shape, and where most
//! values lie.

use super::numbers::Numbers;
use acorn_maths::words::ValueFormat;
use acorn_study::gauge::share::GaugeShare;
use acorn_study::{Table, Term};

/// All tables.
pub fn all(of: &Numbers) -> Vec<Table> {
    let tables = [indices(of), out(of), GaugeShare::table(of.gauge.as_ref(), &of.writer), shape(of), tolerance(of), shapes(of)];
    tables.into_iter().filter(|table| table.rows() > 0).collect()
}

fn ends(interval: Option<[f64; 2]>, end: usize) -> Option<f64> {
    interval.map(|ends| ends[end])
}

fn indices(of: &Numbers) -> Table {
    let (fine, two) = (of.writer.finer(), ValueFormat::fixed(2));
    let pair = |words: &str, format: &ValueFormat, formula, short, long| Term::new(words, format, formula, [short, long]);
    let long = if of.fit.is_some() { "shape-interval" } else { "worse-interval" };
    let terms = vec![
        pair("sd", &fine, "short-term", of.sd_within, of.sd_overall),
        pair("both limits (Cp, Pp)", &two, "cp", of.cp, of.pp),
        pair("95 % from", &two, "both-interval", ends(of.cp_ci95, 0), ends(of.pp_ci95, 0)),
        pair("95 % to", &two, "both-interval", ends(of.cp_ci95, 1), ends(of.pp_ci95, 1)),
        pair("lower side (Cpl, Ppl)", &two, "cp", of.cpl, of.ppl),
        pair("upper side (Cpu, Ppu)", &two, "cp", of.cpu, of.ppu),
        pair("worse side (Cpk, Ppk)", &two, "cp", of.cpk, of.ppk),
        pair("95 % from", &two, long, ends(of.cpk_ci95, 0), ends(of.ppk_ci95, 0)),
        pair("95 % to", &two, long, ends(of.cpk_ci95, 1), ends(of.ppk_ci95, 1)),
        pair("about the target (Cpm)", &two, "cpm", None, of.cpm),
        pair("Z bench", &two, "z-bench", of.z_bench_within, of.z_bench_overall),
    ];
    Table::of_terms("indices", "Indices", &["index", "short-term", "long-term"], terms)
}

fn out(of: &Numbers) -> Table {
    let percent = ValueFormat::percent(4);
    let (seen, short, long) = (&of.observed, &of.expected_within, &of.expected_overall);
    let term = |words: &str, numbers: [Option<f64>; 3]| Term::new(words, &percent, "out", numbers);
    let terms = vec![
        term("below LSL", [seen.below, short.below, long.below]),
        term("above USL", [seen.above, short.above, long.above]),
        term("both", [seen.total, short.total, long.total]),
    ];
    Table::of_terms("out", "Out", &["out", "seen", "expected short-term", "expected long-term"], terms)
}

fn shape(of: &Numbers) -> Table {
    let (three, two, four) = (ValueFormat::fixed(3), ValueFormat::fixed(2), ValueFormat::fixed(4));
    let one = |words: &str, format: &ValueFormat, formula, number| Term::new(words, format, formula, [number]);
    let mut terms = vec![
        one("p of this shape", &three, "fit", of.shape_p),
        one("p of a normal", &three, "anderson-darling", of.ad_p),
        one("A², adjusted, of a normal", &three, "anderson-darling", of.ad_star),
        one("skewness", &two, "skewness", of.skewness),
    ];
    if let Some(transform) = &of.transform {
        let formula = if transform.kind == "johnson" { "johnson" } else { "power" };
        terms.extend([
            one("λ", &four, formula, Some(transform.lambda)),
            one("γ", &four, formula, transform.gamma),
            one("δ", &four, formula, transform.delta),
            one("ξ", &four, formula, transform.xi),
        ]);
    }
    if let Some(fit) = &of.fit {
        terms.extend(fit.parameters.iter().map(|(name, value)| one(name, &ValueFormat::fixed(5), "fit", value.as_f64())));
        terms.push(one("AIC", &ValueFormat::fixed(1), "fit", Some(fit.aic)));
    }
    Table::of_terms("shape", format!("Shape: {}", of.shape), &["", "value"], terms)
}

fn tolerance(of: &Numbers) -> Table {
    let (fine, percent) = (of.writer.finer(), ValueFormat::percent(1));
    let all = || of.tolerance.iter();
    Table::new("tolerance", "Where they lie, 95 % sure")
        .numbers("share of all values", Some(&ValueFormat::percent(2)), Some("tolerance"), all().map(|one| Some(one.share)))
        .numbers("if the shape fits, from", Some(&fine), Some("tolerance"), all().map(|one| one.normal[0]))
        .numbers("to", Some(&fine), Some("tolerance"), all().map(|one| one.normal[1]))
        .numbers("whatever the shape, from", Some(&fine), Some("tolerance"), all().map(|one| one.any_shape[0]))
        .numbers("to", Some(&fine), Some("tolerance"), all().map(|one| one.any_shape[1]))
        .numbers("sure", Some(&percent), Some("tolerance"), all().map(|one| Some(one.any_shape_confidence)))
}

fn shapes(of: &Numbers) -> Table {
    let all = || of.shapes.iter();
    Table::new("shapes", "Fitted shapes, the best first")
        .texts("shape", all().map(|one| Some(one.fit.words.to_owned())))
        .numbers("A²", Some(&ValueFormat::fixed(3)), Some("fit"), all().map(|one| one.fit.ad))
        .numbers("p", Some(&ValueFormat::fixed(3)), Some("fit"), all().map(|one| one.fit.p))
        .numbers("AIC", Some(&ValueFormat::fixed(1)), Some("fit"), all().map(|one| Some(one.fit.aic)))
        .numbers("Ppk", Some(&ValueFormat::fixed(2)), Some("any-shape"), all().map(|one| one.ppk))
        .numbers("expected out", Some(&ValueFormat::percent(4)), Some("out"), all().map(|one| one.out))
}
