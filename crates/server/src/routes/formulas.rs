//! Formulas as they are typed.

use acorn_data::formula::{Formula, Mistake, Notation, renamed};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::extract::Json;

/// A formula as it is typed.
#[derive(Deserialize, ToSchema)]
pub struct TypedFormula {
    /// The formula so far.
    formula: String,
    /// The names that it may use.
    #[serde(default)]
    names: Vec<String>,
    /// The name of what it is the formula of, where that may not go in a circle.
    #[serde(default)]
    of: Option<String>,
    /// Names and formulas of the others.
    #[serde(default)]
    others: Vec<[String; 2]>,
    /// A name and what it is called from now on.
    #[serde(default)]
    rename: Option<[String; 2]>,
}

/// What a typed formula is.
#[derive(Serialize, ToSchema)]
pub struct ReadFormula {
    /// As a textbook writes it; absent while it cannot be read.
    #[serde(skip_serializing_if = "Option::is_none")]
    notation: Option<Notation>,
    /// Where it cannot be read, and why.
    #[serde(skip_serializing_if = "Option::is_none")]
    mistake: Option<Mistake>,
    /// The formula, with the name replaced when that was asked for.
    formula: String,
}

/// Checks a formula while it is typed, and lays it out.
#[utoipa::path(post, path = "/api/formulas", tag = "methods", operation_id = "read_formula", request_body = TypedFormula, responses((status = 200, body = ReadFormula)))]
pub async fn read(Json(typed): Json<TypedFormula>) -> Json<ReadFormula> {
    let TypedFormula { formula, names, of, others, rename } = typed;
    let formula = match &rename {
        Some([from, to]) => renamed(&formula, from, to),
        None => formula,
    };
    let names: Vec<&str> = names.iter().map(|name| name.trim()).collect();
    let others: Vec<(&str, &str)> = others.iter().map(|[name, formula]| (name.trim(), formula.as_str())).collect();
    let read = Formula::read_among(&formula, &names).and_then(|read| match &of {
        Some(of) => read.check_circle(of.trim(), &others).map(|()| read),
        None => Ok(read),
    });
    let (notation, mistake) = match read {
        Ok(read) => (Some(Notation::of(&read)), None),
        Err(mistake) => (None, Some(mistake)),
    };
    Json(ReadFormula { notation, mistake, formula })
}
