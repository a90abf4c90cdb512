//! `acorn-dial receiver`: somebody who is told and is not there. It takes what is posted to it as a web hook and what is handed to it as
//! e-mail, and prints each message as a line of JSON.

use std::io::Write;
use std::net::SocketAddr;
use std::sync::Arc;
use std::sync::atomic::{AtomicU32, Ordering};

use anyhow::Context;
use axum::Router;
use axum::body::Bytes;
use axum::extract::State;
use axum::http::StatusCode;
use axum::routing::post;
use clap::Args;
use serde_json::{Value, json};
use tokio::io::{AsyncBufReadExt, AsyncRead, AsyncReadExt, AsyncWriteExt, BufReader};
use tokio::net::{TcpListener, TcpStream};

/// Where it is told.
#[derive(Args, Clone, Debug)]
pub struct Receiver {
    /// Address at which it takes what is posted to web hooks
    #[arg(long, value_name = "ADDR", default_value = "127.0.0.1:7313")]
    web: SocketAddr,
    /// Address at which it takes e-mail
    #[arg(long, value_name = "ADDR", default_value = "127.0.0.1:7314")]
    mail: SocketAddr,
    /// Refuse the first N messages, as one who is away for a while
    #[arg(long, value_name = "N", default_value_t = 0)]
    refuse: u32,
}

/// Longest line of a mail, in bytes.
const LINE_MOST: u64 = 10_000;
/// Lines of a mail at most.
const LINES_MOST: usize = 10_000;

type Refusals = Arc<AtomicU32>;

/// Listens until it is ended.
pub fn run(receiver: &Receiver) -> anyhow::Result<()> {
    let runtime = tokio::runtime::Builder::new_current_thread().enable_all().build()?;
    runtime.block_on(async {
        let web = TcpListener::bind(receiver.web).await.with_context(|| format!("{} cannot be listened on", receiver.web))?;
        let mail = TcpListener::bind(receiver.mail).await.with_context(|| format!("{} cannot be listened on", receiver.mail))?;
        say(&json!({"web": format!("http://{}", web.local_addr()?), "mail": mail.local_addr()?.to_string()}));
        let refusals = Arc::new(AtomicU32::new(receiver.refuse));
        let hooks = Router::new().fallback(post(hook)).with_state(refusals.clone());
        tokio::select! {
            ended = axum::serve(web, hooks) => ended?,
            ended = mails(mail, refusals) => ended?,
        }
        Ok(())
    })
}

fn say(line: &Value) {
    let mut out = std::io::stdout().lock();
    // Whoever listened is gone; there is nobody to tell.
    let _ = writeln!(out, "{line}").and_then(|()| out.flush());
}

/// Whether this one is refused.
fn is_refused(refusals: &Refusals) -> bool {
    refusals.fetch_update(Ordering::Relaxed, Ordering::Relaxed, |left| left.checked_sub(1)).is_ok()
}

async fn hook(State(refusals): State<Refusals>, body: Bytes) -> StatusCode {
    if is_refused(&refusals) {
        return StatusCode::SERVICE_UNAVAILABLE;
    }
    say(&json!({"by": "web hook", "message": serde_json::from_slice::<Value>(&body).unwrap_or_default()}));
    StatusCode::NO_CONTENT
}

async fn mails(listener: TcpListener, refusals: Refusals) -> anyhow::Result<()> {
    loop {
        let (stream, _) = listener.accept().await?;
        // A connection that breaks ends by itself.
        tokio::spawn(mail(stream, refusals.clone()));
    }
}

/// As much of SMTP (RFC 5321) as taking a message needs.
async fn mail(mut stream: TcpStream, refusals: Refusals) -> std::io::Result<()> {
    let (reading, mut writing) = stream.split();
    let mut reading = BufReader::new(reading);
    let (mut from, mut to) = (String::new(), Vec::new());
    writing.write_all(b"220 receiver\r\n").await?;
    while let Some(command) = line(&mut reading).await? {
        let (verb, rest) = command.split_at_checked(4).unwrap_or((&command, ""));
        let address = rest.split_once(['<']).and_then(|(_, rest)| rest.split_once('>')).map_or("", |(address, _)| address).to_owned();
        let answer: &[u8] = match verb.to_ascii_uppercase().as_str() {
            "EHLO" | "HELO" => b"250 receiver\r\n",
            "MAIL" => {
                (from, to) = (address, Vec::new());
                b"250 go on\r\n"
            }
            "RCPT" => {
                to.push(address);
                b"250 go on\r\n"
            }
            "DATA" => {
                writing.write_all(b"354 end with a dot\r\n").await?;
                let mut lines = Vec::new();
                while let Some(line) = line(&mut reading).await? {
                    if line == "." || lines.len() == LINES_MOST {
                        break;
                    }
                    lines.push(line.strip_prefix('.').map_or_else(|| line.clone(), str::to_owned));
                }
                if is_refused(&refusals) {
                    b"451 try again\r\n"
                } else {
                    say(&json!({"by": "mail", "from": from, "to": to, "lines": lines}));
                    b"250 taken\r\n"
                }
            }
            "RSET" | "NOOP" => b"250 go on\r\n",
            "QUIT" => {
                return writing.write_all(b"221 good bye\r\n").await;
            }
            _ => b"502 not known here\r\n",
        };
        writing.write_all(answer).await?;
    }
    Ok(())
}

/// The next line; nothing at the end, or when it is too long.
async fn line(reading: &mut BufReader<impl AsyncRead + Unpin>) -> std::io::Result<Option<String>> {
    let mut bytes = Vec::new();
    reading.take(LINE_MOST).read_until(b'\n', &mut bytes).await?;
    let ended = bytes.last() == Some(&b'\n');
    Ok(ended.then(|| String::from_utf8_lossy(&bytes).trim_end_matches(['\r', '\n']).to_owned()))
}
