//! A screening in tables.

use super::numbers::{Kind, Numbers};
use acorn_maths::words::{ValueFormat, grouped};
use acorn_study::{Brief, StoredAnswer, Table, ToNumbers, View};

impl ToNumbers for Numbers {
    type Numbers = Numbers;

    fn numbers(&self, _view: &View) -> Numbers {
        self.clone()
    }
}

impl StoredAnswer for Numbers {
    fn bytes(&self) -> usize {
        4_000 * self.results.len() + 4_000
    }

    fn brief(&self) -> Vec<Brief> {
        let beyond = self.results.iter().filter(|found| found.beyond).count();
        vec![
            Brief { term: "beyond chance", words: format!("{beyond} of {}", self.results.len()) },
            Brief { term: "rows", words: grouped(self.n) },
        ]
    }

    fn tables(&self) -> Vec<Table> {
        let over = || self.results.iter().map(|found| found.over.as_ref());
        let four = ValueFormat::fixed(4);
        let labels = Table::new("over", "Labels that hold too many of the rows in question")
            .texts("column", self.results.iter().filter(|found| found.over.is_some()).map(|found| Some(found.column.clone())))
            .texts("over-represented", over().flatten().map(|over| Some(over.label.clone())))
            .wholes("rows of it", None, over().flatten().map(|over| over.count))
            .wholes("out of", None, over().flatten().map(|over| over.of))
            .numbers("p of the label", Some(&four), Some("screen"), over().flatten().map(|over| Some(over.p)));
        let skipped = Table::new("skipped", "Columns that could not be tried")
            .texts("column", self.skipped.iter().map(|one| Some(one.column.clone())))
            .texts("what", self.skipped.iter().map(|one| Some(one.why.clone())));
        [labels, skipped].into_iter().filter(|table| table.rows() > 0).collect()
    }

    fn points(&self, view: &View) -> Table {
        let each = || self.results.iter();
        let (percent, four) = (ValueFormat::percent(1), ValueFormat::fixed(4));
        let kind = |kind: Kind| match kind {
            Kind::R2 => "r²",
            Kind::Eta2 => "η²",
            Kind::CramersV => "V²",
        };
        Table::new("points", "Columns")
            .texts("column", each().map(|found| Some(found.column.clone())))
            .texts("kind of measure", each().map(|found| found.kind.map(|one| kind(one).to_owned())))
            .wholes("rows", None, each().map(|found| found.n))
            .numbers("explained", Some(&percent), None, each().map(|found| found.explained))
            .numbers("adjusted", Some(&percent), None, each().map(|found| found.adjusted))
            .numbers("p", Some(&four), None, each().map(|found| found.p))
            .numbers("p of the screen", Some(&four), Some("screen"), each().map(|found| found.p_screen))
            .in_view(view)
    }
}
