//! `signs`.

use acorn_formats::signs::*;

#[test]
fn a_bound_is_told_from_other_words() {
    let bounds = [("<0.5", Some(("<", "0.5"))), ("> 200", Some((">", "200"))), ("<=3,5", Some(("≤", "3,5"))), ("≥7", Some(("≥", "7")))];
    for (text, want) in bounds.into_iter().chain([("<none>", None), ("0.5", None), ("<", None), ("a<5", None)]) {
        assert_eq!(split(text), want, "{text}");
    }
}
