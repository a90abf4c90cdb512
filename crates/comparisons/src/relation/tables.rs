//! A relation in tables.

use super::compute::Answer;
use super::numbers::Numbers;
use acorn_maths::words::{ValueFormat, grouped};
use acorn_study::{Brief, StoredAnswer, Table, Term, ToNumbers, View};

impl ToNumbers for Answer {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.numbers.clone()
    }
}

impl StoredAnswer for Answer {
    fn bytes(&self) -> usize {
        24 * self.x.len() + 64 * self.numbers.points.len() + 40_000
    }

    fn brief(&self) -> Vec<Brief> {
        let of = &self.numbers;
        let r = of.pearson.map(|r| Brief { term: "r", words: ValueFormat::fixed(3).value(r) });
        let r2 = of.fit.as_ref().map(|fit| Brief { term: "R²", words: format!("{:.3}", fit.r2) });
        r.into_iter().chain(r2).chain([Brief { term: "values", words: grouped(of.n) }]).collect()
    }

    fn tables(&self) -> Vec<Table> {
        let of = &self.numbers;
        let (three, four) = (ValueFormat::fixed(3), ValueFormat::fixed(4));
        let ends = |ends: Option<[f64; 2]>, place: usize| ends.map(|ends| ends[place]);
        let mut terms = vec![
            Term::new("Pearson", &three, "pearson", [of.pearson, ends(of.ci95, 0), ends(of.ci95, 1), of.p]),
            Term::new("Spearman", &three, "spearman", [of.spearman, ends(of.spearman_ci95, 0), ends(of.spearman_ci95, 1), None]),
        ];
        if let Some(within) = of.within {
            terms.push(Term::new("within groups", &three, "within", [Some(within.r), None, None, within.p]));
        }
        let mut tables = vec![Table::of_terms("correlation", "Correlation", &["", "r", "from", "to", "p"], terms)];
        if let Some(fit) = &of.fit {
            let fine = ValueFormat::fine("", 1.0, fit.coefficients.iter().fold(0.0, |most: f64, one| most.max(one.abs())) / 1e4);
            let names = ["constant", "x", "x²"];
            let mut terms: Vec<Term> =
                names.iter().zip(&fit.coefficients).map(|(name, value)| Term::new(*name, &fine, "fit", [Some(*value)])).collect();
            terms.push(Term::new("sd about the fit", &of.writers[1].finer(), "fit", [Some(fit.sd)]));
            terms.push(Term::new("R²", &four, "fit", [Some(fit.r2)]));
            tables.push(Table::of_terms("fit", "Fit", &["", "value"], terms));
        }
        if !of.groups.is_empty() {
            let each = || of.groups.iter();
            let groups = Table::new("groups", "Each group by itself")
                .texts("groups", each().map(|group| Some(group.label.clone())))
                .wholes("values", None, each().map(|group| group.n))
                .numbers("r", Some(&three), Some("pearson"), each().map(|group| group.pearson))
                .numbers("p", Some(&four), Some("pearson"), each().map(|group| group.p));
            tables.push(groups);
        }
        tables
    }

    fn points(&self, view: &View) -> Table {
        let of = &self.numbers;
        let [x, y] = &of.writers;
        // A view of a long table is made of its own rows only.
        let stretch = view.stretch(self.x.len()).0;
        let each = || stretch.clone();
        let fitted = |place: usize| self.fit.as_ref().map(|fit| fit.at(self.x[place]));
        Table::new("points", "Pairs")
            .wholes("row", None, each().map(|place| self.at[place] + 1))
            .numbers(of.names[0].clone(), Some(x), None, each().map(|place| Some(self.x[place])))
            .numbers(of.names[1].clone(), Some(y), None, each().map(|place| Some(self.y[place])))
            .numbers("fitted", Some(&y.finer()), Some("fit"), each().map(fitted))
            .numbers("residual", Some(&y.finer()), Some("fit"), each().map(|place| fitted(place).map(|fitted| self.y[place] - fitted)))
            .numbers(
                "leverage",
                Some(&ValueFormat::fixed(4)),
                Some("bands"),
                each().map(|place| self.fit.as_ref().map(|fit| fit.leverage(self.x[place]))),
            )
    }

    fn rows(&self, first: usize, last: usize) -> Vec<i64> {
        let id = |row: &usize| self.row_ids.as_ref().map_or(*row as i64, |ids| ids[*row]);
        self.at.get(first..=last.min(self.at.len().saturating_sub(1))).unwrap_or_default().iter().map(id).collect()
    }
}
