//! `frame::rules`.

use acorn_data::frame::rules::*;

#[test]
fn values_are_refused_or_doubted_in_words() {
    let rules = Rules { lower_bound: Some(0.0), lowest: Some(0.2), highest: Some(5.0), ..Rules::default() }.checked().unwrap();
    assert_eq!(rules.refuses("leak rate", -0.1).as_deref(), Some("leak rate cannot be below 0; −0.1 is"));
    assert_eq!((rules.refuses("leak rate", 7.0), rules.refuses("leak rate", f64::NAN)), (None, None));
    assert_eq!([-0.1, 0.1, 0.2, 5.0, 5.1, f64::NAN].map(|value| rules.doubts(value)), [true, true, false, false, true, false]);
    assert_eq!(rules.display_text(), "from 0.2 to 5");
    let kinds = Rules { choices: vec![" crack".into(), "void".into(), "".into(), "crack".into()], ..Rules::default() }.checked().unwrap();
    assert_eq!((kinds.choices.len(), kinds.refuses_label("kind", "void")), (2, None));
    assert_eq!(kinds.refuses_label("kind", "crak").as_deref(), Some("“crak” is none of the choices of kind: crack, void"));
    let crossed = Rules { lowest: Some(5.0), highest: Some(5.0), ..Rules::default() };
    assert_eq!(crossed.checked().unwrap_err(), "the lowest value believed, 5, is not below the highest, 5");
}
