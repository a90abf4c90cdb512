//! The demo data of Fennel Hollow Lamp Works, loaded once each.

use std::collections::BTreeMap;
use std::time::{SystemTime, UNIX_EPOCH};

use acorn_core::methods;
use acorn_core::methods::control_chart::collected;
use acorn_data::frame::ColumnInfo;
use acorn_formats::{ReadOptions, Source, Table, read};
use acorn_store::{
    CellEdit, Change, Collection, GaugeChange, ListChange, NewCollection, NewDataset, NewRecord, NewSheet, NewStudy, Store, Study,
};
use acorn_study::collect::CollectionPlan;
use acorn_study::gauge::plan::Plan;
use acorn_study::{Cancel, DataSource, Spec};
use anyhow::Context;
use jiff::civil::Date;
use rust_embed::RustEmbed;
use serde::Deserialize;

#[derive(RustEmbed)]
#[folder = "../../demo"]
struct Files;

/// One demo dataset: a file, how to read it, what belongs to its columns, what to ask.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Item {
    file: String,
    name: String,
    #[serde(default)]
    read_options: ReadOptions,
    #[serde(default)]
    columns: BTreeMap<String, ColumnInfo>,
    #[serde(default)]
    studies: Vec<Spec>,
    /// Gauges by the column that they measure.
    #[serde(default)]
    gauges: BTreeMap<String, GaugeChange>,
    /// The day on which the studies were recorded with their gauge.
    #[serde(default)]
    recorded: Option<Date>,
    /// Of a sheet that is being filled: its plan. The file has its first readings, in the order of the sheet.
    #[serde(default)]
    plan: Option<Plan>,
}

/// Loads every demo item that was never loaded into this store before.
pub async fn load(store: &Store) -> anyhow::Result<()> {
    let catalog = Files::get("catalog.json").context("the demo catalog is missing")?;
    let items: Vec<Item> = serde_json::from_slice(&catalog.data)?;
    for item in items {
        if store.claim_demo_item(&item.file).await? {
            load_item(store, &item).await.with_context(|| item.file.clone())?;
        }
    }
    let models = Files::get("models.json").context("the demo models are missing")?;
    let models: Vec<Model> = serde_json::from_slice(&models.data)?;
    for Model { name, spec } in models {
        if store.claim_demo_item(&format!("model {name}")).await? {
            let at = SystemTime::now().duration_since(UNIX_EPOCH)?.as_millis() as i64;
            store.create_study(&NewStudy { name: Some(name), spec }, &Change { actor: "demo", at }).await?;
        }
    }
    floor(store).await.context("the demo plans")
}

/// What is collected on the floor, and from which lists it is chosen.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Floor {
    lists: Vec<ListChange>,
    plans: Vec<FloorPlan>,
}

/// A plan for a demo dataset, watched by one of its studies, by its place.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct FloorPlan {
    dataset: String,
    study: usize,
    station: String,
    /// Lists by the column that is chosen from them.
    lists: BTreeMap<String, String>,
    plan: CollectionPlan,
}

async fn floor(store: &Store) -> anyhow::Result<()> {
    let file = Files::get("plans.json").context("the file is missing")?;
    let Floor { lists, plans } = serde_json::from_slice(&file.data)?;
    for list in lists {
        if store.claim_demo_item(&format!("list {}", list.name)).await? {
            store.put_choice_list(None, &list).await?;
        }
    }
    let lists = store.choice_lists().await?;
    for FloorPlan { dataset, study, station, lists: chosen, mut plan } in plans {
        if !store.claim_demo_item(&format!("plan {}", plan.name)).await? {
            continue;
        }
        for one in &mut plan.identifiers {
            let name = chosen.get(&one.column);
            one.list = name.and_then(|name| lists.iter().find(|list| list.name == *name)).map(|list| list.id);
        }
        // The demo data may have been deleted.
        let Some(dataset) = store.datasets().await?.into_iter().find(|one| one.name == dataset) else { continue };
        let mut studies: Vec<i64> =
            store.studies().await?.into_iter().filter(|one| one.dataset_id == Some(dataset.id)).map(|one| one.id).collect();
        studies.sort_unstable();
        let at = SystemTime::now().duration_since(UNIX_EPOCH)?.as_millis() as i64;
        let new = NewCollection {
            plan,
            dataset_id: Some(dataset.id),
            infos: BTreeMap::new(),
            study_ids: studies.get(study).map(|study| vec![*study]),
            station: Some(station),
        };
        store.create_collection(&new, collected::charts, &Change { actor: "demo", at }).await?;
    }
    Ok(())
}

/// The plan that the demo's gauge measures for, with a dataset and a chart of its own; the key of its station.
pub async fn gauge_plan(store: &Store) -> anyhow::Result<String> {
    const NAME: &str = "Beam flux, end of line";
    let of = |plans: Vec<Collection>| plans.into_iter().find(|one| one.plan.name == NAME && one.plan.unattended);
    let plan = match of(store.collections().await?) {
        Some(plan) => plan,
        None => {
            let file = Files::get("gauge-plan.json").context("the file is missing")?;
            let new: NewCollection = serde_json::from_slice(&file.data)?;
            let at = SystemTime::now().duration_since(UNIX_EPOCH)?.as_millis() as i64;
            store.create_collection(&new, collected::charts, &Change { actor: "demo", at }).await?
        }
    };
    Ok(plan.stations.into_iter().next().context("its station is gone")?.key)
}

/// A model without data.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Model {
    name: String,
    spec: Spec,
}

async fn load_item(store: &Store, item: &Item) -> anyhow::Result<()> {
    let file = Files::get(&item.file).context("the file is missing")?;
    let reading = read(&Source::open(&item.file, file.data.into_owned())?, &item.read_options)?;
    anyhow::ensure!(reading.problem_count == 0, "values do not fit: {:?}", reading.problems);
    let at = SystemTime::now().duration_since(UNIX_EPOCH)?.as_millis() as i64;
    let change = Change { actor: "demo", at };
    let mut gauges = Vec::new();
    for (column, gauge) in &item.gauges {
        gauges.push((column.clone(), gauge_of(store, gauge, &change).await?));
    }
    if let Some(plan) = &item.plan {
        return load_sheet(store, item, plan, &reading.table, gauges.first().map(|(_, id)| *id), &change).await;
    }
    let unknown = item.columns.keys().find(|name| !reading.table.columns.iter().any(|column| column.name == **name));
    anyhow::ensure!(unknown.is_none(), "the catalog names a column that the file lacks: {unknown:?}");
    let infos: Vec<(String, ColumnInfo)> = item.columns.clone().into_iter().collect();
    let new = NewDataset { name: &item.name, source: &item.file, table: &reading.table, infos: &infos, gauges: &gauges };
    let dataset = store.create_dataset(new, &change).await?;
    for spec in &item.studies {
        let spec = Spec { data: Some(DataSource::Dataset(dataset.id)), ..spec.clone() };
        let study = store.create_study(&NewStudy { name: None, spec }, &change).await?;
        if let (Some(day), Some((column, gauge))) = (item.recorded, gauges.first()) {
            record(store, &study, column, *gauge, day, &change).await?;
        }
    }
    Ok(())
}

/// The gauge of this name and number, entered when it is first met.
async fn gauge_of(store: &Store, gauge: &GaugeChange, change: &Change<'_>) -> anyhow::Result<i64> {
    let known = store.gauges().await?.into_iter().find(|known| known.is.name == gauge.name && known.is.number == gauge.number);
    match known {
        Some(known) => Ok(known.id),
        None => Ok(store.create_gauge(gauge.clone(), change).await?.id),
    }
}

/// Records what a study says with its gauge.
async fn record(store: &Store, study: &Study, column: &str, gauge: i64, day: Date, change: &Change<'_>) -> anyhow::Result<()> {
    let id = study.dataset_id.context("the study has no data")?;
    let (dataset, frame) = store.frame(id, |_| true).await?;
    let computed = methods::compute(&frame, &study.spec, &Cancel::default())?;
    let found = computed.answer.gauge().context("not a gauge study")?;
    let new = NewRecord {
        study_id: study.id,
        method: &study.spec.method,
        characteristic: column,
        dataset: &dataset.name,
        day,
        sd: found.sd,
        share: found.share,
        verdict: [computed.verdict.tone.word(), &computed.verdict.title, &computed.verdict.sentence],
    };
    store.record_gauge(gauge, &new, change).await?;
    Ok(())
}

/// A sheet of a plan with its first readings.
async fn load_sheet(
    store: &Store,
    item: &Item,
    plan: &Plan,
    readings: &Table,
    gauge_id: Option<i64>,
    change: &Change<'_>,
) -> anyhow::Result<()> {
    let new = NewSheet { name: Some(item.name.clone()), plan: plan.clone(), gauge_id, gauge: None };
    let dataset = store.create_sheet(&new, change).await?.dataset;
    let column_id = dataset.plan.context("the sheet has no plan")?.column_id;
    let values = &readings.columns.first().context("the file has no column")?.values;
    let edit = |row: usize| CellEdit { column_id, row, text: values.text(row).unwrap_or_default() };
    let edits: Vec<CellEdit> = (0..readings.rows).map(edit).collect();
    store.edit_cells(dataset.id, dataset.revision, &edits, change).await?;
    Ok(())
}
