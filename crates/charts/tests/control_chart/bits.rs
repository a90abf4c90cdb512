//! `control_chart::bits`.

use acorn_charts::control_chart::bits::*;

fn points(bits: &Bits) -> Vec<usize> {
    (0..bits.0.len() * 64).filter(|i| bits.0[i / 64] >> (i % 64) & 1 == 1).collect()
}

#[test]
fn bits_cross_the_edge_of_a_word() {
    let values: Vec<f64> = (0..130).map(f64::from).collect();
    // From the hundredth value on the upper line is out of reach.
    let lines = |i: usize| [[if i < 100 { 59.0 } else { 999.0 }; 4], [71.0; 4]];
    let facts = [Fact::Above(2), Fact::Below(1), Fact::Rises, Fact::Falls, Fact::Present];
    let [from_60, to_70, rises, falls, present] = Bits::of(&values, true, lines, &facts).try_into().unwrap();
    assert_eq!(points(&from_60), (60..100).collect::<Vec<_>>());
    let from_60 = from_60.and(&to_70);
    assert_eq!(points(&from_60.run_of(9)), [68, 69, 70]);
    assert_eq!(points(&from_60.later(65)), (125..=135).collect::<Vec<_>>());
    assert_eq!(points(&rises), (1..130).collect::<Vec<_>>());
    assert!(points(&falls).is_empty());
    assert_eq!(points(&present), (0..130).collect::<Vec<_>>());
    assert_eq!(points(&rises.run_of(70)).first(), Some(&70));
    assert_eq!(Bits::of(&[], true, lines, &[Fact::Present]), [Bits::default()]);
}
