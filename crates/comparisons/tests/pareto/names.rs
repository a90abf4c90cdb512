//! `pareto::names`.

use acorn_comparisons::pareto::names::*;
use std::collections::BTreeMap;

fn pairs(names: &[&str]) -> Vec<[String; 2]> {
    alike(names).into_iter().map(|one| [one.name, one.as_name]).collect()
}

#[test]
fn case_marks_order_and_a_letter_make_no_other_name_but_a_number_or_a_short_word_does() {
    let one = pairs(&["loose gasket", "Gasket, loose", "loose  gaskt", "LOOSE GASKET", "losoe gasket"]);
    assert_eq!(one.len(), 4, "{one:?}");
    assert!(one.iter().all(|[_, to]| to == "loose gasket"));
    let apart =
        ["kind 11", "kind 12", "bench A", "bench B", "haze", "hare", "cold joint", "gold joint", "scratch", "scratch deep", "", "-"];
    assert_eq!(pairs(&apart), Vec::<[String; 2]>::new());
}

#[test]
fn a_name_is_followed_to_its_last_one_and_a_circle_changes_nothing() {
    let of = |pairs: &[(&str, &str)]| pairs.iter().map(|(from, to)| ((*from).to_owned(), (*to).to_owned())).collect::<BTreeMap<_, _>>();
    let chain = of(&[("a", "b"), ("b", "c")]);
    assert_eq!([followed("a", &chain), followed("c", &chain)], ["c", "c"]);
    assert_eq!(merged(&chain), BTreeMap::from([("c".to_owned(), ["c", "a", "b"].map(String::from).to_vec())]));
    let circle = of(&[("a", "b"), ("b", "a")]);
    assert_eq!((followed("a", &circle), merged(&circle).len()), ("a", 0));
}
