//! `acorn-dial backup`: a copy of the data, also while they are served.

use std::path::PathBuf;

use acorn_store::Store;
use anyhow::{Context, ensure};
use clap::Args;

/// What is copied, and where to.
#[derive(Args, Clone, Debug)]
pub struct Backup {
    /// Folder that keeps the data
    #[arg(long, value_name = "DIR", default_value = "data")]
    data: PathBuf,
    /// File to make; one that is there is never written over
    #[arg(value_name = "FILE")]
    to: PathBuf,
}

/// Copies the data as they stand at one moment. A copy that was broken off is taken away again.
pub fn run(asked: &Backup) -> anyhow::Result<()> {
    let Backup { data, to } = asked;
    let file = data.join("acorn.sqlite");
    ensure!(file.is_file(), "there are no data in {}", data.display());
    ensure!(!to.exists(), "{} is there already; name a new file", to.display());
    let runtime = tokio::runtime::Builder::new_current_thread().enable_all().build()?;
    let copied = runtime.block_on(Store::back_up(&file, to));
    if copied.is_err() {
        std::fs::remove_file(to).ok();
    }
    copied.with_context(|| format!("{} cannot be copied to {}", file.display(), to.display()))?;
    println!("The data of {} are kept in {}", data.display(), to.display());
    Ok(())
}
