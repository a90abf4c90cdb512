//! Judgements by piece, operator and trial.

use acorn_data::frame::{Column, Groups, Missing, NO_GROUP};
use acorn_maths::words::counted;
use acorn_study::reading::bad;
use acorn_study::{Cancel, StudyError, ValidatedSpec};

/// Most pieces, operators and labels.
const PARTS_MOST: usize = 100_000;
const OPERATORS_MOST: usize = 200;
const LABELS_MOST: usize = 100;

/// Every operator's judgements of every piece, equally many.
pub struct Ratings {
    pub parts: Vec<String>,
    pub operators: Vec<String>,
    pub trials: usize,
    /// Labels found in the judgements, then what the reference alone has.
    pub labels: Vec<String>,
    /// How many of the labels were found in the judgements.
    pub judged: usize,
    /// Label of each judgement: part after part, in each operator after operator, in each trial after trial.
    pub codes: Vec<u16>,
    /// The row of each.
    pub rows: Vec<usize>,
    /// The known label of each part.
    pub reference: Option<Vec<u16>>,
    /// Rows without a judgement, a part or an operator, or of parts without a reference.
    pub missing: usize,
}

fn names(groups: &Groups) -> Vec<String> {
    (0..groups.len()).map(|group| groups.label(group).unwrap_or_default().to_owned()).collect()
}

impl Ratings {
    /// Gathers the judgements of a statement.
    ///
    /// # Errors
    /// [`StudyError::TooFewValues`] without a judgement; [`StudyError::BadOption`] when a piece has fewer judgements by
    /// someone than others, or two known labels; [`StudyError::TooManyGroups`]; [`StudyError::Stopped`].
    pub fn read(asked: &ValidatedSpec<'_>, cancel: &Cancel) -> Result<Ratings, StudyError> {
        let (rating, part, operator) = (asked.needed("rating")?, asked.needed("part")?, asked.needed("operator")?);
        for (name, other, with) in [("part", part, rating), ("operator", operator, rating), ("operator", operator, part)] {
            if other.name == with.name {
                return Err(bad(name, format!("“{}” is taken twice; choose another column", other.name)));
            }
        }
        let frame = asked.frame();
        let n = frame.rows();
        let groups = |column: &Column, most| frame.groups(&[column], None, Missing::Left, most);
        let (labels, parts, operators) = (groups(rating, LABELS_MOST)?, groups(part, PARTS_MOST)?, groups(operator, OPERATORS_MOST)?);
        cancel.check()?;
        let (label_of, part_of, operator_of) = (labels.of_rows(n), parts.of_rows(n), operators.of_rows(n));
        let trial_of = asked.column("trial").map(|trial| groups(trial, PARTS_MOST)).transpose()?.map(|groups| groups.of_rows(n));
        let mut names_of_labels = names(&labels);
        let judged = names_of_labels.len();
        let reference =
            asked.column("reference").map(|column| known(&groups(column, LABELS_MOST)?, &parts, &mut names_of_labels, n)).transpose()?;
        let has_reference = |part: usize| reference.as_ref().is_none_or(|known| known[part] != NO_GROUP);
        let is_kept = |row: &usize| {
            label_of[*row] != NO_GROUP && operator_of[*row] != NO_GROUP && part_of[*row] != NO_GROUP && has_reference(part_of[*row])
        };
        let mut kept: Vec<usize> = (0..n).filter(is_kept).collect();
        if kept.is_empty() {
            return Err(StudyError::TooFewValues { column: rating.name.clone(), have: 0, need: 2 });
        }
        if let Some(trial_of) = &trial_of {
            kept.sort_by_key(|&row| trial_of[row]);
        }
        let part_seen = seen(&kept, &part_of, parts.len());
        let operator_seen = seen(&kept, &operator_of, operators.len());
        let (p, o) = (part_seen.count, operator_seen.count);
        let mut counts = vec![0usize; p * o];
        let cell_of = |row: usize| part_seen.place[part_of[row]] * o + operator_seen.place[operator_of[row]];
        kept.iter().for_each(|&row| counts[cell_of(row)] += 1);
        let name = |groups: &Groups, seen: &Seen, place: usize| groups.label(seen.group[place]).unwrap_or_default().to_owned();
        let trials = counts.iter().copied().max().unwrap_or(0);
        if let Some(short) = counts.iter().position(|count| *count != trials) {
            let (part, who) = (name(&parts, &part_seen, short / o), name(&operators, &operator_seen, short % o));
            let cells = counts.iter().filter(|count| **count != trials).count();
            let more = if cells > 1 { format!(", and so in {}", counted(cells - 1, "other cell", "other cells")) } else { String::new() };
            let has = counted(counts[short], "judgement", "judgements");
            let words = format!("{who} has {has} of part {part} where others have {trials}{more}");
            return Err(bad(
                "rating",
                format!("{words}; judge what is missing, or leave out the parts that not everyone has judged equally often"),
            ));
        }
        let mut next: Vec<usize> = (0..p * o).map(|cell| cell * trials).collect();
        let (mut codes, mut rows) = (vec![0; kept.len()], vec![0; kept.len()]);
        for &row in &kept {
            let place = &mut next[cell_of(row)];
            (codes[*place], rows[*place]) = (label_of[row] as u16, row);
            *place += 1;
        }
        Ok(Ratings {
            parts: (0..p).map(|place| name(&parts, &part_seen, place)).collect(),
            operators: (0..o).map(|place| name(&operators, &operator_seen, place)).collect(),
            trials,
            labels: names_of_labels,
            judged,
            reference: reference.map(|known| (0..p).map(|place| known[part_seen.group[place]] as u16).collect()),
            missing: n - kept.len(),
            codes,
            rows,
        })
    }

    /// The judgements of a part by an operator.
    pub fn cell(&self, part: usize, operator: usize) -> &[u16] {
        let start = (part * self.operators.len() + operator) * self.trials;
        &self.codes[start..start + self.trials]
    }

    /// All judgements of a part.
    pub fn of_part(&self, part: usize) -> &[u16] {
        let each = self.operators.len() * self.trials;
        &self.codes[part * each..(part + 1) * each]
    }
}

/// Groups that occur among some rows, in order of their first appearance in the table.
struct Seen {
    count: usize,
    place: Vec<usize>,
    group: Vec<usize>,
}

fn seen(rows: &[usize], group_of: &[usize], groups: usize) -> Seen {
    let mut occurs = vec![false; groups];
    rows.iter().for_each(|&row| occurs[group_of[row]] = true);
    let group: Vec<usize> = (0..groups).filter(|&group| occurs[group]).collect();
    let mut place = vec![NO_GROUP; groups];
    group.iter().enumerate().for_each(|(at, &of)| place[of] = at);
    Seen { count: group.len(), place, group }
}

/// The known label of each part, by its place among the labels, which grow by those that no one gave.
fn known(reference: &Groups, parts: &Groups, labels: &mut Vec<String>, rows: usize) -> Result<Vec<usize>, StudyError> {
    let mut code = |name: &str| {
        labels.iter().position(|label| label == name).unwrap_or_else(|| {
            labels.push(name.to_owned());
            labels.len() - 1
        })
    };
    let codes: Vec<usize> = (0..reference.len()).map(|group| code(reference.label(group).unwrap_or_default())).collect();
    let of_row = reference.of_rows(rows);
    let mut known = vec![NO_GROUP; parts.len()];
    for (part, known) in known.iter_mut().enumerate() {
        for &row in parts.rows(part).iter().filter(|row| of_row[**row] != NO_GROUP) {
            let label = codes[of_row[row]];
            if *known != NO_GROUP && *known != label {
                let name = parts.label(part).unwrap_or_default();
                return Err(bad(
                    "reference",
                    format!("part {name} has two known labels, “{}” and “{}”; a part has one", labels[*known], labels[label]),
                ));
            }
            *known = label;
        }
    }
    Ok(known)
}
