//! A comparison in tables.

use super::numbers::{Numbers, Pair};
use acorn_maths::words::{ValueFormat, grouped, small};
use acorn_study::{Brief, StoredAnswer, Table, Term, ToNumbers, View};

impl ToNumbers for Numbers {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.clone()
    }
}

impl StoredAnswer for Numbers {
    fn bytes(&self) -> usize {
        let values: usize = self.groups.iter().map(|group| 8 * group.values.len() + 160).sum();
        values + 160 * (self.tukey.len() + self.games_howell.len())
    }

    fn brief(&self) -> Vec<Brief> {
        let p = self.anova.map(|test| Brief { term: "p", words: small(test.p) });
        let n: usize = self.groups.iter().map(|group| group.n).sum();
        p.into_iter().chain([Brief { term: "values", words: grouped(n) }]).collect()
    }

    fn tables(&self) -> Vec<Table> {
        let (fine, two, four) = (self.writer.finer(), ValueFormat::fixed(3), ValueFormat::fixed(4));
        let each = || self.groups.iter();
        let end = |place: usize| each().map(move |group| group.ci95.map(|ends| ends[place]));
        let groups = Table::new("groups", "Groups")
            .texts("groups", each().map(|group| Some(group.label.clone())))
            .wholes("values", None, each().map(|group| group.n))
            .numbers("mean", Some(&fine), Some("mean"), each().map(|group| Some(group.mean)))
            .numbers("from", Some(&fine), Some("mean"), end(0))
            .numbers("to", Some(&fine), Some("mean"), end(1))
            .numbers("sd", Some(&fine), Some("mean"), each().map(|group| group.sd));
        let mut terms = Vec::new();
        let mut test = |words: &str, formula, numbers: Option<[f64; 4]>| {
            terms.push(Term::new(words, &four, formula, numbers.map_or([None; 4], |numbers| numbers.map(Some))));
        };
        test("analysis of variance", "anova", self.anova.map(|one| [one.f, one.df1, one.df2, one.p]));
        test("Welch", "welch", self.welch.map(|one| [one.f, one.df1, one.df2, one.p]));
        test("Kruskal-Wallis", "kruskal", self.kruskal.map(|one| [one.h, one.df, f64::NAN, one.p]));
        test("Brown-Forsythe", "brown-forsythe", self.brown_forsythe.map(|one| [one.f, one.df1, one.df2, one.p]));
        test("two means, pooled", "two-sample", self.two_sample.map(|one| [one.pooled.t, one.pooled.df, f64::NAN, one.pooled.p]));
        let welch = self.two_sample.and_then(|one| one.welch);
        test("two means, Welch", "two-sample", welch.map(|one| [one.t, one.df, f64::NAN, one.p]));
        test("one mean", "one-mean", self.paired.or(self.one_sample).map(|one| [one.t, one.df, f64::NAN, one.p]));
        let tests = Table::of_terms("tests", "Tests", &["", "value", "df", "df within", "p"], terms);
        let mut tables = vec![groups, tests];
        if !self.tukey.is_empty() {
            tables.push(of_pairs("tukey", "Pairs, by Tukey", "tukey", &self.tukey, &fine, &two));
        }
        if !self.games_howell.is_empty() {
            tables.push(of_pairs("games-howell", "Pairs, by Games-Howell", "games-howell", &self.games_howell, &fine, &two));
        }
        if let Some(anom) = &self.anom {
            let each = || anom.iter();
            let limits = Table::new("anom", "Analysis of means")
                .texts("groups", each().map(|one| Some(one.label.clone())))
                .numbers("mean", Some(&fine), Some("anom"), each().map(|one| Some(one.mean)))
                .numbers("LDL", Some(&fine), Some("anom"), each().map(|one| Some(one.lcl)))
                .numbers("UDL", Some(&fine), Some("anom"), each().map(|one| Some(one.ucl)))
                .texts("outside", each().map(|one| one.outside.then(|| "yes".to_owned())));
            tables.push(limits);
        }
        tables
    }

    fn points(&self, view: &View) -> Table {
        let each = || self.groups.iter();
        Table::new("points", "Groups")
            .texts("groups", each().map(|group| Some(group.label.clone())))
            .numbers("mean", Some(&self.writer.finer()), Some("mean"), each().map(|group| Some(group.mean)))
            .in_view(view)
    }
}

fn of_pairs(id: &'static str, title: &str, formula: &'static str, pairs: &[Pair], write: &ValueFormat, df: &ValueFormat) -> Table {
    let each = || pairs.iter();
    Table::new(id, title)
        .texts("pair", each().map(|pair| Some(format!("{}, {}", pair.a, pair.b))))
        .numbers("apart", Some(write), Some(formula), each().map(|pair| Some(pair.difference)))
        .numbers("from", Some(write), Some(formula), each().map(|pair| Some(pair.ci95[0])))
        .numbers("to", Some(write), Some(formula), each().map(|pair| Some(pair.ci95[1])))
        .numbers("df", Some(df), Some(formula), each().map(|pair| Some(pair.df)))
        .numbers("p", Some(&ValueFormat::fixed(4)), Some(formula), each().map(|pair| Some(pair.p)))
}
