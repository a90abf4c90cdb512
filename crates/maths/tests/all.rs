//! Every test of this crate in one program: compiled once, run side by side.

mod bias;
mod cancel;
mod correlation;
mod describe;
mod distributions;
mod equal_means;
mod equal_variance;
mod judgement;
mod mean_squares;
mod normal;
mod numeric;
mod root;
mod shape;
mod shapes {
    mod box_cox;
    mod fit;
    mod johnson;
    mod member;
    mod ranking;
}
mod sorting;
mod studentized_range;
mod tails;
mod tolerance;
mod wide;
mod words;
