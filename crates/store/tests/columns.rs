//! Columns that come, go, move, and are worked out from others, against what they are worked out to at once.

use acorn_data::formula::TableFormula;
use acorn_data::frame::{Column, ColumnInfo, Kind, LimitRow, LimitTable, Limits, Rules};
use acorn_data::reshape::{Reshape, Statistic, reshape};
use acorn_formats::{ReadOptions, Source, Table, TableColumn, read};
use acorn_store::{
    CellEdit, Change, ColumnChange, Dataset, GoneRows, Link, NewColumn, NewDataset, NewRows, NewStudy, OneColumn, Placed, Store,
    StoreError, UndoDirection,
};
use acorn_study::{Spec, TableView};
use proptest::prelude::*;
use serde_json::json;

const MR: Change<'static> = Change { actor: "MR", at: 1 };

async fn store(rows: usize) -> (tempfile::TempDir, Store, Dataset) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("acorn.sqlite")).await.unwrap();
    let mut text = String::from("reel,flux\n");
    (0..rows).for_each(|i| text += &format!("R{},{}.5\n", i % 5, i % 7));
    let reading = read(&Source::open("reels.csv", text.into_bytes()).unwrap(), &ReadOptions::default()).unwrap();
    let new = NewDataset { name: "Reels", source: "reels.csv", table: &reading.table, infos: &[], gauges: &[] };
    let dataset = store.create_dataset(new, &MR).await.unwrap();
    (folder, store, dataset)
}

fn with_formula(name: &str, formula: &str) -> NewColumn {
    NewColumn { name: name.into(), formula: Some(formula.into()), ..NewColumn::default() }
}

/// Names, kinds and cells of a table; what is worked out stands as it would be worked out now.
async fn table(store: &Store, id: i64) -> Vec<String> {
    let (dataset, frame) = store.frame(id, |_| true).await.unwrap();
    let kinds: Vec<(&str, Kind)> = dataset.columns.iter().map(|column| (column.name.as_str(), column.kind)).collect();
    for (column, stored) in dataset.columns.iter().zip(frame.columns()) {
        let Some(text) = &column.formula else { continue };
        let formula = TableFormula::read(text, &kinds).unwrap_or_else(|mistake| panic!("{text}: {mistake}"));
        let now = formula.values(&frame);
        let texts = |values: &acorn_data::frame::Values| (0..values.len()).map(|row| values.text(row)).collect::<Vec<_>>();
        assert_eq!(texts(&stored.values), texts(&now), "{} = {text}", column.name);
    }
    let cells = |place: usize| (0..frame.rows()).map(|row| frame.columns()[place].values.text(row).unwrap_or_default()).collect::<Vec<_>>();
    let line = |(place, column): (usize, &acorn_store::StoredColumn)| {
        let formula = column.formula.as_ref().map(|formula| format!(" = {formula}")).unwrap_or_default();
        format!("{}{}{formula} {:?} {}", column.name, if column.hidden { " (hidden)" } else { "" }, column.kind, cells(place).join("|"))
    };
    dataset.columns.iter().enumerate().map(line).collect()
}

#[tokio::test]
async fn a_formula_follows_every_change_of_what_it_rests_on() {
    let (_folder, store, dataset) = store(5).await;
    let id = dataset.id;
    let now = async || store.dataset(id).await.unwrap();
    let revision = async || now().await.revision;
    let (_, double) = store.add_column(id, 1, &with_formula("double", "2 * flux"), &MR).await.unwrap();
    let (_, above) = store.add_column(id, 2, &with_formula("step", "double - previous(double)"), &MR).await.unwrap();
    assert_eq!(table(&store, id).await[2..], ["double = 2 * flux Number 1|3|5|7|9", "step = double - previous(double) Number |2|2|2|2"]);
    let edit = CellEdit { column_id: dataset.columns[1].id, row: 2, text: "10".into() };
    store.edit_cells(id, 3, &[edit], &MR).await.unwrap();
    assert_eq!(table(&store, id).await[3], "step = double - previous(double) Number |2|17|-13|2");
    let revisions: Vec<i64> = now().await.columns.iter().map(|column| column.revision).collect();
    assert_eq!(revisions, [1, 4, 4, 4], "answers about what is worked out are worked out anew, about the rest they stand");
    let rows =
        NewRows { revision: None, at: None, column_ids: vec![dataset.columns[1].id, double], rows: vec![vec!["0.5".into(), "".into()]] };
    store.add_rows(id, &rows, &MR).await.unwrap();
    let gone = GoneRows { revision: revision().await, row_ids: vec![1] };
    store.delete_rows(id, &gone, &MR).await.unwrap();
    assert_eq!(table(&store, id).await[3], "step = double - previous(double) Number |19|-13|2|-8");
    // A new name goes into the formulas; a formula that could no longer be read keeps its column from changing.
    let flux = now().await.columns[1].clone();
    let named = ColumnChange { name: "beam flux".into(), ..(&flux).into() };
    store.change_column(id, flux.id, revision().await, named, &MR).await.unwrap();
    assert!(table(&store, id).await[2].starts_with("double = 2 * `beam flux` Number"));
    let refused = async |done: Result<Dataset, StoreError>, words: &str| {
        let problem = done.unwrap_err().to_string();
        assert!(problem.contains(words), "{problem}");
    };
    let worded = ColumnChange { kind: Kind::Text, ..(&now().await.columns[1]).into() };
    refused(store.change_column(id, flux.id, revision().await, worded, &MR).await, "the formula of “double” would no longer hold").await;
    refused(store.delete_column(id, flux.id, revision().await, &MR).await, "by the formula of “double”").await;
    let typed = CellEdit { column_id: double, row: 0, text: "1".into() };
    refused(store.edit_cells(id, revision().await, &[typed], &MR).await, "“double” is worked out by its formula").await;
    let round = ColumnChange { formula: Some("step + 1".into()), ..(&now().await.columns[2]).into() };
    refused(store.change_column(id, double, revision().await, round, &MR).await, "goes in a circle").await;
    let before = table(&store, id).await;
    // Another formula changes the kind, and what rests on it with it; plain values stay as they are.
    store.delete_column(id, above, revision().await, &MR).await.unwrap();
    let words = ColumnChange { formula: Some("join(reel, \"!\")".into()), ..(&now().await.columns[2]).into() };
    store.change_column(id, double, revision().await, words, &MR).await.unwrap();
    assert_eq!(table(&store, id).await[2], "double = join(reel, \"!\") Category R0!|R2!|R3!|R4!|");
    let plain = ColumnChange { formula: None, ..(&now().await.columns[2]).into() };
    store.change_column(id, double, revision().await, plain, &MR).await.unwrap();
    let typed = CellEdit { column_id: double, row: 4, text: "new".into() };
    store.edit_cells(id, revision().await, &[typed], &MR).await.unwrap();
    assert_eq!(table(&store, id).await[2], "double Category R0!|R2!|R3!|R4!|new");
    for _ in 0..4 {
        store.turn_dataset(id, UndoDirection::Undo, revision().await, &MR).await.unwrap();
    }
    assert_eq!(table(&store, id).await, before);
}

#[tokio::test]
async fn columns_come_go_and_move_and_nothing_of_them_is_lost() {
    let (_folder, store, dataset) = store(4).await;
    let (id, reel, flux) = (dataset.id, dataset.columns[0].id, dataset.columns[1].id);
    let spec: Spec =
        serde_json::from_value(json!({"method": "control-chart", "roles": {"measure": "flux"}, "data": {"dataset": id}})).unwrap();
    let study = store.create_study(&NewStudy { name: None, spec }, &MR).await.unwrap();
    let at_start = NewColumn { name: "note".into(), kind: Some(Kind::Text), at: Some(0), ..NewColumn::default() };
    let (_, note) = store.add_column(id, 1, &at_start, &MR).await.unwrap();
    let copy = NewColumn { name: "reel again".into(), copy_of: Some(reel), at: Some(2), ..NewColumn::default() };
    let (_, copied) = store.add_column(id, 2, &copy, &MR).await.unwrap();
    let edit = CellEdit { column_id: copied, row: 0, text: "R9".into() };
    store.edit_cells(id, 3, &[edit], &MR).await.unwrap();
    let whole = ["note Text |||", "reel Category R0|R1|R2|R3", "reel again Category R9|R1|R2|R3", "flux Number 0.5|1.5|2.5|3.5"];
    assert_eq!(table(&store, id).await, whole);
    let placed = |id: i64, hidden: bool| Placed { id, hidden };
    let order = [placed(flux, false), placed(note, true), placed(copied, false), placed(reel, false)];
    store.arrange_columns(id, 4, &order, &MR).await.unwrap();
    assert_eq!(table(&store, id).await[..2], ["flux Number 0.5|1.5|2.5|3.5", "note (hidden) Text |||"]);
    for (wrong, words) in
        [(&order[..3], "named once"), (&[order[0].clone(), order[0].clone(), order[2].clone(), order[3].clone()], "named once")]
    {
        assert!(store.arrange_columns(id, 5, wrong, &MR).await.unwrap_err().to_string().contains(words));
    }
    let none: Vec<Placed> = order.iter().map(|one| placed(one.id, true)).collect();
    assert!(store.arrange_columns(id, 5, &none, &MR).await.unwrap_err().to_string().contains("one column at least"));
    assert!(store.add_column(id, 5, &NewColumn { name: "flux".into(), ..NewColumn::default() }, &MR).await.is_err(), "the name is taken");
    // A view names what it rests on, whatever that is called, until it is gone; so does a study.
    let view: TableView = serde_json::from_value(json!({
        "only": [{"column": "flux", "between": [1, null]}, {"column": "reel", "labels": ["R1"]}], "order": [{"column": "flux", "descending": true}],
    }))
    .unwrap();
    store.keep_view(id, "High ones", &view).await.unwrap();
    assert!(
        store
            .keep_view(id, "Other", &TableView { only: vec![], order: vec![serde_json::from_value(json!({"column": "gap"})).unwrap()] })
            .await
            .is_err()
    );
    let named = ColumnChange { name: "beam flux".into(), ..(&dataset.columns[1]).into() };
    store.change_column(id, flux, 5, named, &MR).await.unwrap();
    assert_eq!(serde_json::to_value(&store.views(id).await.unwrap()[0].view).unwrap()["order"][0]["column"], "beam flux");
    store.delete_column(id, flux, 6, &MR).await.unwrap();
    assert_eq!(store.study(study.id).await.unwrap().spec.roles.get("measure"), None);
    let left = store.views(id).await.unwrap();
    assert_eq!((left[0].view.only.len(), left[0].view.order.len()), (1, 0));
    // The name is free for another, until the one that had it is back.
    let (_, other) = store.add_column(id, 7, &NewColumn { name: "beam flux".into(), ..NewColumn::default() }, &MR).await.unwrap();
    assert!(other > copied, "a number is never given again");
    store.turn_dataset(id, UndoDirection::Undo, 8, &MR).await.unwrap();
    store.turn_dataset(id, UndoDirection::Undo, 9, &MR).await.unwrap();
    assert_eq!(serde_json::to_value(&store.study(study.id).await.unwrap().spec).unwrap()["roles"]["measure"], "beam flux");
    assert_eq!(store.forget_view(id, left[0].id).await.unwrap(), []);
    assert!(store.forget_view(id, left[0].id).await.is_err());
    for revision in 10..14 {
        store.turn_dataset(id, UndoDirection::Undo, revision, &MR).await.unwrap();
    }
    store.turn_dataset(id, UndoDirection::Undo, 14, &MR).await.unwrap();
    assert_eq!(table(&store, id).await, ["reel Category R0|R1|R2|R3", "flux Number 0.5|1.5|2.5|3.5"]);
}

#[tokio::test]
async fn columns_come_with_rows_and_go_with_them() {
    let (_folder, store, dataset) = store(3).await;
    let id = dataset.id;
    store.add_column(id, 1, &with_formula("double", "2 * flux"), &MR).await.unwrap();
    let table_of = |text: &str| read(&Source::open("more.csv", text.as_bytes().to_vec()).unwrap(), &ReadOptions::default()).unwrap().table;
    let before = table(&store, id).await;
    let more = table_of("flux,press,made\n7,P1,2026-05-04\n8,P2,2026-05-05\n");
    assert!(store.append(id, &more, false, &MR).await.unwrap_err().to_string().contains("has no column “press”"));
    assert!(store.append(id, &table_of("double\n3\n"), false, &MR).await.unwrap_err().to_string().contains("worked out by its formula"));
    store.append(id, &more, true, &MR).await.unwrap();
    let after = table(&store, id).await;
    assert_eq!(after[2..4], ["double = 2 * flux Number 1|3|5|14|16", "press Category |||P1|P2"]);
    assert_eq!(after[4], "made DateTime |||2026-05-04 00:00|2026-05-05 00:00");
    store.turn_dataset(id, UndoDirection::Undo, 3, &MR).await.unwrap();
    assert_eq!(table(&store, id).await, before);
    store.turn_dataset(id, UndoDirection::Redo, 4, &MR).await.unwrap();
    assert_eq!(table(&store, id).await, after);
}

#[tokio::test]
async fn rows_are_read_at_any_places_in_any_order() {
    let (_folder, store, dataset) = store(5000).await;
    let gone = GoneRows { revision: 1, row_ids: (10..20).collect() };
    store.delete_rows(dataset.id, &gone, &MR).await.unwrap();
    let wanted = [4989, 0, 2040, 9, 10, 2039];
    let window = store.rows_at(dataset.id, &wanted).await.unwrap();
    assert_eq!(window.row_ids, [4999, 0, 2050, 9, 20, 2049]);
    let flux: Vec<String> = window.row_ids.iter().map(|id| format!("{}.5", id % 7)).collect();
    assert_eq!(window.cells[1].iter().flatten().cloned().collect::<Vec<_>>(), flux);
    assert!(store.rows_at(dataset.id, &[4990]).await.is_err());
}

#[derive(Clone, Debug)]
enum Step {
    Edit { at: usize, column: usize, text: &'static str },
    AddRows { at: Option<usize>, count: usize },
    DeleteRows { from: usize, count: usize },
    AddColumn { formula: Option<&'static str>, copy: Option<usize> },
    DeleteColumn(usize),
    Arrange { turn: usize, hide: usize },
    Change { column: usize, formula: Option<&'static str>, kind: Kind, name: &'static str },
    Order(u64),
    Reopen,
}

fn step() -> impl Strategy<Value = Step> {
    let formula = || {
        prop_oneof![
            Just("2 * flux"),
            Just("flux + previous(flux)"),
            Just("running_sum(flux)"),
            Just("join(reel, \"/\", text(flux))"),
            Just("group_mean(flux, reel)"),
            Just("rank(c0) - row()"),
            Just("if(flux > 3, upper(reel), \"low\")"),
            Just("nothing +"),
        ]
    };
    let kind = prop_oneof![Just(Kind::Number), Just(Kind::Text), Just(Kind::Category)];
    prop_oneof![
        4 => (any::<usize>(), 0..6usize, prop_oneof![Just("3"), Just("0.25"), Just(""), Just("R1"), Just("x")]).prop_map(|(at, column, text)| Step::Edit { at, column, text }),
        2 => (prop::option::of(any::<usize>()), 1..4usize).prop_map(|(at, count)| Step::AddRows { at, count }),
        1 => (any::<usize>(), 1..4usize).prop_map(|(from, count)| Step::DeleteRows { from, count }),
        3 => (prop::option::of(formula()), prop::option::of(0..6usize)).prop_map(|(formula, copy)| Step::AddColumn { formula, copy }),
        1 => (0..6usize).prop_map(Step::DeleteColumn),
        1 => any::<u64>().prop_map(Step::Order),
        1 => (0..6usize, 0..6usize).prop_map(|(turn, hide)| Step::Arrange { turn, hide }),
        2 => (0..6usize, prop::option::of(formula()), kind, prop_oneof![Just("c0"), Just("c1"), Just("flux"), Just("reel")])
            .prop_map(|(column, formula, kind, name)| Step::Change { column, formula, kind, name }),
        1 => Just(Step::Reopen),
    ]
}

async fn take(store: &Store, id: i64, step: &Step, place: usize) -> Result<(), StoreError> {
    let seen = store.dataset(id).await?;
    let (revision, rows) = (seen.revision, seen.row_count as usize);
    let column = |which: usize| &seen.columns[which % seen.columns.len()];
    match step {
        Step::Edit { at, column: which, text } => {
            let edit = CellEdit { column_id: column(*which).id, row: at % rows.max(1), text: (*text).into() };
            store.edit_cells(id, revision, &[edit], &MR).await?;
        }
        Step::AddRows { at, count } => {
            let rows =
                NewRows { revision: Some(revision), at: at.map(|at| at % (rows + 1)), column_ids: vec![], rows: vec![vec![]; *count] };
            store.add_rows(id, &rows, &MR).await?;
        }
        Step::DeleteRows { from, count } => {
            let row_ids = store.rows(id, from % rows.max(1), *count).await?.row_ids;
            store.delete_rows(id, &GoneRows { revision, row_ids }, &MR).await?;
        }
        Step::AddColumn { formula, copy } => {
            let name = format!("c{place}");
            let copy_of = copy.filter(|_| formula.is_none()).map(|which| column(which).id);
            let new = NewColumn { name, kind: None, formula: formula.map(str::to_owned), copy_of, at: Some(place % 3) };
            store.add_column(id, revision, &new, &MR).await?;
        }
        Step::DeleteColumn(which) => drop(store.delete_column(id, column(*which).id, revision, &MR).await?),
        Step::Arrange { turn, hide } => {
            let many = seen.columns.len();
            let wanted: Vec<Placed> = (0..many)
                .map(|place| (place + turn) % many)
                .map(|place| Placed { id: seen.columns[place].id, hidden: place == hide % many })
                .collect();
            store.arrange_columns(id, revision, &wanted, &MR).await?;
        }
        Step::Change { column: which, formula, kind, name } => {
            let own = column(*which);
            let wanted = ColumnChange { formula: formula.map(str::to_owned), kind: *kind, name: (*name).into(), ..own.into() };
            store.change_column(id, own.id, revision, wanted, &MR).await?;
        }
        Step::Order(seed) => {
            let mut order: Vec<u32> = (0..rows as u32).collect();
            order.sort_by_key(|row| (u64::from(*row) + 1).wrapping_mul(*seed | 1) >> 40);
            drop(store.order_rows(id, &order, &["flux".into()], revision, &MR).await?);
        }
        Step::Reopen => {}
    }
    Ok(())
}

async fn run(steps: Vec<Step>, rows: usize) {
    let (folder, mut store, dataset) = store(rows).await;
    let file = folder.path().join("acorn.sqlite");
    let id = dataset.id;
    let mut states = vec![table(&store, id).await];
    for (place, step) in steps.into_iter().enumerate() {
        let before = store.dataset(id).await.unwrap().revision;
        if matches!(step, Step::Reopen) {
            store = Store::open(&file).await.unwrap();
        }
        let done = take(&store, id, &step, place).await;
        let now = table(&store, id).await;
        // What is refused, and what changes nothing, leaves no trace.
        if store.dataset(id).await.unwrap().revision == before {
            assert_eq!(now, *states.last().unwrap(), "{step:?}");
        } else {
            done.unwrap_or_else(|error| panic!("{step:?} was refused and done: {error}"));
            states.push(now);
        }
    }
    // Wholly undone it is what it was, done again what it became, whoever holds the file.
    for turn in [UndoDirection::Undo, UndoDirection::Redo, UndoDirection::Undo] {
        store = Store::open(&file).await.unwrap();
        let mut passed = states[..states.len() - 1].to_vec();
        passed.reverse();
        if turn == UndoDirection::Redo {
            passed = states[1..].to_vec();
        }
        for expected in passed {
            let revision = store.dataset(id).await.unwrap().revision;
            store.turn_dataset(id, turn, revision, &MR).await.unwrap();
            assert_eq!(table(&store, id).await, expected, "{turn:?}");
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, max_shrink_iters: 200, failure_persistence: None, ..ProptestConfig::default() })]
    #[test]
    fn any_sequence_of_changes_is_undone_to_the_start_and_redone_to_the_end(
        steps in prop::collection::vec(step(), 1..30),
        rows in prop_oneof![Just(3usize), Just(2047)],
    ) {
        tokio::runtime::Builder::new_current_thread().enable_all().build().unwrap().block_on(run(steps, rows));
    }
}

#[tokio::test]
async fn many_columns_change_together_and_what_one_cannot_be_is_refused_everywhere() {
    let (_folder, store, dataset) = store(5).await;
    let (id, [reel, flux]) = (dataset.id, [dataset.columns[0].id, dataset.columns[1].id]);
    let wanted = |place: usize, rules: Rules, name: &str| OneColumn {
        column_id: dataset.columns[place].id,
        wanted: ColumnChange { info: ColumnInfo { rules, ..ColumnInfo::default() }, name: name.into(), ..(&dataset.columns[place]).into() },
    };
    let reels = Rules { choices: ["R0", "R1", "R9"].map(String::from).to_vec(), ..Rules::default() };
    let bounded = Rules { lower_bound: Some(0.0), highest: Some(3.0), ..Rules::default() };
    let both = vec![wanted(0, reels.clone(), "LED reel"), wanted(1, bounded.clone(), "flux")];
    let changed = store.change_columns(id, 1, both, &MR).await.unwrap();
    assert_eq!((changed.revision, &changed.columns[0].info.rules, changed.columns[0].name.as_str()), (2, &reels, "LED reel"));
    let refused = |error: StoreError| if let StoreError::NotAllowed { problem } = error { problem } else { panic!("{error}") };
    let edit = async |column_id: i64, text: &str| {
        let revision = store.dataset(id).await.unwrap().revision;
        store.edit_cells(id, revision, &[CellEdit { column_id, row: 0, text: text.into() }], &MR).await
    };
    assert_eq!(refused(edit(flux, "-1").await.unwrap_err()), "flux cannot be below 0; −1 is");
    assert_eq!(refused(edit(reel, "R7").await.unwrap_err()), "“R7” is none of the choices of LED reel: R0, R1, R9");
    let rows = NewRows { revision: None, at: None, column_ids: vec![flux], rows: vec![vec!["-2".into()]] };
    assert_eq!(refused(store.add_rows(id, &rows, &MR).await.unwrap_err()), "flux cannot be below 0; −2 is");
    let more =
        read(&Source::open("more.csv", b"LED reel,flux\nR9,1.5\nR8,1.5\n".to_vec()).unwrap(), &ReadOptions::default()).unwrap().table;
    assert!(refused(store.append(id, &more, false, &MR).await.unwrap_err()).starts_with("“R8” is none"));
    // What is only not believed is taken, and told.
    edit(flux, "4.5").await.unwrap();
    let (_, frame) = store.frame(id, |_| true).await.unwrap();
    assert_eq!((frame.columns()[1].unbelieved(), frame.columns()[0].unbelieved()), (vec![0, 3, 4], vec![2, 3, 4]));
    let turn = async |turn: UndoDirection| {
        let revision = store.dataset(id).await.unwrap().revision;
        store.turn_dataset(id, turn, revision, &MR).await.unwrap()
    };
    turn(UndoDirection::Undo).await;
    let undone = turn(UndoDirection::Undo).await;
    let plain = |column: &acorn_store::StoredColumn| (column.name.clone(), column.info.clone());
    assert_eq!(undone.columns.iter().map(plain).collect::<Vec<_>>(), dataset.columns.iter().map(plain).collect::<Vec<_>>());
    let redone = turn(UndoDirection::Redo).await;
    assert_eq!((&redone.columns[1].info.rules, redone.columns[0].name.as_str()), (&bounded, "LED reel"));
    let twice = vec![wanted(1, Rules::default(), "flux"), wanted(1, bounded, "flux")];
    assert!(matches!(store.change_columns(id, redone.revision, twice, &MR).await, Err(StoreError::BadColumn { .. })));
}

#[tokio::test]
async fn limits_follow_the_column_that_chooses_them_and_it_stays_while_it_does() {
    let (_folder, store, dataset) = store(4).await;
    let (id, [reel, flux]) = (dataset.id, [dataset.columns[0].id, dataset.columns[1].id]);
    let of = |by: i64| LimitTable {
        by: Some(by),
        since: None,
        rows: vec![LimitRow { of: Some("R1".into()), from: None, limits: Limits { usl: Some(-1.0), ..Limits::default() } }],
    };
    let change = async |by: i64| {
        let now = store.dataset(id).await.unwrap();
        let info = ColumnInfo { limit_table: Some(of(by)), ..ColumnInfo::default() };
        store.change_column(id, flux, now.revision, ColumnChange { info, ..(&now.columns[1]).into() }, &MR).await
    };
    for (by, problem) in [(flux, "does not choose its own"), (999, "is not one of this table")] {
        assert!(change(by).await.unwrap_err().to_string().contains(problem));
    }
    let beyond = async || store.frame(id, |column| column.id == flux).await.unwrap().1.columns()[0].beyond();
    assert_eq!(beyond().await, Vec::<usize>::new());
    let changed = change(reel).await.unwrap();
    assert_eq!(beyond().await, [1]);
    let edit = CellEdit { column_id: reel, row: 0, text: "R1".into() };
    let edited = store.edit_cells(id, changed.revision, &[edit], &MR).await.unwrap();
    // An answer about the flux is another one now, though no flux was typed.
    assert_eq!((beyond().await, edited.columns[1].revision), (vec![0, 1], edited.revision));
    let refused = store.delete_column(id, reel, edited.revision, &MR).await.unwrap_err();
    assert!(refused.to_string().contains("needed by the limits of “flux”"), "{refused}");
    let undone = store.turn_dataset(id, UndoDirection::Undo, edited.revision, &MR).await.unwrap();
    let undone = store.turn_dataset(id, UndoDirection::Undo, undone.revision, &MR).await.unwrap();
    assert_eq!((beyond().await, &undone.columns[1].info.limit_table), (Vec::new(), &None));
}

#[tokio::test]
async fn a_table_that_follows_is_known_to_be_behind_until_it_was_made_anew() {
    let (folder, store, dataset) = store(4).await;
    let how = Reshape::Summary { by: vec!["reel".into()], of: vec!["flux".into()], numbers: vec![Statistic::Count] };
    let link = Link { from: dataset.id, with: None, how, view: TableView::default() };
    let made = async |store: &Store| {
        let (_, frame) = store.frame(dataset.id, |_| true).await.unwrap();
        let columns = reshape(&frame, None, &link.how).unwrap().columns;
        let rows = columns[0].values.len();
        let column = |column: Column| TableColumn { name: column.name, kind: column.kind, unit: None, values: column.values };
        Table { columns: columns.into_iter().map(column).collect(), rows }
    };
    let table = made(&store).await;
    let new = NewDataset { name: "Sums", source: "Reels", table: &table, infos: &[], gauges: &[] };
    let sums = store.create_linked(new, &link, (1, None), &MR).await.unwrap();
    assert_eq!(store.links_behind().await.unwrap(), Vec::<i64>::new());
    let edit = |text: &str| [CellEdit { column_id: dataset.columns[1].id, row: 1, text: text.into() }];
    store.edit_cells(dataset.id, 1, &edit("7"), &MR).await.unwrap();
    // A killed server finds it when it starts again.
    store.close().await;
    let store = Store::open(&folder.path().join("acorn.sqlite")).await.unwrap();
    assert_eq!(store.links_behind().await.unwrap(), [sums.id]);
    // As many values as before: nothing is another, and nobody has to read it anew.
    assert_eq!(store.follow(sums.id, &made(&store).await, 1, (2, None), &MR).await.unwrap(), None);
    assert_eq!((store.links_behind().await.unwrap().len(), store.dataset(sums.id).await.unwrap().revision), (0, 1));
    store.edit_cells(dataset.id, 2, &edit(""), &MR).await.unwrap();
    let now = store.follow(sums.id, &made(&store).await, 1, (3, None), &MR).await.unwrap().unwrap();
    let rows = store.rows(sums.id, 0, 9).await.unwrap();
    assert_eq!((now.revision, rows.row_ids, rows.cells[1][1].as_deref()), (2, vec![0, 1, 2, 3], Some("0")));
    store.delete_dataset(dataset.id).await.unwrap();
    assert_eq!(store.links_behind().await.unwrap(), [sums.id]);
    let gone = store.link(sums.id).await.unwrap_err().to_string();
    let told = store.cannot_follow(sums.id, &gone).await.unwrap();
    assert_eq!(told.follows.and_then(|follows| follows.problem).as_deref(), Some("the table that it was made of was deleted"));
    assert_eq!(store.links_behind().await.unwrap(), Vec::<i64>::new());
}
