//! `acorn-dial gauge`: a gauge that is not there. It measures made-up parts and sends their readings to a station, and sends again what
//! was not answered, under the same key.

use std::collections::VecDeque;
use std::net::SocketAddr;
use std::time::{Duration, Instant, SystemTime, UNIX_EPOCH};

use anyhow::Context;
use clap::Args;
use rand::SeedableRng;
use rand_distr::{Distribution, Normal};
use rand_xoshiro::Xoshiro256PlusPlus;
use tokio::io::{AsyncBufReadExt, AsyncWriteExt, BufReader};
use tokio::net::TcpStream;

/// What it measures, and how.
#[derive(Args, Clone, Debug)]
pub struct Gauge {
    /// Address at which the server hears gauges
    #[arg(long, value_name = "ADDR", default_value = "127.0.0.1:7312")]
    to: SocketAddr,
    /// Key of the station, from the page of its plan
    #[arg(long, value_name = "KEY")]
    station: String,
    /// Mean of the parts
    #[arg(long, default_value_t = 2.4, allow_negative_numbers = true)]
    mean: f64,
    /// Sd of the parts
    #[arg(long, default_value_t = 0.012)]
    sd: f64,
    /// What the mean drifts by from part to part
    #[arg(long, default_value_t = 0.0, allow_negative_numbers = true)]
    drift: f64,
    /// What the mean shifts by after --shift-after parts
    #[arg(long, default_value_t = 0.0, allow_negative_numbers = true)]
    shift: f64,
    /// After how many parts it shifts
    #[arg(long, value_name = "N", default_value_t = 50)]
    shift_after: u64,
    /// Stick at one value from this part on
    #[arg(long, value_name = "N")]
    stuck_after: Option<u64>,
    /// Send each reading this many times within a moment, as a key that bounces does
    #[arg(long, value_name = "N", default_value_t = 1, value_parser = clap::value_parser!(u64).range(1..=100))]
    bounce: u64,
    /// Decimals of a reading
    #[arg(long, default_value_t = 3)]
    decimals: usize,
    /// Unit of a reading; empty to send none
    #[arg(long, default_value = "mm")]
    unit: String,
    /// Readings a second; 0 for as many as are answered
    #[arg(long, default_value_t = 1.0)]
    rate: f64,
    /// How many readings; endless when absent
    #[arg(long, value_name = "N")]
    count: Option<u64>,
    /// What the parts are drawn from
    #[arg(long, default_value_t = 1)]
    seed: u64,
    /// Send readings without keys of their own, as a plain gauge does; what is not answered is then lost
    #[arg(long)]
    plain: bool,
}

/// Readings that may wait for their answer at once.
const UNDER_WAY: usize = 2000;
/// How soon a lost connection is tried again.
const AGAIN: Duration = Duration::from_millis(200);

/// Measures until it has measured enough.
pub fn run(gauge: &Gauge) -> anyhow::Result<()> {
    let runtime = tokio::runtime::Builder::new_current_thread().enable_all().build()?;
    runtime.block_on(measure(gauge))
}

/// The gauge of the demo: a test bench that measures a lamp every few seconds, and loses a little of its flux after a while.
pub async fn for_the_demo(to: SocketAddr, station: String) {
    let gauge = Gauge {
        to,
        station,
        mean: 812.0,
        sd: 7.5,
        drift: 0.0,
        shift: -9.0,
        shift_after: 150,
        stuck_after: None,
        bounce: 1,
        decimals: 1,
        unit: "lm".to_owned(),
        rate: 0.25,
        count: None,
        // Another series at each start, so that its readings have keys of their own.
        seed: SystemTime::now().duration_since(UNIX_EPOCH).unwrap_or_default().as_secs(),
        plain: false,
    };
    if let Err(error) = measure(&gauge).await {
        eprintln!("acorn-dial: the gauge of the demo stopped: {error:#}");
    }
}

/// The parts, one after the other.
struct Parts<'g> {
    gauge: &'g Gauge,
    noise: Normal<f64>,
    draws: Xoshiro256PlusPlus,
    made: u64,
    last: String,
}

impl Parts<'_> {
    fn next(&mut self) -> String {
        let Gauge { mean, drift, shift, shift_after, stuck_after, decimals, unit, .. } = self.gauge;
        let shifted = if self.made >= *shift_after { *shift } else { 0.0 };
        let value = mean + drift * self.made as f64 + shifted + self.noise.sample(&mut self.draws);
        if stuck_after.is_none_or(|stuck| self.made < stuck) || self.last.is_empty() {
            self.last = format!("{value:.decimals$} {unit}").trim_end().to_owned();
        }
        self.made += 1;
        self.last.clone()
    }
}

async fn measure(gauge: &Gauge) -> anyhow::Result<()> {
    let noise = Normal::new(0.0, gauge.sd).context("the sd must be 0 or above")?;
    let mut parts = Parts { gauge, noise, draws: Xoshiro256PlusPlus::seed_from_u64(gauge.seed), made: 0, last: String::new() };
    // Those that were measured and are not answered yet, with their numbers.
    let mut waiting: VecDeque<(u64, String)> = VecDeque::new();
    let (mut answered, mut refused) = (0_u64, 0_u64);
    let started = Instant::now();
    loop {
        match connected(gauge, &mut parts, &mut waiting, &mut answered, &mut refused, started).await {
            Ok(()) => break,
            Err(error) => {
                eprintln!("acorn-dial: {error}; trying again");
                if gauge.plain {
                    waiting.clear();
                }
                tokio::time::sleep(AGAIN).await;
            }
        }
    }
    println!("{answered} readings answered, {refused} of them refused, in {:.1} s", started.elapsed().as_secs_f64());
    Ok(())
}

/// Sends over one connection until all is answered, or it breaks.
async fn connected(
    gauge: &Gauge,
    parts: &mut Parts<'_>,
    waiting: &mut VecDeque<(u64, String)>,
    answered: &mut u64,
    refused: &mut u64,
    started: Instant,
) -> anyhow::Result<()> {
    let stream = TcpStream::connect(gauge.to).await.with_context(|| format!("{} cannot be reached", gauge.to))?;
    let (reading, mut writing) = stream.into_split();
    let mut answers = BufReader::new(reading).lines();
    writing.write_all(format!("{}\n", gauge.station).as_bytes()).await?;
    let line = |number: u64, text: &str| {
        let one = if gauge.plain { format!("{text}\n") } else { format!("@{}-{number} {text}\n", gauge.seed) };
        one.repeat(gauge.bounce as usize)
    };
    // First what the last connection left unanswered, in its order.
    for (number, text) in waiting.iter() {
        writing.write_all(line(*number, text).as_bytes()).await?;
    }
    let mut owed = waiting.len() as u64 * gauge.bounce;
    loop {
        let more = gauge.count.is_none_or(|count| parts.made < count);
        if !more && owed == 0 {
            return Ok(());
        }
        let due = if gauge.rate > 0.0 { started + Duration::from_secs_f64(parts.made as f64 / gauge.rate) } else { started };
        tokio::select! {
            answer = answers.next_line() => {
                let answer = answer?.context("the server closed the connection")?;
                owed = owed.saturating_sub(1);
                if owed.is_multiple_of(gauge.bounce) {
                    waiting.pop_front();
                    *answered += 1;
                }
                if let Some(why) = answer.strip_prefix("no ") {
                    *refused += 1;
                    eprintln!("refused: {why}");
                }
            }
            () = tokio::time::sleep_until(due.into()), if more && waiting.len() < UNDER_WAY => {
                let number = parts.made;
                let text = parts.next();
                // Kept before it is sent: when the connection breaks just now it is sent over the next one.
                let sent = line(number, &text);
                waiting.push_back((number, text));
                owed += gauge.bounce;
                writing.write_all(sent.as_bytes()).await?;
            }
        }
    }
}
