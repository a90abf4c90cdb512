//! Sheets with several readings in a row: a column for each operator's trial ("Ida 1", "Ida 2", "Jonas 1", ...), or the pieces of a
//! subgroup side by side ("x1" to "x5").
//!
//! They are recognised by the names of their columns and can be turned into a row a reading.

use acorn_data::frame::{Kind, NO_CODE, Values};
use serde::Serialize;

use crate::table::{Table, TableColumn};

/// A sheet that can be unfolded, in the words of its columns.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct WideSheet {
    /// The column that names each row, as a part; absent where none does.
    pub part: Option<String>,
    /// The operators, in the order of their columns; none where a row is a subgroup.
    pub operators: Vec<String>,
    /// The readings of an operator or a subgroup in a row.
    pub trials: usize,
    /// What the column of readings is to be called.
    pub reading: String,
    /// Rows of the unfolded table.
    pub rows: usize,
}

/// Names of the columns of the unfolded table beside those that stay.
const OPERATOR: &str = "operator";
const TRIAL: &str = "trial";
const READING: &str = "reading";
const SUBGROUP: &str = "subgroup";
const PIECE: &str = "piece";

/// Where the readings stand.
struct Found {
    sheet: WideSheet,
    part: Option<usize>,
    /// By operator, then by trial.
    readings: Vec<Vec<usize>>,
    /// Columns that are neither.
    others: Vec<usize>,
}

/// Whether a table is such a sheet: a column of parts, each named once, and numeric columns of two operators or more with the
/// same two trials or more each; or one set of two numeric columns or more that are numbered from 1.
pub fn wide_sheet(table: &Table) -> Option<WideSheet> {
    find(table).map(|found| found.sheet)
}

fn find(table: &Table) -> Option<Found> {
    by_operator(table).or_else(|| side_by_side(table))
}

/// Sets of numeric columns with a name and numbers, each in the order of its numbers; and the other columns.
type Sets = (Vec<(String, Vec<(u32, usize)>)>, Vec<usize>);

fn sets(table: &Table, split: impl Fn(&str) -> Option<(String, u32)>) -> Sets {
    let mut sets: Vec<(String, Vec<(u32, usize)>)> = Vec::new();
    let mut others = Vec::new();
    for (place, column) in table.columns.iter().enumerate() {
        let Some((name, number)) = column.kind.is_numeric().then(|| split(&column.name)).flatten() else {
            others.push(place);
            continue;
        };
        match sets.iter_mut().find(|(other, _)| *other == name) {
            Some((_, columns)) => columns.push((number, place)),
            None => sets.push((name, vec![(number, place)])),
        }
    }
    sets.iter_mut().for_each(|(_, columns)| columns.sort_unstable());
    (sets, others)
}

fn is_counted((_, columns): &(String, Vec<(u32, usize)>), count: usize) -> bool {
    columns.len() == count && columns.iter().zip(1..).all(|((number, _), wanted)| *number == wanted)
}

fn is_free(table: &Table, others: &[usize], names: &[&str]) -> bool {
    !names.iter().any(|name| others.iter().any(|place| table.columns[*place].name.eq_ignore_ascii_case(name)))
}

fn by_operator(table: &Table) -> Option<Found> {
    let (operators, others) = sets(table, split);
    let trials = operators.first().map_or(0, |(_, trials)| trials.len());
    let part = *others.iter().find(|place| is_name(&table.columns[**place], table.rows))?;
    let alike = operators.iter().all(|operator| is_counted(operator, trials));
    if operators.len() < 2 || trials < 2 || table.rows < 2 || !alike || !is_free(table, &others, &[OPERATOR, TRIAL, READING]) {
        return None;
    }
    Some(Found {
        sheet: WideSheet {
            part: Some(table.columns[part].name.clone()),
            operators: operators.iter().map(|(name, _)| name.clone()).collect(),
            trials,
            reading: READING.to_owned(),
            rows: table.rows * operators.len() * trials,
        },
        part: Some(part),
        readings: operators.into_iter().map(|(_, trials)| trials.into_iter().map(|(_, place)| place).collect()).collect(),
        others: others.into_iter().filter(|place| *place != part).collect(),
    })
}

fn side_by_side(table: &Table) -> Option<Found> {
    let (sets, others) = sets(table, numbered);
    let [set] = &sets[..] else { return None };
    let units = set.1.iter().map(|(_, place)| &table.columns[*place].unit).collect::<std::collections::HashSet<_>>();
    if set.1.len() < 2 || !is_counted(set, set.1.len()) || units.len() > 1 || !is_free(table, &others, &[SUBGROUP, PIECE, &set.0]) {
        return None;
    }
    let part = others.iter().copied().find(|place| is_name(&table.columns[*place], table.rows));
    Some(Found {
        sheet: WideSheet {
            part: part.map(|place| table.columns[place].name.clone()),
            operators: Vec::new(),
            trials: set.1.len(),
            reading: set.0.clone(),
            rows: table.rows * set.1.len(),
        },
        part,
        readings: vec![set.1.iter().map(|(_, place)| *place).collect()],
        others: others.into_iter().filter(|place| Some(*place) != part).collect(),
    })
}

/// "x1", "reading 3" as a name with a number from 1.
fn numbered(name: &str) -> Option<(String, u32)> {
    let digits = name.len() - name.trim_end_matches(|letter: char| letter.is_ascii_digit()).len();
    let (before, number) = name.split_at(name.len() - digits);
    let number = number.parse().ok().filter(|number| (1..=50).contains(number))?;
    let before = before.trim_end_matches(|letter: char| !letter.is_alphanumeric());
    (!before.is_empty()).then(|| (before.to_owned(), number))
}

/// "Ida 2", "Ida_2", "Ida, trial 2", "A2" as a name with a trial.
pub fn split(name: &str) -> Option<(String, u32)> {
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
    let counted = |name: &str, count: &dyn Fn(&(usize, usize, usize)) -> usize| TableColumn {
        name: name.to_owned(),
        kind: Kind::WholeNumber,
        unit: None,
        values: Values::Number(places.iter().map(|place| (count(place) + 1) as f64).collect()),
    };
    let first = &table.columns[readings[0][0]];
    let same_unit = readings.iter().flatten().all(|place| table.columns[*place].unit == first.unit);
    let is_subgroup = sheet.operators.is_empty();
    let mut columns = vec![part.map_or_else(|| counted(SUBGROUP, &|(row, ..)| *row), repeated)];
    columns.extend((!is_subgroup).then(|| TableColumn {
        name: OPERATOR.to_owned(),
        kind: Kind::Category,
        unit: None,
        values: Values::Label {
            codes: places.iter().map(|(_, operator, _)| *operator as u32).collect(),
            labels: sheet.operators.clone().into(),
        },
    }));
    columns.push(counted(if is_subgroup { PIECE } else { TRIAL }, &|(.., trial)| *trial));
    columns.push(TableColumn {
        name: sheet.reading,
        kind: match readings.iter().flatten().all(|place| table.columns[*place].kind == Kind::WholeNumber) {
            true => Kind::WholeNumber,
            false => Kind::Number,
        },
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
