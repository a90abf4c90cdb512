//! The demo data of Fennel Hollow Lamp Works, maker of rechargeable bicycle lamps. Made up, seeded, and
//! told in demo/README.md.

mod calendar;
mod defects;
mod random;

use std::fmt::Write;
use std::path::Path;

use anyhow::Result;
use jiff::ToSpan;

use calendar::{SHIFTS, stamp, start};

use crate::random::Random;

fn main() -> Result<()> {
    write_all(&Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo"))
}

/// Writes every file.
fn write_all(folder: &Path) -> Result<()> {
    let files: [(&str, String); 19] = [
        ("lens-thickness-press-2.csv", lens_thickness()),
        ("beam-flux.csv", beam_flux()),
        ("seal-leak-rate.csv", seal_leak_rate()),
        ("groove-depth.csv", groove_depth()),
        ("battery-run-time.csv", battery_run_time()),
        ("final-check.csv", final_check()),
        ("led-reels.csv", led_reels()),
        ("groove-gauge-study.csv", groove_gauge_study()),
        ("bond-strength.csv", bond_strength()),
        ("flux-meter-master.csv", flux_meter_master()),
        ("flux-meter-range.csv", flux_meter_range()),
        ("solder-inspection.csv", solder_inspection()),
        ("edge-gap-sheet.csv", edge_gap_sheet()),
        ("defect-log.csv", defects::log_and_totals().0),
        ("defect-summary.csv", defects::log_and_totals().1),
        ("housing-wall.csv", housing_wall()),
        ("burn-in.csv", burn_in()),
        ("converter-efficiency.csv", converter_efficiency()),
        ("lens-dimensions.csv", lens_dimensions()),
    ];
    for (name, text) in files {
        std::fs::write(folder.join(name), text)?;
    }
    Ok(())
}

/// Thirty samples of five from press 2, as the press prints them: semicolons, decimal commas, lines above
/// the header, a total, one value with a letter O. Slow drift up, then a shift down after sample 18.
fn lens_thickness() -> String {
    let mut random = Random::seeded(1);
    let mut text = String::from(
        "Fennel Hollow Lamp Works;;;;;\nExport press 2;;;;;printed 08.05.2026\n\ntaken at;sample;shift;lens thickness;edge gap;remark\n",
    );
    for sample in 0..30 {
        let middle = if sample < 18 { 2.3985 + 0.0003 * f64::from(sample) } else { 2.3885 } + random.normal(0.0, 0.002);
        let middle = if sample == 6 { middle + 0.020 } else { middle };
        let begins = start() + (sample / 8).days() + (sample % 8 * 2).hours();
        for piece in 0..5 {
            let thickness = format!("{:.3}", random.normal(middle, 0.0118)).replace('.', ",");
            let thickness = if (sample, piece) == (8, 2) { thickness.replacen('0', "O", 1) } else { thickness };
            let gap = format!("{:.2}", (random.normal(-0.6, 0.55)).exp()).replace('.', ",");
            let gap = if (sample, piece) == (8, 4) { String::new() } else { gap };
            let remark = match (sample, piece) {
                (6, 0) => "hopper refilled",
                (8, 2) => "typed on tablet",
                (18, 0) => "after die change",
                _ => "",
            };
            let at = (begins + piece.minutes()).strftime("%d.%m.%Y %H:%M");
            let shift = SHIFTS[if sample % 8 < 4 { 0 } else { 1 }];
            writeln!(text, "{at};{};{shift};{thickness};{gap};{remark}", sample + 1).expect("text grows");
        }
    }
    text + "Total;150;;;;\n"
}

/// One lamp after the other at final test: one weak lamp, and a run of dim ones from a batch of LEDs.
fn beam_flux() -> String {
    let mut random = Random::seeded(100);
    let mut text = String::from("lamp,tested at,bench,beam flux\n");
    for lamp in 0..120i32 {
        // A draw beyond 2.3 sd would be a signal of its own; the story has two.
        let noise = std::iter::repeat_with(|| random.standard()).find(|z| z.abs() < 2.0).unwrap_or(0.0);
        let shift = match lamp {
            47 => -33.0,
            83..=93 => -6.0 - 2.0 * noise.max(0.0),
            _ => 0.0,
        };
        let at = stamp(start() + (lamp / 40).days() + (lamp % 40 * 12).minutes());
        writeln!(text, "{},{at},bench {},{:.1}", 4101 + lamp, ["A", "B", "C"][lamp as usize % 3], 512.0 + 8.2 * noise + shift)
            .expect("text grows");
    }
    text
}

/// Leak rate of the lamp seal: skewed, cannot be below 0.
fn seal_leak_rate() -> String {
    let mut random = Random::seeded(104);
    let mut text = String::from("lamp,tested at,leak bench,seal leak rate\n");
    for lamp in 0..100i32 {
        let at = stamp(start() + (lamp / 25).days() + (lamp % 25 * 18).minutes());
        let bench = random.whole(1, 2);
        writeln!(text, "{},{at},leak bench {bench},{:.2}", 5201 + lamp, random.normal(-0.45, 0.42).exp()).expect("text grows");
    }
    text
}

/// Groove depth of the housing in samples of five: the spread fits, the aim does not.
fn groove_depth() -> String {
    let mut random = Random::seeded(113);
    let mut text = String::from("taken at,sample,groove depth\n");
    for sample in 0..25 {
        let middle = random.normal(1.230, 0.006);
        for piece in 0..5 {
            let at = stamp(start() + (sample / 5).days() + (sample % 5 * 3).hours() + piece.minutes());
            writeln!(text, "{at},{},{:.3}", sample + 1, random.normal(middle, 0.025)).expect("text grows");
        }
    }
    text
}

/// Battery run time on the endurance rig, hours.
fn battery_run_time() -> String {
    let mut random = Random::seeded(102);
    let mut text = String::from("lamp,started at,cell maker,run time\n");
    for lamp in 0..80i32 {
        let at = stamp(start() + (lamp / 8).days() + (lamp % 8 * 20).minutes());
        let maker = ["Brook", "Larch"][random.whole(0, 1) as usize];
        writeln!(text, "{},{at},{maker},{:.2}", 6301 + lamp, random.normal(5.3, 0.2)).expect("text grows");
    }
    text
}

/// Final check per shift: inspected, rejected, defects.
fn final_check() -> String {
    let mut random = Random::seeded(6);
    let mut text = String::from("day,shift,inspected,rejected,defects\n");
    for shift in 0..60usize {
        let inspected = random.whole(180, 420);
        let rate = if shift == 37 { 0.075 } else { 0.031 };
        let rejected = random.binomial(inspected, rate);
        let defects = rejected + random.poisson(inspected as f64 * 0.012);
        let day = (start() + ((shift / 3) as i64).days()).strftime("%Y-%m-%d");
        writeln!(text, "{day},{},{inspected},{rejected},{defects}", SHIFTS[shift % 3]).expect("text grows");
    }
    text
}

/// Reels of about 40,000 LEDs: the share of dim ones differs from reel to reel more than counting explains.
fn led_reels() -> String {
    let mut random = Random::seeded(7);
    let mut text = String::from("reel,supplier,checked,dim\n");
    for reel in 0..24usize {
        let checked = random.whole(38_000, 44_000);
        let rate = if reel == 15 { 0.0168 } else { (0.0125 + 0.0009 * random.standard()).max(0.004) };
        writeln!(text, "R{:03},{},{checked},{}", 701 + reel, ["Tarn", "Wold"][reel % 2], random.binomial(checked, rate))
            .expect("text grows");
    }
    text
}

/// Groove-depth gauge study: 10 housings x 3 inspectors x 3 trials; one inspector reads high.
fn groove_gauge_study() -> String {
    let mut random = Random::seeded(8);
    let housings: Vec<f64> = (0..10).map(|_| random.normal(1.205, 0.032)).collect();
    let mut text = String::from("housing,inspector,trial,groove depth\n");
    for trial in 1..=3 {
        for (name, bias) in [("Ida", 0.0), ("Jonas", 0.004), ("Mei", -0.001)] {
            for (housing, depth) in housings.iter().enumerate() {
                writeln!(text, "{},{name},{trial},{:.3}", housing + 1, random.normal(depth + bias, 0.004)).expect("text grows");
            }
        }
    }
    text
}

/// Pulling the seal off destroys it: each tester has batches of their own, three strips of each. The rig will do.
fn bond_strength() -> String {
    let mut random = Random::seeded(21);
    let mut text = String::from("tester,batch,strip,bond strength\n");
    for (tester, pull) in [("Petra", 1.6), ("Oskar", -0.4), ("Noor", 0.0)] {
        for batch in 1..=6 {
            let strength = random.normal(64.0, 5.2);
            for strip in 1..=3 {
                let force = random.normal(strength + pull, 1.3);
                writeln!(text, "{tester},{}{batch},{strip},{force:.1}", &tester[..1]).expect("text grows");
            }
        }
    }
    text
}

/// One reference lamp on the flux meter, again and again: it repeats well and reads a little high.
fn flux_meter_master() -> String {
    let mut random = Random::seeded(22);
    let mut text = String::from("reading,beam flux\n");
    for reading in 1..=50 {
        writeln!(text, "{reading},{:.1}", random.normal(500.9, 0.55)).expect("text grows");
    }
    text
}

/// Five reference lamps over the range of the flux meter, twelve readings each: high where it is dim, low where it is bright.
fn flux_meter_range() -> String {
    let mut random = Random::seeded(23);
    let mut text = String::from("reference lamp,known flux,reading,beam flux\n");
    for (lamp, known) in [("R200", 200.0), ("R400", 400.0), ("R600", 600.0), ("R800", 800.0), ("R1000", 1000.0)] {
        for reading in 1..=12 {
            let flux = random.normal(known + 3.2 - 0.009 * known, 1.4);
            writeln!(text, "{lamp},{known:.0},{reading},{flux:.1}").expect("text grows");
        }
    }
    text
}

/// Forty solder joints of known state, three inspectors, two looks: Lena lets cold joints pass, two joints divide everyone.
fn solder_inspection() -> String {
    let mut random = Random::seeded(24);
    let is_bad: Vec<bool> = (0..40).map(|joint| joint % 5 < 2).collect();
    let mut text = String::from("joint,inspector,look,judgement,true state\n");
    for look in 1..=2 {
        for inspector in ["Hanna", "Lena", "Tomas"] {
            for (joint, bad) in is_bad.iter().enumerate() {
                let doubtful = joint == 16 || joint == 27;
                let wrong = match (inspector, bad) {
                    _ if doubtful => 0.5,
                    ("Lena", true) => 0.22,
                    (_, true) => 0.02,
                    (_, false) => 0.03,
                };
                let says_bad = *bad != (random.share() < wrong);
                let state = |bad: bool| if bad { "reject" } else { "accept" };
                writeln!(text, "J{:02},{inspector},{look},{},{}", joint + 1, state(says_bad), state(*bad)).expect("text grows");
            }
        }
    }
    text
}

/// The first readings of a planned study of the edge gap, in the order of its sheet: the parts of the catalog's plan.
fn edge_gap_sheet() -> String {
    let mut random = Random::seeded(25);
    let gaps: Vec<f64> = (0..10).map(|_| random.normal(2.1, 0.14)).collect();
    let sheet = edge_gap_plan().sheet().expect("the plan can be made");
    let texts = |name: &str| {
        let column = sheet.columns.iter().find(|column| column.name == name).expect("every sheet has it");
        (0..41).map(|row| column.values.text(row).unwrap_or_default()).collect::<Vec<_>>()
    };
    let mut text = String::from("edge gap\n");
    for (part, operator) in texts("part").iter().zip(texts("operator")) {
        let place: usize = part.parse().expect("parts are numbered");
        let bias = if operator == "Jonas" { 0.012 } else { 0.0 };
        writeln!(text, "{:.2}", random.normal(gaps[place - 1] + bias, 0.02)).expect("text grows");
    }
    text
}

/// The plan of the sheet, as the catalog has it.
fn edge_gap_plan() -> acorn_study::gauge::plan::Plan {
    let catalog: serde_json::Value = serde_json::from_str(include_str!("../../../demo/catalog.json")).expect("the catalog is JSON");
    let item = catalog.as_array().expect("a list").iter().find(|item| item["file"] == "edge-gap-sheet.csv").expect("its sheet");
    serde_json::from_value(item["plan"].clone()).expect("a plan")
}

/// Wall thickness of the housing: mould, hour, piece, position. Position within the piece matters most.
fn housing_wall() -> String {
    let mut random = Random::seeded(101);
    let mut text = String::from("mould,hour,piece,position,wall thickness\n");
    for (mould, offset) in [("A", 0.0), ("B", 0.012), ("C", -0.006)] {
        for hour in 1..=6 {
            let at_hour = random.normal(0.0, 0.008);
            for piece in 1..=5 {
                let of_piece = random.normal(0.0, 0.010);
                for (position, lean) in [("gate", 0.035), ("middle", 0.0), ("rim", -0.030)] {
                    let wall = 1.80 + offset + at_hour + of_piece + lean + random.normal(0.0, 0.012);
                    writeln!(text, "{mould},{hour},{piece},{position},{wall:.3}").expect("text grows");
                }
            }
        }
    }
    text
}

/// Burn-in, a row a lamp: bench 3 fails more often than the others.
fn burn_in() -> String {
    let mut random = Random::seeded(11);
    let mut text = String::from("lamp,bench,shift,result\n");
    for lamp in 0..1200usize {
        let bench = lamp % 4;
        let fails = random.share() < if bench == 2 { 0.058 } else { 0.024 };
        let shift = SHIFTS[random.whole(0, 2) as usize];
        writeln!(text, "{},bench {},{shift},{}", 20001 + lamp, bench + 1, if fails { "fail" } else { "pass" }).expect("text grows");
    }
    text
}

/// Efficiency of the converter from the lab: falls with temperature, bends with the input voltage.
fn converter_efficiency() -> String {
    let mut random = Random::seeded(101);
    let mut text = String::from("converter,input voltage,temperature,inductance,efficiency\n");
    for converter in 0..150i32 {
        let voltage = 3.0 + 1.2 * random.share();
        let temperature = random.normal(32.0, 9.0);
        let inductance = random.normal(4.7, 0.25);
        let efficiency = 91.4 - 3.1 * (voltage - 3.7) * (voltage - 3.7) - 0.045 * (temperature - 25.0)
            + 0.9 * (inductance - 4.7)
            + random.normal(0.0, 0.35);
        writeln!(text, "{},{voltage:.2},{temperature:.1},{inductance:.2},{efficiency:.2}", 301 + converter).expect("text grows");
    }
    text
}

/// Lenses of four cavities as they are received, each measured in seven ways: most hold their limits, the diameter sits
/// high, the haze is skewed, the rib height wanders and cavity 3 presses it low.
fn lens_dimensions() -> String {
    let mut random = Random::seeded(908);
    let mut text = String::from("received at,cavity,thickness,diameter,sagitta,edge flatness,haze,transmission,rib height\n");
    let mut wander = 0.0;
    for lens in 0..120i32 {
        let at = stamp(start() + (lens * 24).minutes());
        let cavity = lens % 4 + 1;
        wander = 0.92 * wander + random.normal(0.0, 0.012);
        let thickness = random.normal(2.401, 0.0115);
        let diameter = random.normal(32.052, 0.0185);
        let sagitta = random.normal(5.198, 0.0205);
        let flatness = random.normal(21.0, 4.1).abs();
        let haze = random.normal(-1.05, 0.38).exp();
        let transmission = random.normal(92.6, 0.48);
        let rib = random.normal(1.206 + wander, 0.016) - if cavity == 3 { 0.035 } else { 0.0 };
        writeln!(text, "{at},{cavity},{thickness:.3},{diameter:.3},{sagitta:.3},{flatness:.1},{haze:.2},{transmission:.1},{rib:.2}")
            .expect("text grows");
    }
    text
}
