//! Every test of this crate in one program: compiled once, run side by side.

mod charts;
mod counting;
mod limits;
mod capability {
    mod need;
}
mod control_chart {
    mod alarms;
    mod bits;
    mod counting;
    mod dial;
    mod false_alarm;
    mod neighbours;
    mod rare;
    mod run;
    mod search;
    mod wide;
}
