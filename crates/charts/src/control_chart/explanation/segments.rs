//! Levels of a series: where its mean changed, found by splitting it again and again (Scott and Knott 1974, Biometrics 30).

/// Levels shorter than this are none.
const SHORTEST: usize = 5;
/// Most splits that are made.
const SPLITS_MOST: usize = 3;
/// A split stands when the means on its two sides are so many standard errors apart.
const APART: f64 = 4.5;

/// What the levels leave of values without missing ones, and how many splits were made.
pub fn residuals(values: &[f64]) -> (Vec<f64>, usize) {
    let mut levels = Vec::from([0..values.len()]);
    while levels.len() <= SPLITS_MOST {
        let best = levels.iter().enumerate().filter_map(|(place, level)| Some((place, split(&values[level.clone()])?)));
        let Some((place, (at, _))) = best.max_by(|a, b| a.1.1.total_cmp(&b.1.1)) else { break };
        let level = levels[place].clone();
        levels.splice(place..=place, [level.start..level.start + at, level.start + at..level.end]);
    }
    let splits = levels.len() - 1;
    let left = levels.into_iter().flat_map(|level| {
        let own = &values[level];
        let mean = own.iter().sum::<f64>() / own.len() as f64;
        own.iter().map(move |value| value - mean)
    });
    (left.collect(), splits)
}

/// The best split of a stretch and how many standard errors its means are apart; `None` where no split stands.
fn split(values: &[f64]) -> Option<(usize, f64)> {
    let n = values.len();
    if n < 2 * SHORTEST {
        return None;
    }
    let mean = values.iter().sum::<f64>() / n as f64;
    let all: f64 = values.iter().map(|value| (value - mean) * (value - mean)).sum();
    let mut sum: f64 = values[..SHORTEST - 1].iter().map(|value| value - mean).sum();
    let mut best = (0, 0.0);
    for at in SHORTEST..=n - SHORTEST {
        sum += values[at - 1] - mean;
        let gained = sum * sum * n as f64 / (at as f64 * (n - at) as f64);
        if gained > best.1 {
            best = (at, gained);
        }
    }
    let left = (all - best.1) / (n as f64 - 2.0);
    let apart = (best.1 / left).sqrt();
    (left > 0.0 && apart > APART).then_some((best.0, apart))
}
