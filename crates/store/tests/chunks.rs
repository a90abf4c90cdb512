//! `chunks`.

use acorn_data::frame::{Kind, Values};
use acorn_store::chunks::*;

#[test]
fn cells_survive_their_encoding() {
    let values = Values::Number([2.4, f64::NAN, -0.0, 1e300].into());
    let mut cells = Vec::new();
    decode(&encode(&values, 0..4), f64::from_le_bytes, &mut cells).unwrap();
    assert!(cells[1].is_nan() && cells[0] == 2.4 && cells[3] == 1e300 && cells[2].is_sign_negative());
    assert!(decode(&[0; 7], f64::from_le_bytes, &mut cells).is_err());
}

#[test]
fn every_kind_has_one_name() {
    let names: std::collections::BTreeMap<_, _> = [Kind::Number, Kind::WholeNumber, Kind::Category, Kind::DateTime, Kind::Text]
        .into_iter()
        .map(|kind| (kind_name(kind), kind))
        .collect();
    assert_eq!(names.len(), 5);
    assert!(names.iter().all(|(name, kind)| kind_of(name).unwrap() == *kind));
    assert!(kind_of("pie").is_err());
}
