//! Inputs and settings in words.

use crate::model::{Control, Distribution, Drawn, choices};
use acorn_maths::shapes::Family;
use acorn_maths::words::{ValueFormat, counted, typed};

/// How an input is distributed: "normal, 3.20 ± 0.08 Ah".
pub fn input(drawn: &Drawn) -> String {
    let distribution = &drawn.distribution;
    let sd = distribution.sd();
    let writer = ValueFormat::fine(&drawn.unit, 1.0, sd.unwrap_or(0.0));
    let bare = ValueFormat::fine("", 1.0, sd.unwrap_or(0.0));
    let between = |low: f64, high: f64| writer.interval(low, high);
    let middle = || match (distribution.mean(), sd) {
        (Some(mean), Some(sd)) => format!("{} ± {}", bare.computed(mean), writer.computed(sd)),
        _ => format!("about {}, without a mean", writer.computed(distribution.quantile(0.5, 0.5))),
    };
    let named = || {
        choices().iter().find(|choice| choice.value == drawn.named).map_or_else(|| drawn.named.clone(), |choice| choice.words.to_owned())
    };
    let typed = match distribution {
        Distribution::Constant(value) => format!("always {}", writer.computed(*value)),
        Distribution::Uniform { low, high } => format!("uniform, {}", between(*low, *high)),
        Distribution::Triangular { low, mode, high } => format!("triangular, {}, mostly {}", between(*low, *high), bare.computed(*mode)),
        Distribution::Data(values) => format!("{}, {}", counted(values.len(), "value", "values"), middle()),
        Distribution::Normal { .. } if drawn.control.is_some() => format!("control, {}", middle()),
        Distribution::Shape(shape) if shape.family == Family::Normal => format!("normal, {}", middle()),
        _ => format!("{}, {}", named(), middle()),
    };
    match &drawn.link {
        Some(link) if link.follows => format!("from {}: {typed}", link.column),
        Some(link) => format!("accepted from {}: {typed}", link.column),
        None => typed,
    }
}

/// How a control is set: "2.0 W, from 1.5 to 2.5 W".
pub fn control(control: &Control) -> String {
    let write = |value: f64| if control.unit.is_empty() { typed(value) } else { format!("{} {}", typed(value), control.unit) };
    let held = control.sd.filter(|sd| *sd > 0.0).map_or_else(String::new, |sd| format!(" ± {sd}"));
    let set = format!("{}{held}", write(control.value));
    match (control.low, control.high) {
        (Some(low), Some(high)) => format!("{set}, may be {} to {}", typed(low), write(high)),
        _ => set,
    }
}
