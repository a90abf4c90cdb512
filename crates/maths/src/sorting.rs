//! Values in rising order.

use super::describe::extent;

/// Below this many values dealing them out first gains nothing.
const FEW: usize = 50_000;
/// About so many values a bucket.
const A_BUCKET: usize = 100;

/// Values that rise, none of them missing.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Sorted(Vec<f64>);

impl std::ops::Deref for Sorted {
    type Target = [f64];

    fn deref(&self) -> &[f64] {
        &self.0
    }
}

impl Sorted {
    /// Sorts values; missing ones are left out.
    pub fn of(values: &[f64]) -> Sorted {
        Sorted(sorted(values))
    }

    /// Each value put on a scale on which larger values stay larger.
    pub fn on_scale(&self, score: impl Fn(f64) -> f64) -> Sorted {
        Sorted(self.0.iter().map(|&value| score(value)).collect())
    }

    /// So many of them of even ranks, the first and the last among them.
    pub fn thinned(&self, most: usize) -> Sorted {
        if self.len() <= most {
            return self.clone();
        }
        Sorted((0..most).map(|k| self[k * (self.len() - 1) / (most - 1)]).collect())
    }

    /// The value below which a share lies: linear between order statistics at (n - 1) p (type 7 of Hyndman and Fan 1996).
    /// `None` without values.
    pub fn quantile(&self, p: f64) -> Option<f64> {
        let last = self.len().checked_sub(1)?;
        let place = p * last as f64;
        let below = (place.floor() as usize).min(last);
        let above = (below + 1).min(last);
        let share = place - below as f64;
        let gap = self[above] - self[below];
        // The difference of two values may be more than the largest number.
        Some(if gap.is_finite() { self[below] + share * gap } else { self[below] * (1.0 - share) + self[above] * share })
    }
}

/// The values that are not missing, rising.
///
/// Many are first dealt into buckets of equal width and each bucket is sorted by itself, which stays in the cache
/// (Knuth, The Art of Computer Programming, vol. 3, sec. 5.2.5); values are sorted by their bits as whole numbers, which
/// compare faster.
///
/// # Examples
/// ```
/// use acorn_maths::sorting::Sorted;
/// assert_eq!(*Sorted::of(&[2.0, f64::NAN, -1.0, 0.5, -7.0]), [-7.0, -1.0, 0.5, 2.0]);
/// ```
pub fn sorted(values: &[f64]) -> Vec<f64> {
    items(values, |_, value| key(value)).into_iter().map(value).collect()
}

/// The keys of values none of which is missing, rising, each with the place of its value.
pub fn with_places(values: &[f64]) -> Vec<(u64, u32)> {
    // Both zeros are one value.
    items(values, |place, value| (key(value + 0.0), place as u32))
}

/// An item for each value that is not missing, rising; items order as their values do.
fn items<T: Copy + Default + Ord + Send>(values: &[f64], item: impl Fn(usize, f64) -> T) -> Vec<T> {
    match extent(values) {
        Some([low, high]) if values.len() >= FEW && (high - low).is_finite() && high > low => dealt(values, low, high, item),
        _ => {
            let present = values.iter().enumerate().filter(|(_, value)| !value.is_nan());
            let mut items: Vec<T> = present.map(|(place, &value)| item(place, value)).collect();
            items.sort_unstable();
            items
        }
    }
}

/// Items dealt into buckets of equal width, each sorted.
fn dealt<T: Copy + Default + Ord + Send>(values: &[f64], low: f64, high: f64, item: impl Fn(usize, f64) -> T) -> Vec<T> {
    let buckets = values.len() / A_BUCKET;
    let scale = (buckets - 1) as f64 / (high - low);
    // Rounding is monotone, so that a larger value never lands in an earlier bucket.
    let bucket = |value: f64| ((value - low) * scale) as usize;
    let present = || values.iter().copied().enumerate().filter(|(_, value)| !value.is_nan());
    let mut ends = vec![0usize; buckets];
    present().for_each(|(_, value)| ends[bucket(value)] += 1);
    let mut before = 0;
    for end in &mut ends {
        before += std::mem::replace(end, before);
    }
    let mut items = vec![T::default(); before];
    for (at, value) in present() {
        let place = &mut ends[bucket(value)];
        items[*place] = item(at, value);
        *place += 1;
    }
    sort_each(&mut items, 0, &ends);
    items
}

/// Sorts buckets by themselves, halves of them side by side; the first one starts at `start`.
fn sort_each<T: Ord + Send>(items: &mut [T], start: usize, ends: &[usize]) {
    if items.len() > FEW {
        let (low, high) = ends.split_at(ends.len() / 2);
        let middle = low.last().copied().unwrap_or(start);
        let (below, above) = items.split_at_mut(middle - start);
        // A bucket with nearly everything in it cannot be halved.
        if !low.is_empty() && !high.is_empty() {
            rayon::join(|| sort_each(below, start, low), || sort_each(above, middle, high));
            return;
        }
    }
    let mut from = start;
    for &end in ends {
        items[from - start..end - start].sort_unstable();
        from = end;
    }
}

/// Bits that order as the numbers do.
fn key(value: f64) -> u64 {
    let bits = value.to_bits();
    if bits >> 63 == 1 { !bits } else { bits | 1 << 63 }
}

fn value(key: u64) -> f64 {
    f64::from_bits(if key >> 63 == 1 { key & !(1 << 63) } else { !key })
}
