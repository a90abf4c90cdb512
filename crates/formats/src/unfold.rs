//! The usual sheet of a gauge study: a row a part, and a column for each operator's trial ("Ida 1", "Ida 2", "Jonas 1", ...).
//!
//! It is recognised by the names of its columns and turned into a row a reading, which is what studies take.

use acorn_core::frame::{Kind, NO_CODE, Values};
use serde::Serialize;

use crate::table::{Table, TableColumn};

/// A sheet that can be unfolded, in the words of its columns.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "openapi", derive(utoipa::ToSchema))]
pub struct WideSheet {
    /// The column that names the parts.
    pub part: String,
    /// The operators, in the order of their columns.
    pub operators: Vec<String>,
    /// Readings of a part by an operator.
    pub trials: usize,
    /// Rows of the unfolded table.
    pub rows: usize,
}

/// Names of the columns of the unfolded table beside those that stay.
const OPERATOR: &str = "operator";
const TRIAL: &str = "trial";
const READING: &str = "reading";

/// Where each operator's trials stand.
struct Found {
    sheet: WideSheet,
    part: usize,
    /// By operator, then by trial.
    readings: Vec<Vec<usize>>,
    /// Columns that are neither.
    others: Vec<usize>,
}

/// Whether a table is such a sheet: a column of parts, each named once, and numeric columns of two operators or more with the
/// same two trials or more each.
pub fn wide_sheet(table: &Table) -> Option<WideSheet> {
    find(table).map(|found| found.sheet)
}

fn find(table: &Table) -> Option<Found> {
    let numbered = |column: &TableColumn| column.kind.is_numeric().then(|| split(&column.name)).flatten();
    let mut operators: Vec<(String, Vec<(u32, usize)>)> = Vec::new();
    let mut others = Vec::new();
    for (place, column) in table.columns.iter().enumerate() {
        let Some((name, trial)) = numbered(column) else {
            others.push(place);
            continue;
        };
        match operators.iter_mut().find(|(other, _)| *other == name) {
            Some((_, trials)) => trials.push((trial, place)),
            None => operators.push((name, vec![(trial, place)])),
        }
    }
    let trials = operators.first().map_or(0, |(_, trials)| trials.len());
    for (_, trials) in &mut operators {
        trials.sort_unstable();
    }
    let same =
        |(_, of): &(String, Vec<(u32, usize)>)| of.len() == trials && of.iter().zip(1..).all(|((trial, _), wanted)| *trial == wanted);
    let part = *others.iter().find(|place| is_name(&table.columns[**place], table.rows))?;
    if operators.len() < 2 || trials < 2 || table.rows < 2 || !operators.iter().all(same) {
        return None;
    }
    let taken = |name: &str| others.iter().any(|place| table.columns[*place].name.eq_ignore_ascii_case(name));
    if [OPERATOR, TRIAL, READING].into_iter().any(taken) {
        return None;
    }
    Some(Found {
        sheet: WideSheet {
            part: table.columns[part].name.clone(),
            operators: operators.iter().map(|(name, _)| name.clone()).collect(),
            trials,
            rows: table.rows * operators.len() * trials,
        },
        part,
        readings: operators.into_iter().map(|(_, trials)| trials.into_iter().map(|(_, place)| place).collect()).collect(),
        others: others.into_iter().filter(|place| *place != part).collect(),
    })
}

/// "Ida 2", "Ida_2", "Ida, trial 2", "A2" as a name with a trial.
fn split(name: &str) -> Option<(String, u32)> {
    let name = name.trim().trim_end_matches([')', ']']);
    let digits = name.len() - name.trim_end_matches(|letter: char| letter.is_ascii_digit()).len();
    let (before, trial) = name.split_at(name.len() - digits);
    let before = before.trim_end_matches(|letter: char| !letter.is_alphanumeric());
    let lower = before.to_lowercase();
    let before = ["trial", "reading", "run", "look"]
        .iter()
        .find_map(|word| lower.strip_suffix(word).map(|left| &before[..left.len()]))
        .unwrap_or(before);
    let before = before.trim_matches(|letter: char| !letter.is_alphanumeric());
    let trial = trial.parse().ok().filter(|trial| (1..=50).contains(trial))?;
    (!before.is_empty()).then(|| (before.to_owned(), trial))
}

/// Whether a column names each row by itself.
fn is_name(column: &TableColumn, rows: usize) -> bool {
    if column.kind == Kind::Number {
        return false;
    }
    let mut keys: Vec<u64> = (0..rows).filter(|row| !column.values.is_missing(*row)).map(|row| column.values.key(row)).collect();
    keys.sort_unstable();
    keys.dedup();
    keys.len() == rows && rows > 0
}

/// The table with a row a reading; `None` when it is no such sheet.
pub fn unfold(table: &Table) -> Option<Table> {
    let Found { sheet, part, readings, others } = find(table)?;
    // Of each reading its row in the sheet, its operator and its trial.
    let places: Vec<(usize, usize, usize)> = (0..table.rows)
        .flat_map(|row| (0..readings.len()).flat_map(move |operator| (0..sheet.trials).map(move |trial| (row, operator, trial))))
        .collect();
    let repeated = |place: usize| {
        let column = &table.columns[place];
        TableColumn { values: at(&column.values, places.iter().map(|(row, ..)| *row)), ..column.clone() }
    };
    let number = |row: usize, place: usize| match &table.columns[place].values {
        Values::Number(numbers) => numbers[row],
        _ => f64::NAN,
    };
    let first = &table.columns[readings[0][0]];
    let same_unit = readings.iter().flatten().all(|place| table.columns[*place].unit == first.unit);
    let mut columns = vec![repeated(part)];
    columns.push(TableColumn {
        name: OPERATOR.to_owned(),
        kind: Kind::Category,
        unit: None,
        values: Values::Label {
            codes: places.iter().map(|(_, operator, _)| *operator as u32).collect(),
            labels: sheet.operators.clone().into(),
        },
    });
    columns.push(TableColumn {
        name: TRIAL.to_owned(),
        kind: Kind::WholeNumber,
        unit: None,
        values: Values::Number(places.iter().map(|(.., trial)| (trial + 1) as f64).collect()),
    });
    columns.push(TableColumn {
        name: READING.to_owned(),
        kind: Kind::Number,
        unit: first.unit.clone().filter(|_| same_unit),
        values: Values::Number(places.iter().map(|&(row, operator, trial)| number(row, readings[operator][trial])).collect()),
    });
    columns.extend(others.into_iter().map(repeated));
    Some(Table { columns, rows: places.len() })
}

fn at(values: &Values, rows: impl Iterator<Item = usize>) -> Values {
    match values {
        Values::Number(numbers) => Values::Number(rows.map(|row| numbers[row]).collect()),
        Values::Label { codes, labels } => {
            let code = |row: usize| codes.get(row).copied().unwrap_or(NO_CODE);
            Values::Label { codes: rows.map(code).collect(), labels: labels.clone() }
        }
        Values::Time(times) => Values::Time(rows.map(|row| times[row]).collect()),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Source, Wish, read};

    fn table(text: &str) -> Table {
        read(&Source::open("sheet.csv", text.as_bytes().to_vec()).unwrap(), &Wish::default()).unwrap().table
    }

    #[test]
    fn a_row_a_part_and_a_column_a_trial_become_a_row_a_reading() {
        let sheet = table("housing,Ida 1,Ida 2,Jonas 1,Jonas 2,shelf\nH1,1.11,1.12,1.13,,A\nH2,1.21,1.22,1.23,1.24,B\n");
        let wide = wide_sheet(&sheet).unwrap();
        assert_eq!(
            (wide.part.as_str(), &wide.operators[..], wide.trials, wide.rows),
            ("housing", &["Ida".to_owned(), "Jonas".into()][..], 2, 8)
        );
        let long = unfold(&sheet).unwrap();
        let row = |row: usize| long.columns.iter().map(|column| column.values.text(row).unwrap_or_default()).collect::<Vec<_>>();
        assert_eq!(
            long.columns.iter().map(|column| column.name.as_str()).collect::<Vec<_>>(),
            ["housing", "operator", "trial", "reading", "shelf"]
        );
        assert_eq!(
            [row(1), row(3), row(6)],
            [["H1", "Ida", "2", "1.12", "A"], ["H1", "Jonas", "2", "", "A"], ["H2", "Jonas", "1", "1.23", "B"]]
        );
    }

    #[test]
    fn names_of_many_kinds_are_read_and_other_tables_are_left_alone() {
        for (name, want) in
            [("Ida_2", "Ida"), ("Ida, trial 2", "Ida"), ("A2", "A"), ("Mei Lin (2)", "Mei Lin"), ("J. Orr-Reading 2", "J. Orr")]
        {
            assert_eq!(split(name), Some((want.to_owned(), 2)), "{name}");
        }
        assert_eq!([split("2"), split("flux"), split("trial 2"), split("year 2026")], [None, None, None, None]);
        // Readings of a subgroup side by side, one trial each, trials that differ, parts named twice.
        for other in [
            "sample,x1,x2,x3\n1,2.4,2.5,2.6\n2,2.4,2.5,2.6\n",
            "part,Ida 1,Jonas 1\nH1,2.4,2.5\nH2,2.4,2.5\n",
            "part,Ida 1,Ida 2,Jonas 1\nH1,2.4,2.5,2.6\nH2,2.4,2.5,2.6\n",
            "part,Ida 1,Ida 2,Jonas 1,Jonas 2\nH1,2.4,2.5,2.6,2.7\nH1,2.4,2.5,2.6,2.7\n",
        ] {
            assert_eq!(wide_sheet(&table(other)), None, "{other}");
        }
    }
}
