//! Heavy tails of what varies within groups, and what they cost an sd.

/// Kurtosis is beyond chance from so many standard errors on.
const BEYOND: f64 = 2.0;

/// Few values hardly ever show how far a heavy tail reaches: the kurtosis of a hundred exponential ones comes out as two thirds of what it
/// is.
const TOO_SMALL: f64 = 1.5;

/// The excess kurtosis of values about the means of their groups: Σe⁴ over (Σe²)² against 3, with what taking the means out hides put
/// back (cumulants: κ₄ of a residual of n values is ((1 − 1/n)⁴ + (n − 1)/n⁴) κ₄). 0 where it is below 0 or within two standard errors
/// √(24/df) of it, without variation, and with fewer than three degrees of freedom. NaN is missing.
///
/// # Examples
/// ```
/// use acorn_maths::kurtosis::excess_within;
/// let mut one_far = vec![0.0; 40];
/// one_far[0] = 1.0;
/// assert!(excess_within([&one_far[..]]) > 20.0);
/// assert_eq!(excess_within([&[1.0, 2.0, 3.0, 4.0, 5.0][..]]), 0.0);
/// ```
pub fn excess_within<'v>(groups: impl IntoIterator<Item = &'v [f64]>) -> f64 {
    let (mut squares, mut fourths, mut values, mut df, mut kept) = (0.0, 0.0, 0.0, 0.0, 0.0);
    for group in groups {
        let there = || group.iter().copied().filter(|value| value.is_finite());
        let n = there().count() as f64;
        if n < 2.0 {
            continue;
        }
        let pivot = there().next().unwrap_or_default();
        let mean = pivot + there().map(|value| value - pivot).sum::<f64>() / n;
        for value in there() {
            let square = (value - mean) * (value - mean);
            squares += square;
            fourths += square * square;
        }
        values += n;
        df += n - 1.0;
        let rest = 1.0 - 1.0 / n;
        kept += n * (rest.powi(4) + (n - 1.0) / n.powi(4)) / (rest * rest);
    }
    if df < 3.0 || squares <= 0.0 {
        return 0.0;
    }
    let excess = values * fourths / (squares * squares) - 3.0;
    if excess <= BEYOND * (24.0 / df).sqrt() { 0.0 } else { TOO_SMALL * excess * values / kept }
}

/// How many degrees of freedom a pooled variance of groups of about `n` values is worth when their excess kurtosis is so large: its
/// variance is σ⁴ (2/df + excess/N) (Box 1953, Biometrika 40; Shoemaker 2003, American Statistician 57).
pub fn df_worth(df: f64, n: f64, excess: f64) -> f64 {
    if n > 1.0 { df / (1.0 + 0.5 * excess * (n - 1.0) / n) } else { df }
}
