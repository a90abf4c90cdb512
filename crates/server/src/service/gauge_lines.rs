//! Gauges that speak lines over TCP.
//!
//! The first line is the key of the station. Each further line is a reading, with a key of its own in front when it has one: `@17
//! 2.401 mm`. Each is answered by a line when it is done with: `ok`, `again`, or `no` with the reason; the key stands behind. What
//! is answered by `ok` at a station that nobody attends is on disk. A line `counter 1250` is what the counter of the machine says.

use std::time::Duration;

use futures::StreamExt;
use futures::stream::FuturesOrdered;
use tokio::io::{AsyncBufReadExt, AsyncWriteExt, BufReader};
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::mpsc;

use crate::service::ServiceError;
use crate::service::readings::{Became, OnItsWay, Readings};

/// Readings of a gauge that are under way at once.
const UNDER_WAY: usize = 2000;
/// Characters of a line at most.
const LINE_MOST: u64 = 1000;
/// How long a gauge may be silent.
const SILENT: Duration = Duration::from_secs(3600);

/// Listens to gauges until the service ends.
pub async fn listen(listener: TcpListener, readings: Readings) {
    loop {
        match listener.accept().await {
            Ok((stream, _)) => drop(tokio::spawn(serve(stream, readings.clone()))),
            // Out of file handles, most likely: others may end.
            Err(_) => tokio::time::sleep(Duration::from_millis(100)).await,
        }
    }
}

async fn serve(stream: TcpStream, readings: Readings) -> std::io::Result<()> {
    let (reading, mut writing) = stream.into_split();
    let mut reading = BufReader::new(reading);
    let Some(station) = line(&mut reading).await? else { return Ok(()) };
    // Lines are read on while others are being stored, so that many are stored at once, and answered in their order.
    let (sender, mut lines) = mpsc::channel(UNDER_WAY);
    let read = async move {
        while let Some(said) = line(&mut reading).await? {
            if sender.send(said).await.is_err() {
                break;
            }
        }
        Ok::<(), std::io::Error>(())
    };
    let answer = async {
        let mut under_way = FuturesOrdered::new();
        loop {
            tokio::select! {
                said = lines.recv(), if under_way.len() < UNDER_WAY => match said {
                    Some(said) => {
                        let (key, text) = match said.strip_prefix('@').and_then(|rest| rest.split_once(' ')) {
                            Some((key, text)) => (Some(key), text),
                            None => (None, said.as_str()),
                        };
                        let behind = key.map(|key| format!(" @{key}")).unwrap_or_default();
                        let begun = match text.strip_prefix("counter ") {
                            Some(counter) => readings.count(station.trim(), counter).await,
                            None => readings.begin(station.trim(), key, text).await,
                        };
                        under_way.push_back(async move { told(begun).await.map(|told| format!("{told}{behind}\n")) });
                    }
                    None if under_way.is_empty() => return Ok(()),
                    None => {
                        let Some(answer) = under_way.next().await else { return Ok(()) };
                        writing.write_all(answer?.as_bytes()).await?;
                    }
                },
                Some(answer) = under_way.next() => writing.write_all(answer?.as_bytes()).await?,
            }
        }
    };
    tokio::try_join!(read, answer).map(|_| ())
}

/// What is said of a reading. When the service cannot take it just now nothing is said and the connection ends: the gauge sends again
/// what was not answered.
async fn told(begun: Result<OnItsWay, ServiceError>) -> std::io::Result<String> {
    let became = match begun {
        Ok(begun) => begun.end().await,
        Err(error) => Err(error),
    };
    match became {
        Ok(Became::Again) => Ok("again".to_owned()),
        Ok(_) => Ok("ok".to_owned()),
        Err(error) if error.is_for_the_moment() => Err(std::io::Error::other(error.problem.detail)),
        Err(error) => Ok(format!("no {}", error.problem.detail)),
    }
}

/// The next line; nothing at the end, when it is too long, or after a long silence.
async fn line(reading: &mut BufReader<tokio::net::tcp::OwnedReadHalf>) -> std::io::Result<Option<String>> {
    use tokio::io::AsyncReadExt;
    let mut bytes = Vec::new();
    let mut bounded = reading.take(LINE_MOST);
    let read = tokio::time::timeout(SILENT, bounded.read_until(b'\n', &mut bytes)).await;
    match read {
        Ok(Ok(0)) | Err(_) => Ok(None),
        Ok(Ok(_)) if bytes.last() != Some(&b'\n') => Ok(None),
        Ok(Ok(_)) => Ok(Some(String::from_utf8_lossy(&bytes).trim_end().to_owned())),
        Ok(Err(error)) => Err(error),
    }
}
