//! The demo data of Fennel Hollow Lamp Works, loaded once each.

use std::collections::BTreeMap;
use std::time::{SystemTime, UNIX_EPOCH};

use acorn_core::frame::ColumnInfo;
use acorn_core::study::{DataSource, Spec};
use acorn_formats::{Source, Wish, read};
use acorn_store::{Change, NewDataset, NewStudy, Store};
use anyhow::Context;
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
    wish: Wish,
    #[serde(default)]
    columns: BTreeMap<String, ColumnInfo>,
    #[serde(default)]
    studies: Vec<Spec>,
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
    Ok(())
}

async fn load_item(store: &Store, item: &Item) -> anyhow::Result<()> {
    let file = Files::get(&item.file).context("the file is missing")?;
    let reading = read(&Source::open(&item.file, file.data.into_owned())?, &item.wish)?;
    anyhow::ensure!(reading.problem_count == 0, "values do not fit: {:?}", reading.problems);
    let unknown = item.columns.keys().find(|name| !reading.table.columns.iter().any(|column| column.name == **name));
    anyhow::ensure!(unknown.is_none(), "the catalog names a column that the file lacks: {unknown:?}");
    let infos: Vec<(String, ColumnInfo)> = item.columns.clone().into_iter().collect();
    let at = SystemTime::now().duration_since(UNIX_EPOCH)?.as_millis() as i64;
    let change = Change { actor: "demo", at };
    let new = NewDataset { name: &item.name, source: &item.file, table: &reading.table, infos: &infos, gauges: &[] };
    let dataset = store.create_dataset(new, &change).await?;
    for spec in &item.studies {
        let spec = Spec { data: Some(DataSource::of_dataset(dataset.id)), ..spec.clone() };
        store.create_study(&NewStudy { name: None, spec }, &change).await?;
    }
    Ok(())
}
