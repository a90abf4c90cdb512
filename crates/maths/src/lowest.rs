//! The lowest place of a smooth function of a few numbers, without its slopes.
//!
//! The simplex of Nelder and Mead (1965), The Computer Journal 7, begun anew from where it settles until that gains nothing.

/// Moves of one simplex, and how often it is begun anew.
const MOVES: usize = 600;
const ANEW: usize = 4;

/// The lowest place near `start`, whose first simplex is `step` wide.
///
/// # Examples
/// ```
/// use acorn_maths::lowest::lowest;
/// let [x, y] = lowest([1.0, 1.0], 0.5, |[x, y]| (x - 3.0_f64).powi(2) + 10.0 * (y + x).powi(2));
/// assert!((x - 3.0).abs() < 1e-6 && (y + 3.0).abs() < 1e-6);
/// ```
pub fn lowest<const N: usize>(start: [f64; N], step: f64, of: impl Fn([f64; N]) -> f64) -> [f64; N] {
    let mut best = (of(start), start);
    let mut width = step;
    for _ in 0..ANEW {
        let settled = settle(best, width, &of);
        let gained = best.0 - settled.0;
        best = settled;
        width *= 0.3;
        if gained <= 1e-13 * best.0.abs() {
            break;
        }
    }
    best.1
}

fn settle<const N: usize>(start: (f64, [f64; N]), step: f64, of: &impl Fn([f64; N]) -> f64) -> (f64, [f64; N]) {
    let corner = |axis: usize| {
        let mut place = start.1;
        place[axis] += step;
        (of(place), place)
    };
    let mut simplex: Vec<(f64, [f64; N])> = std::iter::once(start).chain((0..N).map(corner)).collect();
    for _ in 0..MOVES {
        simplex.sort_by(|a, b| a.0.total_cmp(&b.0));
        let (low, high) = (simplex[0], simplex[N]);
        let wide = (0..N).map(|axis| (high.1[axis] - low.1[axis]).abs()).fold(0.0, f64::max);
        if wide <= 1e-9 && high.0 - low.0 <= 1e-14 * low.0.abs() {
            break;
        }
        let middle: [f64; N] = std::array::from_fn(|axis| simplex[..N].iter().map(|(_, place)| place[axis]).sum::<f64>() / N as f64);
        let along = |by: f64| {
            let place = std::array::from_fn(|axis| middle[axis] + by * (high.1[axis] - middle[axis]));
            (of(place), place)
        };
        let mirrored = along(-1.0);
        let moved = if mirrored.0 < low.0 {
            let farther = along(-2.0);
            if farther.0 < mirrored.0 { farther } else { mirrored }
        } else if mirrored.0 < simplex[N - 1].0 {
            mirrored
        } else {
            along(if mirrored.0 < high.0 { -0.5 } else { 0.5 })
        };
        if moved.0 < high.0 {
            simplex[N] = moved;
        } else {
            for corner in &mut simplex[1..] {
                corner.1 = std::array::from_fn(|axis| low.1[axis] + 0.5 * (corner.1[axis] - low.1[axis]));
                corner.0 = of(corner.1);
            }
        }
    }
    simplex.into_iter().min_by(|a, b| a.0.total_cmp(&b.0)).unwrap_or(start)
}
