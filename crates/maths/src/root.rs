//! Where a function crosses a value: by halving, and by false position where each value of it takes long.

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

/// The root of a smooth function that falls from above 0 to below 0 between two ends, in few steps, for functions that take long:
/// false position with the kept end halved (Dowell and Jarratt 1971).
pub fn falling([mut low, mut high]: [f64; 2], f: impl Fn(f64) -> f64) -> f64 {
    let (mut at_low, mut at_high) = (f(low), f(high));
    for _ in 0..60 {
        let middle = (low * at_high - high * at_low) / (at_high - at_low);
        let at = f(middle);
        if at.abs() < 1e-12 || (high - low).abs() < 1e-10 {
            return middle;
        }
        if at > 0.0 {
            (low, at_low) = (middle, at);
            at_high *= 0.5;
        } else {
            (high, at_high) = (middle, at);
            at_low *= 0.5;
        }
    }
    0.5 * (low + high)
}
