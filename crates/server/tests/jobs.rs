//! `jobs`.

use acorn_server::service::jobs::*;
use acorn_server::service::live::{Live, LiveEvent};

fn about() -> JobSubject {
    JobSubject { method: "capability".into(), dataset_id: Some(3) }
}

#[tokio::test]
async fn a_computation_is_listed_while_it_lasts_and_stops_when_asked_to() {
    let live = Live::default();
    let mut heard = live.listen();
    let jobs: Jobs<&str> = Jobs::new(live);
    let (first, cancel) = jobs.start(&"shape", about());
    let (second, other) = jobs.start(&"spread", about());
    cancel.draws_from(7);
    cancel.expect(8);
    cancel.step().unwrap();
    let job = jobs.of(&"shape").unwrap();
    assert_eq!((job.id, job.seed, job.share, job.dataset_id), (1, Some(7), Some(0.125), Some(3)));
    assert_eq!(heard.next().await, Some(vec![LiveEvent::Jobs]), "a long one is told of");
    assert!(jobs.stop(1) && cancel.check().is_err() && other.check().is_ok(), "one is stopped, not the other");
    drop(first);
    assert!(!jobs.stop(1) && jobs.of(&"shape").is_none() && jobs.of(&"spread").is_some());
    drop(second);
    let (_third, _) = jobs.start(&"shape", about());
    assert_eq!(jobs.of(&"shape").unwrap().id, 3, "a number is never given again");
}
