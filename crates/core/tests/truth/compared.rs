//! Groups, relations and kinds of defects.

use rand::RngExt;
use serde_json::{Value, json};

use super::{Asked, Process, Random, Right, normal, read};

fn groups(random: &mut Random, n: usize, shift: f64, sds: [f64; 2]) -> Value {
    let x = normal(random, 2 * n).into_iter().enumerate().map(|(at, value)| if at < n { sds[0] * value } else { shift + sds[1] * value });
    json!({"x": read(x.map(|value| 10.0 + value), 4), "machine": (0..2 * n).map(|at| if at < n { "A" } else { "B" }).collect::<Vec<_>>()})
}

fn compared(columns: Value) -> Asked {
    Asked::of(columns, json!({"method": "compare", "roles": {"measure": "x", "group": "machine"}, "options": {}}))
}

fn related(x: Vec<f64>, y: Vec<f64>) -> Asked {
    Asked::of(json!({"temperature": x, "y": y}), json!({"method": "relation", "roles": {"x": "temperature", "y": "y"}, "options": {}}))
}

/// So many defects of each kind by these shares.
fn kinds(random: &mut Random, shares: &[f64]) -> Asked {
    let one = |random: &mut Random| {
        let mut left: f64 = random.random_range(0.0..1.0);
        let kind = shares.iter().position(|share| {
            left -= share;
            left < 0.0
        });
        format!("kind {}", kind.unwrap_or(0))
    };
    let all: Vec<String> = (0..200).map(|_| one(random)).collect();
    Asked::of(json!({ "kind": all }), json!({"method": "pareto", "roles": {"category": "kind"}, "options": {}}))
}

pub fn all() -> Vec<Process> {
    vec![
        Process::new("two machines alike", Right::Titles(&["No difference shown"]), 0.9, |random| {
            compared(groups(random, 40, 0.0, [0.01; 2]))
        }),
        Process::new("means alike, sds 0.031 and 0.008", Right::Titles(&["Spreads differ", "They differ"]), 0.95, |random| {
            compared(groups(random, 40, 0.0, [0.031, 0.008]))
        }),
        Process::new(
            "apart by 0.3 % of the tolerance, 3,000 values each",
            Right::Titles(&["They differ by next to nothing"]),
            0.95,
            |random| compared(groups(random, 3000, 0.003, [0.01; 2])).within(9.5, 10.5),
        ),
        Process::new("a peak at 180 degrees", Right::Says("with a peak at", &[]), 0.95, |random| {
            let x: Vec<f64> = (0..80).map(|at| 160.0 + 0.5 * at as f64).collect();
            let y = x.iter().zip(normal(random, 80)).map(|(x, value)| 20.0 - ((x - 180.0) / 20.0).powi(2) * 10.0 + 0.8 * value);
            let y = read(y, 2);
            related(x, y)
        }),
        Process::new("one far point makes the line", Right::Titles(&["One point makes it"]), 0.9, |random| {
            let (mut x, mut y) = (read(normal(random, 40), 2), read(normal(random, 40), 2));
            (x[7], y[7]) = (15.0, 15.0);
            related(x, y)
        }),
        Process::new("nothing goes together", Right::Titles(&["Not shown"]), 0.9, |random| {
            related(read(normal(random, 60), 2), read(normal(random, 60), 2))
        }),
        Process::new("groups turn the line round", Right::Titles(&["Turned round"]), 0.95, |random| {
            let group = |at: usize| (at / 40) as f64;
            let own = normal(random, 120);
            let x: Vec<f64> = own.iter().enumerate().map(|(at, value)| 3.0 * group(at) + value).collect();
            let noise = normal(random, 120);
            let y = (0..120).map(|at| 4.0 * group(at) - 0.8 * own[at] + 0.4 * noise[at]);
            let columns =
                json!({"temperature": read(x, 2), "y": read(y, 2), "oven": (0..120).map(|at| format!("O{}", at / 40)).collect::<Vec<_>>()});
            Asked::of(columns, json!({"method": "relation", "roles": {"x": "temperature", "y": "y", "group": "oven"}, "options": {}}))
        }),
        Process::new("one kind makes 75 %", Right::Titles(&["One kind leads"]), 0.98, |random| kinds(random, &[0.75, 0.10, 0.10, 0.05])),
        Process::new("six kinds alike", Right::Titles(&["No kind leads"]), 0.9, |random| kinds(random, &[1.0 / 6.0; 6])),
        Process::new("each shift has one operator", Right::Says("cannot be told apart", &[]), 0.95, |random| {
            let shifts: Vec<usize> = (0..180).map(|_| random.random_range(0..3)).collect();
            let x = normal(random, 180).into_iter().zip(&shifts).map(|(value, shift)| value + 2.0 * *shift as f64);
            let columns = json!({
                "x": read(x, 2),
                "shift": shifts.iter().map(|shift| format!("S{shift}")).collect::<Vec<_>>(),
                "operator": shifts.iter().map(|shift| ["Ann", "Bob", "Cy"][*shift]).collect::<Vec<_>>(),
            });
            Asked::of(columns, json!({"method": "multi-vari", "roles": {"measure": "x", "factors": ["shift", "operator"]}, "options": {}}))
        }),
    ]
}
