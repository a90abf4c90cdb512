//! Inputs that are taken from a column, and whether the column still agrees.

use serde_json::Value;

use super::distribution::{Distribution, VALUES_MOST};
use super::statement::Input;
use acorn_data::frame::{Frame, Values};
use acorn_maths::describe::moments;
use acorn_maths::equal_means::{Sample, welch};
use acorn_maths::kurtosis::{df_worth, excess_within};
use acorn_maths::normal;
use acorn_maths::shapes::{Family, fit};
use acorn_maths::sorting::Sorted;
use acorn_maths::tails::{chi_square_above, f_above};

/// What is known of the column behind an input.
#[derive(Clone, Debug, PartialEq)]
pub struct Link {
    /// The column.
    pub column: String,
    /// Values taken from it.
    pub n: usize,
    /// Whether the input follows the column when it changes; else its parameters stay as they were accepted.
    pub follows: bool,
    /// The sd of those values.
    pub sd: f64,
    /// How many of the newest were held against the older ones, how far their mean lies from theirs, and its chance.
    pub newest: Option<Moved>,
    /// How far the values have moved from the accepted parameters, and its chance.
    pub moved: Option<Moved>,
}

/// A difference of means with its chance.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Moved {
    /// Values.
    pub n: usize,
    /// How much higher their mean is.
    pub by: f64,
    /// How much wider they scatter, as a ratio of sds.
    pub ratio: f64,
    /// The smaller of both chances, doubled for looking twice.
    pub p: f64,
}

/// Newest values that are held against the older ones, at most.
const NEWEST: usize = 40;

/// The distribution of an input, typed or from its column.
pub fn distribution(input: &Input, frame: &Frame) -> Result<(Distribution, Option<Link>), String> {
    let typed = input.parameters.values().any(|value| !value.is_null());
    let Some(name) = &input.column else {
        if !typed {
            return Err("has neither parameters nor a column; type its shape, or choose the column to take it from".to_owned());
        }
        if let Some(Value::Array(values)) = input.parameters.get("values")
            && values.len() > VALUES_MOST
        {
            return Err(format!("has more than {VALUES_MOST} values typed; put them into a column and take them from there"));
        }
        return Distribution::read(&input.distribution, &input.parameters).map(|distribution| (distribution, None));
    };
    let column = match input.dataset {
        None => frame.column(name).ok_or_else(|| format!("is taken from “{name}”, and there is no such column"))?,
        Some(dataset) => frame.column_beside(dataset, name).ok_or_else(|| {
            format!("is taken from “{name}” of another dataset, which is not here; choose its column anew, or type its shape")
        })?,
    };
    let Values::Number(values) = &column.values else { return Err(format!("is taken from “{name}”, which holds no numbers")) };
    let mut there: Vec<f64> = values.iter().copied().filter(|value| value.is_finite() && value.abs() <= 1e100).collect();
    if let Some(newest) = input.newest {
        there.drain(..there.len().saturating_sub(newest.max(2)));
    }
    let found = moments(&there);
    let (Some(mean), Some(sd)) = (found.mean, found.sd) else {
        return Err(format!("is taken from “{name}”, which has fewer than two values"));
    };
    let follows = !typed;
    let distribution = if typed {
        Distribution::read(&input.distribution, &input.parameters)?
    } else if input.distribution == "data" {
        Distribution::of_data(there.clone())?
    } else {
        fitted(&input.distribution, &there).ok_or_else(|| format!("cannot be a {} distribution fitted to “{name}”", input.distribution))?
    };
    let newest = follows.then(|| newest_against_older(&there)).flatten();
    let moved = if typed { away(&distribution, &there, mean, sd) } else { None };
    Ok((distribution, Some(Link { column: name.clone(), n: there.len(), follows, sd, newest, moved })))
}

fn fitted(name: &str, values: &[f64]) -> Option<Distribution> {
    let shape = fit(Family::named(name)?, &Sorted::of(values))?;
    Some(Distribution::of_shape(shape))
}

/// The newest values against those before them: Welch's t of the means, F of the variances.
fn newest_against_older(values: &[f64]) -> Option<Moved> {
    let newest = NEWEST.min(values.len() / 3);
    if newest < 8 {
        return None;
    }
    let (before, after) = values.split_at(values.len() - newest);
    let sample = |values: &[f64]| {
        let found = moments(values);
        Some(Sample { n: found.n as f64, mean: found.mean?, sd: found.sd? })
    };
    let (older, newer) = (sample(before)?, sample(after)?);
    let means = welch([older, newer])?.p;
    let f = (newer.sd / older.sd).powi(2);
    let excess = excess_within([before, after]);
    let above = f_above(f, df_worth(newer.n - 1.0, newer.n, excess), df_worth(older.n - 1.0, older.n, excess));
    let spreads = 2.0 * above.min(1.0 - above);
    Some(Moved { n: newest, by: newer.mean - older.mean, ratio: newer.sd / older.sd, p: (2.0 * means.min(spreads)).min(1.0) })
}

/// Values against accepted parameters: z of the mean, chi-square of the variance, with as many degrees of freedom as their tails leave.
fn away(distribution: &Distribution, values: &[f64], mean: f64, sd: f64) -> Option<Moved> {
    let (accepted, spread) = (distribution.mean()?, distribution.sd().filter(|sd| *sd > 0.0)?);
    let n = values.len();
    let t = (mean - accepted) / (spread / (n as f64).sqrt());
    let df = df_worth(n as f64 - 1.0, n as f64, excess_within([values]));
    let above = chi_square_above(df * (sd / spread).powi(2), df);
    let (means, spreads) = (2.0 * normal::above(t.abs()), 2.0 * above.min(1.0 - above));
    Some(Moved { n, by: mean - accepted, ratio: sd / spread, p: (2.0 * means.min(spreads)).min(1.0) })
}
