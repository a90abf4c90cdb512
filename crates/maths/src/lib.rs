//! Mathematics shared by the methods, what they call unlikely, and numbers in words.
//!
//! Pure, as all of the core: no files, no network, no clock, no async, no global random state.

pub mod anom;
pub mod bias;
pub mod cancel;
pub mod correlation;
pub mod curve;
pub mod cut_off;
pub mod describe;
pub mod distributions;
pub mod equal_means;
pub mod equal_variance;
pub mod heavy_tails;
pub mod judgement;
pub mod kurtosis;
pub mod lowest;
pub mod mean_squares;
pub mod mixture;
pub mod normal;
pub mod one_way;
pub mod ranks;
pub mod root;
pub mod shape;
pub mod shapes;
pub mod slips;
pub mod sorting;
pub mod studentized_range;
pub mod tails;
pub mod tolerance;
pub mod wide;
pub mod words;

/// The squares of larger numbers would be no numbers.
pub const LARGEST: f64 = 1e150;
/// The squares of smaller ones, other than 0, would be 0.
pub const SMALLEST: f64 = 1e-150;

/// From so many values on work is shared among the cores. Fewer are done where they are: they must not wait behind longer
/// work that holds the cores.
pub const MANY: usize = 1 << 16;

/// Whether work on so many values is to be shared; what is one of many pieces already is not split further.
pub fn is_shared(values: usize) -> bool {
    values >= MANY && rayon::current_thread_index().is_none()
}
