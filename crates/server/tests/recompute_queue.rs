//! `queue`.

use acorn_server::bounds::{RECOMPUTE_AGAIN_MS, RECOMPUTE_WAITING};
use acorn_server::service::recompute_queue::*;
use std::time::{Duration, Instant};

#[tokio::test]
async fn the_newest_question_comes_first_and_none_again_at_once() {
    let queue: RecomputeQueue<&str, u32> = RecomputeQueue::new(1);
    assert!(queue.is_idle() && queue.enqueue("flux", 1));
    assert!(!queue.enqueue("gap", 2) && !queue.enqueue("flux", 3), "one is at work already");
    assert_eq!((queue.next().await, queue.next().await), (Some(3), Some(2)));
    let since = Instant::now();
    queue.enqueue("flux", 4);
    queue.enqueue("seal", 5);
    assert_eq!(queue.next().await, Some(5), "flux has had its turn a moment ago");
    assert_eq!(queue.next().await, Some(4));
    assert!(since.elapsed() >= Duration::from_millis(RECOMPUTE_AGAIN_MS) / 2);
    assert!(!queue.is_idle() && queue.next().await.is_none() && queue.is_idle());
    assert!(queue.enqueue("gap", 6), "work begins anew");
}

#[tokio::test]
async fn the_oldest_of_too_many_questions_go() {
    let queue: RecomputeQueue<usize, usize> = RecomputeQueue::new(1);
    for one in 0..RECOMPUTE_WAITING + 2 {
        queue.enqueue(one, one);
    }
    let mut found = Vec::new();
    while let Some(one) = queue.next().await {
        found.push(one);
    }
    assert!(found.is_sorted_by(|a, b| a > b) && (found.len(), found.last()) == (RECOMPUTE_WAITING, Some(&2)));
}
