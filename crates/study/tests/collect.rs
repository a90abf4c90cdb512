//! Collecting: what a plan must hold to, what an entry is refused for, when it is due, and what gauges say.

use std::collections::BTreeMap;
use std::sync::LazyLock;

use acorn_data::frame::{Limits, Rules};
use acorn_study::collect::{
    Beyond, Calendar, CollectionPlan, Due, Entry, Every, Happened, LinePattern, Occasion, Patience, Refusal, Shift, ShiftMissed, Untaken,
    Way, ready_made, standing, standing_by_pieces,
};
use proptest::prelude::*;
use serde_json::{Value, json};

fn plan(more: Value) -> CollectionPlan {
    let mut written = json!({
        "name": "Lens thickness, press 2", "pieces": 2,
        "identifiers": [
            {"column": "taken at", "asked": "time"}, {"column": "sample", "asked": "subgroup"}, {"column": "piece", "asked": "piece"},
            {"column": "who", "asked": "choice", "required": true, "list": 1}, {"column": "lot", "asked": "text"}, {"column": "note", "asked": "remark"},
        ],
        "measurements": [{"column": "thickness"}, {"column": "haze"}],
    });
    for (name, value) in more.as_object().unwrap() {
        written[name] = value.clone();
    }
    serde_json::from_value(written).unwrap()
}

fn entry(more: Value) -> Entry {
    let mut written = json!({"key": "a1", "at": 1_780_000_000_000_i64, "time": "2026-05-04 13:30:05", "identifiers": {"who": " Mara "},
        "pieces": [{"thickness": 2.401, "haze": 0.2}, {"thickness": 2.5, "haze": -1.5e-7}]});
    for (name, value) in more.as_object().unwrap() {
        written[name] = value.clone();
    }
    serde_json::from_value(written).unwrap()
}

/// What the columns of the plan can be.
fn rules(column: &str) -> Option<&'static Rules> {
    static THICKNESS: LazyLock<Rules> =
        LazyLock::new(|| Rules { lower_bound: Some(0.0), lowest: Some(2.0), highest: Some(3.0), ..Rules::default() });
    static HAZE: LazyLock<Rules> = LazyLock::new(|| Rules { highest: Some(9.0), ..Rules::default() });
    static LOT: LazyLock<Rules> = LazyLock::new(|| Rules { choices: vec!["L1".into(), "L2".into()], ..Rules::default() });
    match column {
        "thickness" => Some(&THICKNESS),
        "haze" => Some(&HAZE),
        "lot" => Some(&LOT),
        _ => None,
    }
}

#[test]
fn plans_that_cannot_be_followed_are_refused_in_words() {
    plan(json!({})).check().unwrap();
    for (more, words) in [
        (json!({"measurements": []}), "nothing is measured or counted"),
        (json!({"pieces": 0}), "1 to 50 pieces"),
        (json!({"pieces": 51}), "1 to 50 pieces"),
        (json!({"measurements": [{"column": "x"}, {"column": "x"}]}), "“x” is filled twice"),
        (json!({"counts": {"inspected": "sample"}}), "“sample” is filled twice"),
        (json!({"identifiers": [{"column": "who", "asked": "choice"}]}), "no list is named"),
        (json!({"every": {"minutes": 0}}), "pass 1 to 10080 minutes"),
        (json!({"every": {"minutes": 10, "late_after": 10}}), "late before the next is due"),
        (json!({"every": {"minutes": 10, "pieces": 50}}), "minutes, or 1 to 1000000 pieces"),
        (json!({"every": {"pieces": 5, "late_after": 5}}), "late before the next is due"),
        (json!({"shifts": [{"name": "late", "begins": 840}, {"name": "early", "begins": 360}]}), "begin one after the other"),
        (json!({"shifts": [{"name": "late", "begins": 1440}]}), "within a day"),
        (json!({"told": ["shift lead"]}), "“shift lead” is neither an e-mail address nor a web address"),
        (json!({"unattended": true}), "only where one measurement of one piece"),
        (json!({"causes": ["die", " "]}), "a cause has 1 to 100 characters"),
        (json!({"reactions": [{"on": "signal", "words": "", "picture": "https://elsewhere.test/a.png"}]}), "a picture is a PNG"),
    ] {
        let problem = plan(more).check().unwrap_err().to_string();
        assert!(problem.contains(words), "{problem}");
    }
    let alone = json!({"unattended": true, "pieces": 1, "identifiers": [], "measurements": [{"column": "flux"}]});
    plan(alone).check().unwrap();
}

#[test]
fn an_entry_becomes_a_row_for_each_piece_in_the_order_of_the_columns() {
    let (plan, said) = (plan(json!({})), entry(json!({"remark": "new die"})));
    said.check(&plan, rules).unwrap();
    assert_eq!(plan.columns(), ["taken at", "sample", "piece", "who", "lot", "note", "thickness", "haze"]);
    let row = |piece: &str, thickness: &str, haze: &str| {
        ["2026-05-04 13:30:05", "17", piece, "Mara", "", "new die", thickness, haze].map(str::to_owned).to_vec()
    };
    assert_eq!(said.rows(&plan, 17), [row("1", "2.401", "0.2"), row("2", "2.5", "-0.00000015")]);
    let called = plan.renamed(|name| if name == "haze" { "cloud".to_owned() } else { name.to_owned() });
    assert_eq!(called.columns()[6..], ["thickness", "cloud"]);
    let counting: CollectionPlan = serde_json::from_value(
        json!({"name": "Solder", "counts": {"inspected": "boards", "defectives": "bad", "defects": ["bridge", "void"]}}),
    )
    .unwrap();
    counting.check().unwrap();
    let counted = |counts: Value| entry(json!({"identifiers": {}, "pieces": [], "counts": counts}));
    assert_eq!(counted(json!({"boards": 50, "bad": 2, "void": 3})).rows(&counting, 1), [["50", "2", "0", "3"]]);
    assert_eq!(
        counted(json!({"boards": 5, "bad": 6})).check(&counting, rules),
        Err(Refusal::MoreThanInspected { defectives: 6, inspected: 5 })
    );
    assert_eq!(counted(json!({"boards": 5})).check(&counting, rules), Err(Refusal::Missing { column: "bad".into() }));
}

#[test]
fn an_entry_that_cannot_be_is_refused_and_one_beyond_belief_takes_a_remark() {
    let plan = plan(json!({}));
    let refused = |more: Value| entry(more).check(&plan, rules).unwrap_err().to_string();
    let beyond = json!([{"thickness": 2.4, "haze": 0.2}, {"thickness": 24.01, "haze": 0.2}]);
    for (more, words) in [
        (json!({"key": ""}), "a key of 1 to 100"),
        (json!({"time": "13:30"}), "“13:30” is no time"),
        (json!({"identifiers": {"who": " "}}), "“who” is missing"),
        (json!({"identifiers": {"who": "Mara", "sample": "3"}}), "“sample” is not asked for"),
        (json!({"identifiers": {"who": "x".repeat(501)}}), "500 characters at most"),
        (json!({"pieces": []}), "a subgroup has 2 pieces, and 0 were given"),
        (json!({"pieces": [{"thickness": 2.4}, {"thickness": 2.4, "haze": 1}]}), "“haze” is missing"),
        (json!({"pieces": [{"thickness": 2.4, "haze": 1, "gap": 1}, {}]}), "“gap” is not asked for"),
        (json!({"pieces": [{"thickness": 2.4, "haze": -1e300}, {}]}), "too large to compute with"),
        (
            json!({"pieces": [{"thickness": -2.4, "haze": 0.2}, {"thickness": 2.4, "haze": 0.2}], "confirmed": true, "remark": "so"}),
            "thickness cannot be below 0",
        ),
        (json!({"identifiers": {"who": "Mara", "lot": "L9"}}), "“L9” is none of the choices of lot: L1, L2"),
        (json!({"pieces": beyond}), "24.01 of “thickness” is beyond belief: values from 2 to 3 are believed"),
        (json!({"pieces": beyond, "confirmed": true}), "needs a remark"),
        (json!({"pieces": [{"thickness": 2.4, "haze": 9.5}, {}]}), "values up to 9 are believed"),
        (json!({"counts": {"boards": 1}}), "“boards” is not asked for"),
    ] {
        let problem = refused(more);
        assert!(problem.contains(words), "{problem}");
    }
    entry(json!({"pieces": beyond, "confirmed": true, "remark": "die stuck"})).check(&plan, rules).unwrap();
    // Both ends are believed.
    entry(json!({"pieces": [{"thickness": 2.0, "haze": 9}, {"thickness": 3.0, "haze": 0}]})).check(&plan, rules).unwrap();
}

#[test]
fn values_beyond_specification_are_found_and_a_reaction_for_their_pattern_comes_first() {
    let limits = Limits { lsl: Some(2.4), usl: Some(2.45), ..Limits::default() };
    let found = entry(json!({})).beyond(|column| (column == "thickness").then_some(limits));
    assert_eq!(found.iter().map(|one| (one.piece, one.value, one.limit)).collect::<Vec<_>>(), [(2, 2.5, 2.45)]);
    let low = entry(json!({"pieces": [{"thickness": 2.39, "haze": 0}, {"thickness": 2.4, "haze": 0}]}));
    assert_eq!(low.beyond(|_| Some(limits)).iter().map(|one| one.limit).collect::<Vec<_>>(), [2.4, 2.4, 2.4]);
    let reactions = json!([{"on": "signal", "words": "call"}, {"on": "signal", "words": "stop", "pattern": "beyond-limits"},
        {"on": "beyond-specification", "words": "sort"}, {"on": "signal", "words": "wait", "pattern": "run"}]);
    let plan = plan(json!({"reactions": reactions}));
    let words = |on, pattern| plan.reactions_to(on, pattern).into_iter().map(|one| one.words).collect::<Vec<_>>();
    assert_eq!(words(Occasion::Signal, Some("beyond-limits")), ["stop", "call"]);
    assert_eq!(words(Occasion::Signal, None), ["call"]);
    assert_eq!(words(Occasion::BeyondSpecification, None), ["sort"]);
    let happened = Happened::beyond(&found, &plan).unwrap();
    assert_eq!((happened.sentence.as_str(), happened.reactions.len()), ("Piece 2: thickness 2.5 lies above USL 2.45.", 1));
    assert_eq!(Happened::beyond(&[], &plan), None);
    // The limit has as many decimals as the value beside it.
    let beyond = |piece, value, limit| Beyond { column: "flux".into(), piece, value, limit };
    let happened = Happened::beyond(&[beyond(1, 770.0, 780.0), beyond(3, 847.25, 840.0)], &plan).unwrap();
    assert_eq!(happened.sentence, "Piece 1: flux 770 lies below LSL 780. Piece 3: flux 847.25 lies above USL 840.00.");
    let signals = [("beyond-limits", "Value 47 lies above UCL."), ("run", "A run of 9 ends here."), ("trend", "A trend ends here.")];
    let happened = Happened::signals(&signals, &plan).unwrap();
    assert_eq!(happened.sentence, "Value 47 lies above UCL. It is part of 2 other signals too.");
    assert_eq!(happened.reactions[0].words, "stop");
}

const MINUTE: i64 = 60_000;

const fn at(hour: i64, minute: i64) -> i64 {
    1000 * 24 * 60 * MINUTE + (hour * 60 + minute) * MINUTE
}

fn missed(of: &[(&str, usize, usize)]) -> Vec<ShiftMissed> {
    of.iter().map(|&(shift, missed, of)| ShiftMissed { shift: shift.to_owned(), missed, of }).collect()
}

#[test]
fn due_times_stand_on_the_hour_and_an_entry_answers_the_nearest() {
    let every = Every { minutes: 60, pieces: 0, late_after: 10 };
    let shifts = Shift::usual();
    let due = |entries: &[i64], now: i64| standing(every, Calendar { midnight: at(0, 0), shifts: &shifts }, at(6, 20), entries, now);
    let next = |entries: &[i64], now: i64| {
        let Due { at, late, missed, of, .. } = due(entries, now);
        (at.unwrap(), late, missed, of)
    };
    // The first one is due after the plan began.
    assert_eq!(next(&[], at(6, 30)), (at(7, 0), false, 0, 0));
    assert_eq!(next(&[], at(7, 10)), (at(7, 0), false, 0, 0));
    assert!(due(&[], at(7, 11)).late);
    // Half an hour later it is the next that can be answered, and that one is missed.
    assert_eq!(next(&[], at(7, 30)), (at(8, 0), false, 1, 1));
    // A little early and a little late both count, twice counts once.
    let entries = [at(8, 9), at(6, 52), at(8, 10)];
    assert_eq!(next(&entries, at(8, 20)), (at(9, 0), false, 0, 1));
    assert_eq!(next(&entries, at(11, 40)), (at(12, 0), false, 3, 5));
    // From yesterday's midnight, or tomorrow's, it is the same grid; the clock of a station that is wrong by ages answers nothing.
    for day in [-1, 0, 1] {
        let calendar = Calendar { midnight: at(24 * day, 0), shifts: &shifts };
        let entries = [entries[0], entries[1], i64::MAX, i64::MIN];
        assert_eq!(standing(every, calendar, at(6, 20), &entries, at(11, 40)).missed, 3);
    }
}

#[test]
fn missed_ones_are_counted_by_the_shift_in_which_they_were_due() {
    let shifts = Shift::usual();
    let calendar = Calendar { midnight: at(0, 0), shifts: &shifts };
    let every = Every { minutes: 120, pieces: 0, late_after: 10 };
    // Due at 8, 10, 12 | 14, 16, 18, 20 | 22, 24, 2, 4 | 6; answered at 10, 14 and 24.
    let due = standing(every, calendar, at(7, 0), &[at(10, 0), at(14, 0), at(24, 0)], at(31, 0));
    assert_eq!(due.by_shift, missed(&[("early", 3, 4), ("late", 3, 4), ("night", 3, 4)]));
    assert_eq!((due.missed, due.of), (9, 12));
    assert_eq!(standing(every, Calendar { midnight: at(0, 0), shifts: &[] }, at(7, 0), &[], at(31, 0)).by_shift, []);
}

#[test]
fn every_so_many_pieces_one_is_due_at_each_multiple() {
    let shifts = Shift::usual();
    let every = Every { minutes: 0, pieces: 50, late_after: 5 };
    let due = |made: i64, entries: &[(i64, i64)]| {
        standing_by_pieces(every, Calendar { midnight: at(0, 0), shifts: &shifts }, [0, made], entries, at(15, 0))
    };
    let next = |made: i64, entries: &[(i64, i64)]| {
        let Due { at, left, late, missed, of, .. } = due(made, entries);
        assert_eq!(at, None);
        (left.unwrap(), late, missed, of)
    };
    assert_eq!(next(0, &[]), (50, false, 0, 0));
    assert_eq!((next(55, &[]), next(56, &[])), ((-5, false, 0, 0), (-6, true, 0, 0)));
    assert_eq!(next(60, &[(at(7, 0), 52)]), (40, false, 0, 0));
    // 100 and 150 were passed over, one before and one after the entry at 210; the missed one at 250 has no entry after it.
    let entries = [(at(7, 0), 52), (at(13, 30), 210)];
    assert_eq!(next(280, &entries), (20, false, 3, 5));
    assert_eq!(due(280, &entries).by_shift, missed(&[("early", 2, 4), ("late", 1, 1)]));
    // Looked back on from the entry at 210, only the one at 250 was missed.
    let late = standing_by_pieces(every, Calendar { midnight: at(0, 0), shifts: &shifts }, [210, 280], &[], at(15, 0));
    assert_eq!((late.missed, late.of), (1, 1));
}

#[test]
fn messages_gather_what_is_new_and_are_repeated_until_it_is_taken_on() {
    let patience = Patience { gather: 20, again: 600 };
    let new = |began_at| Untaken { began_at, tried_at: None, failed: 0 };
    let told = |tried_at, failed| Untaken { began_at: 0, tried_at: Some(tried_at), failed };
    assert!(!patience.is_up(&[], 1_000_000));
    assert_eq!([19, 20].map(|now| patience.is_up(&[new(0), new(15)], now)), [false, true]);
    // Something new does not wait for the repetition of what was told, nor is that told sooner by itself.
    assert_eq!([699, 700].map(|now| patience.is_up(&[told(100, 0)], now)), [false, true]);
    assert!(patience.is_up(&[told(100, 0), new(150)], 170));
    // A telling that fails is tried again after 5 s, 10 s, 20 s ..., never later than it would be repeated.
    let slow = Patience { gather: 0, again: 600_000 };
    let next = |failed| (0..1_000_000).step_by(1000).find(|now| slow.is_up(&[told(0, failed)], *now)).unwrap();
    assert_eq!([1, 2, 3, 8, 60].map(next), [5_000, 10_000, 20_000, 600_000, 600_000]);
    assert_eq!([599, 600].map(|later| patience.begins_anew(1000, 1000 + later)), [false, true]);
}

#[test]
fn an_address_says_how_its_holder_is_told() {
    assert_eq!(["https://desk.test/hook?x=1", "http://10.0.0.7:9/"].map(Way::of), [Some(Way::Webhook); 2]);
    assert_eq!(Way::of("mara@fennel-hollow.test"), Some(Way::Mail));
    for not in [
        "",
        "Mara",
        "mara@",
        "@b.test",
        "https://",
        "https:///x",
        "ftp://a.test",
        "a@b@c",
        "a@b.test\r\nBcc: c@d.test",
        "a b@c.test",
        "a@<b>",
    ] {
        assert_eq!(Way::of(not), None, "{not}");
    }
}

#[test]
fn lines_of_gauges_are_read_by_their_shape() {
    let shapes = ready_made().map(|(_, shape)| LinePattern::read(shape).unwrap());
    let read = |place: usize, line: &str| {
        let found = shapes[place].reading(line).unwrap_or_else(|error| panic!("{line}: {error}"));
        (found.value, found.unit.unwrap_or_default(), found.channel.unwrap_or_default())
    };
    let of = |value: f64, unit: &str, channel: &str| (value, unit.to_owned(), channel.to_owned());
    assert_eq!(read(0, "2.401"), of(2.401, "", ""));
    assert_eq!(read(0, " -0,52 mm\r\n"), of(-0.52, "mm", ""));
    assert_eq!(read(0, "+1.5e-3µm"), of(0.0015, "µm", ""));
    assert_eq!(read(1, "2: +1.25 mm"), of(1.25, "mm", "2"));
    assert_eq!(read(1, "B=7"), of(7.0, "", "B"));
    assert_eq!(read(2, "01A+002.401"), of(2.401, "", "01"));
    assert_eq!(read(2, "A-12.5mm"), of(-12.5, "mm", ""));
    for line in ["", "mm", "2.4.1", "--2", "ready", "2 401", "1e999", "9".repeat(600).as_str()] {
        assert!(shapes[0].reading(line).is_err(), "{line}");
    }
    assert!(LinePattern::read("(").unwrap_err().to_string().starts_with("the pattern cannot be read"));
    assert!(LinePattern::read("\\d+").unwrap_err().to_string().contains("no group “value”"));
    assert!(LinePattern::read(&"a".repeat(501)).is_err());
    assert!(LinePattern::read("(?<value>\\d{1,200}){1000}{1000}").is_err(), "no pattern takes the memory of the service");
    let reading = shapes[0].reading("2.4 MM").unwrap();
    assert!(
        reading.check_unit("x", Some("mm")).is_ok() && reading.check_unit("x", None).is_ok() && reading.check_unit("x", Some(" ")).is_ok()
    );
    assert_eq!(reading.check_unit("thickness", Some("in")).unwrap_err().to_string(), "the gauge reads in MM, and “thickness” is in in");
    assert!(shapes[0].reading("3 mW").unwrap().check_unit("x", Some("MW")).is_err(), "a milliwatt is no megawatt");
    let [micro, mu] = ["3 \u{b5}m", "3 \u{3bc}m"].map(|line| shapes[0].reading(line).unwrap());
    assert!(micro.check_unit("x", mu.unit.as_deref()).is_ok());
}

proptest! {
    #[test]
    fn whatever_a_gauge_sends_is_a_number_or_is_refused(line in "[ -~µ]{0,24}", shape in 0..3_usize) {
        if let Ok(reading) = LinePattern::read(ready_made()[shape].1).unwrap().reading(&line) {
            prop_assert!(reading.value.is_finite());
        }
    }

    #[test]
    fn an_entry_that_is_taken_has_a_cell_for_every_column(values in prop::collection::vec(-4.0..4.0_f64, 0..5), confirmed: bool) {
        let plan = plan(json!({}));
        let pieces = values.iter().map(|value| BTreeMap::from([("thickness".to_owned(), *value), ("haze".to_owned(), 1.0)])).collect();
        let said = Entry { pieces, confirmed, remark: "x".into(), ..entry(json!({})) };
        if said.check(&plan, rules).is_ok() {
            prop_assert!(confirmed || values.iter().all(|value| (2.0..=3.0).contains(value)));
            prop_assert_eq!(said.rows(&plan, 1).iter().map(Vec::len).collect::<Vec<_>>(), [8, 8]);
        }
    }
}
