//! What a person reads of a chart: limits by panel and phase, what else was found, and every point.

use super::answer::Chart;
use super::panel::{Lines, Panel, known};
use acorn_maths::words::{ValueFormat, capital, grouped};
use acorn_study::gauge::share::GaugeShare;
use acorn_study::view::kept_points;
use acorn_study::{Brief, Line, Table, Term, View};

impl Chart {
    /// The few numbers that are always in sight.
    pub(super) fn in_sight(&self) -> Vec<Brief> {
        let location = &self.panels[0];
        let spread = self.panels.get(1).unwrap_or(location);
        let newest = location.phases.last();
        let brief = |term, words: Option<String>| words.map(|words| Brief { term, words });
        let limits = newest.and_then(|phase| phase.lcl.zip(phase.ucl));
        let points = if self.noun().0 == "subgroup" { "subgroups" } else { "values" };
        let all = [
            brief("centre", newest.and_then(|phase| phase.center).map(|center| location.writer.computed(center))),
            brief("limits", limits.map(|(low, high)| location.writer.interval(low, high))),
            brief("within-sd", self.sigma_within.map(|sigma| spread.writer.computed(sigma))),
            brief("widened", self.diagnostics.sigma_z.map(|z| format!("{z:.2} times"))),
            brief(points, Some(grouped(location.present))),
        ];
        all.into_iter().flatten().collect()
    }

    /// Limits by panel and phase, and what else was found.
    pub(super) fn listed(&self) -> Vec<Table> {
        let tables = vec![self.limits_table(), self.facts_table(), GaugeShare::table(self.gauge.as_ref(), &self.panels[0].writer)];
        tables.into_iter().filter(|table| table.rows() > 0).collect()
    }

    fn limits_table(&self) -> Table {
        let all: Vec<_> = self.panels.iter().flat_map(|panel| panel.phases.iter().map(move |phase| (panel, phase))).collect();
        let name = |panel: &Panel, label: &Option<String>| {
            let what = capital(&panel.plotted.display_text());
            Some(label.as_ref().map_or_else(|| what.clone(), |label| format!("{what}, {label}")))
        };
        let within =
            |panel: &Panel, first: usize, last: usize| panel.signals.iter().filter(|s| s.first >= first && s.first <= last).count();
        let lines = all.iter().map(|(panel, phase)| Line {
            format: Some(panel.writer.finer()),
            formula: Some(panel.plotted.formula()),
            points: Some([phase.first, phase.last]),
        });
        let table = Table::new("limits", "Limits")
            .texts("what", all.iter().map(|(panel, phase)| name(panel, &phase.label)))
            .wholes("from", None, all.iter().map(|(_, phase)| phase.first + 1))
            .wholes("to", None, all.iter().map(|(_, phase)| phase.last + 1))
            .numbers("LCL", None, None, all.iter().map(|(_, phase)| phase.lcl))
            .numbers("CL", None, None, all.iter().map(|(_, phase)| phase.center))
            .numbers("UCL", None, None, all.iter().map(|(_, phase)| phase.ucl))
            .numbers("sd", None, None, all.iter().map(|(_, phase)| phase.sigma))
            .wholes("signals", Some("patterns"), all.iter().map(|(panel, phase)| within(panel, phase.first, phase.last)));
        Table { lines: lines.collect(), ..table }
    }

    fn facts_table(&self) -> Table {
        let (three, two, one, whole) = (ValueFormat::fixed(3), ValueFormat::fixed(2), ValueFormat::fixed(1), ValueFormat::whole());
        let measure = self.panels[0].writer.finer();
        let term = |words: &str, format: &ValueFormat, formula, number: Option<f64>| Term::new(words, format, formula, [number]);
        let mut terms = vec![
            term("width of the limits, sd", &one, self.panels[0].plotted.formula(), Some(self.width)),
            term("process sd", &measure, "short-term-sd", self.sigma_within),
            term(&format!("{} between false alarms", self.noun().1), &whole, "false-alarms", self.in_control_arl),
            term("limits widened, times", &three, "prime", self.diagnostics.sigma_z),
            term("likeness of neighbours, r", &two, "means", self.lag_one),
        ];
        if let Some(found) = self.diagnostics.dispersion {
            terms.extend([
                term("scatter, χ² / df", &two, "dispersion", Some(found.ratio)),
                term("its df", &whole, "dispersion", Some(found.df)),
                term("p of the scatter", &three, "dispersion", Some(found.p)),
            ]);
        }
        if let Some(runs) = &self.diagnostics.runs {
            let (about, steps) = (&runs.about_median, &runs.up_down);
            terms.extend([
                term("runs about the median", &whole, "runs", Some(about.observed as f64)),
                term("expected", &one, "runs", about.expected),
                term("p of clusters", &three, "runs", about.p_clustering),
                term("p of mixtures", &three, "runs", about.p_mixtures),
                term("runs up and down", &whole, "runs", Some(steps.observed as f64)),
                term("expected", &one, "runs", steps.expected),
                term("p of trends", &three, "runs", steps.p_trends),
                term("p of swings", &three, "runs", steps.p_oscillation),
            ]);
        }
        if let Some(shift) = &self.comparison {
            terms.extend([
                term("shift between phases", &measure, "before-after", Some(shift.shift)),
                term("its 95 % interval from", &measure, "before-after", Some(shift.shift_ci95[0])),
                term("to", &measure, "before-after", Some(shift.shift_ci95[1])),
                term("p of the shift", &three, "before-after", Some(shift.p_shift)),
                term("spread after / before", &two, "before-after", shift.spread_ratio),
                term("p of the change of spread", &three, "before-after", shift.p_spread),
            ]);
        }
        if let Some(fresh) = &self.freshness {
            terms.extend([
                term("newest against the limits, shift", &measure, "frozen-limits", Some(fresh.shift)),
                term("p of that shift", &three, "frozen-limits", Some(fresh.p_mean)),
                term("newest spread / limits' spread", &two, "frozen-limits", fresh.spread_ratio),
                term("p of that spread", &three, "frozen-limits", fresh.p_spread),
            ]);
        }
        Table::of_terms("facts", "Found besides", &["", "value"], terms)
    }

    /// Every point of a view.
    pub(super) fn points_table(&self, view: &View) -> Table {
        let location = &self.panels[0];
        let (stretch, bucket) = view.stretch(self.len());
        let kept = kept_points(&location.values, stretch, bucket);
        let phases: Vec<Vec<usize>> = self.panels.iter().map(|panel| phases_of(panel, &kept)).collect();
        let lines = kept.iter().map(|&i| Line { points: Some([i, i]), ..Line::default() }).collect();
        let mut table = Table::new("points", "Points")
            .wholes("point", None, kept.iter().map(|&i| i + 1))
            .texts("label", kept.iter().map(|&i| Some(self.points.label(i))))
            .wholes("row", None, kept.iter().map(|&i| self.points.first_row(i) + 1))
            .texts("left out", kept.iter().map(|&i| self.points.is_omitted(i).then(|| "yes".to_owned())));
        for (panel, phases) in self.panels.iter().zip(&phases) {
            let (name, fine, id) = (panel.plotted.display_text(), panel.writer.finer(), Some(panel.plotted.formula()));
            let limit = |get: fn(&Lines) -> f64| kept.iter().zip(phases).map(move |(&i, &place)| known(get(&panel.lines(place, i))));
            table = table
                .numbers(name.clone(), Some(&panel.writer), None, kept.iter().map(|&i| known(panel.values[i])))
                .numbers(format!("{name} LCL"), Some(&fine), id, limit(|lines| lines.lcl))
                .numbers(format!("{name} CL"), Some(&fine), id, limit(|lines| lines.center))
                .numbers(format!("{name} UCL"), Some(&fine), id, limit(|lines| lines.ucl))
                .texts(format!("{name} signals"), signal_names(panel, &kept));
        }
        Table { lines, ..table }
    }
}

/// The phase of each kept point.
fn phases_of(panel: &Panel, kept: &[usize]) -> Vec<usize> {
    let mut place = 0;
    let of = |i: &usize| {
        while panel.phases[place].last < *i {
            place += 1;
        }
        place
    };
    kept.iter().map(of).collect()
}

/// The patterns that each kept point belongs to.
fn signal_names(panel: &Panel, kept: &[usize]) -> Vec<Option<String>> {
    let mut names: Vec<Option<String>> = vec![None; kept.len()];
    for signal in &panel.signals {
        let (start, end) = (kept.partition_point(|i| *i < signal.first), kept.partition_point(|i| *i <= signal.last));
        for name in &mut names[start..end] {
            let joined = name.take().map_or_else(String::new, |before| before + ", ");
            *name = Some(joined + &signal.pattern.name().replace('-', " "));
        }
    }
    names
}
