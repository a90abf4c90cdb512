//! A statement put together: names that mean one thing each, responses in an order in which each finds what it needs.

use std::collections::HashMap;

use super::correlated::Mixing;
use super::distribution::Distribution;
use super::draws::Drawer;
use super::links::{self, Link};
use super::statement::{Control, Correlation, Input, NAME_MOST, Response};
use acorn_data::formula::{Formula, Operand, PI, Program, Unit, in_order, unit_of};
use acorn_data::frame::Frame;
use acorn_study::StudyError;
use acorn_study::reading::bad;

/// Something that is drawn: an input, or a setting that is not held exactly.
#[derive(Clone, Debug)]
pub struct Drawn {
    /// Its name.
    pub name: String,
    /// Its unit.
    pub unit: String,
    /// Its part of the model.
    pub part: String,
    /// How it is distributed.
    pub distribution: Distribution,
    /// The name of that distribution.
    pub named: String,
    /// What its spread was multiplied by.
    pub spread: f64,
    /// The column that it is taken from.
    pub link: Option<Link>,
    /// What a step of tightening costs.
    pub cost: Option<f64>,
    /// The control whose setting it is.
    pub control: Option<usize>,
    pub(super) drawer: Drawer,
}

/// A response with the formula that it follows.
#[derive(Clone, Debug)]
pub struct Follows {
    /// As it stands in the statement.
    pub stated: Response,
    /// Its formula.
    pub formula: Formula,
    /// What each of its names means.
    meanings: Vec<Meaning>,
    /// What its units make doubtful.
    pub doubts: Vec<String>,
}

/// What a name means.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum Meaning {
    Drawn(usize),
    Control(usize),
    Response(usize),
    Constant(f64),
}

/// A spread is multiplied by so much at most.
const SPREAD_MOST: f64 = 100.0;

/// A model that can be run.
#[derive(Clone, Debug)]
pub struct Model {
    /// What is drawn: the inputs in their order, then the settings that are not held exactly.
    pub drawn: Vec<Drawn>,
    /// The settings.
    pub controls: Vec<Control>,
    /// The responses in their order.
    pub responses: Vec<Follows>,
    /// The same, each after those that it needs.
    pub(super) order: Vec<usize>,
    pub(super) mixing: Option<Mixing>,
}

impl Model {
    /// Puts a statement together.
    ///
    /// # Errors
    /// [`StudyError::BadOption`] naming the option, the item and, in a formula, the character.
    pub fn read(
        inputs: Vec<Input>,
        controls: Vec<Control>,
        responses: Vec<Response>,
        correlations: &[Correlation],
        frame: &Frame,
    ) -> Result<Model, StudyError> {
        let mut meanings: HashMap<String, Meaning> = HashMap::new();
        let mut named = |option: &str, name: &str, meaning: Meaning| {
            let problem = match name.trim() {
                "" => format!("the {} of them has no name", place_words(meaning)),
                name if name.chars().count() > NAME_MOST => {
                    format!("a name has {NAME_MOST} characters at most, and “{}…” is longer", name.chars().take(20).collect::<String>())
                }
                name if name.contains('`') => format!("“{name}” holds a back-tick, which parts names in formulas"),
                name if meanings.contains_key(name) => format!("two things are called “{name}”; give one another name"),
                name => {
                    meanings.insert(name.to_owned(), meaning);
                    return Ok(());
                }
            };
            Err(bad(option, problem))
        };
        for (place, input) in inputs.iter().enumerate() {
            named("inputs", &input.name, Meaning::Drawn(place))?;
        }
        for (place, control) in controls.iter().enumerate() {
            named("controls", &control.name, Meaning::Control(place))?;
        }
        for (place, response) in responses.iter().enumerate() {
            named("responses", &response.name, Meaning::Response(place))?;
        }
        let mut drawn = inputs.into_iter().map(|input| drawn(input, frame)).collect::<Result<Vec<Drawn>, _>>()?;
        for (place, control) in controls.iter().enumerate() {
            check_control(control)?;
            if let Some(sd) = control.sd.filter(|sd| *sd > 0.0) {
                meanings.insert(control.name.trim().to_owned(), Meaning::Drawn(drawn.len()));
                drawn.push(held(control, place, sd));
            }
        }
        let mixing = Mixing::of(&drawn.iter().map(|one| one.name.as_str()).collect::<Vec<_>>(), correlations)?;
        for one in &mut drawn {
            one.drawer = Drawer::new(&one.name, &one.distribution, true);
        }
        let responses = responses.into_iter().map(|stated| follows(stated, &meanings)).collect::<Result<Vec<Follows>, _>>()?;
        let order = ordered(&responses)?;
        let mut model = Model { drawn, controls, responses, order, mixing };
        model.carry_units();
        Ok(model)
    }

    /// The settings as they are.
    pub fn settings(&self) -> Vec<f64> {
        self.controls.iter().map(|control| control.value).collect()
    }

    /// The programs of the responses, in the order in which they run, for some settings.
    pub fn programs(&self, settings: &[f64]) -> Vec<Program> {
        let operand = |meaning: &Meaning| match meaning {
            Meaning::Drawn(place) => Operand::Column(*place),
            Meaning::Control(place) => Operand::Constant(settings[*place]),
            Meaning::Response(place) => Operand::Column(self.drawn.len() + place),
            Meaning::Constant(constant) => Operand::Constant(*constant),
        };
        let program = |place: &usize| {
            let response = &self.responses[*place];
            Program::of(&response.formula, &response.meanings.iter().map(operand).collect::<Vec<_>>())
        };
        self.order.iter().map(program).collect()
    }

    pub(super) fn meanings_of(&self, response: usize) -> &[Meaning] {
        &self.responses[response].meanings
    }

    /// Whether each response depends on each drawn input, through others too.
    pub fn depends(&self) -> Vec<Vec<bool>> {
        let mut on: Vec<Vec<bool>> = vec![vec![false; self.drawn.len()]; self.responses.len()];
        for &place in &self.order {
            for meaning in &self.responses[place].meanings {
                match *meaning {
                    Meaning::Drawn(input) => on[place][input] = true,
                    Meaning::Response(other) => {
                        let further = on[other].clone();
                        on[place].iter_mut().zip(further).for_each(|(one, other)| *one |= other);
                    }
                    Meaning::Control(_) | Meaning::Constant(_) => {}
                }
            }
        }
        on
    }

    /// The names that each response takes directly.
    pub fn takes(&self, response: usize) -> Vec<String> {
        self.responses[response].formula.uses().iter().map(|used| used.name.clone()).filter(|name| name != PI).collect()
    }

    fn carry_units(&mut self) {
        let read = |unit: &str| (!unit.trim().is_empty()).then(|| Unit::read(unit));
        let drawn: Vec<Option<Unit>> = self.drawn.iter().map(|one| read(&one.unit)).collect();
        let controls: Vec<Option<Unit>> = self.controls.iter().map(|one| read(&one.unit)).collect();
        let responses: Vec<Option<Unit>> = self.responses.iter().map(|one| read(&one.stated.unit)).collect();
        for response in &mut self.responses {
            let unit = |meaning: &Meaning| match meaning {
                Meaning::Drawn(place) => drawn[*place].clone(),
                Meaning::Control(place) => controls[*place].clone(),
                Meaning::Response(place) => responses[*place].clone(),
                Meaning::Constant(_) => Some(Unit::read("1")),
            };
            let units: Vec<Option<Unit>> = response.meanings.iter().map(unit).collect();
            let said = response.stated.unit.trim();
            let own = (!said.is_empty()).then(|| Unit::read(said));
            response.doubts = unit_of(&response.formula, &units, own.as_ref().map(|unit| (said, unit)));
        }
    }
}

fn place_words(meaning: Meaning) -> String {
    match meaning {
        Meaning::Drawn(place) | Meaning::Control(place) | Meaning::Response(place) => format!("number {}", place + 1),
        Meaning::Constant(_) => String::new(),
    }
}

fn drawn(input: Input, frame: &Frame) -> Result<Drawn, StudyError> {
    let wrong = |problem: String| bad("inputs", format!("“{}” {problem}", input.name));
    if let Some(cost) = input.cost
        && !(cost > 0.0 && cost <= 1e12)
    {
        return Err(wrong("has a cost that is not above 0".to_owned()));
    }
    let (stated, link) = links::distribution(&input, frame).map_err(wrong)?;
    let spread = input.spread.unwrap_or(1.0);
    if !(0.0..=SPREAD_MOST).contains(&spread) {
        return Err(wrong(format!("has its spread multiplied by {spread}, but it must lie from 0 to {SPREAD_MOST}")));
    }
    let distribution = if spread == 1.0 { stated } else { stated.spread(spread) };
    let drawer = Drawer::new(&input.name, &distribution, false);
    let name = input.name.trim().to_owned();
    Ok(Drawn {
        name,
        unit: input.unit,
        part: input.part,
        named: input.distribution,
        distribution,
        spread,
        link,
        cost: input.cost,
        control: None,
        drawer,
    })
}

fn held(control: &Control, place: usize, sd: f64) -> Drawn {
    let distribution = Distribution::normal(control.value, sd);
    Drawn {
        name: control.name.trim().to_owned(),
        unit: control.unit.clone(),
        part: control.part.clone(),
        named: "normal".to_owned(),
        drawer: Drawer::new(&control.name, &distribution, false),
        distribution,
        spread: 1.0,
        link: None,
        cost: None,
        control: Some(place),
    }
}

fn check_control(control: &Control) -> Result<(), StudyError> {
    let wrong = |problem: &str| Err(bad("controls", format!("“{}” {problem}", control.name)));
    let fits = |number: f64| number.abs() <= 1e100;
    if !(fits(control.value) && control.low.is_none_or(fits) && control.high.is_none_or(fits)) {
        return wrong("has a number that is too large to compute with");
    }
    if control.sd.is_some_and(|sd| !(0.0..=1e100).contains(&sd)) {
        return wrong("is held with an sd that is below 0 or too large");
    }
    if control.step.is_some_and(|step| step <= 0.0) {
        return wrong("has a step that is not above 0");
    }
    match (control.low, control.high) {
        (Some(low), Some(high)) if low > high => wrong("has a lowest setting above its highest"),
        _ => Ok(()),
    }
}

fn follows(stated: Response, meanings: &HashMap<String, Meaning>) -> Result<Follows, StudyError> {
    let wrong = |problem: String| bad("responses", format!("“{}”{problem}", stated.name));
    match (stated.lsl, stated.usl) {
        (Some(lsl), Some(usl)) if lsl >= usl => return Err(wrong(format!(": USL {usl} must lie above LSL {lsl}"))),
        _ => {}
    }
    let known: Vec<&str> = meanings.keys().map(String::as_str).collect();
    let formula = Formula::read_among(&stated.formula, &known).map_err(|mistake| wrong(format!(", {mistake}")))?;
    let meaning = |name: &str| meanings.get(name).copied().unwrap_or(Meaning::Constant(std::f64::consts::PI));
    let meanings = formula.uses().iter().map(|used| meaning(&used.name)).collect();
    Ok(Follows { stated, formula, meanings, doubts: Vec::new() })
}

/// Each response after those that it needs.
fn ordered(responses: &[Follows]) -> Result<Vec<usize>, StudyError> {
    let names: Vec<&str> = responses.iter().map(|response| response.stated.name.trim()).collect();
    let needs: Vec<Vec<usize>> = responses.iter().map(|response| response.formula.needs(&names)).collect();
    in_order(&needs).map_err(|round| {
        let first = &responses[round[0]];
        bad("responses", format!("“{}”, {}", first.stated.name, first.formula.circle(&round, &names)))
    })
}
