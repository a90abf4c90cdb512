//! `cancel`.

use acorn_maths::cancel::*;

#[test]
fn a_stop_is_noticed_at_the_next_step_and_the_share_grows() {
    let cancel = Cancel::default();
    assert_eq!((cancel.share(), cancel.check()), (None, Ok(())));
    cancel.expect(4);
    cancel.step().unwrap();
    assert_eq!(cancel.share(), Some(0.25));
    cancel.clone().stop();
    assert_eq!((cancel.step(), cancel.check()), (Err(Stopped), Err(Stopped)));
    assert_eq!(cancel.so_far(), None);
    cancel.found("Ppk 1.1".to_owned());
    cancel.clone().found("Ppk 1.2".to_owned());
    assert_eq!(cancel.so_far().as_deref(), Some("Ppk 1.2"));
}
