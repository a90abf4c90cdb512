//! Plans and what stations enter: stored once, in order, together or not at all.

use std::collections::BTreeMap;

use acorn_charts::control_chart::collected;
use acorn_data::frame::{ColumnInfo, Rules};
use acorn_store::{
    Alert, AlertCondition, Change, Collection, CollectionChange, ColumnChange, DayStanding, EntryReaction, ListChange, NewCollection,
    NewStation, Sent, StationChange, Store, StoreError, StoredEntry, UndoDirection, WallPlace,
};
use acorn_study::collect::{CollectionPlan, Entry};
use serde_json::{Value, json};

const MR: Change<'static> = Change { actor: "MR", at: 1_780_000_000_000 };

async fn opened() -> (tempfile::TempDir, Store) {
    let folder = tempfile::tempdir().unwrap();
    let store = Store::open(&folder.path().join("acorn.sqlite")).await.unwrap();
    (folder, store)
}

fn plan(more: Value) -> CollectionPlan {
    let mut written = json!({"name": "Flux, bench 4", "pieces": 2, "measurements": [{"column": "flux"}],
        "identifiers": [{"column": "taken at", "asked": "time"}, {"column": "sample", "asked": "subgroup"}, {"column": "who", "asked": "text"}]});
    for (name, value) in more.as_object().unwrap() {
        written[name] = value.clone();
    }
    serde_json::from_value(written).unwrap()
}

fn new(plan: CollectionPlan) -> NewCollection {
    let rules = Rules { lowest: Some(500.0), ..Rules::default() };
    let info = ColumnInfo { unit: Some("lm".into()), lsl: Some(780.0), rules, ..ColumnInfo::default() };
    NewCollection {
        plan,
        dataset_id: None,
        infos: BTreeMap::from([("flux".to_owned(), info)]),
        study_ids: None,
        station: Some("Bench 4".into()),
    }
}

fn entry(key: &str, values: [f64; 2]) -> Entry {
    let pieces = values.iter().map(|value| BTreeMap::from([("flux".to_owned(), *value)])).collect();
    let identifiers = BTreeMap::from([("who".to_owned(), "Mara".to_owned())]);
    Entry { key: key.into(), at: MR.at, time: "2026-05-04 13:30:05".into(), pieces, identifiers, ..Entry::default() }
}

async fn enter(store: &Store, station_id: i64, entries: &[Entry]) -> Vec<Result<StoredEntry, StoreError>> {
    let sent = [Sent { station_id, entries: entries.to_vec() }];
    store.add_entries(&sent, &MR).await.unwrap().remove(0).unwrap().entries
}

async fn cells(store: &Store, plan: &Collection) -> Vec<Vec<String>> {
    let window = store.rows(plan.dataset_id, 0, 99).await.unwrap();
    let row = |place: usize| window.cells.iter().map(|column| column[place].clone().unwrap_or_default()).collect();
    (0..window.cells[0].len()).map(row).collect()
}

#[tokio::test]
async fn a_new_plan_makes_its_dataset_with_limits_and_the_chart_that_watches_it() {
    let (_folder, store) = opened().await;
    let made = store.create_collection(&new(plan(json!({}))), collected::charts, &MR).await.unwrap();
    let dataset = store.dataset(made.dataset_id).await.unwrap();
    let kinds: Vec<_> = dataset.columns.iter().map(|column| (column.name.as_str(), column.kind.display_text())).collect();
    assert_eq!(kinds, [("taken at", "date and time"), ("sample", "whole number"), ("who", "text"), ("flux", "number")]);
    assert_eq!((dataset.columns[3].info.lsl, dataset.row_count), (Some(780.0), 0));
    let study = store.study(made.study_ids[0]).await.unwrap();
    assert_eq!(
        serde_json::to_value(&study.spec).unwrap(),
        json!({"method": "control-chart", "roles": {"measure": "flux", "order": "taken at", "subgroup": "sample"},
            "options": {"chart": "xbar-r"}, "data": {"dataset": dataset.id}})
    );
    // What cannot be leaves nothing behind.
    for (more, words) in [
        (json!({"pieces": 0}), "1 to 50 pieces"),
        (json!({"name": " "}), "the name is empty"),
        (json!({"identifiers": [{"column": "lot", "asked": "choice", "list": 9}]}), "the list of “lot” is not there"),
    ] {
        let refused = store.create_collection(&new(plan(more)), collected::charts, &MR).await.unwrap_err().to_string();
        assert!(refused.contains(words), "{refused}");
    }
    let on_others =
        NewCollection { dataset_id: Some(dataset.id), ..new(plan(json!({"measurements": [{"column": "who"}], "identifiers": []}))) };
    assert!(store.create_collection(&on_others, collected::charts, &MR).await.unwrap_err().to_string().contains("“who” holds text"));
    assert_eq!((store.datasets().await.unwrap().len(), store.collections().await.unwrap().len()), (1, 1));
}

#[tokio::test]
async fn every_measurement_and_what_is_counted_has_a_chart_that_watches_and_others_may_watch() {
    let (_folder, store) = opened().await;
    let more = json!({"measurements": [{"column": "flux"}, {"column": "angle"}], "counts": {"inspected": "boards", "defects": ["void", "bridge"]}});
    let made = store.create_collection(&new(plan(more)), collected::charts, &MR).await.unwrap();
    let mut charts = Vec::new();
    for id in &made.study_ids {
        let study = store.study(*id).await.unwrap();
        let role = |role: &str| study.spec.roles.get(role).map(|columns| columns.names()[0].clone()).unwrap_or_default();
        charts.push((role("measure"), role("count"), role("size"), study.spec.options["chart"].as_str().unwrap().to_owned()));
    }
    let chart = |of: [&str; 4]| (of[0].to_owned(), of[1].to_owned(), of[2].to_owned(), of[3].to_owned());
    assert_eq!(charts, [["flux", "", "", "xbar-r"], ["angle", "", "", "xbar-r"], ["", "void", "boards", "u"]].map(chart));
    let [first, second, third] = made.study_ids[..] else { panic!() };
    let watch = async |study_ids: Vec<i64>| {
        let wanted = CollectionChange { version: made.version, plan: made.plan.clone(), study_ids: Some(study_ids) };
        store.change_collection(made.id, &wanted, &MR).await.map(|plan| plan.study_ids)
    };
    assert_eq!(watch(vec![third, first]).await.unwrap(), [third, first]);
    for (ids, words) in [(vec![second, second], "watches a plan once"), (vec![99], "no study 99")] {
        assert!(watch(ids).await.unwrap_err().to_string().contains(words));
    }
    // A chart of another dataset watches nothing here, and one that is deleted nothing at all.
    let other = store.create_collection(&new(plan(json!({"name": "Flux, bench 5"}))), collected::charts, &MR).await.unwrap();
    assert!(watch(other.study_ids).await.unwrap_err().to_string().contains("about another dataset"));
    store.delete_study(third).await.unwrap();
    assert_eq!(store.collection(made.id).await.unwrap().study_ids, [first]);
}

#[tokio::test]
async fn entries_are_stored_once_and_in_their_order_and_refused_ones_let_others_pass() {
    let (_folder, store) = opened().await;
    let made = store.create_collection(&new(plan(json!({}))), collected::charts, &MR).await.unwrap();
    let station = made.stations[0].id;
    let sent = [entry("a", [801.5, 779.0]), entry("b", [7.0, 800.0]), entry("a", [1.0, 2.0]), entry("c", [790.0, 800.0])];
    let stored = enter(&store, station, &sent).await;
    assert!(stored[1].as_ref().unwrap_err().to_string().contains("7 of “flux” is beyond belief"));
    let ids: Vec<_> = [0, 2, 3].iter().map(|place| stored[*place].as_ref().unwrap().id).collect();
    assert_eq!((ids[0] == ids[1], ids[0] < ids[2]), (true, true), "the same key is the same entry");
    let first = stored[0].as_ref().unwrap();
    assert_eq!((first.subgroup, &first.row_ids[..], first.beyond[0].limit), (1, &[0, 1][..], 780.0));
    // Sent again after a break, whole or in part, nothing is repeated.
    let again = enter(&store, station, &[entry("c", [790.0, 800.0]), entry("d", [805.0, 806.0])]).await;
    assert_eq!(again[0].as_ref().unwrap().id, ids[2]);
    let rows = cells(&store, &made).await;
    let told: Vec<_> = rows.iter().map(|row| (row[1].as_str(), row[3].as_str())).collect();
    assert_eq!(told, [("1", "801.5"), ("1", "779"), ("2", "790"), ("2", "800"), ("3", "805"), ("3", "806")]);
    assert_eq!(rows[0][0], "2026-05-04 13:30:05");
    // Another station may use the same key for an entry of its own.
    let other = store.create_station(made.id, &NewStation { name: "Bench 5".into(), pattern: None }).await.unwrap();
    assert_eq!(enter(&store, other.id, &[entry("a", [800.0, 800.0])]).await[0].as_ref().unwrap().subgroup, 4);
    assert!(matches!(
        store.add_entries(&[Sent { station_id: 99, entries: vec![] }], &MR).await.unwrap()[0],
        Err(StoreError::NotFound { what: "station", id: 99 })
    ));
    // Several stations at once: numbers go on, rows stay with their entries.
    let both = [
        Sent { station_id: station, entries: vec![entry("e", [1e3, 1001.0])] },
        Sent { station_id: other.id, entries: vec![entry("b", [2e3, 2001.0])] },
    ];
    let taken = store.add_entries(&both, &MR).await.unwrap();
    let second = taken[1].as_ref().unwrap().entries[0].as_ref().unwrap();
    assert_eq!((second.subgroup, &second.row_ids[..]), (6, &[10, 11][..]));
    assert_eq!(cells(&store, &made).await[10][3], "2000");
    assert_eq!(store.entry_times(made.id, 0, MR.at).await.unwrap().len(), 6);
}

#[tokio::test]
async fn an_entry_is_taken_back_once_and_what_is_said_about_it_stays() {
    let (_folder, store) = opened().await;
    let made = store.create_collection(&new(plan(json!({}))), collected::charts, &MR).await.unwrap();
    let station = made.stations[0].id;
    let stored = enter(&store, station, &[entry("a", [801.5, 779.0]), entry("b", [790.0, 800.0])]).await;
    let id = stored[0].as_ref().unwrap().id;
    assert_eq!(store.entries_waiting(made.id).await.unwrap(), 1);
    let nothing = EntryReaction { cause: " ".into(), action: String::new(), who: String::new() };
    assert!(store.react(id, &nothing).await.is_err());
    let said = EntryReaction { cause: "worn die".into(), action: "changed it".into(), who: "Jonas".into() };
    assert_eq!(store.react(id, &said).await.unwrap().reaction, Some(said));
    assert_eq!(store.entries_waiting(made.id).await.unwrap(), 0);
    for _ in 0..2 {
        assert!(store.take_back(id, &MR).await.unwrap().taken_back);
        assert_eq!(cells(&store, &made).await.len(), 2);
    }
    // Under its key it does not come again, and the history can bring its rows back.
    assert!(enter(&store, station, &[entry("a", [801.5, 779.0])]).await[0].as_ref().unwrap().taken_back);
    let dataset = store.dataset(made.dataset_id).await.unwrap();
    store.turn_dataset(dataset.id, UndoDirection::Undo, dataset.revision, &MR).await.unwrap();
    assert_eq!(cells(&store, &made).await.len(), 4);
    assert_eq!((store.collection(made.id).await.unwrap().subgroups, store.entries(made.id, 9).await.unwrap().len()), (1, 2));
    store.delete_collection(made.id).await.unwrap();
    assert_eq!(cells(&store, &made).await.len(), 4, "rows stay when the plan goes");
}

#[tokio::test]
async fn a_plan_has_versions_and_follows_the_names_of_its_columns() {
    let (_folder, store) = opened().await;
    let made = store.create_collection(&new(plan(json!({}))), collected::charts, &MR).await.unwrap();
    let dataset = store.dataset(made.dataset_id).await.unwrap();
    let flux = &dataset.columns[3];
    let called = ColumnChange { name: "beam flux".into(), kind: flux.kind, info: flux.info.clone(), gauge_id: None, formula: None };
    store.change_column(dataset.id, flux.id, dataset.revision, called, &MR).await.unwrap();
    let now = store.collection(made.id).await.unwrap();
    assert_eq!((now.version, now.plan.measurements[0].column.as_str()), (1, "beam flux"));
    let change = |version, pieces| CollectionChange { version, plan: CollectionPlan { pieces, ..now.plan.clone() }, study_ids: None };
    let conflict = store.change_collection(made.id, &change(7, 3), &MR).await;
    assert!(matches!(conflict, Err(StoreError::Conflict { current: 1, given: 7, .. })));
    let same = store.change_collection(made.id, &change(1, 2), &MR).await.unwrap();
    assert_eq!(same.version, 1, "nothing changed, no version");
    assert_eq!(store.change_collection(made.id, &change(1, 1), &MR).await.unwrap().version, 2);
    let mut single = entry("z", [800.0, 0.0]);
    single.pieces = vec![BTreeMap::from([("beam flux".to_owned(), 800.0)])];
    assert_eq!(enter(&store, made.stations[0].id, &[single]).await[0].as_ref().unwrap().version, 2);
    let versions = store.collection_versions(made.id).await.unwrap();
    assert_eq!(versions.iter().map(|one| (one.version, one.plan.pieces)).collect::<Vec<_>>(), [(2, 1), (1, 2)]);
    // Lists are shared, and nobody overwrites another's change.
    let list = |revision, name: &str| ListChange {
        revision,
        name: name.into(),
        choices: vec![" Mara ".into(), String::new(), "Mara".into(), "Ilse".into()],
    };
    let stored = store.put_choice_list(None, &list(None, "People")).await.unwrap();
    assert_eq!(stored.choices, ["Mara", "Ilse"]);
    assert!(store.put_choice_list(None, &list(None, "People")).await.is_err());
    assert_eq!(store.put_choice_list(Some(stored.id), &list(Some(1), "Inspectors")).await.unwrap().revision, 2);
    assert!(matches!(store.put_choice_list(Some(stored.id), &list(Some(1), "X")).await, Err(StoreError::Conflict { .. })));
}

#[tokio::test]
async fn pieces_are_counted_by_the_counter_of_the_machine_and_entries_know_how_many_there_were() {
    let (_folder, store) = opened().await;
    let made = store.create_collection(&new(plan(json!({}))), collected::charts, &MR).await.unwrap();
    let station = made.stations[0].id;
    let mut counts = Vec::new();
    // Said twice it counts once; one that says less has begun anew.
    for counter in [40, 40, 55, 10] {
        counts.push(store.count_pieces(station, counter).await.unwrap().made);
        enter(&store, station, &[entry(&format!("{}", counts.len()), [800.0, 801.0])]).await;
    }
    assert_eq!(counts, [40, 40, 55, 65]);
    let times = store.entry_times(made.id, 0, MR.at).await.unwrap();
    assert_eq!(times.iter().map(|time| time.made).collect::<Vec<_>>(), counts);
    assert_eq!((store.made_before(station, MR.at).await.unwrap(), store.made_before(station, MR.at + 1).await.unwrap()), (0, 65));
    for counter in [-1, i64::MAX] {
        assert!(store.count_pieces(station, counter).await.unwrap_err().to_string().contains("a counter says 0 to"));
    }
    assert!(matches!(store.count_pieces(99, 1).await, Err(StoreError::NotFound { what: "station", id: 99 })));
}

#[tokio::test]
async fn a_station_is_renamed_and_closed_and_keeps_its_key() {
    let (_folder, store) = opened().await;
    let made = store.create_collection(&new(plan(json!({}))), collected::charts, &MR).await.unwrap();
    let before = made.stations[0].clone();
    store.create_station(made.id, &NewStation { name: "Bench 5".into(), pattern: None }).await.unwrap();
    let change = |wanted: Value| serde_json::from_value::<StationChange>(wanted).unwrap();
    let after = store.change_station(before.id, &change(json!({"name": "Bench 4b", "closed": true}))).await.unwrap();
    assert_eq!((after.name.as_str(), after.closed, after.key, after.pattern), ("Bench 4b", true, before.key, before.pattern));
    for (wanted, words) in [(json!({"name": "Bench 5"}), "a station “Bench 5” already"), (json!({"pattern": "("}), "")] {
        assert!(store.change_station(before.id, &change(wanted)).await.unwrap_err().to_string().contains(words));
    }
    assert!(!store.change_station(before.id, &change(json!({"closed": false}))).await.unwrap().closed);
}

#[tokio::test]
async fn an_alert_is_told_until_it_is_taken_on_or_over_and_begins_anew_with_more() {
    let (_folder, store) = opened().await;
    let plan = store.create_collection(&new(plan(json!({}))), collected::charts, &MR).await.unwrap().id;
    let condition = |newest, count| AlertCondition { about: "beyond 1".into(), newest, count, words: format!("{count} entries") };
    let set = async |alert_conditions: &[AlertCondition], now| {
        store.set_alert_conditions(plan, alert_conditions, |taken_at| now >= taken_at + 10, now).await.unwrap()
    };
    let only = async || -> Option<Alert> {
        let open = store.alerts(Some(plan)).await.unwrap();
        assert!(open.len() < 2);
        open.into_iter().next()
    };
    assert!(!set(&[], 1).await && set(&[condition(1, 1)], 2).await && !set(&[condition(1, 1)], 3).await);
    let first = only().await.unwrap();
    assert_eq!((first.began_at, first.count, first.taken_by.clone(), first.told.len()), (2, 1, None, 0));
    // More of it is the same alert.
    assert!(set(&[condition(2, 2)], 4).await);
    assert_eq!((only().await.unwrap().id, only().await.unwrap().words), (first.id, "2 entries".to_owned()));
    for (at, problem) in [(5, Some("refused")), (6, Some("refused")), (7, None), (8, None)] {
        store.told("mara@fennel-hollow.test", &[first.id, 99], problem, at).await.unwrap();
        let told = &only().await.unwrap().told[0];
        let expected = match at {
            5 => (0, 1, Some("refused")),
            6 => (0, 2, Some("refused")),
            7 => (1, 0, None),
            _ => (2, 0, None),
        };
        assert_eq!((told.times, told.failed, told.problem.as_deref(), told.tried_at), (expected.0, expected.1, expected.2, at));
    }
    assert!(store.take_on(first.id, " ", 9).await.is_err());
    assert_eq!(store.take_on(first.id, " Mara ", 9).await.unwrap().taken_by.as_deref(), Some("Mara"));
    assert_eq!(store.take_on(first.id, "Jonas", 10).await.unwrap().taken_by.as_deref(), Some("Mara"), "who came first has it");
    // What was taken on is no news again, nor is more of it while it may still be worked on; later it is.
    assert!(!set(&[condition(2, 2)], 30).await);
    assert!(!set(&[condition(3, 3)], 18).await && set(&[condition(3, 3)], 19).await);
    let second = only().await.unwrap();
    assert!(second.id > first.id && second.taken_by.is_none() && second.told.is_empty());
    assert!(set(&[], 20).await && only().await.is_none());
    assert!(matches!(store.take_on(second.id, "Mara", 21).await, Err(StoreError::NotFound { what: "alert", .. })));
    store.delete_collection(plan).await.unwrap();
    assert!(store.alerts(None).await.unwrap().is_empty());
}

#[tokio::test]
async fn the_wall_keeps_places_and_how_it_stood_on_the_day_before() {
    let (_folder, store) = opened().await;
    let made = store.create_collection(&new(plan(json!({}))), collected::charts, &MR).await.unwrap();
    let column_id = store.dataset(made.dataset_id).await.unwrap().columns[3].id;
    let place = |line: &str, place| WallPlace { column_id, line: line.into(), product: "Vela".into(), place };
    store.hang(&[place("line 1", 4), WallPlace { column_id: 999, ..WallPlace::default() }]).await.unwrap();
    store.hang(&[place(" line 2 ", 1)]).await.unwrap();
    let hung = store.wall_places().await.unwrap();
    assert_eq!((hung.len(), &hung[&column_id]), (1, &place("line 2", 1)));
    assert!(store.hang(&[place(&"x".repeat(101), 1)]).await.is_err());
    let study_id = made.study_ids[0];
    let day = |day: &str, signals| DayStanding { study_id, day: day.into(), steady: signals == 0, signals, ppk: Some(1.2) };
    store.keep_wall_day(&[day("2026-05-03", 0), DayStanding { study_id: 999, ..day("2026-05-06", 0) }]).await.unwrap();
    store.keep_wall_day(&[day("2026-05-04", 0), day("2026-05-05", 3)]).await.unwrap();
    store.keep_wall_day(&[day("2026-05-04", 2)]).await.unwrap();
    let before = async |at: &str| store.wall_before(at).await.unwrap().remove(&study_id);
    assert_eq!((before("2026-05-05").await, before("2026-05-09").await), (Some(day("2026-05-04", 2)), Some(day("2026-05-05", 3))));
    assert_eq!(before("2026-05-03").await, None);
}
