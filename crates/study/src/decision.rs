//! What a verdict or a note claims of a process, each claim with the rate at which chance alone may make it.

use serde::Serialize;

/// A claim that chance can make where there is nothing to find. Its measured rates are in `docs/decisions.md`.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Decision {
    /// Its name, such as "compare-differ".
    pub id: &'static str,
    /// What is claimed, such as "the groups differ".
    pub claim: &'static str,
    /// How often, at most, it is claimed where there is nothing, from 0 to 1.
    pub rate: f64,
}

impl Decision {
    /// A claim with its rate.
    pub const fn new(id: &'static str, claim: &'static str, rate: f64) -> Decision {
        Decision { id, claim, rate }
    }

    /// Whether a chance is small enough to claim it; an unknown one is not.
    pub fn is_made(&self, p: impl Into<Option<f64>>) -> bool {
        p.into().is_some_and(|p| p < self.rate)
    }
}
