//! `acorn-dial serve`: opens the store, listens, stops gracefully.

use std::fs::{File, TryLockError};
use std::io::Write as _;
use std::net::SocketAddr;
use std::path::{Path, PathBuf};

use acorn_server::{AlertSettings, MailServer, Patience, Secrecy};
use acorn_store::Store;
use anyhow::{Context, ensure};
use clap::{Args, ValueEnum};
use tokio::net::TcpListener;
use tokio::signal::unix::{Signal, SignalKind, signal};
use tracing_subscriber::EnvFilter;

use crate::{demo, gauge};

/// What is served, where, and who is told of trouble.
#[derive(Args, Clone, Debug)]
pub struct Serve {
    /// Folder that keeps the data; made when missing
    #[arg(long, value_name = "DIR", default_value = "data")]
    data: PathBuf,
    /// Address to listen on
    #[arg(long, value_name = "ADDR", default_value = "127.0.0.1:7311")]
    listen: SocketAddr,
    /// Address to listen on for gauges that send lines over TCP
    #[arg(long, value_name = "ADDR")]
    gauges: Option<SocketAddr>,
    /// Let other machines in, which call it by these names; as long as there are no accounts, everybody there may change everything
    #[arg(long, value_name = "NAME,...", value_delimiter = ',')]
    allow_remote: Vec<String>,
    /// Load the demo data that were never loaded before; nothing is overwritten
    #[arg(long)]
    demo: bool,
    /// Let a gauge that is not there measure for a plan of its own, so that something moves
    #[arg(long)]
    demo_gauge: bool,
    /// Address of the application that messages lead to, when it is not the one listened on
    #[arg(long, value_name = "URL")]
    site: Option<String>,
    /// Mail server that messages are handed to
    #[arg(long, value_name = "HOST:PORT")]
    mail: Option<String>,
    /// Whom messages come from
    #[arg(long, value_name = "ADDRESS", default_value = "acorn-dial@localhost")]
    mail_from: String,
    /// Name to log in at the mail server with; the password is taken from ACORN_DIAL_MAIL_PASSWORD
    #[arg(long, value_name = "NAME")]
    mail_login: Option<String>,
    /// Whether the way to the mail server is encrypted
    #[arg(long, value_enum, default_value_t = MailSecrecy::AfterGreeting)]
    mail_secrecy: MailSecrecy,
    /// How long something new waits for more to be told with it, in seconds
    #[arg(long, value_name = "SECONDS", default_value_t = 20, value_parser = clap::value_parser!(u32).range(..=86_400))]
    tell_after: u32,
    /// How long after it was told it is told again, while nobody has taken it on, in seconds
    #[arg(long, value_name = "SECONDS", default_value_t = 1800, value_parser = clap::value_parser!(u32).range(1..=604_800))]
    tell_again: u32,
}

#[derive(Clone, Copy, Debug, ValueEnum)]
enum MailSecrecy {
    /// Never, as within one machine
    None,
    /// After both have greeted (STARTTLS)
    AfterGreeting,
    /// From the first byte
    FromTheStart,
}

/// Serves until SIGTERM or Ctrl C.
pub fn serve(asked: &Serve) -> anyhow::Result<()> {
    let filter = EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("warn"));
    tracing_subscriber::fmt().with_env_filter(filter).with_writer(std::io::stderr).init();
    let Serve { data, listen, .. } = asked;
    asked.check_doors()?;
    std::fs::create_dir_all(data).with_context(|| format!("the folder {} cannot be made", data.display()))?;
    let _own = own(data)?;
    let runtime = tokio::runtime::Builder::new_multi_thread().enable_all().build()?;
    runtime.block_on(async {
        let file = data.join("acorn.sqlite");
        let store = Store::open(&file).await.with_context(|| format!("{} cannot be opened", file.display()))?;
        if asked.demo {
            demo::load(&store).await.context("the demo data cannot be loaded")?;
        }
        let listener = bound(*listen, "--listen").await?;
        let any = asked.demo_gauge.then(|| SocketAddr::from(([127, 0, 0, 1], 0)));
        let gauges = match asked.gauges.or(any) {
            Some(address) => Some(bound(address, "--gauges").await?),
            None => None,
        };
        let alerts = asked.alerts(listener.local_addr()?)?;
        let kept = data.canonicalize().unwrap_or_else(|_| data.clone());
        let stopped = asked_to_stop();
        tell(&format!("Acorn Dial is at http://{}", listener.local_addr()?));
        tell(&format!("Data are kept in {}", kept.display()));
        if let Some(gauges) = &gauges {
            let address = gauges.local_addr()?;
            tell(&format!("Gauges are heard at {address}"));
            if asked.demo_gauge {
                let station = demo::gauge_plan(&store).await.context("the plan of the demo's gauge cannot be made")?;
                tokio::spawn(gauge::for_the_demo(address, station));
            }
        }
        acorn_server::serve(listener, gauges, store, alerts, asked.allow_remote.clone(), stopped).await?;
        Ok(())
    })
}

/// A line on the standard output, where somebody may have stopped reading after the first:
/// that is no reason to stop serving, as a panic of `println!` would.
fn tell(line: &str) {
    let _ = writeln!(std::io::stdout(), "{line}");
}

impl Serve {
    /// Nobody has an account, so that other machines are let in only on purpose, and loudly.
    fn check_doors(&self) -> anyhow::Result<()> {
        let open = [Some(self.listen), self.gauges].into_iter().flatten().find(|address| !address.ip().is_loopback());
        let Some(open) = open else { return Ok(()) };
        ensure!(
            !self.allow_remote.is_empty(),
            "{open} can be reached from other machines, and there are no accounts: everybody there could change everything; \
             say --allow-remote NAME with the name by which they call this machine, or listen on 127.0.0.1"
        );
        eprintln!("Other machines are let in at {open}: everybody who reaches it may change everything.");
        Ok(())
    }

    fn alerts(&self, listening: SocketAddr) -> anyhow::Result<AlertSettings> {
        let mail = match &self.mail {
            Some(server) => {
                let (host, port) = server.rsplit_once(':').with_context(|| format!("--mail {server} lacks its port, such as :587"))?;
                let login = match &self.mail_login {
                    Some(name) => {
                        Some((name.clone(), std::env::var("ACORN_DIAL_MAIL_PASSWORD").context("ACORN_DIAL_MAIL_PASSWORD is not set")?))
                    }
                    None => None,
                };
                let secrecy = match self.mail_secrecy {
                    MailSecrecy::None => Secrecy::None,
                    MailSecrecy::AfterGreeting => Secrecy::AfterGreeting,
                    MailSecrecy::FromTheStart => Secrecy::FromTheStart,
                };
                let port = port.parse().with_context(|| format!("--mail {server}: {port} is no port"))?;
                Some(MailServer { host: host.to_owned(), port, secrecy, from: self.mail_from.clone(), login })
            }
            None => None,
        };
        let patience = Patience { gather: i64::from(self.tell_after) * 1000, again: i64::from(self.tell_again) * 1000 };
        let site = self.site.clone().unwrap_or_else(|| format!("http://{listening}"));
        Ok(AlertSettings { patience, site, mail })
    }
}

/// Makes the folder this process's own until it ends, however it ends: two that write into one would not know of each other's changes.
pub fn own(data: &Path) -> anyhow::Result<File> {
    let lock = File::create(data.join("acorn.lock")).with_context(|| format!("nothing can be written into {}", data.display()))?;
    match lock.try_lock() {
        Ok(()) => Ok(lock),
        Err(TryLockError::WouldBlock) => {
            anyhow::bail!("another Acorn Dial holds {}; end it, or choose another folder with --data", data.display())
        }
        Err(TryLockError::Error(error)) => Err(error).with_context(|| format!("{} cannot be locked", data.display())),
    }
}

async fn bound(address: SocketAddr, option: &str) -> anyhow::Result<TcpListener> {
    let bound = TcpListener::bind(address).await;
    bound.with_context(|| format!("{address} cannot be listened on; is it in use? Choose another with {option}"))
}

/// Heard from the call on, not only from when it is waited for: a server that is stopped right after its first answer ends in order.
fn asked_to_stop() -> impl Future<Output = ()> + Send + 'static {
    let (terminate, interrupt) = (signal(SignalKind::terminate()), signal(SignalKind::interrupt()));
    async move {
        tokio::select! {
            () = heard(terminate) => {}
            () = heard(interrupt) => {}
        }
    }
}

async fn heard(signal: std::io::Result<Signal>) {
    match signal {
        Ok(mut signal) => drop(signal.recv().await),
        Err(_) => std::future::pending().await,
    }
}
