//! What a question is made of and what its answer looks like, the same for every method.

pub mod advice;
pub mod bars;
pub mod card;
pub mod collect;
pub mod count_table;
mod decision;
pub mod dial;
pub mod differing_limits;
#[doc(hidden)]
pub mod entry;
mod error;
pub mod gauge;
pub mod health;
pub mod labelled;
pub mod left_out;
mod method;
mod narrowed;
pub mod notes;
mod outcome;
pub mod periods;
pub mod problem;
pub mod reading;
pub mod slips;
mod slot_kind;
mod spec;
pub mod statement;
#[doc(hidden)]
pub mod table;
mod table_view;
pub mod validated_spec;
pub mod view;

pub use acorn_maths::cancel::Cancel;
pub use card::MethodCard;
pub use decision::Decision;
pub use entry::Entry;
pub use error::StudyError;
pub use method::Method;
pub use narrowed::narrowed;
pub use outcome::{
    Brief, Computed, FoundSignal, GaugeFinding, NextQuestion, Note, Offer, Pin, StoredAnswer, ToNumbers, Tone, Verdict, letter_notes,
};
pub use spec::{COLUMN_OF_PIECE, DATASET_OF_PIECE, DataSource, FilterStep, Predicate, RoleColumns, Spec, TypedColumns, in_range};
pub use table::{Cells, Column as TableColumn, Line, Table, Term};
pub use table_view::{OrderBy, TableView};
pub use validated_spec::ValidatedSpec;
pub use view::View;
