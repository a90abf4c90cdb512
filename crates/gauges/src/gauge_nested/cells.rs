//! Readings by operator and the parts that only this operator has.

use acorn_data::frame::{Column, Frame, Missing};
use acorn_maths::words::counted;
use acorn_study::StudyError;
use acorn_study::reading::{bad, numbers};

/// Most parts and most operators.
const PARTS_MOST: usize = 100_000;
const OPERATORS_MOST: usize = 10_000;

/// Parts of operators, equally many each, with equally many readings.
pub struct Cells {
    /// Names of the operators who read.
    pub operators: Vec<String>,
    /// Names of the parts, operator after operator.
    pub parts: Vec<String>,
    /// Parts of an operator.
    pub each: usize,
    /// Readings of a part.
    pub trials: usize,
    /// Part after part.
    pub values: Vec<f64>,
    /// The row of each.
    pub rows: Vec<usize>,
    /// Rows without a reading, a part or an operator.
    pub missing: usize,
    /// Operators who have rows but no reading yet.
    pub unread: Vec<String>,
}

impl Cells {
    /// Gathers the readings.
    ///
    /// # Errors
    /// [`StudyError::TooFewValues`]; [`StudyError::BadOption`] when an operator has fewer parts than others or a part fewer
    /// readings, which is named, and below two parts an operator; [`StudyError::TooManyGroups`].
    pub fn of(frame: &Frame, measure: &Column, part: &Column, operator: &Column) -> Result<Cells, StudyError> {
        let values = numbers(measure, "measurement")?;
        let operators = frame.groups(&[operator], None, Missing::Left, OPERATORS_MOST)?;
        let mut cells = Cells {
            operators: Vec::new(),
            parts: Vec::new(),
            each: 0,
            trials: 0,
            values: Vec::new(),
            rows: Vec::new(),
            missing: 0,
            unread: Vec::new(),
        };
        let mut parts_of = Vec::new();
        let mut readings_of = Vec::new();
        for group in 0..operators.len() {
            let name = operators.label(group).unwrap_or_default().to_owned();
            let parts = frame.groups(&[part], Some(operators.rows(group)), Missing::Left, PARTS_MOST)?;
            let before = cells.parts.len();
            for of in 0..parts.len() {
                let read: Vec<usize> = parts.rows(of).iter().copied().filter(|&row| !values[row].is_nan()).collect();
                if read.is_empty() {
                    continue;
                }
                cells.parts.push(parts.label(of).unwrap_or_default().to_owned());
                readings_of.push(read.len());
                cells.values.extend(read.iter().map(|&row| values[row]));
                cells.rows.extend(read);
            }
            match cells.parts.len() - before {
                0 => cells.unread.push(name),
                count => {
                    parts_of.push(count);
                    cells.operators.push(name);
                }
            }
        }
        cells.missing = values.len() - cells.values.len();
        cells.each = parts_of.iter().copied().max().unwrap_or(0);
        cells.trials = readings_of.iter().copied().max().unwrap_or(0);
        if cells.values.is_empty() {
            return Err(StudyError::TooFewValues { column: measure.name.clone(), have: 0, need: 4 });
        }
        if cells.each < 2 {
            return Err(bad("part", "each operator needs two parts or more, best ones that span the process"));
        }
        if let Some(short) = parts_of.iter().position(|count| *count != cells.each) {
            let has = counted(parts_of[short], "part", "parts");
            let words = format!("{} has {has} where others have {}", cells.operators[short], cells.each);
            return Err(bad("measure", format!("{words}; read what is missing, or leave out the parts that others do not have")));
        }
        if let Some(short) = readings_of.iter().position(|count| *count != cells.trials) {
            let (who, has) = (&cells.operators[short / cells.each], counted(readings_of[short], "reading", "readings"));
            let words = format!("{who} has {has} of part {} where others have {}", cells.parts[short], cells.trials);
            return Err(bad("measure", format!("{words}; read what is missing, or leave out what others do not have")));
        }
        Ok(cells)
    }

    /// The readings of a part.
    pub fn part(&self, part: usize) -> &[f64] {
        &self.values[part * self.trials..(part + 1) * self.trials]
    }

    /// All readings of an operator.
    pub fn operator(&self, operator: usize) -> &[f64] {
        let many = self.each * self.trials;
        &self.values[operator * many..(operator + 1) * many]
    }
}
