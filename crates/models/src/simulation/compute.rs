//! From a model to its numbers.

use super::answer::Answer;
use super::numbers::{
    CheapestNumbers, ControlNumbers, DensityPoint, InputNumbers, Judged, LineNumbers, Numbers, Out, Percentile, ResponseNumbers, Scaled,
    SearchNumbers, Setting, ShareNumbers,
};
use super::params::Params;
use super::standing::standing;
use super::words;
use crate::model::run::{Run, Tally, run};
use crate::model::search::{Best, Plan, search};
use crate::model::shares::{Share, shares};
use crate::model::stack::{Stack, stacks};
use crate::model::summary::{Cells, SHARES};
use crate::model::tightening::{Cheapest, Line, cheapest, lines};
use crate::model::{Distribution, Drawn, Follows, Model, Source};
use acorn_data::figure::histogram::round_bins;
use acorn_data::formula::Notation;
use acorn_data::frame::Limits;
use acorn_maths::tails::share_interval;
use acorn_maths::words::ValueFormat;
use acorn_study::dial::Dial;
use acorn_study::{Cancel, StudyError, Tone};

/// Draws by which tightened sets are compared.
const COMPARED: usize = 20_000;

/// Runs the model and all that is asked about it.
///
/// # Errors
/// [`StudyError::Stopped`].
pub fn answer(params: Params, cancel: &Cancel) -> Result<Answer, StudyError> {
    let Params { model, inputs, draws, seed, sampling, sensitivity, correlations, tightening, search: plan } = params;
    cancel.draws_from(seed);
    let ran = run(&model, draws, seed, sampling, cancel)?;
    let shared = if sensitivity && correlations == 0 { Some(shares(&model, draws, seed, cancel)?) } else { None };
    let source = Source::of(seed, sampling, draws);
    let scales = tightening.as_ref().map(|tightening| tightening.scales.clone()).unwrap_or_default();
    let lined = if scales.is_empty() { None } else { Some(lines(&model, &scales, &ran, source, cancel)?) };
    let goal = tightening.and_then(|tightening| tightening.goal);
    let cheapest = match goal {
        Some(goal) => cheapest(&model, goal, draws.min(COMPARED), seed, cancel)?,
        None => None,
    };
    let found = plan.as_ref().map(|plan| search(&model, plan, draws, seed, cancel)).transpose()?;
    let stacked = stacks(&model);
    let responses = model.responses.iter().enumerate().map(|(place, follows)| {
        let told = Told {
            shares: shared.as_ref().and_then(|shared| shared[place].as_deref()),
            lines: lined.as_ref().map(|lined| &lined[place][..]),
            stack: stacked[place],
        };
        response(&model, follows, place, &ran, told)
    });
    let responses: Vec<ResponseNumbers> = responses.collect();
    let mut parts: Vec<String> = Vec::new();
    let named = model.drawn.iter().map(|one| &one.part).chain(model.controls.iter().map(|one| &one.part));
    for part in named.chain(model.responses.iter().map(|one| &one.stated.part)).filter(|part| !part.trim().is_empty()) {
        if !parts.contains(part) {
            parts.push(part.clone());
        }
    }
    let numbers = Numbers {
        draws,
        seed,
        sampling,
        inputs: model.drawn.iter().map(|drawn| input(drawn, &model)).collect(),
        controls: model
            .controls
            .iter()
            .map(|control| ControlNumbers {
                name: control.name.trim().to_owned(),
                unit: control.unit.clone(),
                part: control.part.clone(),
                value: control.value,
                words: words::control(control),
            })
            .collect(),
        search: plan.as_ref().zip(found).map(|(plan, best)| searched(&model, plan, best)),
        cheapest: cheapest.as_ref().zip(goal).map(|(cheapest, goal)| tightened(&model, cheapest, goal)),
        responses,
        parts,
        scales,
    };
    Ok(Answer { numbers, model, inputs, not_parted: sensitivity && correlations > 0, goal })
}

/// What else is told of a response.
struct Told<'a> {
    shares: Option<&'a [Share]>,
    lines: Option<&'a [Line]>,
    stack: Option<Stack>,
}

fn response(model: &Model, follows: &Follows, place: usize, ran: &Run, told: Told) -> ResponseNumbers {
    let (stated, tally) = (&follows.stated, &ran.tallies[place]);
    let pieces = ran.pieces(place);
    let there = tally.n > 0.0;
    let cells = there.then(|| Cells::of(&pieces, [tally.low, tally.high]));
    let values = cells.as_ref().map(|cells| cells.percentiles(&pieces, &SHARES)).unwrap_or_default();
    let (bars, beyond) = match (&cells, &values[..]) {
        (Some(cells), [least, .., most]) => cells.bars(&pieces, [tally.low, tally.high], [*least, values[SHARES.len() / 2], *most]),
        _ => (Vec::new(), [0, 0]),
    };
    let finite = |number: f64| Some(number).filter(|number| there && number.is_finite());
    let (mean, sd) = (finite(tally.mean), finite(tally.sd()));
    let judged = judged(model, place, tally);
    let limited = stated.lsl.is_some() || stated.usl.is_some();
    let share = |count: f64| count / tally.n.max(1.0);
    let out = (limited && there).then(|| Out {
        below: stated.lsl.map(|_| share(tally.below)),
        above: stated.usl.map(|_| share(tally.above)),
        total: tally.out(),
        error: (tally.out() * (1.0 - tally.out()) / tally.n).sqrt(),
        ci95: share_interval(tally.below + tally.above, tally.n),
    });
    let spread = sd.filter(|sd| *sd > 0.0);
    let name = |input: usize| model.drawn[input].name.clone();
    ResponseNumbers {
        name: stated.name.trim().to_owned(),
        unit: stated.unit.clone(),
        part: stated.part.clone(),
        notation: Notation::of(&follows.formula),
        takes: model.takes(place),
        mean,
        mean_error: sd.map(|sd| sd / tally.n.sqrt()),
        sd,
        low: finite(tally.low),
        high: finite(tally.high),
        undefined: tally.undefined as usize,
        percentiles: SHARES.iter().zip(values).map(|(share, value)| Percentile { share: *share, value }).collect(),
        lsl: stated.lsl,
        target: stated.target,
        usl: stated.usl,
        pp: stated.lsl.zip(stated.usl).zip(spread).map(|((lsl, usl), sd)| (usl - lsl) / (6.0 * sd)),
        ppk: judged.ppk,
        out,
        bars,
        beyond,
        shares: told.shares.map(|shares| {
            let share = |(input, share): (usize, &Share)| ShareNumbers {
                name: name(input),
                first: share.first,
                first_error: share.first_error,
                total: share.total,
                total_error: share.total_error,
            };
            shares.iter().enumerate().map(share).collect()
        }),
        tightening: told.lines.map(|lines| {
            let line = |(input, line): (usize, &Line)| LineNumbers {
                name: name(input),
                sd: line.sd.clone(),
                out: limited.then(|| line.out.clone()),
            };
            lines.iter().enumerate().map(line).collect()
        }),
        stack: told.stack,
        tone: out.map_or(Tone::Unsure, |out| standing(&out, judged.ppk).tone()),
        unit_doubts: follows.doubts.clone(),
        dial: Dial {
            limits: Limits { lsl: stated.lsl, target: stated.target, usl: stated.usl },
            mean,
            sd_within: sd,
            ppk: judged.ppk,
            steady: true,
            ..Dial::default()
        },
        writer: ValueFormat::fine(&stated.unit, 1.0, sd.unwrap_or(0.0)),
    }
}

fn judged(model: &Model, place: usize, tally: &Tally) -> Judged {
    let stated = &model.responses[place].stated;
    let sd = tally.sd();
    let room = |distance: f64| distance / (3.0 * sd);
    let sides = [stated.usl.map(|usl| room(usl - tally.mean)), stated.lsl.map(|lsl| room(tally.mean - lsl))];
    let ppk = sides.into_iter().flatten().reduce(f64::min).filter(|ppk| ppk.is_finite() && sd > 0.0);
    let limited = stated.lsl.is_some() || stated.usl.is_some();
    Judged { name: stated.name.trim().to_owned(), mean: tally.mean, sd, out: limited.then(|| tally.out()), ppk }
}

/// Points of a density.
const POINTS: usize = 61;
/// The share of a density that its picture leaves out on either side.
const CUT: f64 = 0.0005;

fn input(drawn: &Drawn, model: &Model) -> InputNumbers {
    let distribution = &drawn.distribution;
    let (low, high) = (distribution.quantile(CUT, 1.0 - CUT), distribution.quantile(1.0 - CUT, CUT));
    let drawn_curve = !matches!(distribution, Distribution::Constant(_) | Distribution::Data(_)) && high > low;
    let point = |place: usize| {
        let value = low + (high - low) * place as f64 / (POINTS - 1) as f64;
        distribution.density(value).map(|density| DensityPoint { value, density })
    };
    let sd = distribution.sd();
    InputNumbers {
        name: drawn.name.clone(),
        unit: drawn.unit.clone(),
        part: drawn.part.clone(),
        words: words::input(drawn),
        mean: distribution.mean(),
        sd,
        percentiles: SHARES.iter().map(|share| Percentile { share: *share, value: distribution.quantile(*share, 1.0 - share) }).collect(),
        curve: if drawn_curve { (0..POINTS).filter_map(point).collect() } else { Vec::new() },
        bars: if let Distribution::Data(values) = distribution { round_bins(values, 24) } else { Vec::new() },
        column: drawn.link.as_ref().map(|link| link.column.clone()),
        n: drawn.link.as_ref().map(|link| link.n),
        control: drawn.control.map(|control| model.controls[control].name.trim().to_owned()),
        spread: drawn.spread,
        writer: ValueFormat::fine(&drawn.unit, 1.0, sd.unwrap_or(high - low)),
    }
}

fn tightened(model: &Model, found: &Cheapest, goal: f64) -> CheapestNumbers {
    let moved = model.drawn.iter().zip(&found.scales).filter(|(_, scale)| **scale < 1.0);
    let set = moved.map(|(drawn, scale)| Scaled { name: drawn.name.clone(), scale: *scale }).collect();
    CheapestNumbers { goal, reached: found.reached, out: found.out, cost: found.cost, set }
}

fn searched(model: &Model, plan: &Plan, best: Best) -> SearchNumbers {
    let all = |tallies: &[Tally]| tallies.iter().enumerate().map(|(place, tally)| judged(model, place, tally)).collect::<Vec<Judged>>();
    let (responses_before, responses_after) = (all(&best.before), all(&best.after));
    let first = plan.counted.first().map_or(0, |counted| counted.response);
    let setting = |found: &crate::model::search::Found| {
        let control = &model.controls[found.control];
        Setting {
            name: control.name.trim().to_owned(),
            value: found.value,
            was: control.value,
            low: found.range.low,
            high: found.range.high,
            border: found.border,
            slack: found.slack,
            writer: ValueFormat::fine(&control.unit, 1.0, (found.range.high - found.range.low) / 20.0),
        }
    };
    SearchNumbers {
        goal: plan.goal,
        best: best.found.iter().map(setting).collect(),
        before: responses_before[first].clone(),
        after: responses_after[first].clone(),
        responses_before,
        responses_after,
        tried: best.tried,
        better: best.better,
    }
}
