//! Acorn Dial: process data on control charts, in a browser and a shell.

mod backup;
mod demo;
mod gauge;
mod import_overrides;
mod receiver;
mod run;
mod serve;
mod table;

use std::path::PathBuf;
use std::process::ExitCode;

use acorn_formats::FormatError;
use acorn_store::StoreError;
use acorn_study::StudyError;
use clap::{Parser, Subcommand};

#[derive(Parser)]
#[command(name = "acorn-dial", version, about = "Process data on control charts, in a browser and a shell")]
struct Arguments {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serve the application to browsers
    Serve(Box<serve::Serve>),
    /// Answer one study specification and print the verdict, notes and numbers as JSON
    Run {
        /// The specification, a JSON file; - reads standard input
        #[arg(value_name = "SPEC.json")]
        spec: PathBuf,
        /// Compute N times with the data in memory and add the timing
        #[arg(long, value_name = "N", value_parser = clap::value_parser!(u32).range(1..))]
        repeat: Option<u32>,
    },
    /// Bring files in as a dataset, or behind the rows of one
    Import(table::Import),
    /// Write a dataset as a file
    Export(table::Export),
    /// Copy the data into a new file, also while they are served
    Backup(backup::Backup),
    /// Be a gauge that is not there: measure made-up parts and send their readings to a station
    Gauge(gauge::Gauge),
    /// Be somebody who is told of trouble and is not there: print what comes by web hook and by e-mail
    Receiver(receiver::Receiver),
    /// Print the OpenAPI description of the service as JSON
    OpenApi,
}

fn main() -> ExitCode {
    let ended = match Arguments::parse().command {
        Command::Serve(asked) => serve::serve(&asked),
        Command::Import(import) => table::import(&import),
        Command::Export(export) => table::export(&export),
        Command::Backup(backup) => backup::run(&backup),
        Command::Gauge(gauge) => gauge::run(&gauge),
        Command::Receiver(receiver) => receiver::run(&receiver),
        Command::Run { spec, repeat } => return run::run(&spec, repeat),
        Command::OpenApi => {
            println!("{}", acorn_server::open_api().to_pretty_json().expect("the description is plain data"));
            Ok(())
        }
    };
    match ended {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("acorn-dial: {error:#}{}", advice(&error).map(|advice| format!(". {advice}")).unwrap_or_default());
            ExitCode::FAILURE
        }
    }
}

/// What to do about an error, where it is one that knows.
fn advice(error: &anyhow::Error) -> Option<String> {
    let of_store = || error.downcast_ref::<StoreError>().map(StoreError::advice);
    let of_format = || error.downcast_ref::<FormatError>().map(FormatError::advice);
    of_store().or_else(of_format).or_else(|| error.downcast_ref::<StudyError>().map(StudyError::advice))
}
