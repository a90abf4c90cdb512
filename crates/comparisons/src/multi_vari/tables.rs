//! A multi-vari study in tables.

use super::arrangement::Arrangement;
use super::compute::Answer;
use acorn_maths::words::{ValueFormat, grouped, percent};
use acorn_study::{Brief, StoredAnswer, Table, View};

impl StoredAnswer for Answer {
    fn bytes(&self) -> usize {
        4 * self.tree.cell_of_row.len() + 120 * self.tree.cells.len() + 20_000
    }

    fn brief(&self) -> Vec<Brief> {
        let of = &self.whole;
        let family = of.dominant.as_ref().and_then(|name| of.families.iter().find(|family| family.name == *name));
        let family = family.map(|family| Brief { term: "family", words: format!("{} {}", family.name, percent(family.share)) });
        family.into_iter().chain([Brief { term: "values", words: grouped(of.n) }]).collect()
    }

    fn tables(&self) -> Vec<Table> {
        let of = &self.whole;
        let each = || of.families.iter();
        let (share, four) = (ValueFormat::percent(1), ValueFormat::fixed(4));
        let fine = of.writer.finer();
        let squared = ValueFormat::fine("", 1.0, each().map(|family| family.variance).fold(0.0, f64::max) / 1e3);
        let told = |family: &&super::numbers::Family, number: f64| (family.df > 0.0).then_some(number);
        let families = Table::new("families", "Where the variation comes from")
            .texts("family", each().map(|family| Some(family.name.clone())))
            .numbers("share of variation", Some(&share), Some("components"), each().map(|family| told(&family, family.share)))
            .numbers("share from", Some(&share), Some("share-interval"), each().map(|family| family.share_ci95.map(|ends| ends[0])))
            .numbers("share to", Some(&share), Some("share-interval"), each().map(|family| family.share_ci95.map(|ends| ends[1])))
            .numbers("sd", Some(&fine), Some("components"), each().map(|family| told(&family, family.sd)))
            .numbers("variance", Some(&squared), Some("components"), each().map(|family| told(&family, family.variance)))
            .numbers("df", Some(&ValueFormat::whole()), Some("nested"), each().map(|family| Some(family.df)))
            .numbers("ss", Some(&squared), Some("nested"), each().map(|family| Some(family.ss)))
            .numbers("p", Some(&four), Some("nested"), each().map(|family| family.p));
        let factors = || of.factors.iter();
        let lies = |arrangement| match arrangement {
            Arrangement::First => "outermost",
            Arrangement::Nested => "nested: each label under one parent",
            Arrangement::Crossed => "crossed: the same labels everywhere",
            Arrangement::Partly => "some labels under several parents",
        };
        let factors = Table::new("factors", "How the factors lie")
            .texts("family", factors().map(|factor| Some(factor.name.clone())))
            .wholes("number", None, factors().map(|factor| factor.groups))
            .texts("arrangement", factors().map(|factor| Some(lies(factor.arrangement).to_owned())));
        vec![families, factors]
    }

    fn points(&self, view: &View) -> Table {
        let of = &self.whole;
        let stretch = view.stretch(of.total).0;
        let cells: Vec<_> = stretch.map(|at| self.cell(at)).collect();
        let each = || cells.iter();
        let mut table = Table::new("points", "Combinations of levels");
        for (level, factor) in of.factors.iter().enumerate() {
            table = table.texts(factor.name.clone(), each().map(|cell| cell.levels.get(level).cloned()));
        }
        let (write, fine) = (&of.writer, of.writer.finer());
        table
            .wholes("values", None, each().map(|cell| cell.n))
            .numbers("mean", Some(&fine), Some("group-mean"), each().map(|cell| Some(cell.mean)))
            .numbers("sd", Some(&fine), None, each().map(|cell| cell.sd))
            .numbers("smallest", Some(write), None, each().map(|cell| Some(cell.low)))
            .numbers("largest", Some(write), None, each().map(|cell| Some(cell.high)))
    }

    fn rows(&self, first: usize, last: usize) -> Vec<i64> {
        let id = |row: usize| self.row_ids.as_ref().map_or(row as i64, |ids| ids[row]);
        let inside = |cell: u32| (first..=last).contains(&(cell as usize));
        let of = &self.tree.cell_of_row;
        (0..of.len()).filter(|&row| of[row] != super::factors::NO_CELL && inside(of[row])).map(id).collect()
    }
}
