//! What a claim takes.

use super::plan::Plan;
use super::sample::{Counted, Counting, Sample};
use acorn_data::frame::{Groups, Missing};
use acorn_study::count_table::{counts, is_count};
use acorn_study::reading::{bad, numbers};
use acorn_study::{StudyError, ValidatedSpec};

/// The statement, read.
pub enum Asked<'f> {
    Counted(Counted<'f>),
    Planned(Plan),
}

/// Most labels of a column.
const LABELS_MOST: usize = 100_000;
/// More than anybody looks at.
const EXPOSURE_MOST: f64 = 9e15;

impl<'f> Asked<'f> {
    /// Reads a statement that fits its card.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] for counts that cannot be, or a label that no row has; [`StudyError::TooFewValues`].
    pub fn read(asked: &ValidatedSpec<'f>) -> Result<Asked<'f>, StudyError> {
        if let Some(plan) = Plan::read(asked)? {
            return Ok(Asked::Planned(plan));
        }
        let told = |names: &[&str]| names.iter().any(|name| asked.is_given(name)) || asked.column("count").is_some();
        let usual = if told(&["rate0", "exposure", "exposure1"]) { Counting::Defects } else { Counting::Pieces };
        let counting = asked.option("counting")?.unwrap_or(usual);
        let claim = asked.number(if counting == Counting::Pieces { "p0" } else { "rate0" });
        let alternative = asked.option("alternative")?.unwrap_or_default();
        let plain = Counted { counting, samples: Vec::new(), missing: 0, claim, alternative, column: None, many: None };
        // What is said of the source holds, whatever else is left from before.
        let from: Option<String> = asked.option("from")?;
        let meant = |name: &str, told: bool| from.as_deref().map_or(told, |from| from == name);
        if meant("column", asked.column("category").or(asked.column("count")).is_some()) {
            return Ok(Asked::Counted(in_columns(asked, plain)?));
        }
        let samples = if meant("two", asked.is_given("x1")) {
            ["1", "2"].into_iter().map(|place| typed(asked, counting, place)).collect::<Result<_, _>>()?
        } else {
            vec![typed(asked, counting, "")?]
        };
        Ok(Asked::Counted(Counted { samples, ..plain }))
    }
}

/// A typed sample; of two, the first or the second.
fn typed(asked: &ValidatedSpec, counting: Counting, place: &str) -> Result<Sample, StudyError> {
    let number = |name: &str| {
        let option = format!("{name}{place}");
        let given: Option<f64> = asked.option(&option)?;
        given.map(|number| (option.clone(), number)).ok_or_else(|| bad(&option, "type a number"))
    };
    let whole = |name: &str| {
        let (option, count) = number(name)?;
        if is_count(count) {
            Ok((option, count))
        } else {
            Err(bad(&option, format!("{count} is not a count: type a whole number from 0 on")))
        }
    };
    let (option, x) = whole("x")?;
    let label = match place {
        "1" => "first",
        "2" => "second",
        _ => "",
    };
    let (of_option, of) = if counting == Counting::Pieces { whole("n")? } else { number("exposure")? };
    if of <= 0.0 || of > EXPOSURE_MOST {
        return Err(bad(&of_option, "nothing was looked at; type how much there was"));
    }
    if counting == Counting::Pieces && x > of {
        return Err(bad(&option, format!("{x} of {of} cannot be; the part is larger than the whole")));
    }
    Ok(Sample { label: label.to_owned(), x, of })
}

/// Samples counted in columns: parted in two where a column has two labels.
fn in_columns<'f>(asked: &ValidatedSpec<'f>, plain: Counted<'f>) -> Result<Counted<'f>, StudyError> {
    let frame = asked.frame();
    let group = asked.column("group");
    let parts = frame.groups(&group.into_iter().collect::<Vec<_>>(), None, Missing::Left, LABELS_MOST)?;
    let in_two = group.is_some() && parts.len() == 2;
    let label = |part: usize| if in_two { parts.label(part).unwrap_or_default().to_owned() } else { String::new() };
    let mut sums: Vec<Sample> = (0..if in_two { 2 } else { 1 }).map(|part| Sample { label: label(part), x: 0.0, of: 0.0 }).collect();
    let part_of = if in_two { parts.of_rows(frame.rows()) } else { vec![0; frame.rows()] };
    let (column, value, rows) = if plain.counting == Counting::Pieces {
        let column = asked.needed("category")?;
        let value: String = asked.option("value")?.ok_or_else(|| bad("value", "choose the label that counts"))?;
        let labels = frame.groups(&[column], None, Missing::Left, LABELS_MOST)?;
        let counts = place_of(&labels, &value).ok_or_else(|| bad("value", format!("no row of “{}” is {value}", column.name)))?;
        let of_rows = labels.of_rows(frame.rows());
        let each =
            of_rows.into_iter().map(move |label| (label != acorn_data::frame::NO_GROUP).then_some((f64::from(label == counts), 1.0)));
        (column, Some(value), each.collect::<Vec<_>>())
    } else {
        let column = asked.needed("count")?;
        let (counts, sizes) = (counts(column, "counts")?, asked.column("size").map(|size| numbers(size, "size")).transpose()?);
        let size = |row: usize| sizes.map_or(1.0, |sizes| sizes[row]);
        let each = counts.iter().enumerate().map(|(row, count)| Some((*count, size(row))).filter(|(x, of)| !x.is_nan() && *of >= 0.0));
        (column, None, each.collect())
    };
    let mut used = 0;
    for (row, one) in rows.iter().enumerate() {
        if let (Some((x, of)), Some(sample)) = (one, sums.get_mut(part_of[row])) {
            sample.x += x;
            sample.of += of;
            used += 1;
        }
    }
    if sums.iter().any(|sample| sample.of <= 0.0) {
        return Err(StudyError::TooFewValues { column: column.name.clone(), have: 0, need: 1 });
    }
    let many = group.filter(|_| !in_two).map(|group| (group, parts.len()));
    Ok(Counted { samples: sums, missing: frame.rows() - used, column: Some((column, value)), many, ..plain })
}

fn place_of(groups: &Groups, label: &str) -> Option<usize> {
    (0..groups.len()).find(|&group| groups.label(group) == Some(label))
}
