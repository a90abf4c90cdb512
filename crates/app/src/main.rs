//! Acorn Dial: process data on control charts, in a browser and a shell.

mod demo;
mod gauge;
mod run;
mod serve;

use std::net::SocketAddr;
use std::path::PathBuf;
use std::process::ExitCode;

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
    Serve {
        /// Folder that keeps the data; made when missing
        #[arg(long, value_name = "DIR", default_value = "data")]
        data: PathBuf,
        /// Address to listen on
        #[arg(long, value_name = "ADDR", default_value = "127.0.0.1:7311")]
        listen: SocketAddr,
        /// Address to listen on for gauges that send lines over TCP
        #[arg(long, value_name = "ADDR")]
        gauges: Option<SocketAddr>,
        /// Load the demo data that were never loaded before; nothing is overwritten
        #[arg(long)]
        demo: bool,
    },
    /// Answer one study specification and print the verdict, notes and numbers as JSON
    Run {
        /// The specification, a JSON file; - reads standard input
        #[arg(value_name = "SPEC.json")]
        spec: PathBuf,
        /// Compute N times with the data in memory and add the timing
        #[arg(long, value_name = "N", value_parser = clap::value_parser!(u32).range(1..))]
        repeat: Option<u32>,
    },
    /// Be a gauge that is not there: measure made-up parts and send their readings to a station
    Gauge(gauge::Gauge),
    /// Print the OpenAPI description of the service as JSON
    OpenApi,
}

fn main() -> ExitCode {
    match Arguments::parse().command {
        Command::Serve { data, listen, gauges, demo } => match serve::serve(&data, listen, gauges, demo) {
            Ok(()) => ExitCode::SUCCESS,
            Err(error) => {
                eprintln!("acorn-dial: {error:#}");
                ExitCode::FAILURE
            }
        },
        Command::Gauge(gauge) => match gauge::run(&gauge) {
            Ok(()) => ExitCode::SUCCESS,
            Err(error) => {
                eprintln!("acorn-dial: {error:#}");
                ExitCode::FAILURE
            }
        },
        Command::Run { spec, repeat } => run::run(&spec, repeat),
        Command::OpenApi => {
            println!("{}", acorn_server::open_api().to_pretty_json().expect("the description is plain data"));
            ExitCode::SUCCESS
        }
    }
}
