//! `line`.

use acorn_server::bounds::{ANEW_AGAIN_MS, ANEW_WAITING};
use acorn_server::line::*;
use std::time::{Duration, Instant};

#[tokio::test]
async fn the_newest_wish_comes_first_and_none_again_at_once() {
    let line: Line<&str, u32> = Line::new(1);
    assert!(line.is_idle() && line.wish("flux", 1));
    assert!(!line.wish("gap", 2) && !line.wish("flux", 3), "one is at work already");
    assert_eq!((line.next().await, line.next().await), (Some(3), Some(2)));
    let since = Instant::now();
    line.wish("flux", 4);
    line.wish("seal", 5);
    assert_eq!(line.next().await, Some(5), "flux has had its turn a moment ago");
    assert_eq!(line.next().await, Some(4));
    assert!(since.elapsed() >= Duration::from_millis(ANEW_AGAIN_MS) / 2);
    assert!(!line.is_idle() && line.next().await.is_none() && line.is_idle());
    assert!(line.wish("gap", 6), "work begins anew");
}

#[tokio::test]
async fn the_oldest_of_too_many_wishes_go() {
    let line: Line<usize, usize> = Line::new(1);
    for one in 0..ANEW_WAITING + 2 {
        line.wish(one, one);
    }
    let mut found = Vec::new();
    while let Some(one) = line.next().await {
        found.push(one);
    }
    assert!(found.is_sorted_by(|a, b| a > b) && (found.len(), found.last()) == (ANEW_WAITING, Some(&2)));
}
