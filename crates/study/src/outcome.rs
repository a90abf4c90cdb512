//! The answer: a sentence, doubts and facts beside the figure, numbers, and what to ask next.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use serde_json::{Map, Value};

use super::{Decision, FilterStep, RoleColumns, Table, View};
use crate::dial::Dial;

/// How good the news is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, utoipa::ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Tone {
    /// As it should be.
    Calm,
    /// A doubt about the answer.
    Caution,
    /// Something has to be done.
    Alarm,
    /// Too little to say.
    Unsure,
}

impl Tone {
    /// How it is written.
    pub fn word(self) -> &'static str {
        match self {
            Tone::Calm => "calm",
            Tone::Caution => "caution",
            Tone::Alarm => "alarm",
            Tone::Unsure => "unsure",
        }
    }
}

/// The answer in one sentence.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct Verdict {
    /// How good the news is.
    pub tone: Tone,
    /// Two or three words, such as "Not steady".
    pub title: String,
    /// The matter, then the evidence.
    pub sentence: String,
    /// The decision that it states, by its id on the card of its method.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub decision: Option<String>,
}

impl Verdict {
    /// A verdict that states no decision.
    pub fn new(tone: Tone, title: impl Into<String>, sentence: impl Into<String>) -> Verdict {
        Verdict { tone, title: title.into(), sentence: sentence.into(), decision: None }
    }

    /// The same as a statement of a decision.
    pub fn states(self, decision: Decision) -> Verdict {
        self.states_if(true, decision)
    }

    /// The same as a statement of a decision that was made; else as it is.
    pub fn states_if(self, is_made: bool, decision: Decision) -> Verdict {
        if is_made { Verdict { decision: Some(decision.id.to_owned()), ..self } } else { self }
    }
}

/// A place in the figure that a note is about.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Pin {
    /// Panel number, from 0.
    pub panel: usize,
    /// First point; absent for a pin on the whole panel.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub first: Option<usize>,
    /// Last point, included.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub last: Option<usize>,
    /// A value on the panel's axis.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub value: Option<f64>,
    /// The pattern whose signal it is.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub pattern: Option<String>,
}

/// A doubt or a fact beside the figure.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Note {
    /// Its letter, a to z.
    pub letter: String,
    /// How much it matters.
    pub tone: Tone,
    /// One sentence; a doubt says what to do.
    pub sentence: String,
    /// A second line.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub detail: Option<String>,
    /// Where in the figure.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub pin: Option<Pin>,
    /// What can be done about it at once.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub offers: Vec<Offer>,
    /// The decision that it states, by its id on the card of its method.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub decision: Option<&'static str>,
}

impl Note {
    /// A note without a letter or a place.
    pub fn new(tone: Tone, sentence: impl Into<String>, detail: Option<String>) -> Note {
        Note { letter: String::new(), tone, sentence: sentence.into(), detail, pin: None, offers: Vec::new(), decision: None }
    }

    /// The same as a statement of a decision.
    pub fn states(self, decision: Decision) -> Note {
        self.states_if(true, decision)
    }

    /// The same as a statement of a decision that was made; else as it is.
    pub fn states_if(self, is_made: bool, decision: Decision) -> Note {
        if is_made { Note { decision: Some(decision.id), ..self } } else { self }
    }
}

/// A change of the statement, or another figure of the same answer, that a note proposes.
#[derive(Clone, Debug, Default, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Offer {
    /// What it does, as a command.
    pub label: String,
    /// Options of the statement to set; null takes one away.
    #[serde(skip_serializing_if = "Map::is_empty")]
    #[schema(value_type = std::collections::HashMap<String, serde_json::Value>)]
    pub options: Map<String, Value>,
    /// The figure to show.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub figure: Option<String>,
}

/// Something that a method found at a place in the data, with an address that lasts.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, utoipa::ToSchema)]
pub struct FoundSignal {
    /// Panel number, from 0.
    pub panel: usize,
    /// What is plotted there.
    pub panel_name: String,
    /// The pattern.
    pub pattern: String,
    /// First point.
    pub first: usize,
    /// Last point, included.
    pub last: usize,
    /// The row that its first point starts with.
    pub first_row: i64,
    /// The row that its last point starts with.
    pub last_row: i64,
    /// What it is, in one sentence.
    pub sentence: String,
}

/// Gives the notes their letters, in order.
pub fn letter_notes(notes: &mut [Note]) {
    for (note, letter) in notes.iter_mut().zip('a'..='z') {
        note.letter = letter.to_string();
    }
}

/// What the answer makes worth asking.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct NextQuestion {
    /// The question.
    pub question: String,
    /// Why now.
    pub why: String,
    /// A method that answers it, with roles filled in; absent when the rows themselves do.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub method: Option<String>,
    /// Roles carried over.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    pub roles: BTreeMap<String, RoleColumns>,
    /// Options that go with them.
    #[serde(skip_serializing_if = "Map::is_empty")]
    #[schema(value_type = std::collections::HashMap<String, serde_json::Value>)]
    pub options: Map<String, Value>,
    /// What it is narrowed to besides.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub only: Vec<FilterStep>,
    /// The points whose rows it is about: the first and the last. With a method, it is narrowed to these rows.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub points: Option<[usize; 2]>,
    /// The option that takes these rows, where it is not narrowed to them.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub rows_option: Option<&'static str>,
}

impl NextQuestion {
    /// One that a method answers.
    pub fn of(method: &str, question: &str, why: &str, roles: BTreeMap<String, RoleColumns>) -> NextQuestion {
        let method = Some(method.to_owned());
        NextQuestion {
            question: question.to_owned(),
            why: why.to_owned(),
            method,
            roles,
            options: Map::new(),
            only: Vec::new(),
            points: None,
            rows_option: None,
        }
    }

    /// One that the rows of a stretch of points answer.
    pub fn about(points: [usize; 2], question: String, why: String) -> NextQuestion {
        NextQuestion {
            question,
            why,
            method: None,
            roles: BTreeMap::new(),
            options: Map::new(),
            only: Vec::new(),
            points: Some(points),
            rows_option: None,
        }
    }
}

/// A number in one line, for what is always in sight.
#[derive(Clone, Debug, PartialEq, Serialize, utoipa::ToSchema)]
pub struct Brief {
    /// What it is.
    pub term: &'static str,
    /// The number with its unit.
    pub words: String,
}

/// What a study of a gauge found, to be kept with the gauge.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct GaugeFinding {
    /// Sd of the gauge in the unit of the measurement; `None` where the study has none.
    pub sd: Option<f64>,
    /// Its share of what it is held against.
    pub share: Option<f64>,
    /// Readings that are still to come: with any, the study is not finished.
    pub waiting: usize,
}

/// What a method keeps of an answer, in compact form.
pub trait StoredAnswer: Send + Sync {
    /// About how much memory it keeps, for whoever keeps many.
    fn bytes(&self) -> usize;

    /// The few numbers that are always in sight.
    fn brief(&self) -> Vec<Brief>;

    /// What a person reads, short enough to be sent with every answer.
    fn tables(&self) -> Vec<Table>;

    /// The long table: every point, bar or row of a view.
    fn points(&self, view: &View) -> Table;

    /// What was found, in the order of the points, at most so many; and how many there are in all.
    fn signals(&self, _most: usize) -> (Vec<FoundSignal>, usize) {
        (Vec::new(), 0)
    }

    /// What it says of a gauge; `None` of a method that is not about one.
    fn gauge(&self) -> Option<GaugeFinding> {
        None
    }

    /// The rows that a stretch of points is made of.
    fn rows(&self, _first: usize, _last: usize) -> Vec<i64> {
        Vec::new()
    }

    /// The first and the last point that hold any of some rows.
    fn stretch_of(&self, _rows: &[i64]) -> Option<[usize; 2]> {
        None
    }
}

/// What a method computed, in the shape of its contract, from what it keeps.
pub trait ToNumbers {
    /// That shape.
    type Numbers;

    /// The numbers with the points of a view.
    fn numbers(&self, view: &View) -> Self::Numbers;
}

/// A finished computation, independent of any view.
pub struct Computed<A> {
    /// The answer in one sentence.
    pub verdict: Verdict,
    /// Doubts and facts.
    pub notes: Vec<Note>,
    /// Next questions.
    pub next: Vec<NextQuestion>,
    /// The characteristic at a glance, where the method has one.
    pub dial: Option<Dial>,
    /// What the method keeps.
    pub answer: A,
}
