//! Formulas: what they mean, where they are wrong, how they are written, and that nothing typed makes them fall over.

use acorn_data::formula::{Formula, LENGTH_MOST, Notation, Operand, Program, Room, Unit, in_order, renamed, unit_of};
use proptest::prelude::*;

fn value(text: &str, names: &[(&str, f64)]) -> f64 {
    let formula = Formula::read(text).unwrap_or_else(|mistake| panic!("{text}: {mistake}"));
    let operands: Vec<Operand> = formula
        .uses()
        .iter()
        .map(|used| Operand::Constant(names.iter().find(|(name, _)| *name == used.name).map_or(f64::NAN, |(_, value)| *value)))
        .collect();
    Program::of(&formula, &operands).constant().expect("nothing varies")
}

#[test]
fn formulas_mean_what_arithmetic_means() {
    let names = [("a", 3.0), ("b", 2.0), ("lens gap", 0.25), ("größe", 4.0), ("x_1", 7.0)];
    for (text, expected) in [
        ("2^-3^2", 2f64.powi(-9)),
        ("-a^2", -9.0),
        ("a - b - 1", 0.0),
        ("12/b/3", 2.0),
        ("a*-b", -6.0),
        ("a − −b", 5.0),
        ("a×b÷4·2", 3.0),
        ("`lens gap`*4 + größe + x_1", 12.0),
        ("if(a > b, if(a = 3, 1, 2), 0/0)", 1.0),
        ("if(a <> 3, 1, 2) + (a ≤ 3) + (a == 3)", 4.0),
        ("min(5, a, b) + max(a, b, 9)", 11.0),
        ("1 + 2 < 4", 1.0),
        (".5 + 1e1 + 2.E0", 12.5),
        ("2e", f64::NAN),
        ("+a", 3.0),
        ("((((a))))", 3.0),
    ] {
        if text == "2e" {
            assert!(Formula::read(text).is_err(), "a number and a name side by side");
            continue;
        }
        assert_eq!(value(text, &names), expected, "{text}");
    }
    assert!((value("sin(pi/6) + log10(100) + ln(exp(2)) + sqrt(b^2)", &[("pi", std::f64::consts::PI), ("b", 2.0)]) - 6.5).abs() < 1e-14);
    // What cannot be worked out is no number, and stays none.
    for text in ["0/0 > 1", "min(0/0, 1)", "max(1, sqrt(-1))", "(0/0)^0", "if(0/0, 1, 2)"] {
        assert!(value(text, &[]).is_nan(), "{text}");
    }
}

#[test]
fn a_mistake_is_told_where_it_stands() {
    for (text, from, to, words) in [
        ("", 0, 0, "the formula is empty"),
        ("a +", 3, 3, "a number or a name is missing at the end"),
        ("a + * b", 4, 5, "a number or a name is missing before “*”"),
        ("a b", 2, 3, "an operator such as + or * is missing before “b”"),
        ("2a", 1, 2, "an operator such as + or * is missing before “a”"),
        ("(a", 2, 2, "the parenthesis opened at character 1 is not closed"),
        ("a)", 1, 2, "this parenthesis closes none"),
        ("größe + `b", 8, 10, "a name in back-ticks has no second back-tick"),
        ("3,5 + a", 1, 2, "a comma parts arguments of a function; a decimal sign is a point"),
        ("foo(a)", 0, 3, "there is no function “foo”; there are sqrt, ln"),
        ("sqrt(a, b)", 0, 10, "sqrt takes one argument, not 2"),
        ("if(a, b)", 0, 8, "if takes three: if(condition, then, else), not 2"),
        ("a # b", 2, 3, "“#” has no meaning here; put an odd name between back-ticks"),
        ("1e999", 0, 5, "“1e999” is not a number"),
    ] {
        let mistake = Formula::read(text).expect_err(text);
        assert_eq!((mistake.from, mistake.to), (from, to), "{text}: {mistake}");
        assert!(mistake.words.starts_with(words), "{text}: {mistake}");
    }
    let unknown = Formula::read_among("volts * capcity", &["capacity", "volts"]).unwrap_err();
    assert_eq!((unknown.from, unknown.to, unknown.words.as_str()), (8, 15, "nothing is called “capcity”; is “capacity” meant?"));
    let deep = format!("{}1{}", "(".repeat(200), ")".repeat(200));
    assert!(Formula::read(&deep).unwrap_err().words.contains("nested deeper"));
    assert!(Formula::read(&"1+".repeat(LENGTH_MOST)).is_err());
}

#[test]
fn a_formula_that_would_need_itself_is_told_through_whom() {
    let others = [("room", "gap + 1"), ("gap", "2 * `lens edge`"), ("broken", "2 +"), ("left", "right"), ("right", "left")];
    let check = |of: &str, formula: &str| Formula::read(formula).unwrap().check_circle(of, &others);
    // Through one that needs others, through none, and through those that go in a circle of their own.
    for free in ["room + gap", "broken * 2", "left", "pi + 1"] {
        assert_eq!(check("squeeze", free), Ok(()), "{free}");
    }
    let mistake = check("lens edge", "3 - room").unwrap_err();
    assert_eq!((mistake.from, mistake.to), (4, 8));
    assert_eq!(mistake.words, "goes in a circle: “lens edge” needs “room” needs “gap” needs “lens edge”");
    let own = check("gap ratio", "1 / `gap ratio`").unwrap_err();
    assert_eq!((own.from, own.words.as_str()), (4, "goes in a circle: “gap ratio” needs “gap ratio”"));
}

#[test]
fn things_are_put_in_the_order_of_their_needs() {
    assert_eq!(in_order(&[]), Ok(vec![]));
    assert_eq!(in_order(&[vec![2], vec![], vec![1, 1]]), Ok(vec![1, 2, 0]));
    // A circle is told without what only leads to it.
    assert_eq!(in_order(&[vec![1], vec![2], vec![3], vec![1]]), Err(vec![1, 2, 3]));
    // As long as formulas are many: nothing calls itself.
    let chain: Vec<Vec<usize>> = (0..300).map(|place| if place < 299 { vec![place + 1] } else { vec![] }).collect();
    assert_eq!(in_order(&chain), Ok((0..300).rev().collect()));
}

#[test]
fn a_formula_is_written_as_a_textbook_writes_it() {
    for (text, line) in [
        ("a*b/c", "a × b ÷ c"),
        ("a/(b*c)", "a ÷ (b × c)"),
        ("a-(b-c)", "a − (b − c)"),
        ("(a+b)^2", "(a + b)^2"),
        ("2^-a", "2^−a"),
        ("-(a+b)", "−(a + b)"),
        ("(-a)^2", "(−a)^2"),
        ("sqrt((a))", "sqrt(a)"),
        ("a<=b", "a ≤ b"),
    ] {
        assert_eq!(Notation::of(&Formula::read(text).unwrap()).line, line, "{text}");
    }
    assert_eq!(renamed("a + `a b`*a - min(a, ab)", "a", "lens gap"), "`lens gap` + `a b`*`lens gap` - min(`lens gap`, ab)");
}

#[test]
fn units_are_carried_as_far_as_they_are_known() {
    let doubts = |text: &str, units: &[(&str, &str)], said: &str| {
        let formula = Formula::read(text).unwrap();
        let of = |name: &str| units.iter().find(|(known, _)| *known == name).map(|(_, unit)| Unit::read(unit));
        let units: Vec<Option<Unit>> = formula.uses().iter().map(|used| of(&used.name)).collect();
        unit_of(&formula, &units, Some((said, &Unit::read(said))))
    };
    let lamp = [("c", "Ah"), ("v", "V"), ("p", "W"), ("l", "mm"), ("d", "µm"), ("f", "N"), ("a", "mm²"), ("t", "pieces")];
    assert!(doubts("c*v/p", &lamp, "h").is_empty());
    assert!(doubts("f/a", &lamp, "MPa").is_empty());
    assert!(doubts("sqrt(a) + 2*l", &lamp, "mm").is_empty());
    assert_eq!(doubts("c*v/p", &lamp, "min"), ["its units make min times 60"]);
    assert_eq!(doubts("c*v", &lamp, "h"), ["its units do not make h"]);
    assert_eq!(doubts("l + d", &lamp, "mm"), ["it adds or subtracts the same in different units, and nothing is converted"]);
    assert_eq!(doubts("l + f", &lamp, "mm"), ["it adds or subtracts different units"]);
    assert_eq!(doubts("ln(l)*l", &lamp, "mm"), ["it takes ln of something with a unit"]);
    // A bare number may have converted, and a name without a unit may be anything.
    assert!(doubts("l + d/1000", &lamp, "mm").is_empty());
    assert!(doubts("l*unknown", &lamp, "kg").is_empty());
    assert!(doubts("t*2", &lamp, "pieces").is_empty());
}

/// Pieces that formulas are made of, so that many random rows of them can be read.
fn scraps() -> impl Strategy<Value = String> {
    let scrap = prop::sample::select(vec![
        "a", "b", "1", "2.5", ".5e2", "+", "-", "*", "/", "^", "(", ")", ",", "<", ">=", "=", "sqrt(", "if(", "min(", "`b c`", " ", "é",
        "`", "#", "−",
    ]);
    prop::collection::vec(scrap, 0..40).prop_map(|scraps| scraps.concat())
}

proptest! {
    #[test]
    fn nothing_typed_makes_a_formula_fall_over(text in prop_oneof![scraps(), ".{0,60}"]) {
        match Formula::read(&text) {
            Err(mistake) => {
                let letters = text.chars().count();
                prop_assert!(mistake.from <= mistake.to && mistake.to <= letters && !mistake.words.is_empty(), "{text}: {mistake}");
            }
            Ok(formula) => {
                // Written out and read again it is worth the same, and blocks give what single numbers give.
                let line = Notation::of(&formula).line;
                let ticked = formula.uses().iter().fold(line, |line, used| if used.name.contains(' ') { line.replace(&used.name, &format!("`{}`", used.name)) } else { line });
                let again = Formula::read(&ticked).unwrap_or_else(|mistake| panic!("{text} as {ticked}: {mistake}"));
                let numbers = |formula: &Formula| -> Vec<f64> { formula.uses().iter().map(|used| 0.5 + used.name.len() as f64).collect() };
                let constant = |formula: &Formula| Program::of(formula, &numbers(formula).into_iter().map(Operand::Constant).collect::<Vec<_>>()).constant();
                let (one, other) = (constant(&formula).unwrap(), constant(&again).unwrap());
                prop_assert!(one == other || (one.is_nan() && other.is_nan()), "{text} is {one}, {ticked} is {other}");
                let columns: Vec<Vec<f64>> = numbers(&formula).into_iter().map(|number| vec![number; 7]).collect();
                let columns: Vec<&[f64]> = columns.iter().map(Vec::as_slice).collect();
                let mut out = [0.0; 7];
                Program::of(&formula, &(0..columns.len()).map(Operand::Column).collect::<Vec<_>>()).run(&columns, &mut Room::default(), &mut out);
                prop_assert!(out.iter().all(|out| *out == one || (out.is_nan() && one.is_nan())), "{text}: {out:?} and {one}");
            }
        }
    }
}
