//! How statements read: what shows, what waits, what is meant while nothing is chosen.

use acorn_data::frame::{ColumnInfo, Kind, LimitRow, LimitTable};
use acorn_study::card::{Choice, Condition, Field, FieldKind, Item, Slot, SlotKind};
use acorn_study::statement::{NamedColumn, SlotState};
use acorn_study::{MethodCard, Spec};
use serde_json::{Value, json};

fn card(statement: &'static str, slots: Vec<Slot>) -> MethodCard {
    MethodCard {
        method: "made-up",
        question: "What?",
        part: "",
        use_when: "",
        found_by: &[],
        statement,
        slots,
        decisions: &[],
        formulas: Vec::new(),
        terms: &[],
    }
}

fn spec(roles: Value, options: Value) -> Spec {
    serde_json::from_value(json!({"method": "made-up", "roles": roles, "options": options})).unwrap()
}

fn when(mut slot: Slot, condition: Condition) -> Slot {
    slot.shows.push(condition);
    slot
}

fn quiet(slot: Slot) -> Slot {
    Slot { quiet: true, ..slot }
}

fn column(name: &'static str, empty: &'static str, required: bool) -> Slot {
    let kind = if required { SlotKind::needed(&[Kind::Number], empty) } else { SlotKind::optional(&[Kind::Number], empty) };
    Slot::new(name, name, kind)
}

/// A card with a slot of most kinds.
fn chart() -> MethodCard {
    let text = |name| Field { kind: FieldKind::Text, ..Field::number(name, name, false, None) };
    let point = |name| Field { kind: FieldKind::Point, ..Field::number(name, name, true, None) };
    let item = |value, default_on| Item { value, label: value, finds: "", default_on, length: None };
    card(
        "Chart {measure} as {chart}[ by {subgroup}], limits from {limits}[, {width}][, spread by {sigma}], {patterns}.",
        vec![
            column("measure", "choose a measurement", true),
            Slot::new(
                "chart",
                "chart",
                SlotKind::choice(vec![
                    Choice::plain("individuals", "individuals", ""),
                    Choice::plain("xbar-r", "means and ranges", "").implied_by(&["subgroup"]),
                ]),
            ),
            quiet(column("subgroup", "nothing", false)),
            Slot::new(
                "limits",
                "limits",
                SlotKind::Choice {
                    tag: "from",
                    choices: vec![
                        Choice::plain("data", "all values", ""),
                        Choice::with(
                            "known",
                            "a centre of {center}[, set by {set_by}]",
                            "",
                            vec![Field::number("center", "centre", true, None), text("set_by")],
                        ),
                        Choice::with("baseline", "values {first} to {last}", "", vec![point("first"), point("last")]),
                    ],
                },
            ),
            quiet(Slot::new("width", "width", SlotKind::usually(3.0, "{} sd", "3 sd", 1.0, 6.0))),
            when(
                Slot::new("sigma", "sigma", SlotKind::choice(vec![Choice::plain("r", "the ranges", "")])),
                Condition { option: Some("chart"), among: vec!["xbar-r"], ..Condition::default() },
            ),
            Slot::new(
                "patterns",
                "patterns",
                SlotKind::Checklist {
                    one: "pattern",
                    many: "patterns",
                    tag: "pattern",
                    items: vec![item("beyond", true), item("trend", false)],
                },
            ),
        ],
    )
}

fn words(card: &MethodCard, spec: &Spec) -> String {
    card.statement(spec, &[]).words()
}

fn names(card: &MethodCard, spec: &Spec, which: impl Fn(&SlotState) -> bool) -> Vec<&'static str> {
    card.statement(spec, &[]).slots.iter().filter(|state| which(state)).map(|state| card.slots[state.slot].name).collect()
}

#[test]
fn a_statement_reads_as_a_sentence_with_what_is_filled_and_without_what_is_not() {
    let card = chart();
    let empty = spec(json!({}), json!({}));
    assert_eq!(words(&card, &empty), "Chart choose a measurement as individuals, limits from all values, 1 pattern.");
    assert!(!card.statement(&empty, &[]).complete);
    let full = spec(
        json!({"measure": ["a", "b", "c", "d"], "subgroup": "hour"}),
        json!({"limits": {"from": "known", "center": -2, "set_by": "Ida"}, "width": 2.5, "patterns": []}),
    );
    let read = card.statement(&full, &[]);
    assert_eq!(
        read.words(),
        "Chart a, b and 2 more as means and ranges by hour, limits from a centre of −2, set by Ida, 2.5 sd, spread by the ranges, no pattern."
    );
    assert!(read.complete);
    // What is in brackets shows only with all that it names, and points count from 1.
    let known = |limits: Value| words(&card, &spec(json!({"measure": "a"}), json!({"limits": limits})));
    assert_eq!(known(json!({"from": "known", "center": 5})), "Chart a as individuals, limits from a centre of 5, 1 pattern.");
    assert!(known(json!({"from": "known"})).contains("a centre of …"));
    assert!(known(json!({"from": "baseline", "first": 0, "last": 17})).contains("values 1 to 18"));
    assert_eq!(names(&card, &spec(json!({"measure": "a"}), json!({})), |state| state.offered), ["subgroup", "width"]);
}

#[test]
fn a_slot_shows_by_what_is_chosen_and_what_is_meant_follows_from_what_else_is_given() {
    let card = chart();
    let shown = |roles: Value, options: Value| names(&card, &spec(roles, options), |_| true);
    assert!(!shown(json!({"measure": "a"}), json!({})).contains(&"sigma"));
    assert!(shown(json!({"measure": "a", "subgroup": "hour"}), json!({})).contains(&"sigma"));
    assert!(!shown(json!({"subgroup": "hour"}), json!({"chart": "individuals"})).contains(&"sigma"));
    let holds = |roles: Value, options: Value| {
        card.statement(&spec(roles, options), &[]).slots.iter().find(|state| card.slots[state.slot].name == "chart").unwrap().choice
    };
    assert_eq!(holds(json!({}), json!({})), Some("individuals"));
    assert_eq!(holds(json!({"subgroup": "hour"}), json!({})), Some("xbar-r"));
    assert_eq!(holds(json!({"subgroup": "hour"}), json!({"chart": "individuals"})), Some("individuals"));
    // Items that are not offered are none.
    let own = json!({"patterns": [{"pattern": "trend", "length": 7}, {"pattern": "gone"}]});
    assert!(words(&card, &spec(json!({}), own)).ends_with("1 pattern."));
    // A choice that is no longer offered is dropped when it is fitted, and nothing else is.
    let odd = spec(json!({"measure": "a"}), json!({"width": 2, "chart": "no-such", "limits": {"from": "known"}}));
    let fitted = card.fitted(odd);
    assert_eq!(serde_json::to_value(fitted.options).unwrap(), json!({"width": 2, "limits": {"from": "known"}}));
}

#[test]
fn what_is_typed_or_built_waits_until_it_is_there() {
    let each = Slot::new("each", "each", SlotKind::number("{}", "how many?", 0.0, 9.0));
    let card = card(
        "From {from}[: {table}][, {merge}][, each {each}][, {sizes}].",
        vec![
            Slot::new(
                "from",
                "from",
                SlotKind::choice(vec![
                    Choice::plain("columns", "columns", ""),
                    Choice::plain("table", "a table", "").implied_by(&["table"]),
                ]),
            ),
            when(
                Slot::new("table", "table", SlotKind::Counts { most: 9 }),
                Condition { option: Some("from"), among: vec!["table"], ..Condition::default() },
            ),
            quiet(Slot::new("merge", "merge", SlotKind::Renames { of: "kind", unset: "none" })),
            when(each, Condition { unset_option: Some("sizes"), ..Condition::default() }),
            quiet(Slot::new("sizes", "sizes", SlotKind::PerPoint { of: "per", unset: "as another says" })),
        ],
    );
    let of = |options: Value| spec(json!({}), options);
    let table = json!({"rows": ["a", "b"], "columns": ["x", "y", "z"], "counts": [[1, 2, 3], [4, 5, 6]]});
    assert!(!card.statement(&of(json!({"from": "table", "each": 2})), &[]).complete);
    assert_eq!(words(&card, &of(json!({"table": table, "each": 2}))), "From a table: 2 by 3 counts, each 2.");
    let merged = of(json!({"each": 2, "merge": {"Gasket, loose": "loose gasket"}}));
    assert_eq!(words(&card, &merged), "From columns, 1 name counted as another, each 2.");
    assert_eq!(names(&card, &of(json!({})), |state| state.offered), ["merge", "sizes"]);
    // One number gives way to many.
    let sized = of(json!({"sizes": {"2026-05-04": 400, "2026-05-05": 380}}));
    assert!(!names(&card, &sized, |_| true).contains(&"each"));
    assert_eq!((words(&card, &sized).as_str(), card.statement(&sized, &[]).complete), ("From columns, 2 of their own.", true));
}

#[test]
fn pieces_rows_and_ordered_columns_are_counted_in_words() {
    let built = |required| SlotKind::Built {
        one: "input",
        many: "inputs",
        unset: "no inputs",
        required,
        choices: Vec::new(),
        check: |_, _| Ok(()),
    };
    let of = |kind: SlotKind, options: Value| {
        let card = card("{inputs}", vec![Slot::new("inputs", "inputs", kind)]);
        let SlotState { text, waits, filled, .. } = card.statement(&spec(json!({}), options), &[]).slots.remove(0);
        (text, waits, filled)
    };
    assert_eq!(of(built(true), json!({})), ("no inputs".into(), true, false));
    assert_eq!(of(built(true), json!({"inputs": []})), ("no inputs".into(), true, false));
    assert_eq!(of(built(true), json!({"inputs": [{}]})), ("1 input".into(), false, true));
    assert_eq!(of(built(false), json!({"inputs": [{}, {}]})), ("2 inputs".into(), false, true));
    assert_eq!(of(built(false), json!({"inputs": {"goal": "target"}})), ("inputs".into(), false, true));
    let switch = || SlotKind::Switch { usual: false, on: "yes", off: "no" };
    let filled = |options: Value| of(switch(), options).2;
    assert_eq!([filled(json!({})), filled(json!({"inputs": false})), filled(json!({"inputs": true}))], [false, false, true]);
    let split = card(
        "Split {factors}[, leaving out {left_out}][ for {rows}].",
        vec![
            Slot::new("factors", "factors", SlotKind::needed(&[Kind::Number], "choose factors").many(4, "").ordered()),
            quiet(Slot::new("left_out", "left out", SlotKind::LeftOut { unset: "no rows" })),
            quiet(Slot::new("rows", "rows", SlotKind::Rows { empty: "some rows" })),
        ],
    );
    let roles = json!({"factors": ["hour", "piece"]});
    assert_eq!(words(&split, &spec(roles.clone(), json!({}))), "Split hour › piece.");
    let options = json!({"left_out": [{"rows": [[3, 5]], "why": "loose"}, {"rows": [[9, 9]], "why": "wet"}], "rows": [[1, 2]]});
    assert_eq!(words(&split, &spec(roles, options)), "Split hour › piece, leaving out 4 rows for 2 rows.");
}

#[test]
fn limits_are_said_as_the_column_has_them_or_as_the_statement_does() {
    let card = card(
        "Is {measure} within {limits}?",
        vec![column("measure", "it", true), Slot::new("limits", "limits", SlotKind::Limits { of: "measure" })],
    );
    let says = |info: &ColumnInfo, options: Value| {
        let product = ColumnInfo::default();
        let columns = [NamedColumn { id: 1, name: "gap", info }, NamedColumn { id: 2, name: "model", info: &product }];
        let read = card.statement(&spec(json!({"measure": "gap"}), options), &columns);
        let limits = read.slots.into_iter().next_back().unwrap();
        (limits.text, limits.waits)
    };
    let info = |lsl, usl| ColumnInfo { lsl, usl, unit: Some("mm".into()), ..ColumnInfo::default() };
    assert_eq!(says(&info(Some(1.1), Some(1.3)), json!({})), ("1.1 to 1.3 mm".into(), false));
    assert_eq!(says(&info(None, Some(2.5)), json!({})), ("at most 2.5 mm".into(), false));
    assert_eq!(says(&info(Some(-1.0), None), json!({})), ("at least −1 mm".into(), false));
    assert_eq!(says(&info(None, None), json!({})), ("limits not set yet".into(), true));
    assert_eq!(says(&info(Some(1.1), Some(1.3)), json!({"usl": 9})), ("at most 9 mm".into(), false));
    let table = LimitTable { by: Some(2), since: None, rows: vec![LimitRow::default()] };
    let by = ColumnInfo { limit_table: Some(table), ..ColumnInfo::default() };
    assert_eq!(says(&by, json!({})), ("its limits by model".into(), false));
}
