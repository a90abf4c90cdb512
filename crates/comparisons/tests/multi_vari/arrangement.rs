//! `multi_vari::arrangement`.

use acorn_comparisons::multi_vari::arrangement::*;
use acorn_comparisons::multi_vari::cells::Tree;
use acorn_comparisons::multi_vari::factors::factors;
use acorn_data::frame::Frame;
use acorn_study::Cancel;

#[test]
fn labels_that_do_the_same_everywhere_are_told_from_labels_that_mean_nothing() {
    let (mut piece, mut spot, mut own) = (Vec::new(), Vec::new(), Vec::new());
    let (mut same, mut each) = (Vec::new(), Vec::new());
    for p in 0..8_i32 {
        for s in 0..3_i32 {
            piece.push(p);
            spot.push(s);
            own.push(10 * p + s);
            let noise = f64::from((7 * p + 5 * s) % 4);
            same.push(f64::from(20 * s) + noise);
            each.push(f64::from(20 * ((s + p) % 3)) + noise);
        }
    }
    let columns = serde_json::json!({"piece": piece, "spot": spot, "own": own, "same": same, "each": each});
    let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
    let column = |name: &str| frame.column(name).unwrap();
    let tree = |inner: &str, values: &[f64]| {
        Tree::of(factors(&frame, &[column("piece"), column(inner)]).unwrap(), values, &Cancel::default()).unwrap()
    };
    let ss = |tree: &Tree| tree.levels[1].iter().map(|group| (group.mean - tree.levels[0][group.parent].mean).powi(2)).sum::<f64>();
    let found = |values: &[f64]| {
        let tree = tree("spot", values);
        alike(&tree, 1, 16.0, ss(&tree)).unwrap()
    };
    assert_eq!(arrangement(&tree("spot", &same), 1), Arrangement::Crossed);
    assert_eq!((arrangement(&tree("own", &same), 1), arrangement(&tree("own", &same), 0)), (Arrangement::Nested, Arrangement::First));
    assert!(alike(&tree("own", &same), 1, 16.0, 1.0).is_none());
    let of_same = found(&same);
    assert!(of_same.share > 0.95 && of_same.p < 1e-6 && (of_same.effects[2].1 - of_same.effects[0].1 - 40.0).abs() < 2.0, "{of_same:?}");
    assert!(found(&each).share < 0.2 && found(&each).p > 0.1);
}
