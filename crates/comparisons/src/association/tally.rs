//! A table of counts, and its rare labels as one.

/// How much each label counts, and where it first comes.
pub struct Totals {
    pub sums: Vec<f64>,
    pub first: Vec<usize>,
}

impl Totals {
    /// Of so many labels, none counted yet.
    pub fn none(labels: usize) -> Totals {
        Totals { sums: vec![0.0; labels], first: vec![usize::MAX; labels] }
    }

    /// Counts a row.
    pub fn add(&mut self, label: u32, count: f64, row: usize) {
        self.sums[label as usize] += count;
        let first = &mut self.first[label as usize];
        *first = (*first).min(row);
    }

    /// Labels that any row has.
    pub fn live(&self) -> usize {
        self.first.iter().filter(|first| **first != usize::MAX).count()
    }
}

/// Counts by row and column.
#[derive(Clone, Debug, PartialEq)]
pub struct Cross {
    pub rows: Vec<String>,
    pub columns: Vec<String>,
    /// Row by row.
    pub counts: Vec<f64>,
    /// How many rare labels are one, of rows and of columns.
    pub folded: [usize; 2],
}

/// Where the labels of one side stand in a table.
#[derive(Clone, Debug)]
pub struct Side {
    /// The names of its rows or columns, in order of first appearance, the rare ones last as one.
    pub labels: Vec<String>,
    /// The place of each label.
    pub places: Vec<usize>,
    /// How many are one.
    pub folded: usize,
}

impl Side {
    /// At most `keep` places.
    pub fn of(totals: &Totals, labels: &[String], keep: usize) -> Side {
        let mut live: Vec<usize> = (0..labels.len()).filter(|&label| totals.first[label] != usize::MAX).collect();
        live.sort_by_key(|&label| totals.first[label]);
        let sums: Vec<f64> = live.iter().map(|&label| totals.sums[label]).collect();
        let places = Places::of(&sums, keep);
        let mut of_label = vec![0; labels.len()];
        live.iter().zip(&places.at).for_each(|(&label, &place)| of_label[label] = place);
        Side {
            labels: places.names(&live.iter().map(|&label| labels[label].clone()).collect::<Vec<_>>()),
            places: of_label,
            folded: places.folded,
        }
    }
}

/// The place of each of some labels when the rare ones are one.
struct Places {
    at: Vec<usize>,
    count: usize,
    folded: usize,
}

impl Places {
    fn of(sums: &[f64], keep: usize) -> Places {
        if sums.len() <= keep {
            return Places { at: (0..sums.len()).collect(), count: sums.len(), folded: 0 };
        }
        let mut largest: Vec<usize> = (0..sums.len()).collect();
        largest.sort_by(|&a, &b| sums[b].total_cmp(&sums[a]).then(a.cmp(&b)));
        let mut is_kept = vec![false; sums.len()];
        largest.iter().take(keep.saturating_sub(1)).for_each(|&label| is_kept[label] = true);
        let mut next = 0;
        let place = |kept: &bool| {
            let place = if *kept { next } else { usize::MAX };
            next += usize::from(*kept);
            place
        };
        let mut at: Vec<usize> = is_kept.iter().map(place).collect();
        at.iter_mut().filter(|place| **place == usize::MAX).for_each(|place| *place = next);
        Places { at, count: next + 1, folded: sums.len() - next }
    }

    fn names(&self, labels: &[String]) -> Vec<String> {
        let mut names = vec![String::new(); self.count];
        labels.iter().zip(&self.at).for_each(|(label, &place)| names[place].clone_from(label));
        if self.folded > 0 {
            names[self.count - 1] = format!("{} others", self.folded);
        }
        names
    }
}

impl Cross {
    /// The count of a cell.
    pub fn at(&self, row: usize, column: usize) -> f64 {
        self.counts[row * self.columns.len() + column]
    }

    /// The totals of the rows and of the columns.
    pub fn totals(&self) -> (Vec<f64>, Vec<f64>) {
        let (r, c) = (self.rows.len(), self.columns.len());
        let row = |row| (0..c).map(|column| self.at(row, column)).sum();
        let column = |column| (0..r).map(|row| self.at(row, column)).sum();
        ((0..r).map(row).collect(), (0..c).map(column).collect())
    }

    /// A table small enough to be drawn, by the totals of `whole`, which has the same rows and columns; the rarest are one.
    pub fn drawn(&self, whole: &Cross, most: usize) -> Cross {
        let (row_sums, column_sums) = whole.totals();
        let (rows, columns) = (Places::of(&row_sums, most), Places::of(&column_sums, most));
        let mut counts = vec![0.0; rows.count * columns.count];
        for (row, &to_row) in rows.at.iter().enumerate() {
            for (column, &to_column) in columns.at.iter().enumerate() {
                counts[to_row * columns.count + to_column] += self.at(row, column);
            }
        }
        Cross { rows: rows.names(&self.rows), columns: columns.names(&self.columns), counts, folded: [rows.folded, columns.folded] }
    }
}
