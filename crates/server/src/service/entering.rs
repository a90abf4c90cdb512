//! What stations send, stored many at a time: whatever has come while a transaction was written goes into the next one, so that a
//! thousand readings a second cost some dozens of transactions. Each is answered when it is on disk.

use acorn_store::{Change, Sent, Store, Taken};
use acorn_study::collect::Entry;
use tokio::sync::{mpsc, oneshot};

use crate::bounds::{SENDINGS_AT_ONCE, SENDINGS_WAITING};
use crate::service::now;
use crate::service::{ErrorKind, ServiceError};

struct Waiting {
    sent: Sent,
    answer: oneshot::Sender<Result<Taken, ServiceError>>,
}

/// The way in.
#[derive(Clone)]
pub struct Entering(mpsc::Sender<Waiting>);

impl Entering {
    /// Starts to take what is sent.
    pub fn new(store: Store) -> Entering {
        let (sender, mut queue) = mpsc::channel::<Waiting>(SENDINGS_WAITING);
        tokio::spawn(async move {
            let mut waiting = Vec::new();
            while queue.recv_many(&mut waiting, SENDINGS_AT_ONCE).await > 0 {
                store_all(&store, std::mem::take(&mut waiting)).await;
            }
        });
        Entering(sender)
    }

    /// Stores what a station sent. When it comes back it is on disk.
    pub async fn send(&self, station_id: i64, entries: Vec<Entry>) -> Result<Taken, ServiceError> {
        self.begin(station_id, entries).await.end().await
    }

    /// Puts what a station sent behind what was sent before.
    pub async fn begin(&self, station_id: i64, entries: Vec<Entry>) -> Begun {
        let (answer, stored) = oneshot::channel();
        // It fails when the service ends, which the answer then tells.
        let _ = self.0.send(Waiting { sent: Sent { station_id, entries }, answer }).await;
        Begun(stored)
    }
}

/// Something that is being stored.
pub struct Begun(oneshot::Receiver<Result<Taken, ServiceError>>);

impl Begun {
    /// Waits until it is on disk.
    pub async fn end(self) -> Result<Taken, ServiceError> {
        let stopping = || {
            let advice = "Send it again under the same key when the service is back.";
            ServiceError::new(ErrorKind::Stopping, "stopping", "the service is stopping", advice)
        };
        self.0.await.unwrap_or_else(|_| Err(stopping()))
    }
}

async fn store_all(store: &Store, waiting: Vec<Waiting>) {
    let (sent, answers): (Vec<Sent>, Vec<_>) = waiting.into_iter().map(|one| (one.sent, one.answer)).unzip();
    let change = Change { actor: "station", at: now() };
    match store.add_entries(&sent, &change).await {
        Ok(taken) => tell(answers, taken),
        // One that cannot be stored, such as into a table that is full, must not keep the others from it.
        Err(_) if sent.len() > 1 => {
            for (one, answer) in sent.into_iter().zip(answers) {
                match store.add_entries(&[one], &change).await {
                    Ok(taken) => tell(vec![answer], taken),
                    Err(error) => drop(answer.send(Err(error.into()))),
                }
            }
        }
        Err(error) => {
            let error = ServiceError::from(error);
            answers.into_iter().for_each(|answer| drop(answer.send(Err(error.clone()))));
        }
    }
}

fn tell(answers: Vec<oneshot::Sender<Result<Taken, ServiceError>>>, taken: Vec<Result<Taken, acorn_store::StoreError>>) {
    for (answer, taken) in answers.into_iter().zip(taken) {
        // One who has gone meanwhile asks again under the same key.
        let _ = answer.send(taken.map_err(ServiceError::from));
    }
}
