//! A matrix of correlations in tables.

use super::numbers::Numbers;
use acorn_maths::words::ValueFormat;
use acorn_study::{Brief, StoredAnswer, Table, ToNumbers, View};

impl ToNumbers for Numbers {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.clone()
    }
}

impl Numbers {
    /// Every pair once, by the places of its columns.
    pub fn pairs(&self) -> impl Iterator<Item = (usize, usize)> + use<> {
        let k = self.columns.len();
        (0..k).flat_map(move |a| (a + 1..k).map(move |b| (a, b)))
    }
}

impl StoredAnswer for Numbers {
    fn bytes(&self) -> usize {
        let k = self.columns.len();
        120 * k * k + k * (16 * self.sample.first().map_or(0, Vec::len) + 400)
    }

    fn brief(&self) -> Vec<Brief> {
        let flagged = self.pairs().filter(|&(a, b)| self.flagged[a][b]).count();
        vec![Brief { term: "pairs flagged", words: format!("{flagged} of {}", self.pairs().count()) }]
    }

    fn tables(&self) -> Vec<Table> {
        Vec::new()
    }

    fn points(&self, view: &View) -> Table {
        let each = || self.pairs();
        let (three, four) = (ValueFormat::fixed(3), ValueFormat::fixed(4));
        let end = |place: usize| each().map(move |(a, b)| self.ci95[a][b].map(|ends| ends[place])).collect::<Vec<_>>();
        Table::new("points", "Pairs")
            .texts("pair", each().map(|(a, b)| Some(format!("{} and {}", self.columns[a].name, self.columns[b].name))))
            .wholes("rows", None, each().map(|(a, b)| self.n[a][b]))
            .numbers("r", Some(&three), Some("pearson"), each().map(|(a, b)| self.pearson[a][b]))
            .numbers("from", Some(&three), Some("pearson"), end(0))
            .numbers("to", Some(&three), Some("pearson"), end(1))
            .numbers("p", Some(&four), Some("pearson"), each().map(|(a, b)| self.p[a][b]))
            .numbers("p for all pairs", Some(&four), Some("holm"), each().map(|(a, b)| self.p_holm[a][b]))
            .numbers("Spearman", Some(&three), Some("spearman"), each().map(|(a, b)| self.spearman[a][b]))
            .in_view(view)
    }
}
