//! Stored formulas name columns by their ids, so that another name costs nothing.

use acorn_data::formula::renamed;

/// How a stored formula names a column, as nothing that a person can call a column.
fn mark(id: i64) -> String {
    format!("\u{1}{id}")
}

/// A formula with the ids of columns in place of their names.
pub fn by_id(formula: &str, columns: &[(i64, &str)]) -> String {
    columns.iter().fold(formula.to_owned(), |text, (id, name)| renamed(&text, name, &mark(*id)))
}

/// A stored formula with the names that its columns have now.
pub fn by_name(formula: &str, columns: &[(i64, String)]) -> String {
    columns.iter().fold(formula.to_owned(), |text, (id, name)| {
        let mark = mark(*id);
        if text.contains(&mark) { renamed(&text, &mark, name) } else { text }
    })
}
