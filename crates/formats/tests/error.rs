//! `error`.

use acorn_formats::error::*;

#[test]
fn a_bound_holds_at_it_and_refuses_beyond_it() {
    assert_eq!(FormatError::bound("rows", 4, 5), Ok(()));
    assert_eq!(FormatError::bound("rows", 5, 5), Ok(()));
    assert_eq!(FormatError::bound("rows", 6, 5), Err(FormatError::TooMuch { what: "rows", have: 6, limit: 5 }));
}
