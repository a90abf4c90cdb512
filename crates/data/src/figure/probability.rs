//! Values against the scores of a normal, with the line that a shape would make and its band.

use serde::Serialize;

use acorn_maths::normal;

/// Most points of a plot.
const DRAWN_MOST: usize = 300;

/// A point of a probability plot.
#[derive(Clone, Copy, Debug, Serialize, utoipa::ToSchema)]
pub struct PlotPoint {
    /// Its normal score.
    pub score: f64,
    /// Its value.
    pub value: f64,
    /// What the shape would have there.
    pub line: Option<f64>,
    /// Lower end of the 95 % band.
    pub low: Option<f64>,
    /// Upper end of the band.
    pub high: Option<f64>,
}

/// Sorted values against normal scores z = Φ⁻¹((i - 0.375)/(n + 0.25)) (Blom 1958), thinned to 300, with the value that
/// the shape has at each score and at the ends z ± 1.96 √(1/n + z²/(2(n-1))) of its pointwise 95 % band:
/// among many points some lie outside it by chance, the outermost most often.
///
/// For a normal, `at` is x̄ + z s (Meeker and Escobar 1998, ch. 6).
pub fn plot(sorted: &[f64], at: impl Fn(f64) -> f64) -> Vec<PlotPoint> {
    let n = sorted.len() as f64;
    let known = |value: f64| Some(value).filter(|value| value.is_finite());
    let point = |place: usize| {
        let score = normal::quantile((place as f64 + 0.625) / (n + 0.25));
        let reach = 1.959_963_984_540_054 * (1.0 / n + score * score / (2.0 * (n - 1.0))).sqrt();
        let [line, low, high] = [score, score - reach, score + reach].map(|score| known(at(score)));
        PlotPoint { score, value: sorted[place], line, low, high }
    };
    places(sorted.len(), DRAWN_MOST).map(point).collect()
}

/// Places of even ranks, the first and the last among them.
pub fn places(len: usize, most: usize) -> impl Iterator<Item = usize> {
    let shown = len.min(most);
    (0..shown).map(move |k| if shown < 2 { 0 } else { k * (len - 1) / (shown - 1) })
}
