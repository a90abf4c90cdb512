//! Where a function crosses a value, by halving.

/// The root between two ends, to the last bits: `before` tells whether a place lies before it.
pub fn between(mut low: f64, mut high: f64, before: impl Fn(f64) -> bool) -> f64 {
    // Halving from any two numbers settles within this many steps.
    for _ in 0..1100 {
        let middle = 0.5 * low + 0.5 * high;
        if middle <= low || middle >= high {
            break;
        }
        if before(middle) { low = middle } else { high = middle }
    }
    0.5 * low + 0.5 * high
}

/// The root from `low` upward, `low` at least 0: doubling until it is passed, then halving. At most `most`.
///
/// # Examples
/// ```
/// use acorn_maths::root::upward;
/// assert!((upward(0.0, 1e6, |x| x * x < 2000.0) - 2000_f64.sqrt()).abs() < 1e-12);
/// ```
pub fn upward(low: f64, most: f64, before: impl Fn(f64) -> bool) -> f64 {
    let (mut low, mut high) = (low, low.max(0.5) * 2.0);
    while before(high) && high < most {
        (low, high) = (high, 2.0 * high);
    }
    between(low, high, before)
}
