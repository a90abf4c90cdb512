//! `entry`.

use acorn_study::entry::*;

#[test]
fn a_form_is_whole_words_and_a_short_one_keeps_its_capitals() {
    assert!(stands("moving range", "The mean Moving range of 2") && !stands("range", "arrangement"));
    assert!(stands("Cp", "both limits (Cp, Pp)") && !stands("Cp", "Cpk") && !stands("p", "P chart"));
}
