//! Inputs that go together: a normal copula.

use super::statement::Correlation;
use acorn_study::StudyError;
use acorn_study::reading::bad;

/// Mixes independent normals into correlated ones.
#[derive(Clone, Debug)]
pub struct Mixing {
    /// Which inputs are mixed, by place.
    pub among: Vec<usize>,
    /// The lower triangle of Cholesky's factor, row by row.
    rows: Vec<Vec<f64>>,
}

impl Mixing {
    /// From pairs of the names of inputs; `None` without any.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] for unknown names, correlations beyond ±1 and such that cannot hold together.
    pub fn of(names: &[&str], correlations: &[Correlation]) -> Result<Option<Mixing>, StudyError> {
        let place = |name: &str| {
            let unknown = || bad("correlations", format!("there is no input “{name}”"));
            names.iter().position(|one| *one == name.trim()).ok_or_else(unknown)
        };
        let mut pairs: Vec<(usize, usize, f64)> = Vec::new();
        for Correlation { a, b, r } in correlations {
            let (one, other) = (place(a)?, place(b)?);
            if one == other {
                return Err(bad("correlations", format!("“{a}” is correlated with itself")));
            }
            if !(-1.0..=1.0).contains(r) {
                return Err(bad("correlations", format!("“{a}” with “{b}” is {r}, but a correlation lies from −1 to 1")));
            }
            if pairs.iter().any(|(p, q, _)| (*p, *q) == (one, other) || (*p, *q) == (other, one)) {
                return Err(bad("correlations", format!("“{a}” with “{b}” is given twice")));
            }
            pairs.push((one, other, *r));
        }
        if pairs.iter().all(|(_, _, r)| *r == 0.0) {
            return Ok(None);
        }
        let mut among: Vec<usize> = pairs.iter().flat_map(|(one, other, _)| [*one, *other]).collect();
        among.sort_unstable();
        among.dedup();
        let at = |place: usize| among.binary_search(&place).unwrap_or_default();
        let mut matrix = vec![vec![0.0; among.len()]; among.len()];
        (0..among.len()).for_each(|i| matrix[i][i] = 1.0);
        for (one, other, r) in pairs {
            (matrix[at(one)][at(other)], matrix[at(other)][at(one)]) = (r, r);
        }
        let impossible = || {
            bad(
                "correlations",
                "these correlations cannot hold together: what goes with one thing must go with what that goes with; lower some",
            )
        };
        let rows = cholesky(&matrix).ok_or_else(impossible)?;
        Ok(Some(Mixing { among, rows }))
    }

    /// Mixes a block of independent normals, one column for each of `among`.
    pub fn mix(&self, columns: &mut [Vec<f64>]) {
        // From the last row up, so that each still finds the independent ones before it.
        for row in (0..self.rows.len()).rev() {
            let (before, rest) = columns.split_at_mut(row);
            let target = &mut rest[0];
            let own = self.rows[row][row];
            target.iter_mut().for_each(|value| *value *= own);
            for (column, weight) in before.iter().zip(&self.rows[row]).filter(|(_, weight)| **weight != 0.0) {
                target.iter_mut().zip(column).for_each(|(value, other)| *value += weight * other);
            }
        }
    }
}

/// Cholesky's factor of a correlation matrix, which may be singular; `None` when no variables can have it.
fn cholesky(matrix: &[Vec<f64>]) -> Option<Vec<Vec<f64>>> {
    const SLACK: f64 = 1e-9;
    let n = matrix.len();
    let mut rows: Vec<Vec<f64>> = vec![vec![0.0; n]; n];
    for i in 0..n {
        for j in 0..=i {
            let rest = matrix[i][j] - (0..j).map(|k| rows[i][k] * rows[j][k]).sum::<f64>();
            rows[i][j] = if i == j {
                if rest < -SLACK {
                    return None;
                }
                rest.max(0.0).sqrt()
            } else if rows[j][j] > SLACK.sqrt() {
                rest / rows[j][j]
            } else if rest.abs() > SLACK.sqrt() {
                return None;
            } else {
                0.0
            };
        }
    }
    Some(rows)
}
