//! `acorn-dial import` and `acorn-dial export`: tables in and out without a browser, read and mended as there.

use std::path::{Path, PathBuf};
use std::time::{SystemTime, UNIX_EPOCH};

use acorn_data::frame::Values;
use acorn_formats::{
    ColumnReadOptions, ReadColumn, ReadOptions, Reading, Source, Texts, read, unfold, write_csv, write_json, write_parquet,
    write_table_xlsx,
};
use acorn_maths::words::counted;
use acorn_store::{Change, Dataset, NewDataset, Store};
use acorn_study::TableView;
use anyhow::{Context, bail, ensure};
use clap::Args;

use crate::import_overrides::ImportOverrides;
use crate::serve::own;

/// Which files are brought in, and as what.
#[derive(Args, Clone, Debug)]
pub struct Import {
    /// Folder that keeps the data
    #[arg(long, value_name = "DIR", default_value = "data")]
    data: PathBuf,
    /// The name of the new dataset; that of the first file unless said otherwise
    #[arg(long, conflicts_with = "to")]
    name: Option<String>,
    /// Add the rows behind those of this dataset, by its name or number
    #[arg(long, value_name = "DATASET")]
    to: Option<String>,
    /// Add columns that the dataset has not to it, instead of leaving them out
    #[arg(long, requires = "to")]
    new_columns: bool,
    /// Take values that do not fit their columns as missing
    #[arg(long)]
    unfit_as_missing: bool,
    /// Read the file as it seems, and not as the last one of its layout was corrected
    #[arg(long)]
    as_it_seems: bool,
    /// Make a row of each reading where several stand side by side
    #[arg(long)]
    unfold: bool,
    #[command(flatten)]
    import_overrides: ImportOverrides,
    /// Files of one layout
    #[arg(value_name = "FILE", required = true)]
    files: Vec<PathBuf>,
}

/// What goes out, and where to.
#[derive(Args, Clone, Debug)]
pub struct Export {
    /// Folder that keeps the data
    #[arg(long, value_name = "DIR", default_value = "data")]
    data: PathBuf,
    /// Only the rows of a view that is kept, in its order
    #[arg(long, value_name = "NAME")]
    view: Option<String>,
    /// The dataset, by its name or number
    #[arg(value_name = "DATASET")]
    dataset: String,
    /// File to make, ending in .csv, .xlsx, .json or .parquet; one that is there is never written over
    #[arg(value_name = "FILE")]
    to: PathBuf,
}

fn opened(data: &Path, work: impl AsyncFnOnce(Store) -> anyhow::Result<()>) -> anyhow::Result<()> {
    std::fs::create_dir_all(data).with_context(|| format!("the folder {} cannot be made", data.display()))?;
    let _own = own(data)?;
    let file = data.join("acorn.sqlite");
    let runtime = tokio::runtime::Builder::new_current_thread().enable_all().build()?;
    runtime.block_on(async {
        let store = Store::open(&file).await.with_context(|| format!("{} cannot be opened", file.display()))?;
        work(store).await
    })
}

async fn named(store: &Store, name: &str) -> anyhow::Result<Dataset> {
    let mut all = store.datasets().await?;
    let number = name.parse::<i64>().ok();
    let places: Vec<usize> = (0..all.len()).filter(|place| all[*place].name == name || Some(all[*place].id) == number).collect();
    match places[..] {
        [place] => Ok(all.swap_remove(place)),
        [] => bail!("there is no dataset “{name}”"),
        _ => bail!("several datasets are called “{name}”; say its number"),
    }
}

/// How the columns of a file meet those of a dataset: by name, in the kind that they have there; the others are left out, or come new.
fn meeting(reading: &Reading, read_options: &ReadOptions, target: &Dataset, new_columns: bool) -> anyhow::Result<Vec<ColumnReadOptions>> {
    let meets = |column: &ReadColumn| {
        let own = target.columns.iter().find(|own| own.name == column.name && own.formula.is_none());
        if own.is_none() && !new_columns {
            eprintln!("Left out: “{}”, which “{}” has not to fill.", column.name, target.name);
        }
        let mended = read_options.columns.iter().rev().find(|mended| mended.index == column.index).cloned().unwrap_or_default();
        let kind = own.map(|own| own.kind).or(mended.kind);
        ColumnReadOptions { index: column.index, kind, leave_out: own.is_none() && !new_columns, ..mended }
    };
    let wishes: Vec<ColumnReadOptions> = reading.columns.iter().map(meets).collect();
    ensure!(wishes.iter().any(|read_options| !read_options.leave_out), "none of its columns is called as one of “{}”", target.name);
    Ok(wishes)
}

/// Brings files in as a dataset, or behind the rows of one.
pub fn import(asked: &Import) -> anyhow::Result<()> {
    opened(&asked.data, async |store| {
        let mut source: Option<Source> = None;
        for file in &asked.files {
            let bytes = std::fs::read(file).with_context(|| format!("{} cannot be read", file.display()))?;
            let name = file.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
            match &mut source {
                None => source = Some(Source::open(&name, bytes)?),
                Some(source) => drop(source.add(&name, bytes)?),
            }
        }
        let source = source.context("no file is named")?;
        let target = match &asked.to {
            Some(to) => Some(named(&store, to).await?),
            None => None,
        };
        let mut read_options = ReadOptions { unfit_as_missing: asked.unfit_as_missing, ..ReadOptions::default() };
        let mut reading = read(&source, &read_options)?;
        let layout = reading.layout();
        let recipe = match layout.as_ref().filter(|_| !asked.as_it_seems) {
            Some(layout) => store.recipe(layout).await?,
            None => None,
        };
        if let Some(recipe) = recipe {
            let as_before = ReadOptions { unfit_as_missing: asked.unfit_as_missing, ..recipe.read_options };
            if let Ok(again) = read(&source, &as_before) {
                eprintln!("Read as {} read the last file of this layout.", recipe.actor);
                (reading, read_options) = (again, as_before);
            }
        }
        if !asked.import_overrides.are_none() {
            read_options = asked.import_overrides.of_file(read_options);
            reading = read(&source, &read_options)?;
            asked.import_overrides.of_columns(&reading.columns, &mut read_options)?;
            reading = read(&source, &read_options)?;
        }
        let kept = read_options.clone();
        if let Some(target) = &target {
            read_options.columns = meeting(&reading, &read_options, target, asked.new_columns)?;
            reading = read(&source, &read_options)?;
        }
        for note in &reading.notes {
            eprintln!("{}", note.sentence);
        }
        if reading.problem_count > 0 {
            for misfit in &reading.problems {
                eprintln!("row {}, {}: “{}”", misfit.row, misfit.name, misfit.text);
            }
            let many = counted(reading.problem_count, "value does not fit its column", "values do not fit their columns");
            bail!("{many}; take what does not fit as missing with --unfit-as-missing, or correct the file");
        }
        let at = SystemTime::now().duration_since(UNIX_EPOCH)?.as_millis() as i64;
        let change = Change { actor: "shell", at };
        if asked.unfold {
            reading.table = unfold(&reading.table).context("no readings stand side by side in it")?;
        }
        let rows = reading.table.rows;
        let dataset = match &target {
            Some(target) => {
                let only_signs = reading.adds_only_signs(|name| target.columns.iter().any(|own| own.name == name));
                store.append(target.id, &reading.table, asked.new_columns || only_signs, &change).await?
            }
            None => {
                let stem = asked.files[0].file_stem().map(|stem| stem.to_string_lossy().into_owned()).unwrap_or_default();
                let name = asked.name.clone().unwrap_or(stem);
                let source = asked
                    .files
                    .iter()
                    .filter_map(|file| file.file_name())
                    .map(|name| name.to_string_lossy())
                    .collect::<Vec<_>>()
                    .join(", ");
                store
                    .create_dataset(NewDataset { name: &name, source: &source, table: &reading.table, infos: &[], gauges: &[] }, &change)
                    .await?
            }
        };
        if let Some(layout) = layout.filter(|_| !asked.import_overrides.are_none()) {
            store.keep_recipe(&layout, &kept, &change).await?;
        }
        println!("{} rows are in dataset {}, “{}”, which has {} rows now", rows, dataset.id, dataset.name, dataset.row_count);
        Ok(())
    })
}

/// Writes a dataset, or what a view of it shows, as a file.
pub fn export(asked: &Export) -> anyhow::Result<()> {
    let Export { to, .. } = asked;
    ensure!(!to.exists(), "{} is there already; name a new file", to.display());
    opened(&asked.data, async |store| {
        let dataset = named(&store, &asked.dataset).await?;
        let view = match &asked.view {
            None => TableView::default(),
            Some(name) => {
                let found = store.views(dataset.id).await?.into_iter().find(|view| view.name == *name);
                found.with_context(|| format!("“{}” has no view “{name}”", dataset.name))?.view
            }
        };
        let (_, mut frame) = store.frame(dataset.id, |_| true).await?;
        if view != TableView::default() {
            let rows = view.rows(&frame).map_err(|error| anyhow::anyhow!("{error}. {}", error.advice()))?;
            frame = frame.pick(&frame.columns().iter().collect::<Vec<_>>(), &rows.into_iter().map(|row| row as usize).collect::<Vec<_>>());
        }
        let columns: Vec<(&str, &Values)> = frame.columns().iter().map(|column| (column.name.as_str(), &column.values)).collect();
        let mut bytes = Vec::new();
        match to.extension().and_then(|ending| ending.to_str()) {
            Some("csv") => write_csv(&columns, Texts::Harmless, &mut bytes)?,
            Some("json") => write_json(&columns, &mut bytes)?,
            Some("xlsx") => bytes = write_table_xlsx(frame.columns())?,
            Some("parquet") => bytes = write_parquet(&columns)?,
            _ => bail!("the file has to end in .csv, .xlsx, .json or .parquet"),
        }
        std::fs::write(to, bytes).with_context(|| format!("{} cannot be written", to.display()))?;
        println!("{} rows of “{}” are in {}", frame.rows(), dataset.name, to.display());
        Ok(())
    })
}
