//! Shapes that values may have: fitted families, and transformations that make values normal.
//!
//! A [`Family`] is a location and scale of one of four standard densities, on the values or on their logarithms above a
//! threshold, or a gamma. [`fit`] finds the likeliest member of each. [`BoxCox`] and [`Johnson`] map values to a scale on
//! which a normal fits.

#[doc(hidden)]
pub mod box_cox;
#[doc(hidden)]
pub mod family;
#[doc(hidden)]
pub mod fit;
#[doc(hidden)]
pub mod johnson;
#[doc(hidden)]
pub mod likelihood;
#[doc(hidden)]
pub mod member;
#[doc(hidden)]
pub mod ranking;

pub use box_cox::BoxCox;
pub use family::Family;
pub use fit::fit;
pub use johnson::{Johnson, System};
pub use member::Shape;
pub use ranking::{Fitted, Untested, aic, bootstrap, is_refuted, judge, rank};
