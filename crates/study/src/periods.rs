//! Rows gathered by day, shift or lot; days without any are there too.

use serde::Deserialize;

use super::StudyError;
use super::reading::bad;
use acorn_data::frame::{Column, Frame, Missing, NO_TIME, Values};

/// How long a period is.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize, utoipa::ToSchema)]
#[schema(as = PeriodStep)]
#[serde(rename_all = "kebab-case")]
pub enum Step {
    /// A day of a moment, else each label.
    #[default]
    Usual,
    /// An hour.
    Hour,
    /// A day.
    Day,
    /// A week, from Monday.
    Week,
    /// A calendar month.
    Month,
}

/// The rows of each period, period after period, where each period's end, and what periods are called.
pub struct Periods {
    /// Positions of the rows.
    pub rows: Vec<usize>,
    /// One a period.
    pub ends: Vec<usize>,
    /// One a period.
    pub labels: Vec<String>,
}

/// More points than anybody charts.
const POINTS_MOST: i64 = 200_000;
const HOUR: i64 = 3_600_000_000;
const DAY: i64 = 24 * HOUR;

impl Periods {
    /// Gathers rows, labels in the order in which they first come when the rows are looked at in `order`; rows without a moment or label belong to none.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] when moments are so far apart that there would be too many periods.
    pub fn of(frame: &Frame, column: &Column, step: Step, order: Option<&[usize]>) -> Result<Periods, StudyError> {
        let Values::Time(times) = &column.values else {
            let groups = frame.groups(&[column], order, Missing::Left, POINTS_MOST as usize)?;
            let labels = (0..groups.len()).map(|group| groups.label(group).unwrap_or_default().to_owned()).collect();
            let (rows, ends) = groups.into_rows();
            return Ok(Periods { rows, ends, labels });
        };
        let mut placed: Vec<(i64, usize)> =
            times.iter().enumerate().filter(|(_, time)| **time != NO_TIME).map(|(row, time)| (step.place(*time), row)).collect();
        placed.sort_unstable();
        let (Some((first, _)), Some((last, _))) = (placed.first().copied(), placed.last().copied()) else {
            return Ok(Periods { rows: Vec::new(), ends: Vec::new(), labels: Vec::new() });
        };
        let many = last - first + 1;
        if many > POINTS_MOST {
            return Err(bad("step", format!("there would be {many} points from the first to the last; take longer periods")));
        }
        let mut ends = vec![0; many as usize];
        placed.iter().for_each(|(place, _)| ends[(place - first) as usize] += 1);
        let mut sum = 0;
        for end in &mut ends {
            sum += *end;
            *end = sum;
        }
        let labels = (first..=last).map(|place| step.label(place)).collect();
        Ok(Periods { rows: placed.into_iter().map(|(_, row)| row).collect(), ends, labels })
    }
}

impl Periods {
    /// The sum of some numbers in each period, by its name.
    pub fn sums(&self, numbers: &[f64]) -> Vec<(String, f64)> {
        let mut first = 0;
        let sum = |(label, &end): (&String, &usize)| {
            let there = self.rows[first..end].iter().map(|&row| numbers[row]).filter(|number| !number.is_nan());
            first = end;
            (label.clone(), there.sum())
        };
        self.labels.iter().zip(&self.ends).map(sum).collect()
    }
}

impl Step {
    /// The running number of the period of a moment.
    fn place(self, time: i64) -> i64 {
        let day = time.div_euclid(DAY);
        match self {
            Step::Hour => time.div_euclid(HOUR),
            Step::Usual | Step::Day => day,
            // The first day of 1970 was a Thursday.
            Step::Week => (day + 3).div_euclid(7),
            Step::Month => {
                let date = date(day);
                i64::from(date.year()) * 12 + i64::from(date.month()) - 1
            }
        }
    }

    fn label(self, place: i64) -> String {
        match self {
            Step::Hour => format!("{} {:02}:00", date(place.div_euclid(24)), place.rem_euclid(24)),
            Step::Usual | Step::Day => date(place).to_string(),
            Step::Week => format!("week of {}", date(place * 7 - 3)),
            Step::Month => format!("{:04}-{:02}", place.div_euclid(12), place.rem_euclid(12) + 1),
        }
    }
}

/// A day by its number from 1970 on.
fn date(day: i64) -> jiff::civil::Date {
    let micros = day.saturating_mul(DAY);
    jiff::Timestamp::from_microsecond(micros).map(|time| time.to_zoned(jiff::tz::TimeZone::UTC).date()).unwrap_or_default()
}
