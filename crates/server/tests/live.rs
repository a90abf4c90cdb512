//! `live`.

use acorn_server::service::live::*;

#[test]
fn the_newest_event_of_each_thing_is_told() {
    let dataset = |id, revision| LiveEvent::Dataset { id, revision };
    let mut gathered = vec![dataset(1, 2)];
    for event in [dataset(2, 9), LiveEvent::Study { id: 1, revision: 4 }, dataset(1, 3)] {
        add(&mut gathered, event);
    }
    assert_eq!(gathered, [dataset(2, 9), LiveEvent::Study { id: 1, revision: 4 }, dataset(1, 3)]);
    add(&mut gathered, LiveEvent::Everything);
    add(&mut gathered, dataset(5, 1));
    assert_eq!(gathered, [LiveEvent::Everything]);
}
