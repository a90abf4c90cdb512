//! Random sequences of changes, undo and redo against a plain model of a table.

use acorn_data::frame::Kind;
use acorn_formats::{ReadOptions, Source, read};
use acorn_store::{CellEdit, Change, ColumnChange, GoneRows, NewDataset, NewRows, Store, StoreError, UndoDirection};
use proptest::prelude::*;

const MR: Change<'static> = Change { actor: "MR", at: 1_767_225_600_000 };

/// A row of the model: its id and the text of its cells.
type Row = (i64, [Option<String>; 2]);

#[derive(Clone, PartialEq, Debug)]
struct Model {
    rows: Vec<Row>,
    kinds: [Kind; 2],
}

#[derive(Clone, Debug)]
enum Step {
    Edit { at: usize, column: usize, text: &'static str },
    Paste { at: usize, texts: Vec<&'static str> },
    Add { at: Option<usize>, count: usize, text: &'static str },
    Delete { from: usize, count: usize },
    Kind { column: usize, kind: Kind },
    Undo,
    Redo,
}

fn step() -> impl Strategy<Value = Step> {
    let text = || prop::sample::select(vec!["007", "-", "4.5", "", "bench C", "1e3"]);
    let kind = prop::sample::select(vec![Kind::Number, Kind::Text, Kind::Category]);
    prop_oneof![
        3 => (0usize..5000, 0usize..2, text()).prop_map(|(at, column, text)| Step::Edit { at, column, text }),
        1 => (0usize..5000, prop::collection::vec(text(), 1..40)).prop_map(|(at, texts)| Step::Paste { at, texts }),
        2 => (prop::option::of(0usize..5000), prop_oneof![1usize..4, Just(2100)], text()).prop_map(|(at, count, text)| Step::Add { at, count, text }),
        2 => (0usize..5000, prop_oneof![1usize..4, Just(3000)]).prop_map(|(from, count)| Step::Delete { from, count }),
        1 => (0usize..2, kind).prop_map(|(column, kind)| Step::Kind { column, kind }),
        4 => Just(Step::Undo),
        2 => Just(Step::Redo),
    ]
}

/// What a typed text becomes in a cell of a kind; `None` when it is refused.
fn kept(kind: Kind, text: &str) -> Option<Option<String>> {
    match (kind, text) {
        (_, "") | (Kind::Number, "-") => Some(None),
        (Kind::Number, text) => text.parse::<f64>().ok().map(|number| Some(number.to_string())),
        (_, text) => Some(Some(text.to_owned())),
    }
}

impl Model {
    /// The model after a step other than undo and redo; `None` when the step must be refused. `next` is the next row id.
    fn after(&self, step: &Step, next: &mut i64) -> Option<Model> {
        let mut model = self.clone();
        match step {
            Step::Edit { at, column, text } => {
                let row = at % self.rows.len().max(1);
                model.rows.get_mut(row)?.1[*column] = kept(self.kinds[*column], text)?;
            }
            Step::Paste { at, texts } => {
                let row = at % self.rows.len().max(1);
                for (offset, text) in texts.iter().enumerate() {
                    let column = offset % 2;
                    model.rows.get_mut(row + offset / 2)?.1[column] = kept(self.kinds[column], text)?;
                }
            }
            Step::Add { at, count, text } => {
                let position = at.map_or(self.rows.len(), |at| at % (self.rows.len() + 1));
                let cell = kept(self.kinds[1], text)?;
                let new = (0..*count as i64).map(|i| (*next + i, [None, cell.clone()]));
                model.rows.splice(position..position, new);
                *next += *count as i64;
            }
            Step::Delete { from, count } => {
                let from = from % self.rows.len().max(1);
                let to = (from + count).min(self.rows.len());
                if from >= to {
                    return None;
                }
                model.rows.drain(from..to);
            }
            Step::Kind { column, kind } => {
                for (_, cells) in &mut model.rows {
                    cells[*column] = kept(*kind, cells[*column].as_deref().unwrap_or_default())?;
                }
                model.kinds[*column] = *kind;
            }
            Step::Undo | Step::Redo => unreachable!("turns are not steps of the model"),
        }
        Some(model)
    }
}

async fn table(store: &Store, id: i64) -> Model {
    let window = store.rows(id, 0, usize::MAX).await.unwrap();
    let [first, second] = &window.cells[..] else { panic!("two columns") };
    let rows = window.row_ids.iter().zip(first.iter().zip(second)).map(|(id, (a, b))| (*id, [a.clone(), b.clone()]));
    Model { rows: rows.collect(), kinds: [window.dataset.columns[0].kind, window.dataset.columns[1].kind] }
}

async fn take(store: &Store, id: i64, step: &Step) -> Result<(), StoreError> {
    let seen = store.dataset(id).await?;
    let rows = seen.row_count as usize;
    let ids = [seen.columns[0].id, seen.columns[1].id];
    let edit = |row: usize, column: usize, text: &str| CellEdit { column_id: ids[column], row, text: text.to_owned() };
    match step {
        Step::Edit { at, column, text } => {
            store.edit_cells(id, seen.revision, &[edit(at % rows.max(1), *column, text)], &MR).await?;
        }
        Step::Paste { at, texts } => {
            let row = at % rows.max(1);
            let edits: Vec<_> = texts.iter().enumerate().map(|(i, text)| edit(row + i / 2, i % 2, text)).collect();
            store.edit_cells(id, seen.revision, &edits, &MR).await?;
        }
        Step::Add { at, count, text } => {
            let at = at.map(|at| at % (rows + 1));
            let rows = vec![vec![(*text).to_owned()]; *count];
            store.add_rows(id, &NewRows { revision: Some(seen.revision), at, column_ids: vec![ids[1]], rows }, &MR).await?;
        }
        Step::Delete { from, count } => {
            let from = from % rows.max(1);
            let row_ids = store.rows(id, from, *count).await?.row_ids;
            store.delete_rows(id, &GoneRows { revision: seen.revision, row_ids }, &MR).await?;
        }
        Step::Kind { column, kind } => {
            let wanted = ColumnChange { kind: *kind, ..(&seen.columns[*column]).into() };
            store.change_column(id, ids[*column], seen.revision, wanted, &MR).await?;
        }
        Step::Undo => drop(store.turn_dataset(id, UndoDirection::Undo, seen.revision, &MR).await?),
        Step::Redo => drop(store.turn_dataset(id, UndoDirection::Redo, seen.revision, &MR).await?),
    }
    Ok(())
}

async fn run(steps: Vec<Step>, rows: usize) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("acorn.sqlite")).await.unwrap();
    let mut text = String::from("reel,flux\n");
    (0..rows).for_each(|i| text += &format!("R{i},{}.5\n", i % 7));
    let reading = read(&Source::open("reels.csv", text.into_bytes()).unwrap(), &ReadOptions::default()).unwrap();
    let id = store
        .create_dataset(NewDataset { name: "Reels", source: "reels.csv", table: &reading.table, infos: &[], gauges: &[] }, &MR)
        .await
        .unwrap()
        .id;
    // The states passed through; those behind `now` can be redone.
    let mut states = vec![table(&store, id).await];
    let (mut now, mut next) = (0, rows as i64);
    for step in steps {
        let done = take(&store, id, &step).await;
        match step {
            Step::Undo if now > 0 => now -= 1,
            Step::Redo if now + 1 < states.len() => now += 1,
            Step::Undo | Step::Redo => assert!(done.is_err()),
            ref forward => match states[now].after(forward, &mut next) {
                // A kind that is the same already changes nothing and is no line of the history.
                Some(model) if model == states[now] && matches!(forward, Step::Kind { .. }) => {}
                Some(model) => {
                    done.unwrap_or_else(|error| panic!("{step:?} was refused: {error}"));
                    states.truncate(now + 1);
                    states.push(model);
                    now += 1;
                }
                None => assert!(done.is_err(), "{step:?} was taken"),
            },
        }
        assert_eq!(table(&store, id).await, states[now], "after {step:?}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, max_shrink_iters: 200, failure_persistence: None, ..ProptestConfig::default() })]
    #[test]
    fn any_sequence_of_changes_undo_and_redo_agrees_with_a_plain_table(
        steps in prop::collection::vec(step(), 1..40),
        rows in prop_oneof![Just(3usize), Just(2046)],
    ) {
        tokio::runtime::Builder::new_current_thread().enable_all().build().unwrap().block_on(run(steps, rows));
    }
}
