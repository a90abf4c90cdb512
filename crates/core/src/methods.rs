//! The register of methods. A new method is one folder here and one line in [`methods!`].

use std::borrow::Cow;
use std::collections::BTreeMap;

use serde::Serialize;

use acorn_data::frame::{Frame, Kind, Limits};
use acorn_study::advice::Advice;
use acorn_study::card::Subject;
use acorn_study::dial::Dial;
use acorn_study::{
    Brief, Cancel, Method, MethodCard, NextQuestion, Note, Spec, StoredAnswer, StudyError, Table, ToNumbers, ValidatedSpec, Verdict, View,
    differing_limits, narrowed, slips,
};

macro_rules! methods {
    ($($family:ident::$module:ident::$method:ident $words:literal,)*) => {
        $(#[doc = $words] pub use $family::$module;)*

        /// What each method computes, in the shape of its contract, told apart by `method`.
        #[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
        #[serde(tag = "method", rename_all = "kebab-case")]
        pub enum Numbers {
            $(#[doc = $words] $method(Box<$module::Numbers>),)*
        }

        $(impl From<$module::Numbers> for Numbers {
            fn from(numbers: $module::Numbers) -> Numbers {
                Numbers::$method(Box::new(numbers))
            }
        })*

        /// All methods, in the order of the work.
        const ALL: &[&dyn AnyMethod] = &[$(&$module::$method),*];
    };
}

methods! {
    acorn_gauges::gauge_crossed::GaugeCrossed "Can we trust the gauge?",
    acorn_gauges::gauge_nested::GaugeNested "Can we trust a gauge that destroys the piece?",
    acorn_gauges::gauge_single::GaugeSingle "Is this gauge right and repeatable?",
    acorn_gauges::gauge_linearity::GaugeLinearity "Is the gauge right over its whole range?",
    acorn_gauges::gauge_attribute::GaugeAttribute "Do inspectors agree?",
    acorn_comparisons::distribution::Distribution "What does it look like?",
    acorn_comparisons::pareto::Pareto "Which defects matter?",
    acorn_comparisons::association::Association "Does it depend on ...?",
    acorn_comparisons::multi_vari::MultiVari "Where does the variation come from?",
    acorn_comparisons::relation::Relation "Do these go together?",
    acorn_comparisons::matrix::Matrix "Which of them go together?",
    acorn_comparisons::compare::Compare "Do the groups differ?",
    acorn_comparisons::screening::Screening "What goes with it?",
    acorn_charts::control_chart::ControlChart "Is it steady?",
    acorn_charts::sigma_level::SigmaLevel "How bad is it?",
    acorn_charts::capability::Capability "Can it meet the limits?",
    acorn_charts::indices::Indices "Which of them can meet their limits?",
    acorn_comparisons::proportion::Proportion "Is the claim true?",
    acorn_models::fit_distribution::FitDistribution "Which shape does it have?",
    acorn_models::simulation::Simulation "What if?",
}

/// What any method keeps of an answer.
pub trait AnyAnswer: StoredAnswer {
    /// The numbers with the points of a view.
    fn numbers(&self, view: &View) -> Numbers;
}

impl<A: StoredAnswer + ToNumbers> AnyAnswer for A
where
    Numbers: From<A::Numbers>,
{
    fn numbers(&self, view: &View) -> Numbers {
        ToNumbers::numbers(self, view).into()
    }
}

/// Any method.
pub trait AnyMethod: Sync {
    /// How it describes itself.
    fn card(&self) -> &'static MethodCard;
    /// Whether it looks at columns of labels that the question does not name.
    fn looks_at_labels(&self) -> bool;
    /// Answers a specification about a frame.
    ///
    /// # Errors
    /// [`StudyError`] when the specification does not fit the method or the data, or when stopped.
    fn answer(&self, frame: &Frame, spec: &Spec, cancel: &Cancel) -> Result<Computed, StudyError>;
    /// Proposes a statement for a frame, from answers to its own questions.
    fn advise(&self, frame: &Frame, answers: &BTreeMap<String, String>) -> Advice;
}

impl<M: Method> AnyMethod for M
where
    Numbers: From<<M::Answer as ToNumbers>::Numbers>,
{
    fn card(&self) -> &'static MethodCard {
        Method::card(self)
    }

    fn answer(&self, whole: &Frame, spec: &Spec, cancel: &Cancel) -> Result<Computed, StudyError> {
        let frame = narrowed(whole, spec, |column| reads(spec, &column.name, column.kind, whole.rows()))?;
        let without = (!self.keeps_omitted() && !spec.omit.is_empty()).then(|| frame.without(&spec.omit));
        let frame = Frame::with_shared_limits(without.map_or(frame, Cow::Owned));
        let asked = ValidatedSpec::read(Method::card(self), &frame, spec)?;
        let acorn_study::Computed { verdict, mut notes, next, dial, answer } = self.compute(&asked, cancel)?;
        if asked.typed_limits().is_none() {
            differing_limits::tell(asked.named_columns(), &mut notes);
        }
        let verdict = slips::verdict(asked.named_columns(), &frame, whole, &spec.omit).unwrap_or(verdict);
        let limits = asked.subject().map(|column| column.info.limits()).unwrap_or_default();
        Ok(Computed { verdict, notes, next, dial, limits, answer: Box::new(answer) })
    }

    fn looks_at_labels(&self) -> bool {
        Method::looks_at_labels(self)
    }

    fn advise(&self, frame: &Frame, answers: &BTreeMap<String, String>) -> Advice {
        Method::advise(self, frame, answers)
    }
}

/// A finished computation of any method.
pub struct Computed {
    /// The answer in one sentence.
    pub verdict: Verdict,
    /// Doubts and facts.
    pub notes: Vec<Note>,
    /// Next questions.
    pub next: Vec<NextQuestion>,
    /// The characteristic at a glance, where the method has one.
    pub dial: Option<Dial>,
    /// The specification limits that all of its rows share.
    pub limits: Limits,
    /// What the method keeps.
    pub answer: Box<dyn AnyAnswer>,
}

/// The answer with the points of one view.
#[derive(Clone, Debug, Serialize, utoipa::ToSchema)]
pub struct Outcome {
    /// The answer in one sentence.
    pub verdict: Verdict,
    /// Doubts and facts.
    pub notes: Vec<Note>,
    /// The specification limits of what it is about that hold for all of its rows.
    pub limits: Limits,
    /// What the method computed.
    pub numbers: Numbers,
    /// The few numbers that are always in sight.
    pub brief: Vec<Brief>,
    /// What a person reads of them; the long table of points is asked for by itself.
    pub tables: Vec<Table>,
    /// Next questions.
    pub next: Vec<NextQuestion>,
    /// Whether it is about a gauge and can be kept with it.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub of_gauge: bool,
}

impl Computed {
    /// The answer with the points of a view.
    pub fn outcome(&self, view: &View) -> Outcome {
        Outcome {
            verdict: self.verdict.clone(),
            notes: self.notes.clone(),
            limits: self.limits,
            numbers: self.answer.numbers(view),
            brief: self.answer.brief(),
            tables: self.answer.tables(),
            next: self.next.clone(),
            of_gauge: self.answer.gauge().is_some(),
        }
    }

    /// About how much memory it keeps, sentences included.
    pub fn bytes(&self) -> usize {
        let sentences = self.notes.iter().map(|note| note.sentence.len() + note.detail.as_ref().map_or(0, String::len));
        let next = self.next.iter().map(|next| next.question.len() + next.why.len());
        let words = self.verdict.sentence.len() + sentences.chain(next).sum::<usize>();
        let own = size_of_val(&self.notes[..]) + size_of_val(&self.next[..]) + size_of::<Computed>();
        self.answer.bytes() + words + own + self.dial.as_ref().map_or(0, |dial| size_of_val(&dial.recent[..]))
    }

    /// The rows that a stretch of points is made of: stretches of row ids, ends included.
    pub fn row_stretches(&self, first: Option<usize>, last: Option<usize>) -> Vec<[i64; 2]> {
        let mut rows = self.answer.rows(first.unwrap_or(0), last.unwrap_or(usize::MAX - 1));
        rows.sort_unstable();
        let mut stretches: Vec<[i64; 2]> = Vec::new();
        for row in rows {
            match stretches.last_mut() {
                Some(stretch) if stretch[1] + 1 >= row => stretch[1] = row,
                _ => stretches.push([row; 2]),
            }
        }
        stretches
    }

    /// A table by its name in an address, with every row.
    pub fn table(&self, id: &str) -> Option<Table> {
        match id {
            "points" => Some(self.answer.points(&View::ALL)),
            _ => self.answer.tables().into_iter().find(|table| table.id == id),
        }
    }
}

/// Answers a specification with the method it names.
///
/// # Errors
/// [`StudyError::UnknownMethod`], or whatever the method refuses.
///
/// # Examples
/// ```
/// use acorn_core::methods;
/// use acorn_data::frame::Frame;
/// use acorn_study::{Cancel, Spec};
/// let spec: Spec = serde_json::from_str(r#"{"method": "control-chart", "roles": {"measure": "flux"}}"#).unwrap();
/// let columns = serde_json::json!({"flux": [811.5, 812.0, 810.9]});
/// let frame = Frame::from_json(columns.as_object().unwrap()).unwrap();
/// let answer = methods::compute(&frame, &spec, &Cancel::default()).unwrap();
/// // Three values without a signal are not yet a steady process.
/// assert_eq!(answer.verdict.title, "Too few to say");
/// ```
pub fn compute(frame: &Frame, spec: &Spec, cancel: &Cancel) -> Result<Computed, StudyError> {
    named(&spec.method)?.answer(frame, spec, cancel)
}

/// Of more rows no column of labels is read that a question does not name.
const LABELS_LOOKED_AT: usize = 20_000;

/// Whether a question reads a column of a table of so many rows: it names it, what it leaves open means every column, or its method looks for
/// what explains the values among the columns of labels.
pub fn reads(spec: &Spec, column: &str, kind: Kind, rows: usize) -> bool {
    let Ok(method) = named(&spec.method) else { return spec.columns().any(|name| name == column) };
    let is_looked_at = || rows <= LABELS_LOOKED_AT && matches!(kind, Kind::Category | Kind::WholeNumber) && method.looks_at_labels();
    spec.columns().any(|name| name == column) || is_looked_at() || method.card().shown(spec).into_iter().any(|slot| slot.takes_all(spec))
}

/// What a question is about, as its card decides; `None` for an unknown method, or while nothing is chosen.
pub fn subject(spec: &Spec) -> Option<Subject> {
    named(&spec.method).ok()?.card().subject(spec)
}

/// A specification without choices that no longer fit it; one of an unknown method stays as it is.
pub fn fitted(spec: Spec) -> Spec {
    match named(&spec.method) {
        Ok(method) => method.card().fitted(spec),
        Err(_) => spec,
    }
}

/// The method of a name.
///
/// # Errors
/// [`StudyError::UnknownMethod`].
pub fn named(name: &str) -> Result<&'static dyn AnyMethod, StudyError> {
    let unknown = || StudyError::UnknownMethod { method: name.to_owned(), known: cards().map(|card| card.method).collect() };
    ALL.iter().find(|method| method.card().method == name).copied().ok_or_else(unknown)
}

/// The cards of all methods.
pub fn cards() -> impl Iterator<Item = &'static MethodCard> {
    ALL.iter().map(|method| method.card())
}
